// Where everything of the day’s drawing stands: time along, each stop as long as it takes, names where there is room.
import type { Stop, Timed } from '@calm-loop/core/round'

const LETTER = 8.4
const GAP = 10
const CLEAR = 4
const EDGE = 12
const HOUR_min = 60
/** Hours between two marks, from the finest on. */
const STEPS_h = [0.5, 1, 2, 4, 8, 24]
const HOUR_LABEL = 48

export interface DrawnStop {
  readonly id: string
  readonly tag: string
  readonly x: number
  readonly width: number
  /** Ends of what the visit may take, from the quickest to the slowest. */
  readonly soonest: number
  readonly latest: number
  /** Row of its tag above the line; undefined where there is no room for it. */
  readonly row: 0 | 1 | undefined
  readonly jobs: number
  readonly overdue: boolean
}
export interface DrawnArea {
  readonly name: string
  readonly x: number
  readonly width: number
  readonly shown: boolean
}
export interface DrawnDay {
  readonly stops: readonly DrawnStop[]
  readonly areas: readonly DrawnArea[]
  readonly hours: readonly { readonly x: number; readonly words: string }[]
}

/**
 * @param begins minutes of the day at which one sets out
 * @param width of the picture, px
 */
export function drawDay(times: readonly Timed<Stop>[], begins: number, width: number): DrawnDay {
  const total = Math.max(
    HOUR_min,
    times.reduce((sum, t) => sum + t.stop.expected.minutes, 0),
  )
  const scale = Math.max(0, width - 2 * EDGE) / total
  const at = (minutes: number) => EDGE + minutes * scale
  /** Right ends of what is written in each row. */
  const ends: [number, number] = [-GAP, -GAP]
  let passed = 0
  const stops = times.map(({ stop }): DrawnStop => {
    const { minutes, low, high } = stop.expected
    const x = at(passed)
    const letters = stop.loop.tag.length * LETTER
    const left = Math.min(Math.max(x - letters / 2, 0), width - letters)
    const fits = (r: 0 | 1) => left >= ends[r] + GAP
    // From the upper row a line comes down to the ring, past what stands beneath.
    const row: DrawnStop['row'] = fits(0) ? 0 : fits(1) && ends[0] < x - CLEAR ? 1 : undefined
    if (row !== undefined) ends[row] = left + letters
    if (row === 1) ends[0] = Math.max(ends[0], x + CLEAR - GAP)
    const drawn = {
      ...{ id: stop.loop.id, tag: stop.loop.tag, x, row, width: minutes * scale },
      soonest: Math.min(width - EDGE, at(passed + low)),
      latest: Math.min(width - EDGE, at(passed + high)),
      ...{ jobs: stop.jobs.length, overdue: stop.check?.overdue ?? false },
    }
    passed += minutes
    return drawn
  })
  return { stops, areas: areasOf(times, stops), hours: hoursOf(begins, total, at, width) }
}

function areasOf(times: readonly Timed<Stop>[], stops: readonly DrawnStop[]): DrawnArea[] {
  const areas: { name: string; x: number; width: number }[] = []
  times.forEach(({ stop }, i) => {
    const { x = 0, width = 0 } = stops[i] ?? {}
    const last = areas.at(-1)
    if (last?.name === stop.loop.area) last.width = x + width - last.x
    else areas.push({ name: stop.loop.area, x, width })
  })
  return areas.map((a) => ({ ...a, shown: a.name.length * LETTER * 0.9 + GAP <= a.width }))
}

function hoursOf(begins: number, total: number, at: (minutes: number) => number, width: number) {
  const step = (STEPS_h.find((h) => at(h * HOUR_min) - at(0) >= HOUR_LABEL + GAP) ?? 24) * HOUR_min
  const hours: { x: number; words: string }[] = []
  for (let m = Math.ceil(begins / step) * step; m <= begins + total; m += step) {
    const x = at(m - begins)
    const words = `${String(Math.floor(m / HOUR_min) % 24).padStart(2, '0')}:${String(m % HOUR_min).padStart(2, '0')}`
    if (x >= HOUR_LABEL / 2 && x <= width - HOUR_LABEL / 2) hours.push({ x, words })
  }
  return hours
}
