// The wiring desk of a two-wire (or any other 4–20 mA) point: its arrangement, the wiring drawn for it, and what is
// wrong with it.
import type { Finding } from '../../findings/index.ts'
import { attempt, Refusal } from '../../refusal/index.ts'
import {
  finding,
  judgeWiring,
  propose,
  readWiring,
  SENSOR_INTERFACES,
  type Arrangement,
  suppliedBy,
  type Judged,
  type Supplied,
  type Wiring,
  type WiringFinding,
} from '../../wiring/index.ts'
import type { Desk, Keep } from '../kind.ts'
import type { Reader } from '../reader.ts'
import { wireFields } from './fields.ts'
import { inputTypeOf, isConverter, VOLTAGE_INPUT_OHM } from './input-type.ts'
import { sure } from '../../sure/index.ts'

/** Whether the wiring on record can be read; undefined where none is recorded. */
export type RecordedWiring = Wiring | Refusal | undefined

/** What is on record at the entry `wiring`. */
export function recordedWiring(text: string): RecordedWiring {
  return text === '' ? undefined : attempt(() => readWiring(text))
}

/** The finding of a wiring on record that cannot be read; none otherwise. */
export function unreadableFindings(recorded: RecordedWiring): WiringFinding[] {
  if (!(recorded instanceof Refusal)) return []
  return [
    finding({
      code: 'wiring-unreadable',
      grade: 'stop',
      where: [],
      what: recorded.message,
      why: 'What stands on record cannot be drawn, so nothing about it can be judged. The proposal is shown instead.',
      action: 'Take the proposal, or bring back an earlier version.',
      sure: 'Certain.',
    }),
  ]
}

/** What stands at a choice, if it is one of those offered, else the standard one. */
function chosen(r: Reader, key: string): string {
  const field = sure(wireFields.find((f) => f.key === key))
  const text = r.text(key)
  return field.type === 'choice' && field.options.some((o) => o.value === text) ? text : sure(field.default)
}

export function arrangementOf(r: Reader): Arrangement {
  return {
    output: chosen(r, 'output') as Arrangement['output'],
    receiver: chosen(r, 'receiver') as Arrangement['receiver'],
    power: chosen(r, 'power') as Arrangement['power'],
    between: chosen(r, 'between') as Arrangement['between'],
    junction: chosen(r, 'junction') === 'yes',
    second: chosen(r, 'second') === 'loop indicator',
    secondBurden: positive(r.in('secondBurden', 'Ohm')) ?? 50,
    isolatorBurden: positive(r.in('isolatorBurden', 'Ohm')) ?? 50,
    otherSeries: positive(r.in('otherSeries', 'Ohm')) ?? 0,
    acLegend: chosen(r, 'acLegend') as Arrangement['acLegend'],
    pairLegend: chosen(r, 'pairLegend') as Arrangement['pairLegend'],
    ...(inputTypeOf(r)?.takes === 'voltage' ? { voltageInput: true } : {}),
    ...sensorOf(r),
  }
}
/** Whether the sensor stands apart from a device with power of its own. */
const apart = (r: Reader): boolean =>
  SENSOR_INTERFACES.some((i) => i === r.text('sensor')) &&
  !['two-wire', 'three-wire', 'digital bus'].includes(r.text('output'))
const sensorOf = (r: Reader): Pick<Arrangement, 'sensor'> => {
  const sensor = SENSOR_INTERFACES.find((i) => i === r.text('sensor'))
  return sensor && apart(r) ? { sensor } : {}
}
const positive = (value: number | undefined): number | undefined =>
  value !== undefined && Number.isFinite(value) && value > 0 ? value : undefined

/** Figures of the wiring and the entries they come from. */
const ENTRY_OF: Readonly<Record<string, readonly string[]>> = {
  supply: ['supply'],
  liftOff: ['liftOff'],
  shunt: ['shunt'],
  maxV: ['maxV'],
  otherSeries: ['otherSeries'],
  cable: ['conductor', 'cableLength'],
}

