// How long a work will take: by this site's own record where it has one, else by what is usual.
import { USUAL, type Work } from './works.ts'

/** Minutes expected, with their spread; `from` says on what it rests. */
export interface Expected {
  readonly minutes: number
  readonly low: number
  readonly high: number
  /** Visits of this site's own record; `undefined` where the usual is taken. */
  readonly visits: number | undefined
}

/** So many of its own visits say more than what is usual. */
const ENOUGH = 3

/** Quantile by linear interpolation between the sorted values (Hyndman and Fan 1996, definition 7). */
export function quantileOf(sorted: readonly number[], share: number): number {
  const at = (sorted.length - 1) * share
  const [below, above] = [sorted[Math.floor(at)] ?? 0, sorted[Math.ceil(at)] ?? 0]
  return below + (above - below) * (at - Math.floor(at))
}

/** What is usual of works that are done in one visit: at least the longest of them, at most one after the other. */
function usualOf(works: readonly Work[]): Expected {
  const low = Math.max(0, ...works.map((w) => USUAL[w].minutes[0]))
  const high = works.reduce((sum, w) => sum + USUAL[w].minutes[1], 0)
  return { minutes: (low + high) / 2, low, high, visits: undefined }
}

/**
 * Minutes of a visit for these works.
 * @param past minutes of this site's visits for the same works; three or more are believed: their median, with the
 * quarters below and above. Figures that are no minutes (not finite, below 0) are left out.
 */
export function minutesFor(works: readonly Work[], past: readonly number[] = []): Expected {
  const known = past.filter((m) => Number.isFinite(m) && m >= 0).sort((a, b) => a - b)
  if (known.length < ENOUGH) return usualOf(works)
  return {
    minutes: quantileOf(known, 0.5),
    low: quantileOf(known, 0.25),
    high: quantileOf(known, 0.75),
    visits: known.length,
  }
}

/** Of several visits one after the other; their spreads are independent of each other. Source: JCGM 100, 5.1.2. */
export function together(all: readonly Expected[]): Pick<Expected, 'minutes' | 'low' | 'high'> {
  const minutes = all.reduce((sum, e) => sum + e.minutes, 0)
  const spread = (of: (e: Expected) => number) => Math.sqrt(all.reduce((sum, e) => sum + of(e) ** 2, 0))
  return { minutes, low: minutes - spread((e) => e.minutes - e.low), high: minutes + spread((e) => e.high - e.minutes) }
}

/** `45 min`, `2 h 5 min` from two hours on. */
function lengthWords(minutes: number): string {
  const rounded = Math.round(minutes)
  if (rounded < 120) return `${rounded} min`
  const [h, left] = [Math.floor(rounded / 60), rounded % 60]
  return left ? `${h} h ${left} min` : `${h} h`
}
/** `45 min`, or `30 to 60 min` where it is spread. */
export function spreadWords({ low, high }: Pick<Expected, 'low' | 'high'>): string {
  const [from, to] = [lengthWords(Math.max(0, low)), lengthWords(high)]
  if (from === to) return to
  return from.endsWith(' min') && to.endsWith(' min') && !from.includes('h') && !to.includes('h')
    ? `${from.slice(0, -4)} to ${to}`
    : `${from} to ${to}`
}
