// Whether what a device shows is what was to be keyed: digit by digit, with or without its unit.
import { convertUnit, findUnit, parseNumber, type QuantityName, type Unit } from '../quantity/index.ts'

const split = (text: string) => {
  const [, figure = '', unit = ''] = /^([-+−]?[\d.,]+(?:[eE][-+]?\d+)?)\s*(.*)$/.exec(text.trim()) ?? []
  const read = parseNumber(figure)
  return { value: figure && 'value' in read ? read.value : undefined, unit: unit.trim() }
}

const LOOSEST = 0.01

interface Figure {
  readonly value: number
  readonly unit: Unit
  /** Of its last digit. */
  readonly step: number
}
/** A figure with its unit; of a difference of temperatures, where that is asked for. */
function figureOf(text: string, quantity?: QuantityName): Figure | undefined {
  const { value, unit: name } = split(text)
  const unit = findUnit(name, quantity)
  if (value === undefined || !unit || (quantity !== undefined && unit.quantity !== quantity)) return undefined
  return { value, unit, step: 10 ** -(/[.,](\d+)/.exec(text)?.[1]?.length ?? 0) }
}
/** Whether what is held is the figure, to the last digit that it shows, and never further off than a hundredth. */
function areOne(a: Figure | undefined, b: Figure | undefined): boolean {
  if (a?.unit.quantity !== b?.unit.quantity || !a || !b) return false
  const off = Math.abs(convertUnit(b.value, b.unit.symbol, a.unit.symbol) - a.value)
  const half = Math.abs((b.step * b.unit.scale) / a.unit.scale) / 2
  return off <= Math.min(half, LOOSEST * Math.abs(a.value)) + 1e-9 * Math.abs(a.value)
}

/**
 * What a device shows against the text to be keyed. A number agrees when its value does, and its unit where the device
 * shows one, or the same figure in another; everything else letter by letter, whatever the case.
 */
export function heldAgrees(text: string, held: string): boolean {
  if (text.trim() === held.trim()) return true
  const [a, b] = [split(text), split(held)]
  if (a.value === undefined || b.value === undefined) return text.trim().toLowerCase() === held.trim().toLowerCase()
  if (b.unit === '' || b.unit === a.unit) return a.value === b.value
  // °F and K are of a temperature, and of a difference: it is the figures that tell.
  return [undefined, 'temperature-difference' as const].some((of) => areOne(figureOf(text, of), figureOf(held, of)))
}
