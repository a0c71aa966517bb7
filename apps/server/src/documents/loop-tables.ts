// The tables of a check that is judged at every place: what was read, what it came to, and what it is worth.
import type { Check, Reading } from '@calm-loop/contract'
import {
  departureWords,
  howRead,
  notChecked,
  originsWords,
  ratioWords,
  ruleWords,
  verdictWords,
} from '@calm-loop/contract/judging'
import { budgetOf, pointWords, type LoopKnot, type LoopVerdict, type BudgetRow } from '@calm-loop/core/check'
import { formatNumber, formatQuantity, unitOf } from '@calm-loop/core/quantity'
import type { Thread } from '@calm-loop/core/thread'
import { sure } from '@calm-loop/core/sure'
import { figure, hairlines, heading, pairs, SECOND, STOP, text, type Node } from './page.ts'

/** Units do not break from their figures. */
const whole = (words: string) => words.replaceAll(' ', '\u00a0')
const pct = (v: number) => whole(`${formatNumber(v, { decimals: 3, sign: true })} %`)
const size = (v: number, decimals = 3) => whole(`${formatNumber(v, { decimals })} %`)
const quantity = (v: number, unit: string, decimals?: number) =>
  whole(formatQuantity(v, unit, decimals === undefined ? { trim: true } : { decimals }))
const heads = (names: readonly string[]) => names.map((t) => text(t, { fontSize: 8, color: SECOND }))
const table = (widths: readonly (number | string)[], body: Node[][]): Node => ({
  table: { headerRows: 1, dontBreakRows: true, widths: [...widths], body },
  layout: hairlines,
})

/** ±U (k = 2), or a dash where it is not known. */
const spreadWords = (k: LoopKnot) => (k.u_pct > 0 ? `±${bare(2 * k.u_pct, 3)}` : 'not known')
/** A figure whose unit stands at the head of its column. */
const bare = (v: number, decimals: number, sign = false) => formatNumber(v, { decimals, sign })

/** Every place of every reading: expected, read, error with its uncertainty, probability of being inside. */
export function readingsTable(loop: LoopVerdict, byId: ReadonlyMap<string, Reading>): Node {
  const rows = loop.judged.flatMap(({ reading, knots }) => {
    const full = sure(byId.get(reading.id))
    return knots.map((k, i) => [
      i ? text('') : text(pointWords(reading), { fontSize: 9 }),
      i ? text('') : figure(quantity(full.applied.value, full.applied.unit)),
      text(k.name, { fontSize: 8 }),
      figure(quantity(k.expected, k.unit, k.decimals)),
      figure(quantity(k.read, k.unit, k.decimals)),
      figure(bare(k.errorPct, 3, true), { bold: Math.abs(k.errorPct) > k.tolerancePct }),
      figure(spreadWords(k)),
      figure(k.probabilityInside === undefined ? '' : bare(100 * k.probabilityInside, 0)),
      i ? text('') : text(`${full.takenAt.slice(11, 19)} ${originsWords(full)}, ${full.by.name}`, { fontSize: 7 }),
    ])
  })
  return table(
    [40, 46, '*', 56, 56, 38, 38, 28, 66],
    [
      heads([
        'Point',
        'True input',
        'Read at',
        'Expected',
        'Read',
        'Error, %',
        'U (k = 2), %',
        'Inside, %',
        'UTC, how, by',
      ]),
      ...rows,
    ],
  )
}

/** One line for each place: its verdict, its largest error, its tolerance, and the ratio of the two doubts. */
export function placesTable(check: Check, loop: LoopVerdict): Node {
  const { reads } = sure(check.terms)
  return table(
    ['*', 92, 58, 58, 62, '*'],
    [
      heads(['Place', 'Verdict', 'Largest error', 'Tolerance', 'Tolerance to U', 'Read with']),
      ...loop.witnesses.map((w) => [
        text(w.witness.name, { fontSize: 9 }),
        text(verdictWords[w.verdict], {
          fontSize: 9,
          ...(w.verdict.startsWith('fail') ? { color: STOP, bold: true } : {}),
        }),
        figure(pct(w.maxErrorPct)),
        figure(`±${size(w.tolerancePct)}`),
        text(ratioWords(w.ratio), { fontSize: 8 }),
        text(howRead(check, sure(reads.find((r) => r.at === w.witness.id))) || 'as shown', { fontSize: 8 }),
      ]),
    ],
  )
}

