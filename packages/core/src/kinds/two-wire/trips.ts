// Switch points of a measured value: up to four relays of the controller, each with its trip, its contact and its
// fail-safe answer.
import { runsWhen, TRIP_KINDS, turnedRound, type OnLoss, type RelayUse, type TripKind } from '../../discrete/index.ts'
import type { Finding } from '../../findings/index.ts'
import { differenceUnit, formatQuantity as show, type QuantityName } from '../../quantity/index.ts'
import type { Entries, Field } from '../kind.ts'
import { asDifferences, type Reader } from '../reader.ts'
import { controllerEnds } from './input-type.ts'
import { sure } from '../../sure/index.ts'

export const TRIP_NUMBERS = [1, 2, 3, 4] as const
export type TripNumber = (typeof TRIP_NUMBERS)[number]

export const TRIP_WORDS: Readonly<Record<TripKind, string>> = {
  near: 'near: on at the set point and below',
  far: 'far: on at set + band and above',
  inside: 'inside: on between set and set + band',
  outside: 'outside: on beyond either end',
}

/** What the controller is set to do with a relay; the first is what most do. */
const ON_LOSS = [
  { value: 'follows', label: 'follow the value that is left' },
  { value: 'energised', label: 'energise' },
  { value: 'dropped', label: 'drop' },
  { value: 'holds', label: 'stay as it was' },
]

/** Entries of the switch points, for a value of this quantity. @param echo the device may lose its echo */
export function tripFields(quantity: QuantityName, unit: string, echo = false): Field[] {
  const count = (n: number) => TRIP_NUMBERS.filter((m) => m >= n).map(String)
  return [
    {
      key: 'trips',
      stage: 'switch-point',
      group: 'Relays',
      type: 'choice',
      label: 'Relays that the controller switches on this value',
      help: 'Each has one set point, one band and one contact in use.',
      options: ['none', ...TRIP_NUMBERS.map(String)].map((value) => ({ value, label: value })),
      default: 'none',
    },
    ...TRIP_NUMBERS.flatMap((n): Field[] => {
      const own = { stage: 'switch-point', group: `Relay ${n}`, when: { key: 'trips', is: count(n) } } as const
      const answer = ['runs', 'stands', 'either'].map((value) => ({
        value,
        label: value === 'either' ? 'either will do' : value,
      }))
      return [
        {
          key: `trip${n}Drives`,
          ...own,
          type: 'text',
          label: 'What it drives',
          help: 'Pump, valve, horn.',
          required: true,
        },
        {
          key: `trip${n}Kind`,
          ...own,
          type: 'choice',
          label: 'Trip',
          required: true,
          help:
            'near: on at set and below, until set + band; far: on at set + band and above, until set; inside, ' +
            'outside: of the band.',
          options: TRIP_KINDS.map((value) => ({ value, label: value })),
        },
        {
          key: `trip${n}Set`,
          ...own,
          type: 'quantity',
          quantity,
          unit,
          label: 'Set point',
          required: true,
          help: 'Lower end of the band.',
        },
        {
          key: `trip${n}Band`,
          ...own,
          type: 'quantity',
          ...differenceOf(quantity, unit),
          label: 'Band',
          required: true,
          help: 'Larger than noise and waves, or it chatters.',
        },
        {
          key: `trip${n}Contact`,
          ...own,
          type: 'choice',
          label: 'Contact in use',
          required: true,
          help: 'NO closes when the relay is energised, NC opens.',
          options: [
            { value: 'NO', label: 'NO' },
            { value: 'NC', label: 'NC' },
          ],
        },
        {
          key: `trip${n}PowerLost`,
          ...own,
          type: 'choice',
          label: 'Without power it must',
          required: true,
          help: 'The controller’s power fails: every relay drops.',
          options: answer,
        },
        {
          key: `trip${n}SensorLost`,
          ...own,
          type: 'choice',
          label: 'Without the sensor it must',
          required: true,
          help: 'The value then stands where the fault current puts it.',
          options: answer,
        },
        {
          key: `trip${n}OnSensor`,
          ...own,
          type: 'choice',
          label: 'Set in the controller: sensor lost',
          help: 'What the controller does with this relay when it knows that the sensor is lost.',
          options: ON_LOSS,
          default: 'follows',
        },
        ...(echo
          ? ([
              {
                key: `trip${n}EchoLost`,
                ...own,
                type: 'choice',
                label: 'Without an echo it must',
                help: 'Foam, vapour or a ladder in the beam: the device lives and hears nothing.',
                options: answer,
              },
              {
                key: `trip${n}OnEcho`,
                ...own,
                type: 'choice',
                label: 'Set in the controller: echo lost',
                help: 'Often its own setting, with a delay of its own.',
                options: ON_LOSS,
                default: 'holds',
              },
            ] satisfies Field[])
          : []),
        {
          key: `trip${n}Latching`,
          ...own,
          type: 'choice',
          label: 'Set in the controller: power lost',
          help: 'A relay drops without power, unless it latches.',
          options: [
            { value: 'no', label: 'drops' },
            { value: 'yes', label: 'latches: stays as it was' },
          ],
          default: 'no',
        },
        {
          key: `trip${n}Interlock`,
          ...own,
          type: 'text',
          label: 'External interlock',
          help: 'What makes it safe whatever this relay does, such as limit switches in the motor’s own circuit.',
        },
      ]
    }),
  ]
}

