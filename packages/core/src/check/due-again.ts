// When a loop is due again, and why: from how its errors drifted between the checks on record.
import { formatNumber } from '../quantity/index.ts'
import { sure } from '../sure/index.ts'
import { calibrationInterval, type CheckedOn, type Interval } from './calibration-interval.ts'

/** A check that counts, as its interval is judged by. */
export interface DoneCheck {
  readonly id: string
  /** Day on which it was signed by the one who performed it, `2026-11-28`. */
  readonly day: string
  readonly phase: 'as-found' | 'as-left'
  /** What uses up most of its tolerance, with its sign; null where nothing was measured but states. */
  readonly errorPct: number | null
  /** ± , in the same measure. */
  readonly tolerancePct: number
  readonly pass: boolean
}

/** Found and left on one occasion; null where it was not read. */
export interface Occasion {
  readonly day: string
  readonly found: DoneCheck | null
  readonly left: DoneCheck | null
}

export interface DueAgain {
  readonly occasions: readonly Occasion[]
  /** Errors that the drift is counted from, % of span at the tolerance that holds now. */
  readonly history: readonly CheckedOn[]
  /** Undefined while fewer than two occasions can be compared. */
  readonly drift: Interval | undefined
  readonly suggested_days: number
  readonly action: Interval['action']
  /** Sentences: what it rests on, and what bounds it. */
  readonly why: readonly string[]
}

export interface IntervalLimits {
  readonly current_days: number
  /** Of the site. */
  readonly min_days: number
  readonly max_days: number
}

const DAYS_A_YEAR = 365.25
/** An error found out of tolerance leaves no more of the interval than this. */
const AFTER_FAILURE = 0.5

/** Years that begin in March, so that a leap day is the last of its year. Source: the Gregorian rule. */
const DAYS_IN_400_YEARS = 146_097
const FROM_0000_03_01 = 719_468

/** Whole days since 1970 of a day such as `2026-11-28`. */
export function dayNumber(day: string): number {
  const [y, m, d] = day.split('-').map(Number) as [number, number, number]
  const year = m > 2 ? y : y - 1
  const era = Math.floor(year / 400)
  const ofEra = year - era * 400
  const ofYear = Math.floor((153 * (m > 2 ? m - 3 : m + 9) + 2) / 5) + d - 1
  const days = ofEra * 365 + Math.floor(ofEra / 4) - Math.floor(ofEra / 100) + ofYear
  return era * DAYS_IN_400_YEARS + days - FROM_0000_03_01
}

/** The day so many days later. */
export function daysLater(day: string, days: number): string {
  const n = dayNumber(day) + days + FROM_0000_03_01
  const era = Math.floor(n / DAYS_IN_400_YEARS)
  const ofEra = n - era * DAYS_IN_400_YEARS
  const year = Math.floor(
    (ofEra - Math.floor(ofEra / 1460) + Math.floor(ofEra / 36_524) - Math.floor(ofEra / 146_096)) / 365,
  )
  const ofYear = ofEra - (365 * year + Math.floor(year / 4) - Math.floor(year / 100))
  const month = Math.floor((5 * ofYear + 2) / 153)
  const d = ofYear - Math.floor((153 * month + 2) / 5) + 1
  const m = month < 10 ? month + 3 : month - 9
  const y = year + era * 400 + (m <= 2 ? 1 : 0)
  const two = (v: number) => String(v).padStart(2, '0')
  return `${String(y).padStart(4, '0')}-${two(m)}-${two(d)}`
}

/** What was left belongs to what was found no longer ago than this. */
const ONE_OCCASION_days = 31

/** Checks brought together: what was found, then what was left of it; a second finding begins another occasion. */
export function occasionsOf(done: readonly DoneCheck[]): Occasion[] {
  const occasions: Occasion[] = []
  for (const check of done) {
    const last = occasions.at(-1)
    const near = !!last && dayNumber(check.day) - dayNumber(last.day) <= ONE_OCCASION_days
    if (check.phase === 'as-left' && near) occasions[occasions.length - 1] = { ...last, day: check.day, left: check }
    else if (check.phase === 'as-left') occasions.push({ day: check.day, found: null, left: check })
    else occasions.push({ day: check.day, found: check, left: null })
  }
  return occasions
}

/** The error of a check brought to another tolerance, in the same measure; undefined where it has none. */
export const errorAt = (check: DoneCheck | null, tolerancePct: number): number | undefined =>
  check && check.errorPct !== null ? (check.errorPct / check.tolerancePct) * tolerancePct : undefined

