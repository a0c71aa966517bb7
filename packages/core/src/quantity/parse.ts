// Reading what a person typed as a quantity: "12 inH2O", "3,2 m", "1 1/2 in", "10 ft 4 in".
import { findUnit, quantityName, toSi, fromSi, unitOf, unitsOf, type QuantityName } from './units.ts'

/** Digits beyond which a double can no longer keep what was typed exactly. */
const MOST_SIGNIFICANT_DIGITS = 15
const LARGEST = 1e15

export type Parsed =
  | {
      readonly ok: true
      /** The number in `unit`. */
      readonly value: number
      /** Symbol of the unit it was understood in. */
      readonly unit: string
      /** The same in SI. */
      readonly si: number
      /** Said when the text could be read in two ways. */
      readonly note?: string
    }
  | {
      readonly ok: false
      readonly code:
        'empty' | 'not-a-number' | 'unknown-unit' | 'wrong-quantity' | 'too-many-digits' | 'too-large' | 'not-physical'
      /** What is wrong and what would be accepted, in words. */
      readonly says: string
    }

export interface ParseOptions {
  readonly quantity: QuantityName
  /** Unit taken when none is typed. */
  readonly unit: string
}

type NumberRead = { value: number; note?: string } | { code: 'not-a-number' | 'too-many-digits' | 'too-large' }

