// What a point's entries mean for trims: its chain in one unit, the procedures it can take, and the terms of a run.
import { bufferName, type OwnBuffer } from '../analysis/index.ts'
import type { TransmitterSetup } from '../device/index.ts'
import { electrodeLine, redoxElectrode } from '../kinds/index.ts'
import type { CurrentStudy } from './study.ts'
import { MANIFOLDS, valueFor, type ManifoldType, type ProcedureId, type Terms } from '../procedure/index.ts'
import { convertUnit, parseQuantity, unitOf } from '../quantity/index.ts'
import { attempt, Refusal } from '../refusal/index.ts'
import { spread, type Knot, type Thread } from '../thread/index.ts'
import type { FoundPoint } from '../trim/index.ts'
import { sure } from '../sure/index.ts'

/** The chain of a loop, every witness brought to the digital value's unit. */
export interface Chain {
  readonly thread: Thread
  readonly process: Knot
  /** What a standard applies: the process value, or the differential pressure that stands for a flow. */
  readonly applied: Knot
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

/** The differential pressure that the device takes its flow from; undefined where it takes it from none. */
function pressureOf({ knots }: Thread, digital: Knot): Knot | undefined {
  const dp = knots[knots.indexOf(digital) - 1]
  return dp?.quantity === 'pressure' && digital.quantity.endsWith('flow') ? dp : undefined
}

/** Where what is applied may be stated: at the process first, then as the device takes it, then as it shows it. */
export const appliedKnots = (c: Pick<Chain, 'process' | 'applied' | 'digital'>): readonly Knot[] => [
  ...new Set([c.process, c.applied, c.digital]),
]

/** The chain of a point. @throws Refusal `loop-incomplete` while its thread is */
export function chainOf(s: CurrentStudy): Chain {
  const { thread, scales, reader: r } = s
  const digitalAt = byRole(thread, 'digital')
  const last = thread.knots.length - 1
  const [at, end] = [scales[digitalAt], scales[last]]
  const ready = thread.stages.every((stage) => stage.ready)
  const digital = thread.knots[digitalAt]
  if (
    !ready ||
    !digital ||
    at?.low === undefined ||
    at.high === undefined ||
    end?.low === undefined ||
    end.high === undefined ||
    at.low === at.high
  )
    throw new Refusal('loop-incomplete', 'The thread of this loop has a gap: finish Point and Range first.')
  // Limits given for another quantity than the digital value say nothing about it.
  const limits = attempt(() => s.sensorLimits?.(digital.unit))
  const known = limits instanceof Refusal ? undefined : limits
  return {
    thread,
    process: sure(thread.knots[0]),
    applied: pressureOf(thread, digital) ?? sure(thread.knots[0]),
    digital,
    controller: thread.knots[last]!,
    hasCurrent: byRole(thread, 'current') >= 0,
    root: s.rootAtReceiver ?? false,
    lrv: at.low,
    urv: at.high,
    receiverLow: end.low,
    receiverHigh: end.high,
    shunt_Ohm: r.has('shunt') ? r.in('shunt', 'Ohm') : undefined,
    sensorLow: known?.low,
    sensorHigh: known?.high,
  }
}

/** The manifold in front of the cell. */
export function manifoldOf({ reader: r }: CurrentStudy): ManifoldType {
  const typed = r.has('manifold') ? r.text('manifold') : undefined
  return MANIFOLDS.find((m) => m === typed) ?? 'none'
}

/** The bench's transmitter for a point. @throws Refusal `loop-incomplete` */
export function transmitterFor(s: CurrentStudy): TransmitterSetup {
  const c = chainOf(s)
  return {
    lrv: c.lrv,
    urv: c.urv,
    receiverLow: c.receiverLow,
    receiverHigh: c.receiverHigh,
    manifold: manifoldOf(s),
    electrode: c.digital.quantity === 'acidity',
    ...(c.digital.quantity === 'acidity' ? { liquid_C: electrodeLine(s.reader).temp_C } : {}),
    meter: s.meter?.() !== undefined,
    current: c.hasCurrent,
  }
}

/** Procedures that a point can be led through, the least work first. @throws Refusal `loop-incomplete` */
export function proceduresFor(s: CurrentStudy): ProcedureId[] {
  const { hasCurrent, controller } = chainOf(s)
  // A display of the current itself, or of the raw number, has no scale to set.
  const scaled = controller.quantity !== 'current' && controller.quantity !== 'count'
  return [
    ...s.procedures,
    ...(hasCurrent ? (['current-trim', 'forced-current'] as const) : []),
    'range-change',
    'damping-change',
    'health-check',
    ...(scaled ? (['receiver-scale'] as const) : []),
  ]
}

/**
 * What the receiver should show at 4 and 20 mA: what the transmitter means, where both speak of the same; else what is
 * on record.
 */
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
  readonly damping?: string | undefined
}

