// Whether an electrode may be plugged in, by which rule, and when it will want replacing.
import { fitLine } from '../analysis/index.ts'
import { coverageFactor } from '../check/distributions.ts'
import { dayNumber, daysLater } from '../check/due-again.ts'
import { Refusal } from '../refusal/index.ts'
import type { Electrode, MemoryCalibration } from './memory.ts'

export type ShelfGrade = 'ready' | 'look' | 'stop'
export interface ShelfWord {
  readonly grade: ShelfGrade
  readonly says: string
  /** The rule that it is judged by. */
  readonly rule: string
}

/** Slower than this to 95 % of a step, an electrode is old or coated, s. A rule of the trade. */
const SLOW_s = 60
/** Glass below is cracked, above is dry, old or cold, MΩ at 25 °C. Rules of the trade for usual glass. */
const GLASS_MOhm = { least: 5, most: 1000 }

/** Everything there is to say of an electrode before it is plugged in, the gravest first; never empty. */
export function shelfWords(e: Electrode, today: string): ShelfWord[] {
  const { last, bestBefore } = e
  const stop = (says: string, rule: string): ShelfWord => ({ grade: 'stop', says, rule })
  const look = (says: string, rule: string): ShelfWord => ({ grade: 'look', says, rule })
  if (e.place.at === 'retired') return [stop(`Out of use: ${e.place.words}.`, 'Retired.')]
  const words: ShelfWord[] = []
  if (!last) words.push(stop('Never calibrated here.', 'An electrode is calibrated before it measures.'))
  if (last?.verdict === 'replace')
    words.push(
      stop(
        'Worn out at its last calibration.',
        'Slope 90 to 105 % of the ideal, offset within ± 30 mV; redox ± 30 mV.',
      ),
    )
  if (bestBefore !== undefined && bestBefore < today)
    words.push(stop(`Past its best: ${bestBefore}.`, 'Not plugged in after its best-before day.'))
  const glass = last?.glass_MOhm
  if (glass !== undefined && glass < GLASS_MOhm.least)
    words.push(stop(`Glass of ${glass} MΩ: cracked.`, `Glass under ${GLASS_MOhm.least} MΩ at 25 °C is cracked.`))
  if (glass !== undefined && glass > GLASS_MOhm.most)
    words.push(look(`Glass of ${glass} MΩ: dry or old.`, `Glass over ${GLASS_MOhm.most} MΩ at 25 °C is dry or old.`))
  if (last?.verdict === 'worn')
    words.push(look('Worn: order a spare.', 'Good: slope 95 to 102 %, offset within ± 15 mV; redox ± 15 mV.'))
  const slow = last?.response_s
  if (slow !== undefined && slow > SLOW_s)
    words.push(look(`Slow: ${slow} s.`, `95 % of a step between buffers within ${SLOW_s} s.`))
  return words.length ? words : [{ grade: 'ready', says: 'Ready.', rule: 'Calibrated, good, and not past its best.' }]
}

/** The gravest of what is to be said. */
export function shelfGrade(e: Electrode, today: string): ShelfGrade {
  const grades = shelfWords(e, today).map((w) => w.grade)
  return grades.includes('stop') ? 'stop' : grades.includes('look') ? 'look' : 'ready'
}

/**
 * Whether an electrode may be plugged in now: the gate before it measures.
 * @throws Refusal `electrode-not-ready`
 */
export function refuseNotReady(e: Electrode, today: string): void {
  const stop = shelfWords(e, today).find((w) => w.grade === 'stop')
  if (stop)
    throw new Refusal('electrode-not-ready', `Electrode ${e.serial} is not plugged in. ${stop.says} ${stop.rule}`)
}

export interface Replacement {
  /** Day on which the line meets its limit, and the earliest that its scatter lets expect (ISO 8601). */
  readonly day: string
  readonly earliest: string
  /** What meets its limit first. */
  readonly by: 'slope' | 'offset'
  /** Change a year, in % of slope or mV. */
  readonly perYear: number
  /** How sure that is, in words. */
  readonly sure: string
}

const YEAR = 365.25
const FAR_days = 3653
const COVERS = 0.95

/** Days from the last calibration on until a straight line through a figure meets a limit; and the earliest of it. */
function meets(days: readonly number[], values: readonly number[], limits: readonly [number, number]) {
  const { at0, slope } = fitLine(days, values)
  const n = days.length
  const mean = days.reduce((a, b) => a + b, 0) / n
  const tt = days.reduce((sum, d) => sum + (d - mean) ** 2, 0)
  const squares = days.reduce((sum, d, i) => sum + ((values[i] ?? 0) - at0 - slope * d) ** 2, 0)
  const s = Math.sqrt(squares / (n - 2))
  const k = coverageFactor(COVERS, n - 2)
  const last = days.at(-1) ?? 0
  const line = (d: number) => at0 + slope * d
  const doubt = (d: number) => k * s * Math.sqrt(1 + 1 / n + (d - mean) ** 2 / tt)
  const first = (out: (d: number) => boolean): number | undefined => {
    for (let d = last; d <= last + FAR_days; d++) if (out(d)) return d - last
    return undefined
  }
  const [low, high] = limits
  return {
    days: first((d) => line(d) < low || line(d) > high),
    earliest: first((d) => line(d) - doubt(d) < low || line(d) + doubt(d) > high),
    perYear: slope * YEAR,
  }
}

/** What wears of an electrode: each figure on the days on which it was read. */
function wearing(calibrations: readonly MemoryCalibration[]) {
  const slopes = calibrations.filter((c) => c.slopeRead)
  return [
    { by: 'slope' as const, of: slopes, values: slopes.map((c) => c.slopePercent ?? NaN), limits: [90, 105] as const },
    {
      by: 'offset' as const,
      of: calibrations,
      values: calibrations.map((c) => c.offset_mV),
      limits: [-30, 30] as const,
    },
  ]
}

/**
 * When an electrode will want replacing, by straight lines through slope and offset of its calibrations: the day on
 * which the first of them meets 90 or 105 % or ± 30 mV. A figure that was read on under three days has no line; where
 * nothing wears within ten years, there is nothing to foretell.
 */
export function replacementOf(calibrations: readonly MemoryCalibration[]): Replacement | undefined {
  const found = wearing(calibrations).flatMap(({ by, of, values, limits }): Replacement[] => {
    const days = of.map((c) => dayNumber(c.at.slice(0, 10)))
    const lastDay = of.at(-1)?.at.slice(0, 10)
    if (new Set(days).size < 3 || lastDay === undefined) return []
    const met = meets(days, values, limits)
    if (met.days === undefined) return []
    const earliest = daysLater(lastDay, Math.min(met.days, met.earliest ?? met.days))
    const sure =
      `A straight line through ${days.length} calibrations; with their scatter it may be from ${earliest} on ` +
      '(95 of 100). What poisons or breaks it comes without a sign.'
    return [{ day: daysLater(lastDay, met.days), earliest, by, perYear: met.perYear, sure }]
  })
  return found.sort((a, b) => (a.day < b.day ? -1 : 1))[0]
}
