// Makes the certificates of the kit in `demo/certificates`: of a made-up laboratory, for each calibration of the demo.
// `node --import tsx demo/certificates.ts`
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { day, documentPdf, figure, hairlines, heading, pairs, SECOND, text } from '../apps/server/src/documents/page.ts'
import type { NewCalibration } from '../packages/contract/src/kit-record.ts'

const read = <T>(name: string) => JSON.parse(readFileSync(join(import.meta.dirname, name), 'utf8')) as T
const { calibrations } = read<{ calibrations: { gear: string; body: NewCalibration }[] }>('day.json')
const kit = read<{ name: string; serial: string; range: string }[]>('kit.json')
const folder = join(import.meta.dirname, 'certificates')
mkdirSync(folder, { recursive: true })
for (const { gear, body } of calibrations) {
  const piece = kit.find((k) => k.name === gear)
  const rows = [
    ['Instrument', `${gear}, serial number ${piece?.serial ?? ''}, ${piece?.range ?? ''}`],
    ['Calibrated', day(body.day)],
    ['Due again', day(body.due)],
    ['By', body.by],
    ['Remarks', body.note || 'none'],
  ] as const
  const points = body.points.map(({ unit, at, found }) => [
    figure(`${at} ${unit}`),
    figure(`${found} ${unit}`),
    figure(`${Number((found - at).toFixed(6))} ${unit}`),
  ])
  const head = ['standard', 'shown', 'difference'].map((h) => text(h, { color: SECOND, fontSize: 9 }))
  const pdf = await documentPdf(
    `Calibration certificate ${body.certificate}`,
    `${body.certificate}, made up for the demo plant`,
    [
      text(`Calibration certificate ${body.certificate}`, { fontSize: 18 }),
      heading('What was calibrated'),
      pairs(rows),
      heading('As found'),
      { table: { widths: [110, 110, 110], body: [head, ...points] }, layout: hairlines },
    ],
    { over: 'made up' },
  )
  writeFileSync(join(folder, `${body.certificate}.pdf`), pdf)
}
