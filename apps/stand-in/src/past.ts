// A made-up past: two weeks of a value about where it stands, every ten seconds, with what happened meanwhile.
import type { HistoryEvent, HistoryRow, Past } from '@calm-loop/core/hart'

const INTERVAL_s = 10
const ROWS = 14 * 8640
const DAY_s = 86_400

/** A number between 0 and 1 that is the same for the same row. */
const chance = (row: number): number => {
  const x = Math.sin(row * 12.9898) * 43_758.5453
  return x - Math.floor(x)
}

/** @param middle about which the value went; @param span of the range */
export function pastOf(middle: number, span: number): Past {
  const begun_s = Math.floor(Date.now() / 1000 / INTERVAL_s) * INTERVAL_s
  const oldest_s = begun_s - (ROWS - 1) * INTERVAL_s
  const events: HistoryEvent[] = [
    { t_s: oldest_s + 3600, kind: 'event', says: 'Power came back' },
    { t_s: oldest_s + 2 * DAY_s + 5400, kind: 'change', says: 'Damping 0.8 to 0.4 s' },
    { t_s: oldest_s + 5 * DAY_s, kind: 'alarm', says: 'Value above 80 % of range' },
    { t_s: oldest_s + 5 * DAY_s + 900, kind: 'alarm', says: 'Value back in range' },
    { t_s: oldest_s + 9 * DAY_s, kind: 'change', says: 'Zero trim taken' },
    { t_s: begun_s - 1800, kind: 'event', says: 'Read by a communicator' },
  ]
  const row = (at: number): HistoryRow => {
    const t_s = oldest_s + at * INTERVAL_s
    const day = Math.sin((2 * Math.PI * t_s) / DAY_s)
    const hour = Math.sin((2 * Math.PI * t_s) / 5400)
    // An hour in which it could not measure.
    const lost = at >= 61_000 && at < 61_360
    return {
      row: at,
      t_s,
      value: lost ? null : middle + span * (0.12 * day + 0.03 * hour + 0.004 * (chance(at) - 0.5)),
    }
  }
  return {
    info: () => ({ rows: ROWS, interval_s: INTERVAL_s, newest_s: begun_s, events: events.length }),
    row,
    event: (i) => events[i] ?? { t_s: 0, kind: 'event', says: '' },
  }
}
