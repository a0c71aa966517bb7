// The fail-safe question of a relay: what runs when the power or the sensor is lost, and how to have it the other way.
import type { Contact } from './discrete-input.ts'
import { tripAfter, type Trip, type TripKind } from './trip-point.ts'

/** What a controller is set to do with a relay when its input is lost. */
export type OnLoss = 'follows' | 'energised' | 'dropped' | 'holds'

export interface RelayUse extends Trip {
  /** Contact that what is driven is wired to. */
  readonly contact: Contact
  /** As set in the controller; without it the trip follows the value that is left. */
  readonly onSensor?: OnLoss | undefined
  /** Of a device that loses its echo without being broken. */
  readonly onEcho?: OnLoss | undefined
  /** A latching relay stays as it was when the controller’s power goes. */
  readonly latching?: boolean | undefined
}

/** Whether a relay is energised once its input is lost. @param held what it was just before */
export function afterLoss(onLoss: OnLoss | undefined, followed: boolean, held: boolean): boolean {
  switch (onLoss) {
    case 'energised':
      return true
    case 'dropped':
      return false
    case 'holds':
      return held
    default:
      return followed
  }
}

/** Whether what hangs on the contact runs, with the relay energised or not. */
export const contactCloses = (contact: Contact, energised: boolean): boolean =>
  contact === 'NO' ? energised : !energised

const OPPOSITE: Record<TripKind, TripKind> = { near: 'far', far: 'near', inside: 'outside', outside: 'inside' }

/** What a loss does stays what it does: with the relay the other way, the setting is the other one. */
const turnedLoss = (of: OnLoss | undefined): OnLoss | undefined =>
  of === 'energised' ? 'dropped' : of === 'dropped' ? 'energised' : of

/**
 * The same switching with the relay energised when it was not: the opposite trip on the other contact. Only a loss of
 * power differs.
 */
export const turnedRound = <U extends RelayUse>(use: U): U => ({
  ...use,
  onSensor: turnedLoss(use.onSensor),
  onEcho: turnedLoss(use.onEcho),
  kind: OPPOSITE[use.kind],
  contact: use.contact === 'NO' ? 'NC' : 'NO',
})

export interface RunsWhen {
  readonly when: 'low' | 'band-falling' | 'band-rising' | 'high' | 'power-lost' | 'sensor-lost' | 'echo-lost'
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
    use.latching ? unknown('power-lost', 'power lost, latching: as it was') : row('power-lost', 'power lost', false),
    ...lossRow('sensor-lost', use.onSensor, lost, lostAt === undefined ? '' : `, value stands at ${show(lostAt)}`),
    ...(use.onEcho ? lossRow('echo-lost', use.onEcho, lost, '') : []),
  ]

  function unknown(when: RunsWhen['when'], words: string): RunsWhen {
    return { when, words, energised: false, runs: null }
  }
  /** By the controller’s setting; by the value that is left where it follows it. */
  function lossRow(
    when: 'sensor-lost' | 'echo-lost',
    on: OnLoss | undefined,
    followed: boolean | undefined,
    stands: string,
  ): RunsWhen[] {
    const what = when === 'sensor-lost' ? 'sensor lost' : 'echo lost'
    if (on === 'holds') return [unknown(when, `${what}, set to hold: as it was`)]
    if (on === 'energised' || on === 'dropped') return [row(when, `${what}, set to ${on}`, on === 'energised')]
    return [followed === undefined ? unknown(when, what) : row(when, `${what}${stands}`, followed)]
  }
}
