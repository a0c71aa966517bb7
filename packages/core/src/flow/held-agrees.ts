// Whether what a device shows is what was to be keyed: digit by digit, with or without its unit.
import { parseNumber } from '../quantity/index.ts'

const split = (text: string) => {
  const [, figure = '', unit = ''] = /^([-+−]?[\d.,]+(?:[eE][-+]?\d+)?)\s*(.*)$/.exec(text.trim()) ?? []
  const read = parseNumber(figure)
  return { value: figure && 'value' in read ? read.value : undefined, unit: unit.trim() }
}

/**
 * What a device shows against the text to be keyed. A number agrees when its value does, and its unit where the device
 * shows one; everything else letter by letter, whatever the case.
 */
export function heldAgrees(text: string, held: string): boolean {
  if (text.trim() === held.trim()) return true
  const [a, b] = [split(text), split(held)]
  if (a.value === undefined || b.value === undefined) return text.trim().toLowerCase() === held.trim().toLowerCase()
  return a.value === b.value && (b.unit === '' || b.unit === a.unit)
}