/**
 * A relay as far as it has been entered; `use` is undefined while trip, set, band or contact is missing or out of
 * question.
 */
export interface EnteredTrip {
  readonly number: TripNumber
  readonly drives: string
  readonly use: RelayUse | undefined
  readonly band: number | undefined
  readonly powerLost: string
  readonly sensorLost: string
  readonly echoLost: string
  /** What stands outside and makes it safe; empty where nothing does. */
  readonly interlock: string
}

/** The quantity of a difference of two values: of temperatures it has no zero of its own. */
const differenceOf = (quantity: QuantityName, unit: string) =>
  quantity === 'temperature'
    ? ({ quantity: 'temperature-difference', unit: differenceUnit(unit) } as const)
    : { quantity, unit }

/** The relays in use, in `unit`. */
export function enteredTrips(r: Reader, unit: string): EnteredTrip[] {
  const count = Number(r.text('trips')) || 0
  return TRIP_NUMBERS.slice(0, count).map((number) => {
    const text = (what: string) => r.text(`trip${number}${what}`)
    const echo = r.has(`trip${number}OnEcho`)
    const onLoss = (what: string) => ON_LOSS.find((o) => o.value === text(what))?.value as OnLoss | undefined
    const set = r.in(`trip${number}Set`, unit)
    const band = r.in(`trip${number}Band`, differenceUnit(unit))
    const kind = TRIP_KINDS.find((k) => k === text('Kind'))
    const contact = text('Contact')
    const whole = set !== undefined && band !== undefined && band >= 0 && kind && (contact === 'NO' || contact === 'NC')
    return {
      number,
      drives: text('Drives') || `relay ${number}`,
      use: whole
        ? {
            ...{ kind, set, band, contact },
            onSensor: onLoss('OnSensor'),
            ...(echo ? { onEcho: onLoss('OnEcho') } : {}),
            ...(text('Latching') === 'yes' ? { latching: true } : {}),
          }
        : undefined,
      band,
      powerLost: text('PowerLost'),
      sensorLost: text('SensorLost'),
      echoLost: echo ? text('EchoLost') : '',
      interlock: text('Interlock'),
    }
  })
}

/**
 * The value at which a lost sensor leaves the controller: where the fault current lies on the range. Undefined while
 * not entered.
 */
export function lostAt(r: Reader, unit: string): number | undefined {
  const [shownLow, shownHigh] = controllerEnds(r, unit)
  const [low, high, mA] = [shownLow ?? r.in('lrv', unit), shownHigh ?? r.in('urv', unit), r.in('faultCurrent', 'mA')]
  return low === undefined || high === undefined || mA === undefined ? undefined : low + ((mA - 4) / 16) * (high - low)
}

/** Less than this share of the span is smaller than most values' noise. */
const SMALL_BAND = 0.005

type Trip = ReturnType<typeof enteredTrips>[number]
interface TripScale {
  readonly lrv: number | undefined
  readonly urv: number | undefined
  /** Where the value stands when the sensor is lost. */
  readonly lost: number | undefined
  value(v: number): string
}
const fieldOf = (number: Trip['number'], what: string) => `trip${number}${what}`

/** Where a relay switches within its range, and how far apart its two ends are. */
function placeFindings({ number, use }: Trip, { lrv, urv, value }: TripScale): Finding[] {
  const found: Finding[] = []
  if (!use || lrv === undefined || urv === undefined) return found
  const span = Math.abs(urv - lrv)
  const field = (what: string) => fieldOf(number, what)
  const ends = [use.set, use.set + use.band]
  if (ends.some((v) => v < Math.min(lrv, urv) || v > Math.max(lrv, urv)))
    found.push({
      code: `trip-outside-range-${number}`,
      grade: 'look',
      fields: [field('Set'), field('Band')],
      what:
        `Relay ${number} switches at ${value(sure(ends[0]))} and ${value(sure(ends[1]))}; ` +
        'the range ends before that.',
      why: 'Outside the range the value may stand still while the process goes on, and the relay never changes.',
      sure: 'Probable.',
      action: 'Keep both ends of the band within the range, or widen the range.',
    })
  if ((use.kind === 'near' || use.kind === 'far') && use.band < SMALL_BAND * span)
    found.push({
      code: `band-small-${number}`,
      grade: 'look',
      fields: [field('Band')],
      what: `Relay ${number} has a band of ${value(use.band)}, under ${SMALL_BAND * 100} % of the span.`,
      why: 'Noise and waves alone then turn it on and off: contacts weld and motors burn.',
      sure: 'Probable; try it with your noise in the simulation.',
      action: 'Widen the band beyond what the value moves by itself.',
    })
  return found
}

