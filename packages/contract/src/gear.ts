// The kit: what a piece of test equipment is worth, and as it was used.
import { findUnit, QUANTITIES } from '@calm-loop/core/quantity'
import { z } from 'zod'
import { Day, filledLine, Id, line } from './primitives.ts'

const share = z.number().nonnegative().max(100)
const figure = z.number().min(-1e12).max(1e12)
/** Figures of a piece of kit for one of its ranges: at least one of the four parts, and what that part needs. */
export const GearRange = z
  .strictObject({
    quantity: z.enum(QUANTITIES),
    /** Unit of every figure here. */
    unit: line(20),
    low: figure,
    high: figure,
    pctOfReading: share.exactOptional(),
    pctOfRange: share.exactOptional(),
    digits: z.number().nonnegative().max(10_000).exactOptional(),
    /** What the last digit is worth. */
    resolution: z.number().positive().max(1e9).exactOptional(),
    fixed: z.number().nonnegative().max(1e12).exactOptional(),
    /** Coverage factor k of an expanded uncertainty; without it the figures are limits. */
    coverage: z.number().positive().max(10).exactOptional(),
    /** % of the range for each year since its own calibration. */
    driftPctPerYear: share.exactOptional(),
    /** % of the reading for each degree outside of 18 to 28 °C. */
    tempPctPerC: share.exactOptional(),
  })
  .refine((r) => findUnit(r.unit)?.quantity === r.quantity, 'the unit must be one of the quantity')
  .refine((r) => r.high > r.low, 'the range ends above where it begins')
  .refine(
    (r) => [r.pctOfReading, r.pctOfRange, r.digits, r.fixed].some((v) => v !== undefined),
    'one figure at least: % of reading, % of range, digits or a fixed one',
  )
  .refine((r) => r.digits === undefined || r.resolution !== undefined, 'digits need what the last one is worth')
export type GearRange = z.infer<typeof GearRange>

export const GearUsed = z.strictObject({
  id: Id,
  name: line(120),
  serial: line(80),
  /** As its certificate words it. */
  uncertainty: line(120),
  due: Day,
  /** Number of its own certificate, and the day of it. */
  certificate: line(80).exactOptional(),
  calibrated: Day.exactOptional(),
  /** Without any its readings are taken as they are, and nothing is said of what they are worth. */
  ranges: z.array(GearRange).max(12).exactOptional(),
  /** Why it was used past its due date. */
  expiredReason: line(300).optional(),
})
export type GearUsed = z.infer<typeof GearUsed>

export const Gear = GearUsed.omit({ expiredReason: true }).extend({ measures: filledLine(120), range: line(120) })
export type Gear = z.infer<typeof Gear>
