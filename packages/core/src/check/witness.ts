// Where a loop can be read in a check, and where the standard can stand.
import { knotScales, type Knot, type Thread } from '../thread/index.ts'

/** A place at which a check reads the loop. */
export interface Witness {
  readonly id: string
  /** The knot whose expectation it is held against. */
  readonly knotId: string
  readonly name: string
  readonly quantity: Knot['quantity']
  readonly unit: string
  readonly decimals: number
  /** Its value at the low and high end of the range. */
  readonly low: number
  readonly high: number
}

/** Id of the display in the loop or at the device, which is scaled as the digital value and fed by the current. */
export const INDICATOR = 'indicator'

/** Every place after the process at which the loop can be read and judged, from the sensor to the controller. */
export function witnessesOf(thread: Thread): Witness[] {
  const scales = knotScales(thread)
  const scaled = thread.knots.flatMap((knot, i): Witness[] => {
    const { low, high } = scales[i]!
    if (i === 0 || low === undefined || high === undefined || low === high) return []
    const { id, name, quantity, unit, decimals } = knot
    return [{ id, knotId: id, name, quantity, unit, decimals, low, high }]
  })
  const digital = scaled.find((w) => thread.knots.some((k) => k.id === w.knotId && k.role === 'digital'))
  const current = scaled.findIndex((w) => w.id === 'current')
  if (digital && current >= 0)
    scaled.splice(current + 1, 0, { ...digital, id: INDICATOR, name: 'Indicator in the loop' })
  return scaled
}

/** Roles of the knots at which a known value can be applied or simulated. */
const APPLIED: readonly Knot['role'][] = ['process', 'sensor', 'current']

/** Knots at which the standard can stand: something is left to be read behind each. */
export function standardKnots(thread: Thread): Knot[] {
  const scales = knotScales(thread)
  return thread.knots.filter(
    (knot, i) => APPLIED.includes(knot.role) && i < thread.knots.length - 1 && scales[i]!.low !== scales[i]!.high,
  )
}

/** The places that can be read behind a knot at which the standard stands. */
export function witnessesBehind(thread: Thread, standardAt: string): Witness[] {
  const place = (id: string) => thread.knots.findIndex((k) => k.id === id)
  // What the display shows comes of the current, wherever its scale stands.
  const of = (w: Witness) => place(w.id === INDICATOR ? 'current' : w.knotId)
  return witnessesOf(thread).filter(
    (w) => of(w) > place(standardAt) || (w.id === INDICATOR && standardAt === 'current'),
  )
}