const WISH = { 'power-lost': 'PowerLost', 'sensor-lost': 'SensorLost', 'echo-lost': 'EchoLost' } as const

type Loss = keyof typeof WISH

/** What the controller does by its own setting, in words; empty where the trip follows the value. */
function sensorSet(use: RelayUse, when: Loss): string {
  if (when === 'power-lost') return ''
  const on = when === 'sensor-lost' ? use.onSensor : use.onEcho
  return on === 'energised' ? 'energise' : on === 'dropped' ? 'drop' : ''
}

function whyOnLoss(use: RelayUse, when: Loss, stands: string): string {
  if (when === 'power-lost') return 'Without power every relay drops, and only its contact decides.'
  const set = sensorSet(use, when)
  return set
    ? `The controller is set to ${set} it then.`
    : `The value then stands at ${stands}, and the trip follows it.`
}

const PROVE_IT = 'Prove the interlock by the site’s own procedure, and say so in the record.'

/** @param mends the same switching with the relay the other way would do */
function mendOnLoss(use: RelayUse, when: Loss, mends: boolean): string {
  if (sensorSet(use, when)) return 'Set it the other way in the controller.'
  if (!mends) return 'Set the fault current to the other end, or have the controller act on the fault itself.'
  const other = turnedRound(use)
  return (
    `Use the ${other.kind} trip on the ${other.contact} contact: it switches the same, with the relay ` +
    'the other way.'
  )
}

/** Whether what the relay drives runs or stands as it must when power or sensor is lost. */
function lossFindings({ number, use, drives, interlock, ...wishes }: Trip, { lost, value }: TripScale): Finding[] {
  const found: Finding[] = []
  if (!use) return found
  const field = (what: string) => fieldOf(number, what)
  const rows = runsWhen(use, lost, value)
  const turned = runsWhen(turnedRound(use), lost, value)
  for (const [when, wish, words] of [
    ['power-lost', wishes.powerLost, 'when the power is lost'],
    ['sensor-lost', wishes.sensorLost, 'when the sensor is lost'],
    ['echo-lost', wishes.echoLost, 'when the echo is lost'],
  ] as const) {
    const runs = rows.find((x) => x.when === when)?.runs ?? null
    if ((wish !== 'runs' && wish !== 'stands') || runs === null || runs === (wish === 'runs')) continue
    const mends = turned.find((x) => x.when === when)?.runs === (wish === 'runs')
    found.push({
      code: `${when}-${number}`,
      grade: interlock ? 'note' : 'stop',
      fields: [field(WISH[when]), field('Contact'), field('Kind')],
      what:
        `${sure(drives[0]).toUpperCase()}${drives.slice(1)} ${runs ? 'runs' : 'stands'} ${words}; it must ` +
        `${wish === 'runs' ? 'run' : 'stand'}.` +
        (interlock ? ` Declared safe by an external interlock: ${interlock}.` : ''),
      why: whyOnLoss(use, when, lost === undefined ? 'a place not known' : value(lost)),
      sure: interlock ? 'As declared; the interlock is proved by its own test.' : 'Certain, if the answers are right.',
      action: interlock ? PROVE_IT : mendOnLoss(use, when, mends),
    })
  }
  return found
}

function bandFindings({ number, band }: Trip): Finding[] {
  if (band === undefined || band >= 0) return []
  return [
    {
      code: `band-negative-${number}`,
      grade: 'stop',
      fields: [fieldOf(number, 'Band')],
      what: `The band of relay ${number} is below zero.`,
      why: 'It would have to turn off before it turns on.',
      sure: 'Certain.',
      action: 'Enter 0 or more; the set point is the lower end of the band.',
    },
  ]
}

/** What is wrong with the switch points. */
export function tripFindings(r: Reader, unit: string): Finding[] {
  const scale: TripScale = {
    lrv: r.in('lrv', unit),
    urv: r.in('urv', unit),
    lost: lostAt(r, unit),
    value: (v) => show(v, unit, { trim: true }),
  }
  return enteredTrips(r, unit).flatMap((trip) => [
    ...bandFindings(trip),
    ...placeFindings(trip, scale),
    ...lossFindings(trip, scale),
  ])
}

/** Bands of temperatures as entered before they were differences, for the entries of now. */
export const tripBandsAsDifferences = (entries: Entries): Entries =>
  asDifferences(
    entries,
    TRIP_NUMBERS.map((n) => `trip${n}Band`),
  )
