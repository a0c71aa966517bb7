// What a point's entries mean for trims: its chain in one unit, the procedures it can take, and the terms of a run.
import type { TransmitterSetup } from '../device/index.ts'
import { MANIFOLDS, valueFor, type ManifoldType, type ProcedureId, type Terms } from '../procedure/index.ts'
import { convertUnit, parseQuantity, unitOf } from '../quantity/index.ts'
import { attempt, Refusal } from '../refusal/index.ts'
import { knotScales, spread, type Knot, type Thread } from '../thread/index.ts'
import type { FoundPoint } from '../trim/index.ts'
import type { CurrentKind, Entries } from './kind.ts'
import { readEntries, standingEntry } from './reader.ts'

/** The chain of a loop, every witness brought to the digital value's unit. */
export interface Chain {
  readonly thread: Thread
  readonly process: Knot
  readonly digital: Knot
  readonly controller: Knot
  readonly hasCurrent: boolean
  /** Range in the digital value's unit, scale in the controller's. */
  readonly lrv: number
  readonly urv: number
  readonly receiverLow: number
  readonly receiverHigh: number
  readonly shunt_Ohm: number | undefined
  /** A square root is taken at the receiver. */
  readonly root: boolean
  readonly sensorLow: number | undefined
  readonly sensorHigh: number | undefined
}

const byRole = (thread: Thread, role: Knot['role']) => thread.knots.findIndex((k) => k.role === role)

/** The chain of a point. @throws Refusal `loop-incomplete` while its thread is */
export function chainOf(kind: CurrentKind, entries: Entries): Chain {
  const { thread } = kind.study(entries)
  const scales = knotScales(thread)
  const digital = byRole(thread, 'digital')
  const last = thread.knots.length - 1
  const [at, end] = [scales[digital], scales[last]]
  const ready = thread.stages.every((stage) => stage.ready)
  if (!ready || at?.low === undefined || at.high === undefined || end?.low === undefined || end.high === undefined || at.low === at.high)
    throw new Refusal('loop-incomplete', 'The thread of this loop has a gap: finish Point and Range first.')
  const r = readEntries(kind.fields, entries)
  const unit = thread.knots[digital]!.unit
  const limit = (key: 'sensorLow' | 'sensorHigh') => {
    const field = kind.fields.find((f) => f.key === key)
    if (field?.type !== 'quantity' || field.quantity !== thread.knots[digital]!.quantity) return undefined
    return r.in(key, unit)
  }
  // A platinum thermometer is defined from −200 to 850 °C (IEC 60751).
  const platinum = kind.id === 'rtd-head' ? ([-200, 850] as const).map((t) => convertUnit(t, 'degC', unit)) : undefined
  return {
    thread, process: thread.knots[0]!, digital: thread.knots[digital]!, controller: thread.knots[last]!,
    hasCurrent: byRole(thread, 'current') >= 0, root: kind.fields.some((f) => f.key === 'rootAt') && ['receiver', 'both'].includes(r.text('rootAt')),
    lrv: at.low, urv: at.high, receiverLow: end.low, receiverHigh: end.high,
    shunt_Ohm: kind.fields.some((f) => f.key === 'shunt') ? r.in('shunt', 'Ohm') : undefined,
    sensorLow: platinum?.[0] ?? limit('sensorLow'), sensorHigh: platinum?.[1] ?? limit('sensorHigh'),
  }
} // prettier-ignore

/** The manifold in front of the cell. */
export function manifoldOf(kind: CurrentKind, entries: Entries): ManifoldType {
  const field = kind.fields.find((f) => f.key === 'manifold')
  const typed = field && standingEntry(field, entries)?.typed
  return MANIFOLDS.find((m) => m === typed) ?? 'none'
}

/** The bench's transmitter for a point. @throws Refusal `loop-incomplete` */
export function transmitterFor(kind: CurrentKind, entries: Entries): TransmitterSetup {
  const c = chainOf(kind, entries)
  return {
    lrv: c.lrv, urv: c.urv, receiverLow: c.receiverLow, receiverHigh: c.receiverHigh,
    manifold: manifoldOf(kind, entries), electrode: c.digital.quantity === 'acidity', meter: kind.meter?.(entries) !== undefined, current: c.hasCurrent,
  } // prettier-ignore
}

/** Procedures that make sense for a point, the least work first. @throws Refusal `loop-incomplete` */
export function proceduresFor(kind: CurrentKind, entries: Entries): ProcedureId[] {
  const c = chainOf(kind, entries)
  const flow = c.process.quantity === 'mass-flow' || c.process.quantity === 'volume-flow'
  const ph = c.digital.quantity === 'acidity'
  const pressed = c.digital.quantity === 'pressure'
  return [
    ...(flow && !pressed && manifoldOf(kind, entries) === 'none' ? (['flow-zero'] as const) : []),
    ...(ph ? (['ph-calibration'] as const) : []),
    ...(!ph && (!flow || pressed || manifoldOf(kind, entries) !== 'none') ? (['zero-trim'] as const) : []),
    ...(!ph && !flow ? (['sensor-trim'] as const) : []),
    ...(c.hasCurrent ? (['current-trim', 'forced-current'] as const) : []),
    'range-change',
    'receiver-scale',
  ]
}

