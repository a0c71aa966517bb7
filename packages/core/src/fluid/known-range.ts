// What a fluid’s equation covers, in words.
import { formatQuantity } from '../quantity/index.ts'

/** `Water is known here from 0.01 °C to 200 °C, up to 100000 kPa absolute.` */
export const knownRange = (what: string, [low, high]: readonly [number, number], kPa: number): string =>
  `${what} is known here from ${formatQuantity(low, 'degC', { trim: true })} to ` +
  `${formatQuantity(high, 'degC', { trim: true })}, up to ${formatQuantity(kPa, 'kPa', { trim: true })} absolute.`