/** What a run is begun with. */
export interface RunWish {
  readonly tag: string
  readonly procedure: ProcedureId
  readonly site: TrimSite
  readonly choices: TrimChoices
  /** Buffers of the site's own. */
  readonly ownBuffers?: readonly OwnBuffer[] | undefined
}

/** What a calibration in buffers is told besides. */
function bufferTerms({ reader: r }: CurrentStudy, { choices, ownBuffers = [] }: RunWish): Partial<Terms> {
  const isOwn = (name: string) => ownBuffers.some((b) => b.name === name)
  const buffers = (choices.buffers ?? []).map((typed) => (isOwn(typed) ? typed : bufferName(typed)))
  const own = ownBuffers.filter((b) => buffers.includes(b.name))
  const { slopePercent } = electrodeLine(r)
  return {
    buffers,
    recognise: true,
    anyOrder: true,
    ...(own.length ? { ownBuffers: own } : {}),
    ...(slopePercent > 0 && Number.isFinite(slopePercent) ? { slopePercent } : {}),
  }
}

/** A tenth of the tolerance may still be to go when a reading is taken. */
const STILL = 0.1
/** What is to be expected of a loop that comes to rest: its time constant, and what of a lag does not matter. */
export const restOf = ({ reader: r }: CurrentStudy): { tau_s: number; stillPct: number } => ({
  tau_s: Math.max(0, r.in('damping', 's') ?? 0),
  stillPct: STILL * (r.in('tolerance', '%') ?? 0.5),
})

/** A flow by the root of a differential pressure is applied as that pressure: what it is at the upper range value. */
function rootOf({ thread, digital, urv }: Chain): Pick<Terms, 'rootOf_mbar'> {
  const dp = pressureOf(thread, digital)
  if (!dp) return {}
  const full = spread(thread, digital.id, urv)[thread.knots.indexOf(dp)]
  return full?.known ? { rootOf_mbar: convertUnit(full.value, dp.unit, 'mbar') } : {}
}

