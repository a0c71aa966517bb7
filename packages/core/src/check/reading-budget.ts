// What a reading is worth: the figures of the instrument for the range that it was read on, its drift since its own
// calibration, the temperature, and the last digit that was read.
import { convertUnit, findUnit, type QuantityName } from '../quantity/index.ts'
import { instrumentUncertainty, type InstrumentFigures } from './instrument-uncertainty.ts'
import { standardUncertainty, type Contribution } from './uncertainty-budget.ts'

/** Figures of an instrument for one of its ranges, as its data sheet or certificate states them. */
export interface InstrumentRange extends InstrumentFigures {
  readonly quantity: QuantityName
  /** Unit of every figure here. */
  readonly unit: string
  readonly low: number
  readonly high: number
  /** % of the range for each year since its own calibration, 0 or more. */
  readonly driftPctPerYear?: number | undefined
  /** % of the reading for each degree outside of 18 to 28 °C, 0 or more. */
  readonly tempPctPerC?: number | undefined
}

/** The range on which a value can be read: of those that hold it, the narrowest. Undefined where none does. */
export function rangeFor(ranges: readonly InstrumentRange[], value: number, unit: string): InstrumentRange | undefined {
  const quantity = findUnit(unit)?.quantity
  return ranges
    .filter((r) => {
      if (r.quantity !== quantity) return false
      const v = convertUnit(value, unit, r.unit)
      // A reading a little over the end of a range is still read on it.
      const spare = 0.01 * (r.high - r.low)
      return v >= r.low - spare && v <= r.high + spare
    })
    .sort((a, b) => spanIn(a, unit) - spanIn(b, unit))[0]
}
const spanIn = (r: InstrumentRange, unit: string) =>
  Math.abs(convertUnit(r.high, r.unit, unit) - convertUnit(r.low, r.unit, unit))

/** One row of a budget. */
export interface BudgetRow extends Contribution {
  /** Where it comes from. */
  readonly what: string
  /** In which `value` is given. */
  readonly unit: string
}

/** How a value was read. */
export interface ReadAs {
  readonly value: number
  readonly unit: string
  /** What the last digit that was read is worth, in `unit`; absent where that is not known. */
  readonly resolution?: number | undefined
  /** Days since the instrument’s own calibration. */
  readonly days?: number | undefined
  /** Where it was used, °C. */
  readonly ambient_C?: number | undefined
}

const REFERENCE_C = { low: 18, high: 28 }
const YEAR_days = 365.25

/**
 * The rows of a reading’s budget, each in `read.unit`, without a sensitivity. Empty where the instrument has no figures
 * for that value: then nothing is known of the reading but its last digit.
 * @param name of the instrument
 * Source: JCGM 100, 4.3 (limits as rectangular, expanded figures as normal, a last digit as rectangular).
 */
export function rowsOfReading(name: string, range: InstrumentRange | undefined, read: ReadAs): BudgetRow[] {
  const { value, unit, resolution } = read
  const last: BudgetRow[] =
    resolution === undefined || !(resolution > 0)
      ? []
      : [{ what: 'last digit read', unit, value: resolution / 2, distribution: 'rectangular' }]
  if (!range) return last
  const own = convertUnit(value, unit, range.unit)
  // How much of the reading’s unit one of the range’s is worth: the scales may have other zeros.
  const scale = Math.abs(convertUnit(own + 1, range.unit, unit) - convertUnit(own, range.unit, unit))
  const { halfWidth } = instrumentUncertainty(own, { range: range.high - range.low, ...range })
  const years = Math.max(0, (read.days ?? 0) / YEAR_days)
  const away = read.ambient_C === undefined ? 0 : outside(read.ambient_C)
  const row = (what: string, half: number): BudgetRow[] =>
    half > 0 ? [{ what: `${name}: ${what}`, unit, value: half * scale, distribution: 'rectangular' }] : []
  return [
    {
      what: `${name}: its figures`,
      unit,
      value: halfWidth * scale,
      ...(range.coverage === undefined
        ? { distribution: 'rectangular' }
        : { distribution: 'normal', coverage: range.coverage }),
    },
    ...row(
      `drift in ${Math.round(read.days ?? 0)} days`,
      ((range.driftPctPerYear ?? 0) / 100) * (range.high - range.low) * years,
    ),
    ...row('temperature', ((range.tempPctPerC ?? 0) / 100) * Math.abs(own) * away),
    ...last,
  ]
}
const outside = (t: number) => Math.max(0, REFERENCE_C.low - t, t - REFERENCE_C.high)

/** Combined standard uncertainty of rows, in their unit. */
export function combinedOf(rows: readonly BudgetRow[]): number {
  // Not by `Math.hypot`, which takes ten times as long and is wanted for every place of every reading.
  let squares = 0
  for (const row of rows) squares += standardUncertainty(row) ** 2
  return Math.sqrt(squares)
}

/** What the last digit of a typed figure is worth: 0.001 for `12.003 mA`; with an exponent or a fraction not known. */
export function lastDigit(typed: string): number | undefined {
  // A fraction, feet and inches, a power of ten: what was read to there is another question.
  if (/\d\s*\/\s*\d|['"′″]|\d[eE][-+]?\d/u.test(typed)) return undefined
  const found = /\d[\d\s’]*(?:[.,](\d+))?/u.exec(typed)
  return found ? 10 ** -(found[1]?.length ?? 0) : undefined
}