/**
 * Errors from which drift can be counted: every occasion with what was found, and the last that was left before the
 * first of them. What was not adjusted is left as found; where only what was left was read, counting begins anew.
 * Each error is brought to the tolerance that holds now, so that a change of tolerance is no drift.
 */
export function driftHistory(occasions: readonly Occasion[], tolerancePct: number): CheckedOn[] {
  const history: CheckedOn[] = []
  for (const { day, found, left } of occasions) {
    const asLeftPct = errorAt(left ?? found, tolerancePct)
    if (asLeftPct === undefined) continue
    const asFoundPct = errorAt(found, tolerancePct)
    if (asFoundPct === undefined) history.length = 0
    const before = history.at(-1)
    const at = { day: dayNumber(day), asFoundPct: asFoundPct ?? asLeftPct, asLeftPct }
    // Twice on one day is one occasion: found by the first, left by the last.
    if (before?.day === at.day) history[history.length - 1] = { ...before, asLeftPct }
    else if (!before || before.day < at.day) history.push(at)
  }
  return history
}

const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec']
/** `28 Nov 2026` */
const dayWords = (day: string) =>
  `${Number(day.slice(8, 10))} ${sure(MONTHS[Number(day.slice(5, 7)) - 1])} ${day.slice(0, 4)}`
const days = (n: number) => `${formatNumber(n, { decimals: 0 })} days`
const pct = (v: number) => `${formatNumber(v, { decimals: 3, sign: true })} %`

function driftWords(drift: Interval, tolerancePct: number, intervals: number): string {
  const spread = formatNumber(2 * drift.driftSpread * DAYS_A_YEAR, { decimals: 3 })
  const rate =
    `It drifts ${pct(drift.driftPctPerDay * DAYS_A_YEAR)} of span a year` +
    (intervals > 1 ? `, give or take ${spread} % (two spreads)` : ', from one interval only')
  const limit = `±${formatNumber(tolerancePct, { decimals: 3, trim: true })} %`
  if (drift.predictedDays === null) return `${rate}; at that it never reaches ${limit}.`
  if (drift.predictedDays === 0) return `${rate}; it was left at its limit of ${limit} or beyond.`
  return (
    `${rate}; at ${intervals > 1 ? 'the worse of ' : ''}that it reaches ${limit} in ` +
    `${days(drift.predictedDays)}, of which four fifths are ` +
    `${days(0.8 * drift.predictedDays)}.`
  )
}

/** Which bound was met, in words; empty where none was. */
function boundWords(suggested: number, { current_days, min_days, max_days }: IntervalLimits): string[] {
  if (suggested === min_days) return [`The site’s shortest interval is ${days(min_days)}.`]
  if (suggested === max_days) return [`The site’s longest interval is ${days(max_days)}.`]
  return suggested === 2 * current_days ? ['No step goes beyond twice the present interval.'] : []
}

const actionOf = (suggested: number, current: number): Interval['action'] =>
  Math.abs(suggested - current) <= 0.1 * current + 1e-9 ? 'keep' : suggested < current ? 'shorten' : 'lengthen'

/**
 * The interval that the record suggests, in whole days, with its reasons. Without two occasions to compare the present
 * one stays; one found out of tolerance on the last occasion leaves at most half of it.
 * Source: `calibrationInterval`.
 */
export function dueAgain(done: readonly DoneCheck[], limits: IntervalLimits): DueAgain {
  const { current_days, min_days, max_days } = limits
  const occasions = occasionsOf(done)
  const tolerancePct = done.at(-1)?.tolerancePct ?? 0
  const history = driftHistory(occasions, tolerancePct)
  const drift = history.length > 1 ? calibrationInterval({ ...limits, history, tolerancePct }) : undefined
  const last = occasions.at(-1)
  const failed = last?.found?.pass === false
  const bounded = (wanted: number) => Math.max(min_days, Math.min(max_days, Math.floor(wanted + 1e-6)))
  const usual = drift?.suggested_days ?? bounded(current_days)
  const suggested_days = failed ? Math.min(usual, bounded(AFTER_FAILURE * current_days)) : usual
  const why = [
    drift
      ? driftWords(drift, tolerancePct, history.length - 1)
      : `Drift needs two occasions to compare; there ${history.length === 1 ? 'is one' : 'are none'}.`,
    ...(failed
      ? [
          `It was found out of tolerance on ${dayWords(sure(last?.found).day)}: no more than half of the present ` +
            'interval is left.',
        ]
      : []),
    ...boundWords(suggested_days, limits),
  ]
  return { occasions, history, drift, suggested_days, action: actionOf(suggested_days, current_days), why }
}