/** The terms of a run, from the record and what was chosen. @throws Refusal */
export function termsOf(s: CurrentStudy, wish: RunWish): Terms {
  const { tag, procedure, site, choices } = wish
  const c = chainOf(s)
  if (!proceduresFor(s).includes(procedure))
    throw new Refusal('no-such-procedure', 'This point does not take that procedure.')
  const { kind, reader: r } = s
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
    tag,
    unit,
    quantity,
    decimals: c.digital.decimals,
    lrv: c.lrv,
    urv: c.urv,
    tolerancePct: r.in('tolerance', '%') ?? 0.5,
    plausiblePct: site.plausiblePct,
    stability: {
      window_s: site.window_s,
      driftPct: site.driftPct,
      noisePct: site.noisePct,
      ...restOf(s),
    },
    ...(c.sensorLow === undefined ? {} : { sensorLow: c.sensorLow }),
    ...(c.sensorHigh === undefined ? {} : { sensorHigh: c.sensorHigh }),
    manifold: manifoldOf(s),
    controls: r.text('controls'),
    tell: r.text('tell'),
    cautions: kind.check.cautions,
    reference: kind.check.reference,
    process: c.process.name,
    ...(procedure === 'sensor-trim' ? { lower: own(choices.lower, c.lrv), upper: own(choices.upper, c.urv) } : {}),
    ...(procedure === 'sensor-trim' ? rootOf(c) : {}),
    ...(procedure === 'redox-offset' ? { lower: own(choices.lower, redoxElectrode(r).solution_mV) } : {}),
    ...(procedure === 'range-change'
      ? { toLow: to(choices.low, c.lrv), toHigh: to(choices.high, c.urv), toUnit: unit }
      : {}),
    ...(procedure === 'damping-change'
      ? {
          toDamping_s:
            choices.damping === undefined ? (r.in('damping', 's') ?? 0) : valueFor(choices.damping, 'time', 's', {}),
        }
      : {}),
    ...(atReceiver
      ? {
          toLow: to(choices.low, receiverWanted(c).low),
          toHigh: to(choices.high, receiverWanted(c).high),
          toUnit: c.controller.unit,
        }
      : {}),
    // The other way round the device was never asked: what standards grant is checked there.
    faultLow_mA: fault !== undefined && fault < 4 ? fault : 3.6,
    faultHigh_mA: fault !== undefined && fault > 20 ? fault : 21.5,
    ...(c.shunt_Ohm === undefined ? {} : { shunt_Ohm: c.shunt_Ohm }),
    receiverUnit: c.controller.unit,
    receiverDecimals: c.controller.decimals,
    ...(procedure === 'ph-calibration' ? bufferTerms(s, wish) : {}),
  }
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
 * What the receiver's value means in the digital value's unit. It may speak of the process, of the digital value, or
 * of neither (a volume):
 * the reading under which its scale on record lies nearest the transmitter's range is the one that is meant, so that
 * a scale set wrong shows as an error.
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
    ...(c.controller.quantity === c.digital.quantity
      ? [(v: number) => convertUnit(v, c.controller.unit, c.digital.unit)]
      : []),
    ...(c.controller.quantity === c.process.quantity
      ? [(v: number) => from(c.process.id)(convertUnit(v, c.controller.unit, c.process.unit))]
      : []),
  ]
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
 * A point in the digital value's unit: what was applied goes through the sensor's own transfer, what the receiver
 * shows goes back through its scale.
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
  const { quantity } = unitOf(applied.unit)
  const given = appliedKnots(c).find((k) => k.quantity === quantity) ?? c.digital
  const value = convertUnit(applied.value, applied.unit, given.unit)
  const appliedHere = given === c.digital ? value : at(given.id, value, 'The applied value cannot be measured')
  return {
    applied: appliedHere,
    ...(digital ? { digital: convertUnit(digital.value, digital.unit, c.digital.unit) } : {}),
    ...(current ? { mA: currentOf(current, c.shunt_Ohm) } : {}),
    ...(receiver ? { receiver: receiverMeans(c, convertUnit(receiver.value, receiver.unit, c.controller.unit)) } : {}),
  }
}

/**
 * An applied value as typed, in the unit of what is applied, of the process or of the digital value.
 * @throws Refusal `outside-sensor` and what makes a figure unreadable
 */
export function appliedEntry(c: Chain, typed: string): { typed: string; value: number; unit: string } {
  // A bare number is in the unit of what is applied.
  const first = parseQuantity(typed, { quantity: c.applied.quantity, unit: c.applied.unit })
  const others = appliedKnots(c).map((k) => parseQuantity(typed, { quantity: k.quantity, unit: k.unit }))
  const read = first.ok ? first : (others.find((p) => p.ok) ?? first)
  if (!read.ok) throw new Refusal('not-a-figure', `“${typed}”: ${read.says}`)
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
      `${words(applied)} lies outside the sensor’s limits, ${words(low)} to ${words(high)}: it would tell ` +
        'nothing and may harm the sensor.',
    )
}