/** Lift-off voltage with all that the device itself adds to it; undefined while it is not entered. */
export function liftOffOf(r: Reader): number | undefined {
  const entered = r.in('liftOff', 'V')
  const lit = r.has('displayVolts') && r.text('display') === 'lit' && r.text('output') === 'two-wire'
  return entered === undefined ? undefined : entered + (lit ? (r.in('displayVolts', 'V') ?? 0) : 0)
}

const PLATE = ['powerV', 'powerLeast', 'powerMost', 'feedLeast', 'feedMost'] as const
/** What the plate says of supply and feed, as far as it is entered. */
const plateFigures = (r: Reader): Record<string, number> =>
  Object.fromEntries(
    PLATE.flatMap((key) => {
      const value = r.missing(key).length ? undefined : positive(r.in(key, 'V'))
      return value === undefined ? [] : [[key, value] as const]
    }),
  )

interface Seen extends Judged {
  readonly wiring: Wiring
  readonly recorded: RecordedWiring
  readonly supplied: Supplied | undefined
}

interface Cable {
  readonly coreOhm: number | undefined
  readonly coreOhmPerM: number | undefined
}

/** The desk: the wiring as drawn or proposed, judged, and the budget that its circuit leaves. */
export function deskOf(
  r: Reader,
  { coreOhm, coreOhmPerM }: Cable,
  maxmA: number,
  keep: Keep,
): Desk & { readonly supplied: Supplied | undefined } {
  const text = r.text('wiring')
  const channel = isConverter(r) ? r.text('receiver').slice(-1) : undefined
  const arrangement = arrangementOf(r)
  const figures = {
    // An active output may stand alone; its own power is then a usual 24 V.
    supply: r.in('supply', 'V') ?? (arrangement.output === 'four-wire active' ? 24 : undefined),
    liftOff: liftOffOf(r) ?? (arrangement.output === 'digital bus' ? 12 : undefined),
    shunt: r.in('shunt', 'Ohm'),
    maxV: r.in('maxV', 'V'),
    otherSeries: r.in('otherSeries', 'Ohm'),
    ...plateFigures(r),
    ...(channel && inputTypeOf(r)?.takes === 'voltage' ? { [`channel${channel}Ohm`]: VOLTAGE_INPUT_OHM } : {}),
  }
  const set = apart(r) && r.text('interfaceSet')
  const conditions = { figures, coreOhm, coreOhmPerM, channel, ...(set ? { sensorInterface: set } : {}) }
  const key = JSON.stringify([text, arrangement, conditions, maxmA])
  const { wiring, recorded, findings, needs, supplied } = keep('desk', key, (): Seen => {
    const read = recordedWiring(text)
    const drawn = read === undefined || read instanceof Refusal ? propose(arrangement) : read
    const judged = judgeWiring(drawn, { ...conditions, mA: 12 }, maxmA)
    return { wiring: drawn, recorded: read, ...judged, supplied: suppliedBy(drawn, conditions) }
  })
  const own = recorded !== undefined && !(recorded instanceof Refusal)
  return {
    wiring,
    own,
    conditions,
    supplied,
    findings: [...unreadableFindings(recorded), ...findings],
    needs: [
      ...new Set(
        needs.flatMap((name) =>
          (ENTRY_OF[name] ?? []).flatMap((k) =>
            r.missing(k).length || r.in(k, unitOf(k)) === undefined ? [r.label(k)] : [],
          ),
        ),
      ),
    ],
  }
}

const unitOf = (key: string): string => ({ supply: 'V', liftOff: 'V', maxV: 'V', cableLength: 'm' })[key] ?? 'Ohm'

/**
 * The findings of the entries and those of the drawing as one list: what both say stands there once, with its place.
 */
export function withDesk(entries: readonly Finding[], desk: Desk): Finding[] {
  const both = entries.map((f) => {
    const drawn = desk.findings.find((d) => d.code === f.code)
    return drawn ? { ...f, where: drawn.where } : f
  })
  return [...both, ...desk.findings.filter((d) => !entries.some((f) => f.code === d.code))]
}
