// Reading what a person typed as a quantity: "12 inH2O", "3,2 m", "1 1/2 in", 10'-4", "250 Nm³/h (0 °C)".
import { formatNumber } from './format.ts'
import { feetAndInches, feetAndInchesBefore } from './feet-and-inches.ts'
import { leadingNumber, MOST_SIGNIFICANT_DIGITS, plainText, READING_RULES, type NumberOptions } from './number.ts'
import {
  findUnit,
  openUnit,
  quantityName,
  toSi,
  unitOf,
  unitsOf,
  unitsOfOtherCase,
  type PressureReference,
  type QuantityName,
  type Unit,
} from './units.ts'
import { sure } from '../sure/index.ts'

/** The usual atmosphere, Pa, between gauge and absolute (ISO 2533). */
const ATMOSPHERE_Pa = 101_325

export type ParseCode =
  | 'empty'
  | 'not-a-number'
  | 'unknown-unit'
  | 'wrong-quantity'
  | 'too-many-digits'
  | 'too-large'
  | 'not-physical'
  /** It may be meant in more than one way; `choices` are those. */
  | 'which'
  /** Absolute where gauge is wanted, or the other way round. */
  | 'other-reference'

export type Parsed =
  | {
      readonly ok: true
      /** The number in `unit`. */
      readonly value: number
      /** Symbol of the unit it was understood in. */
      readonly unit: string
      /** The same in SI. */
      readonly si: number
    }
  | {
      readonly ok: false
      readonly code: ParseCode
      /** What is wrong and what would be accepted, in words. */
      readonly says: string
      /** What could have been meant, each as it would be typed. */
      readonly choices?: readonly string[]
    }

export interface ParseOptions extends NumberOptions {
  readonly quantity: QuantityName
  /** Unit taken when none is typed. */
  readonly unit: string
  /** Of a pressure: what it is counted from here. */
  readonly reference?: PressureReference | undefined
}

const refused = (code: ParseCode, says: string, choices?: readonly string[]): Parsed =>
  choices?.length ? { ok: false, code, says, choices } : { ok: false, code, says }

/** A refusal of the number itself. */
function badNumber(code: 'not-a-number' | 'too-many-digits' | 'too-large', { unit, quantity }: ParseOptions): Parsed {
  const { label } = unitOf(unit)
  const example = label ? `12.5 ${label}` : '12.5'
  const says = {
    'not-a-number':
      `This is not a number. Type a number and, if you like, a unit of ${quantityName(quantity)}, such as ` +
      `${example}.`,
    'too-many-digits':
      `More than ${MOST_SIGNIFICANT_DIGITS} digits: no instrument gives that many and they could not be kept ` +
      'exactly. Shorten it.',
    'too-large': 'This number is too large to be a measurement.',
  }[code]
  return refused(code, says)
}

const knownUnits = (quantity: QuantityName): string =>
  unitsOf(quantity)
    .map((u) => u.label || u.symbol)
    .join(', ')

/** What is said of a unit that is not known, or that leaves something open. */
function badUnit(number: string, unitText: string, { quantity }: ParseOptions): Parsed {
  const open = openUnit(unitText)
  if (open?.units.some((u) => u.quantity === quantity))
    return refused(
      'which',
      `${unitText}: ${open.asks}`,
      open.units.map((u) => `${number} ${u.label}`),
    )
  const meant = unitsOfOtherCase(unitText).filter((u) => u.quantity === quantity)
  if (meant.length)
    return refused(
      'unknown-unit',
      `“${unitText}”: m is a thousandth, M a million. Is ${meant.map((u) => u.label).join(' or ')} meant?`,
      meant.map((u) => `${number} ${u.label}`),
    )
  if (open) return wrongQuantity(sure(open.units[0]), unitText, quantity)
  return refused(
    'unknown-unit',
    `“${unitText}” is not a unit known here. For ${quantityName(quantity)}: ${knownUnits(quantity)}.`,
  )
}

const wrongQuantity = (unit: Unit, printed: string, quantity: QuantityName): Parsed =>
  refused(
    'wrong-quantity',
    `${printed} measures ${quantityName(unit.quantity)}; here ${quantityName(quantity)} is wanted: ` +
      `${knownUnits(quantity)}.`,
  )

/** Absolute where gauge is wanted, or the other way round: what it would be with the usual atmosphere. */
function otherReference(value: number, unit: Unit, wanted: PressureReference): Parsed {
  const other = unitsOf('pressure').find((u) => u.reference === wanted && u.scale === unit.scale)
  const there = value + ((wanted === 'gauge' ? -1 : 1) * ATMOSPHERE_Pa) / unit.scale
  const choices = other ? [`${formatNumber(there, { decimals: 6, trim: true })} ${other.label}`] : []
  return refused(
    'other-reference',
    `${unit.label} is ${unit.reference}, ${wanted} is wanted here. Above the usual atmosphere of 1.01325 bar: ` +
      `${choices.join('')}`,
    choices,
  )
}

/**
 * What was typed, read as a quantity. The text itself is never changed: the caller keeps it beside the result.
 * @example parseQuantity('12 inH2O', { quantity: 'pressure', unit: 'mbar' }) // value 12, unit inH2O, si 2989.07
 */
export function parseQuantity(text: string, options: ParseOptions): Parsed {
  const { quantity, rules = READING_RULES } = options
  const clean = plainText(text)
  if (clean === '') return refused('empty', 'Nothing entered yet.')
  if (clean.length > 120) return badNumber('too-many-digits', options)
  const feet = quantity === 'length' && rules > 1 ? feetAndInches(clean) : undefined
  if (feet !== undefined) return finish(feet, 'ft', options)
  const first = leadingNumber(clean, options)
  const unitText = first.rest.trim()
  if ('code' in first.read) {
    if (first.read.code !== 'which') return badNumber(first.read.code, options)
    const shown = unitText || unitOf(options.unit).label
    const choices = first.read.plainly.map((plain) => `${plain} ${shown}`.trim())
    return refused(
      'which',
      `“${clean}” can be read in two ways: ${choices.join(' or ')}? Type the one that is meant.`,
      choices,
    )
  }
  if (unitText === '') return finish(first.read.value, options.unit, options)
  const before = quantity === 'length' && rules === 1 ? feetAndInchesBefore(first.read.value, unitText) : undefined
  if (before !== undefined) return finish(before, 'ft', options)
  const unit = findUnit(unitText.replace(/\s+/g, ' '), quantity, rules > 1)
  if (!unit)
    return /^[\d.,]/.test(unitText)
      ? badNumber('not-a-number', options)
      : badUnit(String(first.read.value), unitText, options)
  if (unit.quantity !== quantity) return wrongQuantity(unit, unit.label, quantity)
  if (unit.reference && options.reference && unit.reference !== options.reference)
    return otherReference(first.read.value, unit, options.reference)
  return finish(first.read.value, unit.symbol, options)
}

function finish(value: number, unit: string, { quantity }: ParseOptions): Parsed {
  const si = toSi(value, unit)
  if (quantity === 'temperature' && si < 0) return refused('not-physical', 'Below absolute zero (−273.15 °C).')
  return { ok: true, value, unit, si }
}