const NUMBER = /^[+-]?(?:\d[\d\s'’.,]*|[.,]\d+)(?:e[+-]?\d{1,3})?/i

/**
 * A typed decimal number. Accepts a decimal comma or point, digits grouped in threes by spaces or apostrophes,
 * both marks when the last is plainly the decimal one, and an exponent.
 */
export function parseNumber(text: string): NumberRead {
  let body = text
    .trim()
    .replace(/[−–]/g, '-')
    .replace(/[\u00a0\u202f\u2009]/g, ' ')
  if (!/^[+-]?(\d[\d '’.,]*|[.,]\d+)(e[+-]?\d{1,3})?$/i.test(body)) return { code: 'not-a-number' }
  body = body.replace(/\s+$/, '')
  let note: string | undefined
  const grouped = /^([+-]?\d{1,3})((?:[ '’]\d{3})+)((?:[.,]\d+)?(?:e.*)?)$/i.exec(body)
  if (grouped) body = grouped[1] + grouped[2]!.replace(/[ '’]/g, '') + grouped[3]
  if (/[ '’]/.test(body)) return { code: 'not-a-number' }
  const commas = body.split(',').length - 1
  const points = body.split('.').length - 1
  if (commas && points) {
    const english = /^[+-]?\d{1,3}(,\d{3})+\.\d*(e.*)?$/i.test(body)
    const continental = /^[+-]?\d{1,3}(\.\d{3})+,\d*(e.*)?$/i.test(body)
    if (!english && !continental) return { code: 'not-a-number' }
    body = english ? body.replace(/,/g, '') : body.replace(/\./g, '').replace(',', '.')
  } else if (commas > 1 || points > 1) {
    if (!/^[+-]?\d{1,3}([.,])\d{3}(\1\d{3})+$/.test(body)) return { code: 'not-a-number' }
    body = body.replace(/[.,]/g, '')
  } else if (commas === 1) {
    if (/^[+-]?[1-9]\d{0,2},\d{3}$/.test(body))
      note = `the comma is read as a decimal mark; for thousands type ${body.replace(',', '')}`
    body = body.replace(',', '.')
  }
  const digits = body.replace(/e.*$/i, '').replace(/[^\d]/g, '').replace(/^0+/, '')
  if (digits.length > MOST_SIGNIFICANT_DIGITS) return { code: 'too-many-digits' }
  const value = Number(body)
  if (!Number.isFinite(value) || Math.abs(value) > LARGEST) return { code: 'too-large' }
  return note ? { value, note } : { value }
}

const FRACTION = /^([+-]?)(?:(\d{1,6})\s+)?(\d{1,6})\s*\/\s*([1-9]\d{0,5})(?=\D|$)/

function leadingNumber(text: string): { read: NumberRead; rest: string } {
  const fraction = FRACTION.exec(text)
  if (fraction) {
    const magnitude = Number(fraction[2] ?? 0) + Number(fraction[3]) / Number(fraction[4])
    return { read: { value: fraction[1] === '-' ? -magnitude : magnitude }, rest: text.slice(fraction[0].length) }
  }
  const match = NUMBER.exec(text)
  if (!match) return { read: { code: 'not-a-number' }, rest: text }
  const number = match[0].replace(/[\s'’.,]+$/, (tail) => (tail.includes('.') || tail.includes(',') ? tail.trim() : ''))
  return { read: parseNumber(number.replace(/[.,]$/, '')), rest: text.slice(number.length) }
}

function refusal(code: 'not-a-number' | 'too-many-digits' | 'too-large', options: ParseOptions): Parsed {
  const example = `${unitOf(options.unit).label ? `12.5 ${unitOf(options.unit).label}` : '12.5'}`
  const says = {
    'not-a-number': `This is not a number. Type a number and, if you like, a unit of ${quantityName(options.quantity)}, such as ${example}.`,
    'too-many-digits': `More than ${MOST_SIGNIFICANT_DIGITS} digits: no instrument gives that many and they could not be kept exactly. Shorten it.`,
    'too-large': 'This number is too large to be a measurement.',
  }[code]
  return { ok: false, code, says }
}

/**
 * What was typed, read as a quantity. The text itself is never changed: the caller keeps it beside the result.
 * @example parseQuantity('12 inH2O', { quantity: 'pressure', unit: 'mbar' }) // value 12, unit inH2O, si 2989.07
 */
export function parseQuantity(text: string, options: ParseOptions): Parsed {
  const clean = text
    .trim()
    .replace(/[−–]/g, '-')
    .replace(/[\u00a0\u202f\u2009]/g, ' ')
  if (clean === '') return { ok: false, code: 'empty', says: 'Nothing entered yet.' }
  if (clean.length > 120) return refusal('too-many-digits', options)
  const first = leadingNumber(clean)
  if ('code' in first.read) return refusal(first.read.code, options)
  const unitText = first.rest.trim()
  const note = first.read.note
  if (unitText === '') return finish(first.read.value, options.unit, options, note)

  const compound = options.quantity === 'length' ? feetAndInches(first.read.value, unitText) : undefined
  if (compound !== undefined) return finish(compound, 'ft', options, note)

  const unit = findUnit(unitText.replace(/\s+/g, ' '))
  if (!unit) {
    if (/^[\d.,]/.test(unitText)) return refusal('not-a-number', options)
    const known = unitsOf(options.quantity).map((u) => u.label || u.symbol)
    return {
      ok: false,
      code: 'unknown-unit',
      says: `“${unitText}” is not a unit known here. For ${quantityName(options.quantity)}: ${known.join(', ')}.`,
    }
  }
  if (unit.quantity !== options.quantity) {
    const known = unitsOf(options.quantity).map((u) => u.label || u.symbol)
    return {
      ok: false,
      code: 'wrong-quantity',
      says: `${unit.label} measures ${quantityName(unit.quantity)}; here ${quantityName(options.quantity)} is wanted: ${known.join(', ')}.`,
    }
  }
  return finish(first.read.value, unit.symbol, options, note)
}

function feetAndInches(feet: number, rest: string): number | undefined {
  const match = /^(?:ft|feet|foot|'|′)\s*(.+?)\s*(?:in|inch|inches|"|″)$/i.exec(rest)
  if (!match) return undefined
  const inches = leadingNumber(match[1]!)
  if ('code' in inches.read || inches.rest.trim() !== '') return undefined
  return feet + (feet < 0 || Object.is(feet, -0) ? -1 : 1) * (inches.read.value / 12)
}

function finish(value: number, unit: string, options: ParseOptions, note?: string): Parsed {
  const si = toSi(value, unit)
  if (options.quantity === 'temperature' && si < 0)
    return { ok: false, code: 'not-physical', says: 'Below absolute zero (−273.15 °C).' }
  return note ? { ok: true, value, unit, si, note } : { ok: true, value, unit, si }
}

/** A quantity as kept on record: what was typed, and what it was understood as. Without `value` the text could not be read. */
export interface Entry {
  readonly typed: string
  readonly value?: number | undefined
  readonly unit?: string | undefined
}

/** The entry that `text` makes; an unreadable text is kept, without a value. */
export function entryFrom(text: string, options: ParseOptions): Entry {
  const parsed = parseQuantity(text, options)
  return parsed.ok ? { typed: text, value: parsed.value, unit: parsed.unit } : { typed: text }
}

/** An entry's value in SI, or undefined when it has none. */
export function entrySi(entry: Entry | undefined): number | undefined {
  return entry?.value === undefined || entry.unit === undefined ? undefined : toSi(entry.value, entry.unit)
}

/** An entry's value in the unit asked for, or undefined when it has none. */
export function entryIn(entry: Entry | undefined, unit: string): number | undefined {
  const si = entrySi(entry)
  return si === undefined ? undefined : entry?.unit === unit ? entry.value : fromSi(si, unit)
}
