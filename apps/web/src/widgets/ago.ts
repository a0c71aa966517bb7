// How long ago, as people say it.
const MINUTE_ms = 60_000
const HOUR_ms = 60 * MINUTE_ms
const DAY_ms = 24 * HOUR_ms

/** `just now`, `4 min`, `3 h`, `2 days`. */
export function ageWords(at_ms: number, now_ms: number): string {
  const age = Math.max(0, now_ms - at_ms)
  if (age < MINUTE_ms) return 'just now'
  if (age < HOUR_ms) return `${Math.floor(age / MINUTE_ms)} min`
  if (age < 2 * DAY_ms) return `${Math.floor(age / HOUR_ms)} h`
  return `${Math.floor(age / DAY_ms)} days`
}
