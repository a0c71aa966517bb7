// The certificate of a verification: a run of a sheet whose figures are held against something, with its own number,
// figures and signatures.
import { workOf, type FolderView } from '@calm-loop/contract'
import { PRACTICE, standOfRun, type Verification } from '@calm-loop/contract/judging'
import { currentKindOf } from '@calm-loop/core/kinds'
import { convertUnit, formatQuantity } from '@calm-loop/core/quantity'
import { judgeStep, markedWords, type JudgedLine } from '@calm-loop/core/sheet'
import { verificationIn } from '../services/verification-in.ts'
import { currentStudyOf } from '../services/studies.ts'
import {
  fingerprintOf,
  gearUsed,
  headRows,
  SEAL_BROKEN,
  signatureLines,
  signedBy,
  verdictRow,
  type Paper,
} from './certificate-parts.ts'
import { day, documentPdf, figure, hairlines, heading, LOOK, pairs, SECOND, text, when, type Node } from './page.ts'

const WORDS = ['Verified: inside its limits', 'Not verified: outside its limits'] as const
/** Units do not break from their figures. */
const whole = (words: string) => words.replaceAll(' ', '\u00a0')
const shown = (value: number | undefined, { unit, decimals }: JudgedLine): string =>
  value === undefined ? 'not read' : whole(formatQuantity(value, unit, { decimals }))
const off = (value: number, unit: string) => whole(formatQuantity(value, unit, { decimals: 2, sign: true }))

function linesTable(lines: readonly JudgedLine[]): Node {
  const heads = ['What', 'At', 'Must show', 'It showed', 'Off by', 'Allowed']
  return {
    table: {
      headerRows: 1,
      dontBreakRows: true,
      widths: [80, '*', 72, 72, 62, 62],
      body: [
        heads.map((t) => text(t, { fontSize: 8, color: SECOND })),
        ...lines.map((l) => [
          text(l.name, { fontSize: 9 }),
          text(l.at, { fontSize: 8 }),
          figure(shown(l.expected, l)),
          figure(shown(l.read, l)),
          figure(l.off === undefined ? '' : off(l.off, l.offUnit), { bold: l.inside === false }),
          figure(whole(`±${formatQuantity(l.limit, l.offUnit, { decimals: 2, trim: true })}`)),
        ]),
      ],
    },
    layout: hairlines,
  }
}

/** What was done otherwise than planned: figures off their plan with the word on them, equipment past its date. */
function deviations(folder: FolderView, { version, sheet, steps, signatures }: Verification): string {
  const planned = currentStudyOf(folder.loop.kind, version)
    .sheets?.()
    .find((s) => s.id === sheet)
  const marked = steps.flatMap((s) => {
    const { marks } = planned?.steps.find((p) => p.id === s.step) ?? {}
    return s.marked?.length ? [`${s.title}: ${markedWords(marks, s.marked)}. ${s.words}`.trim()] : []
  })
  const offPlan = steps.flatMap((s) => {
    const ask = planned?.steps.find((p) => p.id === s.step)?.ask
    if (!ask || !s.value) return []
    const { grade, says } = judgeStep(ask.plan, convertUnit(s.value.value, s.value.unit, ask.unit), ask.unit)
    return grade === 'good' ? [] : [`${s.title}: ${says} ${s.words}`.trim()]
  })
  const expired = (signatures[0]?.gear ?? [])
    .filter((g) => g.expiredReason)
    .map((g) => `${g.name} past its due date: ${g.expiredReason ?? ''}`)
  return [...marked, ...offPlan, ...expired].join('; ') || 'none'
}

/** How it stands, before anything else: practice, broken, or from elsewhere. */
function standRows(of: Verification): Node[] {
  if (of.steps[0]?.practice) return [text(PRACTICE, { bold: true, fontSize: 13, color: LOOK })]
  const stand = standOfRun(of)
  if (stand === 'broken') return [SEAL_BROKEN]
  if (stand !== 'elsewhere') return []
  return [text('Made elsewhere, and kept as it came: it does not count as work of this installation.', { color: LOOK })]
}

/** What the certificate says. */
export function runContent(folder: FolderView, of: Verification, paper: Paper): Node[] {
  const { judged, steps, signatures, version } = of
  const practice = !!steps[0]?.practice
  const first = signatures[0]
  const kind = currentKindOf(folder.loop.kind)
  const { reader: r } = currentStudyOf(kind.id, version)
  const told = steps.filter((s) => s.step === 'told' || s.step === 'back').map((s) => [s.title, s] as const)
  return [
    ...headRows(folder, practice ? 'Practice sheet' : `Certificate of verification ${of.number}`),
    ...standRows(of),
    text(of.title, { fontSize: 12, margin: [0, 0, 0, 2] }),
    judged && of.finished
      ? verdictRow(judged.pass, WORDS)
      : text('Not finished.', { fontSize: 16, bold: true, color: LOOK }),
    ...(practice ? [] : signedBy(signatures)),
    heading('Figures'),
    ...(judged ? [linesTable(judged.lines)] : [text('What it is held against is not entered.', { fontSize: 9 })]),
    heading('Rule'),
    text(
      `${judged?.rule ?? ''} Simple acceptance: the uncertainty of the equipment is stated below as its certificates ` +
        'give it; it is not taken off the limit.',
      { fontSize: 9 },
    ),
    text(judged?.notChecked ?? '', { fontSize: 9, margin: [0, 3, 0, 0] }),
    {
      stack: [
        heading('What was verified'),
        pairs([
          ['Loop', `${folder.loop.tag}, ${folder.loop.service}, ${folder.loop.area}`],
          ['Kind', kind.name],
          ['Device', `${r.text('device')}, serial ${r.text('serial')}`],
          ['When, by', `${when(of.from)} to ${when(of.to)}; ${of.by.join(', ')}`],
          ['Entries', `version ${version.number}, ${version.author.name}, ${when(version.startedAt)}`],
          ['Surroundings', first?.ambient ?? ''],
          ['Deviations', deviations(folder, of)],
        ]),
      ],
      unbreakable: true,
    },
    gearUsed(first?.gear ?? [], of.from.slice(0, 10)),
    heading('Steps'),
    pairs(
      steps.map((s) => [
        s.title,
        [
          s.value ? whole(formatQuantity(s.value.value, s.value.unit, { trim: true })) : '',
          s.words,
          `${s.by.name}, ${s.at.slice(11, 16)} UTC`,
        ]
          .filter(Boolean)
          .join('; '),
      ]),
    ),
    {
      stack: [
        heading('Told and signed'),
        pairs([
          ...told.map(([title, s]) => [title, `${s.words}. ${s.by.name}, ${when(s.at)}`] as const),
          ...signatureLines(signatures),
        ]),
      ],
      unbreakable: true,
    },
    ...(standOfRun(of) === 'counts' ? fingerprintOf(signatures.at(-1)?.digest, paper) : []),
  ]
}

/** @throws HttpProblem 404 where no such verification is on record */
export function runCertificatePdf(folder: FolderView, run: string, paper: Paper): Promise<Buffer> {
  const of = verificationIn(folder, run)
  const practice = workOf(folder.workLog, 'step').some((s) => s.run === run && s.practice)
  return documentPdf(
    `${folder.loop.tag} certificate of verification`,
    `${folder.loop.tag}, verification of ${day(of.from)}`,
    runContent(folder, of, paper),
    { over: practice ? 'PRACTICE' : undefined, site: paper.site },
  )
}
