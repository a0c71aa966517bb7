// Both ends of the wire, one scale against another: what the transmitter, a converter channel, the controller and a
// loop indicator each take a current for, and how far they are apart.
import { channelAt, controllerEnds, isConverter, type Field, type Reader } from '../kinds/index.ts'
import { convertUnit, unitOf } from '../quantity/index.ts'
import { attempt, Refusal } from '../refusal/index.ts'
import { spread, type Thread } from '../thread/index.ts'
import { receiverMeans, type Chain } from './chain.ts'

/** The scale of one end, as entered. */
export interface EndScale {
  readonly id: 'transmitter' | 'channel' | 'controller' | 'indicator'
  readonly name: string
  readonly unit: string
  /** At 4 mA and at 20 mA, in its own unit; undefined while not entered. */
  readonly low: number | undefined
  readonly high: number | undefined
  /** What is still to be entered, in words. */
  readonly needs: readonly string[]
}
/** What one end shows at a current. */
export interface EndAt {
  readonly value: number | undefined
  /** That value in the unit of the digital value; undefined where it cannot be traced back. */
  readonly means: number | undefined
  /** How far it is from what the transmitter means, % of the transmitter's span; 0 where they agree. */
  readonly apartPct: number
}
export interface BothEnds {
  /** The transmitter first. */
  readonly scales: readonly EndScale[]
  readonly rungs: readonly { readonly mA: number; readonly ends: readonly EndAt[] }[]
  /** Whether the loop carries a current at all; a bus carries the value itself. */
  readonly carries: boolean
  /** Largest error that each receiver would make, % of span; the transmitter's own is 0. */
  readonly worstPct: readonly number[]
}
export interface EndsInput {
  readonly kind: { readonly fields: readonly Field[] }
  readonly r: Reader
  readonly thread: Thread | undefined
  /** Undefined while the loop is not whole. */
  readonly chain: Chain | undefined
}
const RUNGS_mA = [4, 12, 20]
/** Share of the span below which two scales agree: what the conversion of units leaves. */
const SLACK = 1e-6
type Scale = EndScale & { readonly meansOf: (v: number) => number | undefined }

type Keys = readonly [low: string, high: string]
type Ends = Pick<EndScale, 'unit' | 'low' | 'high'>

/** The entries of what the operator reads, and its scale where it is no engineering unit. */
function shownEnds(r: Reader): [Keys, Ends?] {
  switch (r.text('shows')) {
    case '%':
      return [['percentLow', 'percentHigh']]
    case 'mA':
      return [['receiverLow', 'receiverHigh'], { unit: 'mA', low: 4, high: 20 }]
    case 'counts':
      return [['countsLow', 'countsHigh']]
    default: {
      const keys = ['receiverLow', 'receiverHigh'] as const
      if (!isConverter(r) || r.missing(...keys).length) return [keys]
      const unit = r.unit('receiverHigh')
      const [low, high] = controllerEnds(r, unit)
      return [keys, { unit, low, high }]
    }
  }
}

/** The scales of both ends, joined at 4, 12 and 20 mA. */
export function bothEnds({ kind, r, thread, chain }: EndsInput): BothEnds {
  const has = (key: string) => kind.fields.some((f) => f.key === key)
  const quantityOf = (key: string) => {
    const f = kind.fields.find((x) => x.key === key)
    return f?.type === 'quantity' ? f.quantity : undefined
  }
  const digital = thread?.knots.find((k) => k.role === 'digital')
  const unit = digital?.unit ?? 'mm'
  const carries = thread?.knots.some((k) => k.role === 'current') ?? true
  const plain = digital?.quantity === quantityOf('lrv')

  const [low, high] = plain || !chain ? [r.in('lrv', unit), r.in('urv', unit)] : [chain.lrv, chain.urv]
  const needs = r.missing('lrv', 'urv').map((m) => m.replace(/ \(.*/, ''))
  const transmitter: Scale = {
    ...{ id: 'transmitter', name: 'Transmitter', unit, low, high, needs },
    meansOf: (v) => v,
  }
  const receiver = (id: EndScale['id'], name: string, keys: Keys, ends?: Ends): Scale => {
    const same = quantityOf(keys[1]) === quantityOf('lrv')
    const own = ends?.unit ?? (same && r.missing(keys[1]).length ? unit : r.unit(keys[1]))
    const scale = { id, name, unit: own, low: ends ? ends.low : r.in(keys[0], own), high: ends?.high }
    const meansOf = (v: number) => {
      if (same && plain && unitOf(own).quantity === unitOf(unit).quantity) return convertUnit(v, own, unit)
      const found = chain && attempt(() => receiverMeans(chain, convertUnit(v, own, chain.controller.unit)))
      return found instanceof Refusal ? undefined : found
    }
    return { ...scale, high: ends ? ends.high : r.in(keys[1], own), needs: r.missing(...keys), meansOf }
  }
  const channel = (): Ends => {
    const own = r.missing('channelHigh').length ? unit : r.unit('channelHigh')
    return { unit: own, low: channelAt(r, 4, own), high: channelAt(r, 20, own) }
  }
  const receivers = [
    ...(isConverter(r) && has('channelLow')
      ? [receiver('channel', 'Converter channel', ['channelLow', 'channelHigh'], channel())]
      : []),
    receiver('controller', 'Controller', ...shownEnds(r)),
    ...(r.text('second') === 'loop indicator' && has('indicatorLow')
      ? [receiver('indicator', 'Loop indicator', ['indicatorLow', 'indicatorHigh'])]
      : []),
  ]
  const scales = [transmitter, ...(carries ? receivers : [])]

  // A scale that bends on purpose is judged by what the thread says of it.
  const curved = ['receiver', 'both'].includes(has('rootAt') ? r.text('rootAt') : '')
  const byThread = (mA: number): number | undefined => {
    const i = thread?.knots.findIndex((k) => k.role === 'digital') ?? -1
    const v = thread && i >= 0 && carries ? spread(thread, 'current', mA)[i] : undefined
    return v?.known ? v.value : undefined
  }
  const at = (s: Scale, mA: number): Omit<EndAt, 'apartPct'> => {
    if (s.low === undefined || s.high === undefined) return { value: undefined, means: undefined }
    const bends = curved && s !== transmitter
    const share = (mA - 4) / 16
    const value = s.low + (bends ? Math.sqrt(share) : share) * (s.high - s.low)
    return { value, means: bends ? byThread(mA) : s.meansOf(value) }
  }
  const span = Math.abs((high ?? 1) - (low ?? 0)) || 1
  const rungs = RUNGS_mA.map((mA) => {
    const ends = scales.map((s) => at(s, mA))
    const base = ends[0]?.means
    const apart = (means: number | undefined) =>
      means === undefined || base === undefined || Math.abs(means - base) <= SLACK * span
        ? 0
        : (100 * (means - base)) / span
    return { mA, ends: ends.map((e) => ({ ...e, apartPct: apart(e.means) })) }
  })
  const worstPct = scales.map((_, i) =>
    rungs.reduce((most, g) => (Math.abs(g.ends[i]!.apartPct) > Math.abs(most) ? g.ends[i]!.apartPct : most), 0),
  )
  return { scales: scales.map(({ meansOf: _, ...s }) => s), rungs, carries, worstPct }
}
