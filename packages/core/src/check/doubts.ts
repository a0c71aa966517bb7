// A figure that can hardly be: a decimal mark lost, another point's reading, no loop current. It is asked about before
// it goes on record; whoever knows why keeps it with a word.
import { formatQuantity } from '../quantity/index.ts'
import { knotScales, spread, type Thread } from '../thread/index.ts'
import { inSentence } from '../words/index.ts'
import { pointWords, type PlannedPoint } from './plan.ts'
import { witnessesBehind } from './witness.ts'

/** What was typed at a point, each in the unit of its place. */
export interface TypedReading {
  readonly applied: number
  readonly reads: Readonly<Record<string, number>>
}
export interface DoubtTerms {
  readonly standardAt: string
  readonly points: readonly PlannedPoint[]
}

/** A figure so far from its expectation, % of span, is asked about. */
const FAR_PCT = 10
/** As near to something else, % of span, it is taken to be that. */
const NEAR_PCT = 2
/** No loop carries more or less, mA. */
const CURRENT = { least: 0, most: 25 }

interface Figure {
  readonly name: string
  readonly unit: string
  readonly decimals: number
  readonly value: number
  readonly expected: number
  readonly span: number
  /** What it should be at another planned point. */
  readonly at: (percent: number) => number | undefined
}

const near = (a: number, b: number, span: number) => Math.abs(a - b) <= (NEAR_PCT / 100) * Math.abs(span)

/** What is odd about a figure, in a sentence; undefined where nothing is. */
function oddity(f: Figure, point: PlannedPoint, points: readonly PlannedPoint[]): string | undefined {
  const show = (v: number) => formatQuantity(v, f.unit, { decimals: f.decimals + 1, trim: true })
  if (Math.abs(f.value - f.expected) <= (FAR_PCT / 100) * Math.abs(f.span)) return undefined
  const typed = `${f.name}: ${show(f.value)} was typed, ${show(f.expected)} is expected.`
  for (const [factor, words] of [
    [10, 'ten times'],
    [100, 'a hundred times'],
    [1000, 'a thousand times'],
  ] as const) {
    // Ten times nothing is nothing: no mark was lost there.
    if (
      Math.abs(f.expected) > (NEAR_PCT / 100) * Math.abs(f.span) &&
      near(f.value / factor, f.expected, f.span / factor ** 0.5)
    )
      return `${typed} That is ${words} as much: a decimal mark lost?`
    if (f.expected !== 0 && near(f.value * factor, f.expected, f.span))
      return `${typed} That is ${words} too little: a decimal mark lost?`
  }
  const other = points.find((p) => {
    const value = p.percent === point.percent ? undefined : f.at(p.percent)
    return value !== undefined && near(f.value, value, f.span)
  })
  return other ? `${typed} That would be right at ${other.percent} %: read at the wrong point?` : typed
}

/**
 * What is to be asked about a reading before it is taken: sentences, none where all of it can be.
 * @param point at which it was taken
 */
export function doubtsOf(typed: TypedReading, point: PlannedPoint, thread: Thread, terms: DoubtTerms): string[] {
  const scales = knotScales(thread)
  const at = thread.knots.findIndex((k) => k.id === terms.standardAt)
  const [knot, scale] = [thread.knots[at], scales[at]]
  const [low, high] = [scales[0]?.low, scales[0]?.high]
  if (!knot || scale?.low === undefined || scale.high === undefined || low === undefined || high === undefined)
    return []
  const nominal = (percent: number, place: number) => {
    const value = spread(thread, thread.knots[0]!.id, low + (percent / 100) * (high - low))[place]
    return value?.known ? value.value : undefined
  }
  const wanted = nominal(point.percent, at)
  const input =
    wanted === undefined
      ? undefined
      : oddity(
          {
            name: `True input, ${inSentence(knot.name)}`,
            unit: knot.unit,
            decimals: knot.decimals,
            value: typed.applied,
            expected: wanted,
            span: scale.high - scale.low,
            at: (percent) => nominal(percent, at),
          },
          point,
          terms.points,
        )
  const expected = spread(thread, terms.standardAt, typed.applied)
  const reads = witnessesBehind(thread, terms.standardAt).flatMap((w): string[] => {
    const value = typed.reads[w.id]
    if (value === undefined) return []
    if (w.id === 'current' && !(value >= CURRENT.least && value <= CURRENT.most))
      return [`${formatQuantity(value, 'mA', { trim: true })} is no loop current: it lies between 0 and 25 mA.`]
    const place = thread.knots.findIndex((k) => k.id === w.knotId)
    const should = expected[place]
    if (!should?.known) return []
    const odd = oddity(
      { ...w, value, expected: should.value, span: w.high - w.low, at: (percent) => nominal(percent, place) },
      point,
      terms.points,
    )
    return odd ? [odd] : []
  })
  return [...(input ? [input] : []), ...reads]
}

/** A planned point and what is odd about its reading, as the server says it. */
export const doubtWords = (point: PlannedPoint, doubts: readonly string[]): string =>
  `${pointWords(point)}: ${doubts.join(' ')} Say why it is so, or take it again.`