/** What the receiver should show at 4 and 20 mA: what the transmitter means, where both speak of the same; else what is on record. */
export function receiverWanted(c: Chain): { low: number; high: number } {
  if (c.controller.quantity !== c.digital.quantity || c.root) return { low: c.receiverLow, high: c.receiverHigh }
  // A level measured as a distance is not shown as one.
  if (Math.sign(c.urv - c.lrv) !== Math.sign(c.receiverHigh - c.receiverLow))
    return { low: c.receiverLow, high: c.receiverHigh }
  const at = (v: number) => Number(convertUnit(v, c.digital.unit, c.controller.unit).toPrecision(12))
  return { low: at(c.lrv), high: at(c.urv) }
}

export interface TrimSite {
  readonly plausiblePct: number
  readonly window_s: number
  readonly driftPct: number
  readonly noisePct: number
}
export interface TrimChoices {
  readonly lower?: string | undefined
  readonly upper?: string | undefined
  readonly low?: string | undefined
  readonly high?: string | undefined
  readonly buffers?: readonly string[] | undefined
}

/** The terms of a run, from the record and what was chosen. @throws Refusal */
export function termsOf(
  kind: CurrentKind,
  entries: Entries,
  tag: string,
  procedure: ProcedureId,
  site: TrimSite,
  choices: TrimChoices,
): Terms {
  const c = chainOf(kind, entries)
  if (!proceduresFor(kind, entries).includes(procedure))
    throw new Refusal('no-such-procedure', 'This point does not take that procedure.')
  const r = readEntries(kind.fields, entries)
  const { unit, quantity } = c.digital
  const own = (typed: string | undefined, standing: number) =>
    typed === undefined ? standing : valueFor(typed, quantity, unit, {})
  const atReceiver = procedure === 'receiver-scale'
  const to = (typed: string | undefined, standing: number) =>
    typed === undefined
      ? standing
      : atReceiver
        ? valueFor(typed, c.controller.quantity, c.controller.unit, {})
        : valueFor(typed, quantity, unit, {})
  const fault = r.in('faultCurrent', 'mA')
  return {
    tag, unit, quantity, decimals: c.digital.decimals, lrv: c.lrv, urv: c.urv,
    tolerancePct: r.in('tolerance', '%') ?? 0.5, plausiblePct: site.plausiblePct,
    stability: { window_s: site.window_s, driftPct: site.driftPct, noisePct: site.noisePct },
    ...(c.sensorLow === undefined ? {} : { sensorLow: c.sensorLow }), ...(c.sensorHigh === undefined ? {} : { sensorHigh: c.sensorHigh }),
    manifold: manifoldOf(kind, entries), controls: r.text('controls'), tell: r.text('tell'), cautions: kind.check.cautions,
    reference: kind.check.reference, process: c.process.name,
    ...(procedure === 'sensor-trim' ? { lower: own(choices.lower, c.lrv), upper: own(choices.upper, c.urv) } : {}),
    ...(procedure === 'range-change' ? { toLow: to(choices.low, c.lrv), toHigh: to(choices.high, c.urv), toUnit: unit } : {}),
    ...(atReceiver ? { toLow: to(choices.low, receiverWanted(c).low), toHigh: to(choices.high, receiverWanted(c).high), toUnit: c.controller.unit } : {}),
    // The other way round the device was never asked: what standards grant is checked there.
    faultLow_mA: fault !== undefined && fault < 4 ? fault : 3.6, faultHigh_mA: fault !== undefined && fault > 20 ? fault : 21.5,
    ...(c.shunt_Ohm === undefined ? {} : { shunt_Ohm: c.shunt_Ohm }),
    receiverUnit: c.controller.unit, receiverDecimals: c.controller.decimals,
    ...(procedure === 'ph-calibration' ? { buffers: [...(choices.buffers ?? [])] } : {}),
  } // prettier-ignore
}

/** A point of the chain as read: each witness as it was typed, or null. */
export interface ChainRead {
  readonly applied: { readonly value: number; readonly unit: string }
  readonly digital: { readonly value: number; readonly unit: string } | null
  readonly current: { readonly value: number; readonly unit: string } | null
  readonly receiver: { readonly value: number; readonly unit: string } | null
}

