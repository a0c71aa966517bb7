// What is applied at a device that shows a flow by the root of a differential pressure: the pressure for it.
import { convertUnit, formatQuantity, parseQuantity } from '../quantity/index.ts'
import type { Terms } from './step.ts'
import { inUnit } from './step-parts.ts'

/** Differential pressure that the device shows as a flow, mbar. Source: square root of the share of full scale */
export const pressureFor = (flow: number, urv: number, full_mbar: number): number =>
  Math.sign(flow) * full_mbar * (flow / urv) ** 2
/** The flow that the device shows at a differential pressure in mbar. */
export const flowFor = (mbar: number, urv: number, full_mbar: number): number =>
  Math.sign(mbar) * urv * Math.sqrt(Math.abs(mbar) / full_mbar)

/** What is to be applied, in words. */
export const appliedWords = (target: number, t: Terms): string =>
  t.rootOf_mbar === undefined
    ? inUnit(target, t)
    : `${formatQuantity(pressureFor(target, t.urv, t.rootOf_mbar), 'mbar', { decimals: 2, trim: true })}, ` +
      `for ${inUnit(target, t)}`

/**
 * A pressure as typed, as the flow that it stands for: a bare number is in mbar, as the standard shows it. Undefined
 * where it is none, or stands for nothing here.
 */
export function flowOfApplied(typed: string | undefined, t: Terms): number | undefined {
  if (t.rootOf_mbar === undefined) return undefined
  const read = parseQuantity(typed?.trim() ?? '', { quantity: 'pressure', unit: 'mbar' })
  if (!read.ok) return undefined
  return flowFor(convertUnit(read.value, read.unit, 'mbar'), t.urv, t.rootOf_mbar)
}