const DISTRIBUTION_WORDS: Record<BudgetRow['distribution'], string> = {
  normal: 'normal',
  rectangular: 'rectangular',
  triangular: 'triangular',
  'u-shaped': 'U-shaped',
  standard: 'standard',
}

/** The budget of the reading that is least sure, row by row. Nothing where no uncertainty is known. */
export function budgetTable(loop: LoopVerdict): Node[] {
  const all = loop.judged.flatMap((j) => j.knots.map((knot) => ({ knot, at: pointWords(j.reading) })))
  const least = all.reduce<(typeof all)[number] | undefined>(
    (a, b) => ((a?.knot.u_pct ?? 0) >= b.knot.u_pct ? a : b),
    undefined,
  )
  const budget = least && budgetOf(least.knot)
  if (!budget) return []
  const { knot, at } = least
  const share = (row: BudgetRow) => budgetOf({ rows: [row], u_pct: 1 })?.combined ?? 0
  return [
    heading(`Uncertainty of the least sure reading: ${knot.name} at ${at}`),
    table(
      ['*', 80, 70, 80],
      [
        heads(['From', 'Value', 'Taken as', 'Standard, of span']),
        ...knot.rows.map((row) => [
          text(row.what, { fontSize: 9 }),
          figure(`±${quantity(row.value, row.unit, knot.decimals + 2)}`),
          text(
            DISTRIBUTION_WORDS[row.distribution] + (row.distribution === 'normal' ? `, k = ${row.coverage ?? 2}` : ''),
            {
              fontSize: 8,
            },
          ),
          figure(size(share(row), 4)),
        ]),
        [
          text('Combined', { fontSize: 9, bold: true }),
          text(''),
          text(`k = ${formatNumber(budget.coverageFactor, { decimals: 2 })}`, { fontSize: 8 }),
          figure(`${size(budget.combined, 4)}; U ±${size(budget.expanded)}`, { bold: true }),
        ],
      ],
    ),
  ]
}

/** The rule, in words, with what follows from what is not known. */
export function ruleParagraph(check: Check, loop: LoopVerdict | undefined): Node {
  const unsure = loop?.witnesses.filter((w) => w.ratio === undefined).map((w) => w.witness.name) ?? []
  return text(
    `${ruleWords[sure(check.terms).rule]} Each place is held against what the loop’s thread expects there for the ` +
      'true input of the reading, in % of its own span. Uncertainties by JCGM 100, acceptance by JCGM 106.' +
      (unsure.length
        ? ` Judged simply, without uncertainty, as the kit has no figures there: ${unsure.join(', ')}.`
        : ''),
    { fontSize: 9 },
  )
}

/** Where the standard stood, how the meter was connected, and what was not checked. */
export function circumstances(check: Check, thread: Thread): Node {
  const terms = sure(check.terms)
  const standard = sure(thread.knots.find((k) => k.id === terms.standardAt))
  const piece = check.gear.find((g) => g.id === terms.standardGear)
  const current = terms.reads.find((r) => r.at === 'current')
  return pairs([
    [
      'True input',
      `${standard.name}, ${unitOf(standard.unit).label}${piece ? `; ${piece.name}, ${piece.serial}` : ''}`,
    ],
    ...(current ? [['Current', howRead(check, current)] as const] : []),
    ...(terms.resistor
      ? [
          [
            'Resistor',
            `${quantity(terms.resistor.ohm.value, terms.resistor.ohm.unit)} ±${size(terms.resistor.tolerancePct)}`,
          ] as const,
        ]
      : []),
    ['Not checked', notChecked(check, thread).join(', ') || 'nothing between the standard and the controller'],
  ])
}

/** Where it departs, in a line; nothing where it does not. */
export const departureLine = (loop: LoopVerdict): Node[] => {
  const words = departureWords(loop.first)
  return words ? [text(words, { fontSize: 10, color: STOP, margin: [0, 2, 0, 0] })] : []
}