/** A current in mA from a reading in current or in volts across the shunt. @throws Refusal `shunt-unknown` */
export function currentOf(
  read: { readonly value: number; readonly unit: string },
  shunt_Ohm: number | undefined,
): number {
  if (unitOf(read.unit).quantity === 'current') return convertUnit(read.value, read.unit, 'mA')
  if (!shunt_Ohm) throw new Refusal('shunt-unknown', 'Volts were read, but the receiver shunt is not entered.')
  return (convertUnit(read.value, read.unit, 'V') / shunt_Ohm) * 1000
}

/**
 * What the receiver's value means in the digital value's unit. It may speak of the process, of the digital value, or of neither (a volume):
 * the reading under which its scale on record lies nearest the transmitter's range is the one that is meant, so that a scale set wrong shows as an error.
 * @throws Refusal when it cannot be traced back
 */
export function receiverMeans(c: Chain, value: number): number {
  const i = c.thread.knots.indexOf(c.digital)
  const from = (knotId: string) => (v: number) => {
    const known = spread(c.thread, knotId, v)[i]!
    if (!known.known) throw new Refusal('outside-sensor', `The receiver’s value cannot be traced back: ${known.says}.`)
    return known.value
  }
  // The digital value itself comes first: where both ways fit, the controller repeats what the transmitter says.
  const ways = [
    ...(c.controller.quantity === c.digital.quantity ? [(v: number) => convertUnit(v, c.controller.unit, c.digital.unit)] : []),
    ...(c.controller.quantity === c.process.quantity ? [(v: number) => from(c.process.id)(convertUnit(v, c.controller.unit, c.process.unit))] : []),
  ] // prettier-ignore
  const off = (way: (v: number) => number) => {
    const ends = attempt(() => Math.abs(way(c.receiverLow) - c.lrv) + Math.abs(way(c.receiverHigh) - c.urv))
    return ends instanceof Refusal ? Infinity : ends
  }
  const slack = 1e-6 * Math.abs(c.urv - c.lrv)
  const best = ways.reduce<(typeof ways)[number] | undefined>(
    (a, b) => (!a || off(b) < off(a) - slack ? b : a),
    undefined,
  )
  // A square root between the ends is no scale set wrong: it is undone as entered.
  const straight = best && off(best) < 0.6 * Math.abs(c.urv - c.lrv) && !c.root
  return straight ? best(value) : from(c.controller.id)(value)
}

/**
 * A point in the digital value's unit: what was applied goes through the sensor's own transfer, what the receiver shows goes back through its scale.
 * @throws Refusal when a value cannot be brought there
 */
export function foundPoint(c: Chain, read: ChainRead): FoundPoint {
  const { thread } = c
  const i = thread.knots.indexOf(c.digital)
  const at = (knotId: string, value: number, says: string): number => {
    const v = spread(thread, knotId, value)[i]!
    if (!v.known) throw new Refusal('outside-sensor', `${says}: ${v.says}.`)
    return v.value
  }
  const { applied, digital, current, receiver } = read
  const processUnit = unitOf(applied.unit).quantity === c.process.quantity
  const appliedHere = processUnit
    ? at(c.process.id, convertUnit(applied.value, applied.unit, c.process.unit), 'The applied value cannot be measured')
    : convertUnit(applied.value, applied.unit, c.digital.unit)
  return {
    applied: appliedHere,
    ...(digital ? { digital: convertUnit(digital.value, digital.unit, c.digital.unit) } : {}),
    ...(current ? { mA: currentOf(current, c.shunt_Ohm) } : {}),
    ...(receiver ? { receiver: receiverMeans(c, convertUnit(receiver.value, receiver.unit, c.controller.unit)) } : {}),
  } // prettier-ignore
}

/** An applied value as typed, in the process or the digital unit. @throws Refusal `outside-sensor` and what makes a figure unreadable */
export function appliedEntry(c: Chain, typed: string): { typed: string; value: number; unit: string } {
  const asProcess = parseQuantity(typed, { quantity: c.process.quantity, unit: c.process.unit })
  const read = asProcess.ok ? asProcess : parseQuantity(typed, { quantity: c.digital.quantity, unit: c.digital.unit })
  if (!read.ok) throw new Refusal('not-a-figure', `“${typed}”: ${asProcess.ok ? '' : asProcess.says}`)
  const entry = { typed, value: read.value, unit: read.unit }
  refuseOutside(c, foundPoint(c, { applied: entry, digital: null, current: null, receiver: null }).applied)
  return entry
}

/** @throws Refusal `outside-sensor` */
export function refuseOutside(c: Chain, applied: number): void {
  const [low, high] = [c.sensorLow ?? -Infinity, c.sensorHigh ?? Infinity]
  const words = (v: number) => `${Number(v.toFixed(c.digital.decimals + 1))} ${unitOf(c.digital.unit).label}`
  if (applied < low || applied > high)
    throw new Refusal(
      'outside-sensor',
      `${words(applied)} lies outside the sensor’s limits, ${words(low)} to ${words(high)}: it would tell nothing and may harm the sensor.`,
    )
}
