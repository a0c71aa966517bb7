// The fail-safe question of a relay: what runs when the power or the sensor is lost, and how to have it the other way.
import type { Contact } from './discrete-input.ts'
import { tripAfter, type Trip, type TripKind } from './trip-point.ts'
import { sure } from '../sure/index.ts'

export interface RelayUse extends Trip {
  /** Contact that what is driven is wired to. */
  readonly contact: Contact
}

/** Whether what hangs on the contact runs, with the relay energised or not. */
export const contactCloses = (contact: Contact, energised: boolean): boolean =>
  contact === 'NO' ? energised : !energised

const OPPOSITE: Record<TripKind, TripKind> = { near: 'far', far: 'near', inside: 'outside', outside: 'inside' }

/**
 * The same switching with the relay energised when it was not: the opposite trip on the other contact. Only a loss of
 * power differs.
 */
export const turnedRound = <U extends RelayUse>(use: U): U => ({
  ...use,
  kind: OPPOSITE[use.kind],
  contact: use.contact === 'NO' ? 'NC' : 'NO',
})

export interface RunsWhen {
  readonly when: 'low' | 'band-falling' | 'band-rising' | 'high' | 'power-lost' | 'sensor-lost'
  readonly words: string
  readonly energised: boolean
  /** Null where it cannot be known: the value that a lost sensor leaves. */
  readonly runs: boolean | null
}

/**
 * What runs when: over the whole way of the value, without power, and without the sensor.
 * @param lostAt the value that a lost sensor leaves standing; undefined when not known
 */
export function runsWhen(use: RelayUse, lostAt: number | undefined, show: (value: number) => string): RunsWhen[] {
  const { set, band, contact } = use
  const [below, above] = [set - Math.max(band, 1), set + band + Math.max(band, 1)]
  const middle = set + band / 2
  const state = (...readings: number[]) => readings.reduce((s, r) => tripAfter(use, s, r), false)
  const row = (when: RunsWhen['when'], words: string, energised: boolean): RunsWhen => ({
    when,
    words,
    energised,
    runs: contactCloses(contact, energised),
  })
  const lost = lostAt === undefined ? undefined : state(lostAt)
  return [
    row('low', `below ${show(set)}`, state(below)),
    ...(band > 0
      ? [
          row('band-rising', `between, coming from below`, state(below, middle)),
          row('band-falling', `between, coming from above`, state(above, middle)),
        ]
      : []),
    row('high', `above ${show(set + band)}`, state(above)),
    row('power-lost', 'power lost', false),
    lost === undefined
      ? { when: 'sensor-lost', words: 'sensor lost', energised: false, runs: null }
      : row('sensor-lost', `sensor lost, value stands at ${show(sure(lostAt))}`, lost),
  ]
}
