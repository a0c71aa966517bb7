// Reading a number as a person types it: decimal comma or point, digits grouped in threes, fractions.

/** Digits beyond which a double can no longer keep what was typed exactly. */
import { sure } from '../sure/index.ts'

export const MOST_SIGNIFICANT_DIGITS = 15
const LARGEST = 1e15

/** How typed text is read. 1: as release 0.1 did; 2: as now. What stands on record keeps the reading it was given. */
export type ReadingRules = 1 | 2
export const READING_RULES: ReadingRules = 2

/** How a number is read. */
export interface NumberOptions {
  readonly rules?: ReadingRules | undefined
  /** The reader’s own decimal mark: a comma by itself is then that, and nothing is asked. */
  readonly decimalMark?: '.' | ',' | undefined
}

export type NumberRead =
  | { readonly value: number }
  | { readonly code: 'not-a-number' | 'too-many-digits' | 'too-large' }
  /** It may be meant in two ways: each as it would be typed plainly. */
  | { readonly code: 'which'; readonly plainly: readonly [string, string] }

/** Typed text with true minus signs and unusual spaces made plain. */
export const plainText = (text: string): string =>
  text
    .trim()
    .replace(/[−–]/g, '-')
    .replace(/[\u00a0\u202f\u2009]/g, ' ')

const sized = (body: string): NumberRead => {
  const digits = body.replace(/e.*$/i, '').replace(/[^\d]/g, '').replace(/^0+/, '')
  if (digits.length > MOST_SIGNIFICANT_DIGITS) return { code: 'too-many-digits' }
  const value = Number(body)
  return !Number.isFinite(value) || Math.abs(value) > LARGEST ? { code: 'too-large' } : { value }
}

/** Decimal and grouping marks resolved; undefined where they make no number. */
function withoutMarks(
  body: string,
  { rules = READING_RULES, decimalMark }: NumberOptions,
): string | undefined | { which: readonly [string, string] } {
  const commas = body.split(',').length - 1
  const points = body.split('.').length - 1
  if (commas && points) {
    const english = /^[+-]?\d{1,3}(,\d{3})+\.\d*(e.*)?$/i.test(body)
    const continental = /^[+-]?\d{1,3}(\.\d{3})+,\d*(e.*)?$/i.test(body)
    if (!english && !continental) return undefined
    return english ? body.replace(/,/g, '') : body.replace(/\./g, '').replace(',', '.')
  }
  if (commas > 1 || points > 1)
    return /^[+-]?\d{1,3}([.,])\d{3}(\1\d{3})+$/.test(body) ? body.replace(/[.,]/g, '') : undefined
  const mayGroup = /^[+-]?[1-9]\d{0,2},\d{3}$/.test(body)
  if (mayGroup && rules > 1 && decimalMark !== ',') return { which: [body.replace(',', ''), body.replace(',', '.')] }
  return body.replace(',', '.')
}

/**
 * A typed decimal number. Accepts a decimal comma or point, digits grouped in threes by spaces or apostrophes, both
 * marks when the last
 * is plainly the decimal one, and an exponent. `1,500` may be a thousand and a half or one and a half: it is asked.
 */
export function parseNumber(text: string, options: NumberOptions = {}): NumberRead {
  let body = plainText(text)
  if (!/^[+-]?(\d[\d '’.,]*|[.,]\d+)(e[+-]?\d{1,3})?$/i.test(body)) return { code: 'not-a-number' }
  const grouped = /^([+-]?\d{1,3})((?:[ '’]\d{3})+)((?:[.,]\d+)?(?:e.*)?)$/i.exec(body)
  if (grouped) body = grouped[1] + sure(grouped[2]).replace(/[ '’]/g, '') + grouped[3]
  if (/[ '’]/.test(body)) return { code: 'not-a-number' }
  const plain = withoutMarks(body, options)
  if (plain === undefined) return { code: 'not-a-number' }
  return typeof plain === 'string' ? sized(plain) : { code: 'which', plainly: plain.which }
}

const NUMBER = /^[+-]?(?:\d[\d\s'’.,]*|[.,]\d+)(?:e[+-]?\d{1,3})?/i
const FRACTION = /^([+-]?)(?:(\d{1,6})\s+)?(\d{1,6})\s*\/\s*([1-9]\d{0,5})(?=\D|$)/

/** The number that a text begins with, a fraction such as `1 1/2` too, and what follows it. */
export function leadingNumber(text: string, options: NumberOptions = {}): { read: NumberRead; rest: string } {
  const fraction = FRACTION.exec(text)
  if (fraction) {
    const magnitude = Number(fraction[2] ?? 0) + Number(fraction[3]) / Number(fraction[4])
    return { read: { value: fraction[1] === '-' ? -magnitude : magnitude }, rest: text.slice(fraction[0].length) }
  }
  const match = NUMBER.exec(text)
  if (!match) return { read: { code: 'not-a-number' }, rest: text }
  const number = match[0].replace(/[\s'’.,]+$/, (tail) => (tail.includes('.') || tail.includes(',') ? tail.trim() : ''))
  return { read: parseNumber(number.replace(/[.,]$/, ''), options), rest: text.slice(number.length) }
}
