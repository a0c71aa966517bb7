// A shift as it was handed over, on paper: what stands open first, then what was done, by area and person.
import type { HandedOver } from '@calm-loop/contract'
import { countedWords } from '@calm-loop/core/words'
import {
  day,
  documentPdf,
  figure,
  hairlines,
  heading,
  LOOK,
  SECOND,
  STOP,
  text,
  when,
  type Node,
  type PaperHead,
} from './page.ts'

export interface ShiftAsked {
  readonly handed: HandedOver
  readonly site: PaperHead
}

const rows = (head: readonly string[], widths: readonly (number | string)[], body: readonly Node[][]): Node => ({
  table: { headerRows: 1, widths, body: [head.map((h) => text(h, { color: SECOND, fontSize: 9 })), ...body] },
  layout: hairlines,
})
const small = (words: string, more: Node = {}) => text(words, { fontSize: 9, ...more })

export function shiftPdf({ handed, site }: ShiftAsked): Promise<Buffer> {
  const { shift, by, at, words } = handed
  const open = shift.open.map((o) => [
    figure(o.loop.tag, { bold: true }),
    small(o.loop.area),
    {
      stack: [small(o.words), ...o.left.map((l) => small(l, { color: STOP }))],
    },
    small(`${o.by.name}, ${when(o.since)}`),
  ])
  const byArea = [...shift.done].sort((a, b) => (a.loop?.area ?? '').localeCompare(b.loop?.area ?? ''))
  const done = byArea.map((d) => [
    small(d.loop?.area ?? 'kit'),
    figure(d.loop?.tag ?? '', { bold: true }),
    small(d.by.name),
    small(countedWords(d.what)),
    figure(when(d.first)),
  ])
  const jobs = shift.jobs.map((j) => [
    figure(j.tag, { bold: true }),
    small([j.what, j.why].filter(Boolean).join('; ')),
    small(j.by ? `by ${day(j.by)}` : ''),
    small(j.from),
  ])
  const none = (words_: string) => small(words_, { color: SECOND })
  return documentPdf(
    `Shift handed over ${at.slice(0, 10)}`,
    `Handed over by ${by.name} on ${when(at)}`,
    [
      text('The shift, handed over', { fontSize: 16, bold: true }),
      text(`${by.name}, ${when(at)}: from ${when(shift.from)} to ${when(shift.to)}`, { color: SECOND }),
      ...(words ? [text(words, { margin: [0, 10, 0, 0] })] : []),
      heading('What stands open, and how things were left'),
      open.length ? rows(['tag', 'area', 'what, and its state', 'begun'], [60, 80, '*', 110], open) : none('Nothing.'),
      heading('Jobs that are asked for'),
      jobs.length ? rows(['tag', 'what', 'by when', 'from'], [60, '*', 80, 90], jobs) : none('None.'),
      heading('Who has which piece of the kit'),
      shift.kit.length
        ? { stack: shift.kit.map((k) => small(`${k.piece}: ${k.holder.name}${k.place ? `, ${k.place}` : ''}`)) }
        : none('None is with a person.'),
      heading('What was done'),
      done.length ? rows(['area', 'tag', 'who', 'what', 'from'], [80, 60, 80, '*', 90], done) : none('Nothing.'),
      ...(shift.more ? [small(`And ${shift.more} lines more, which stand in the audit.`, { color: LOOK })] : []),
      ...(handed.read.length
        ? [
            small(`Read by ${handed.read.map((r) => `${r.by.name}, ${when(r.at)}`).join('; ')}`, {
              margin: [0, 10, 0, 0],
            }),
          ]
        : []),
    ],
    { site },
  )
}
