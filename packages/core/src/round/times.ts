// When one is where, and whom to tell by when.
import type { Stop } from './plan.ts'

const DAY_min = 1440

/** Minutes of the day of `HH:MM`. */
const minutesOf = (clock: string): number => Number(clock.slice(0, 2)) * 60 + Number(clock.slice(3, 5))
/** `HH:MM`; past midnight it says so. */
export function clockOf(minutes: number): string {
  const rounded = Math.round(minutes)
  const [days, left] = [Math.floor(rounded / DAY_min), ((rounded % DAY_min) + DAY_min) % DAY_min]
  const clock = `${String(Math.floor(left / 60)).padStart(2, '0')}:${String(left % 60).padStart(2, '0')}`
  return days ? `${clock} +${days} d` : clock
}

export interface Timed<S> {
  readonly stop: S
  /** When one comes to it, and when it is done, as expected. */
  readonly from: string
  readonly to: string
}
/** When each stop is reached by the minutes expected; walking is part of a visit. */
export function timed<S extends Pick<Stop, 'expected'>>(stops: readonly S[], begins: string): Timed<S>[] {
  let at = minutesOf(begins)
  return stops.map((stop) => {
    const from = at
    at += stop.expected.minutes
    return { stop, from: clockOf(from), to: clockOf(at) }
  })
}

/** One thing to be told or had, with all the loops it is for, by when it is first needed. */
export interface Telling {
  readonly what: string
  readonly by: string
  readonly tags: readonly string[]
}
/** Permits, and people to be told, in the order in which they are needed; each once, with its loops. */
export function tellings(times: readonly Timed<Pick<Stop, 'people' | 'loop'>>[]): Telling[] {
  const all = new Map<string, { by: string; tags: string[] }>()
  for (const { stop, from } of times)
    for (const what of stop.people) {
      const known = all.get(what) ?? { by: from, tags: [] }
      known.tags.push(stop.loop.tag)
      all.set(what, known)
    }
  return [...all].map(([what, { by, tags }]) => ({ what, by, tags }))
}
