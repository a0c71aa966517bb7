// The round on one sheet: where one goes when, what for, whom to tell, and what to bring, to be ticked with a pen.
import type { Round } from '@calm-loop/contract'
import { planOfRound, usualState } from '@calm-loop/contract/round-plan'
import {
  lackLines,
  packLines,
  spreadWords,
  stopWords,
  tagWords,
  tellings,
  timed,
  USUAL,
  type Stop,
  type Timed,
} from '@calm-loop/core/round'
import { sure } from '@calm-loop/core/sure'
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
  type Node,
  type PaperHead,
} from './page.ts'

export interface RoundAsked {
  readonly round: Round
  /** The last day whose checks are taken, where that is not as it was put. */
  readonly until?: string | undefined
  readonly name: string
  readonly site: PaperHead
}

/** Sizes of letters and paper, the best to read first: the first of which all stands on one sheet is taken. */
const SIZES = [
  { points: 9, paper: 'A4' },
  { points: 8, paper: 'A4' },
  { points: 7, paper: 'A4' },
  { points: 7, paper: 'A3' },
  { points: 6, paper: 'A3' },
] as const
const sheetsOf = (pdf: Buffer): number => pdf.toString('latin1').match(/\/Type \/Page\b/g)?.length ?? 0

function stopsTable(times: readonly Timed<Stop>[], fontSize: number): Node {
  const rows = times.map(({ stop, from }) => [
    figure(from, { fontSize }),
    figure(stop.loop.tag, { fontSize, bold: true }),
    text(stop.loop.area, { fontSize }),
    text([...stopWords(stop, day), stop.works.map((w) => USUAL[w].name).join(', ')].filter(Boolean).join('; '), {
      fontSize,
      ...(stop.check?.overdue ? { color: LOOK } : {}),
    }),
    figure(spreadWords(stop.expected), { fontSize }),
  ])
  const head = ['from', 'tag', 'area', 'what for', 'takes'].map((h) => text(h, { fontSize, color: SECOND }))
  return {
    table: { headerRows: 1, dontBreakRows: true, widths: [40, 60, 90, '*', 70], body: [head, ...rows] },
    layout: hairlines,
  }
}

/** A box to tick by pen, and what it stands for. */
const boxed = (words: string, fontSize: number, more: Node = {}): Node => ({
  columns: [
    { canvas: [{ type: 'rect', x: 0, y: 1, w: fontSize - 1, h: fontSize - 1, lineWidth: 0.6 }], width: fontSize + 5 },
    text(words, { fontSize, ...more }),
  ],
  columnGap: 0,
  margin: [0, 0, 0, 2],
})
const inColumns = (nodes: readonly Node[], count: number): Node => {
  const each = Math.ceil(nodes.length / count)
  const columns = Array.from({ length: count }, (_, i) => ({ stack: nodes.slice(i * each, (i + 1) * each) }))
  return { columns, columnGap: 14 }
}

/** A round as its person has put it, on one sheet. */
export async function roundPdf(asked: RoundAsked): Promise<Buffer> {
  let sheet: Buffer | undefined
  for (const size of SIZES) {
    sheet = await drawn(asked, size)
    if (sheetsOf(sheet) === 1) break
  }
  // A day that does not go on the largest goes on as many as it takes.
  return sure(sheet)
}

function drawn({ round, until, name, site }: RoundAsked, { points, paper }: (typeof SIZES)[number]): Promise<Buffer> {
  const state = { ...(round.mine ?? usualState(round.day)), ...(until ? { until } : {}) }
  const plan = planOfRound(round, state)
  const times = timed(plan.stops, state.begins)
  const told = tellings(times)
  const pack = packLines(plan, round.wanted, { kit: round.kit, day: round.day, say: day })
  const lacks = lackLines(plan.missing)
  const packWords = pack.map(({ what, count, tags, mind }) =>
    boxed(
      [`${count > 1 ? `${count} × ` : ''}${what}`, tagWords(tags), ...mind].filter(Boolean).join(' · '),
      points,
      mind.length ? { color: LOOK } : {},
    ),
  )
  const last = times.at(-1)
  return documentPdf(
    `Round of ${round.day}`,
    `Round of ${day(round.day)} · ${name}`,
    [
      text(`Round of ${day(round.day)}`, { fontSize: 16, bold: true }),
      text(
        `${name} · ${plan.stops.length} ${plan.stops.length === 1 ? 'loop' : 'loops'}, ${spreadWords(plan.minutes)}` +
          (last ? `, ${state.begins} to ${last.to} as expected` : ''),
        { color: SECOND, margin: [0, 0, 0, 8] },
      ),
      ...(plan.stops.length ? [stopsTable(times, points)] : [text('Nothing is due and nothing is asked for.')]),
      ...(told.length
        ? [
            heading('Permits, and whom to tell'),
            inColumns(
              told.map(({ what, by, tags }) => boxed(`${by}  ${what} · ${tagWords(tags)}`, points)),
              2,
            ),
          ]
        : []),
      ...(pack.length ? [heading('To bring'), inColumns(packWords, 3)] : []),
      ...lacks.map(({ words, tags }) =>
        text(`${words} (${tagWords(tags)})`, { fontSize: points, color: STOP, margin: [0, 2, 0, 0] }),
      ),
      text('Site procedure, permits and licensed practice come before this sheet.', {
        fontSize: points,
        color: SECOND,
        margin: [0, 8, 0, 0],
      }),
    ],
    { paper, site },
  )
}
