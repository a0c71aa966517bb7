// Units of measurement: finding one by what a person types, and turning a reading in one into another.
import { Refusal } from '../refusal/index.ts'
import table from './unit-table.json' with { type: 'json' }
import { sure } from '../sure/index.ts'

export type QuantityName = keyof typeof table.quantities
/** Whether a pressure is counted from the atmosphere or from nothing. */
export type PressureReference = 'gauge' | 'absolute'

/** One row of the unit table. */
export interface Unit {
  /** The symbol used in files and on the wire, e.g. `m3/h`. */
  readonly symbol: string
  /** The symbol as printed, e.g. `m³/h`. */
  readonly label: string
  readonly quantity: QuantityName
  /** Value in SI = (value + offset) · scale. */
  readonly offset: number
  readonly scale: number
  /** Of a pressure unit that says so: what it is counted from. */
  readonly reference?: PressureReference
}

/** A symbol that leaves something open, and the units that it may mean. */
export interface OpenUnit {
  readonly asks: string
  readonly units: readonly Unit[]
}

export const unitTableSource: string = table.source

interface Row {
  symbol: string
  quantity: string
  factor: number[]
  offset?: number
  label?: string
  aliases?: string[]
  reference?: string
}

const ROWS = table.units as Row[]
const UNITS: readonly Unit[] = ROWS.map((row) => ({
  symbol: row.symbol,
  label: row.label ?? row.symbol,
  quantity: row.quantity as QuantityName,
  offset: row.offset ?? 0,
  scale: row.factor.reduce((product, f) => product * f, 1),
  ...(row.reference ? { reference: row.reference as PressureReference } : {}),
}))
const bySymbol: ReadonlyMap<string, Unit> = new Map(UNITS.map((unit) => [unit.symbol, unit]))

/** Every name that a unit is found by, the first row of the table first. */
const NAMES: readonly (readonly [string, Unit])[] = UNITS.flatMap((unit, i) =>
  [unit.symbol, unit.label, ...(ROWS[i]!.aliases ?? [])].filter(Boolean).map((name) => [name, unit] as const),
)
const byName = new Map<string, readonly Unit[]>()
const byFolded = new Map<string, readonly (readonly [string, Unit])[]>()
for (const [name, unit] of NAMES) {
  const same = byName.get(name) ?? []
  if (!same.includes(unit)) byName.set(name, [...same, unit])
  const folded = name.toLowerCase()
  byFolded.set(folded, [...(byFolded.get(folded) ?? []), [name, unit]])
}

const OPEN: ReadonlyMap<string, OpenUnit> = new Map(
  table.open.flatMap(({ typed, asks, units }) => {
    const open = { asks, units: units.map((symbol) => sure(bySymbol.get(symbol))) }
    return typed.map((name) => [name, open] as const)
  }),
)

/** Whether a name is m or M before a unit of the same quantity, so that the letter's case changes its size. */
function hasMilliOrMega(name: string, unit: Unit): boolean {
  const base = byName.get(name.slice(1)) ?? []
  return /^[mM]/.test(name) && base.some((b) => b.quantity === unit.quantity)
}

function byCase(typed: string, strict: boolean): readonly Unit[] {
  const all = (byFolded.get(typed.toLowerCase()) ?? []).filter(
    ([name, unit]) => !strict || !hasMilliOrMega(name, unit) || name[0] === typed[0],
  )
  return [...new Set(all.map(([, unit]) => unit))]
}

/** Units that differ from what was typed by a capital that changes the size, e.g. MPa for mPa. */
export const unitsOfOtherCase = (name: string): Unit[] => [...byCase(name.trim(), false)]

/** What a symbol leaves open, as the reference temperature of Nm³/h; undefined where it says all. */
export const openUnit = (name: string): OpenUnit | undefined => OPEN.get(name.trim())

/**
 * The unit with this symbol, printed label or alias; of this quantity where one name serves two (°C of a reading and
 * of a difference).
 * Letter case is forgiven only where it cannot mean two units: mPa is never MPa. Undefined when unknown.
 * @param strict false forgives the case of m and M too, as the rules of release 0.1 did
 */
export function findUnit(name: string, quantity?: QuantityName, strict = true): Unit | undefined {
  const trimmed = name.trim()
  const known = bySymbol.get(trimmed)
  if (known && (quantity === undefined || known.quantity === quantity)) return known
  const exact = byName.get(trimmed)
  const found = exact ?? byCase(trimmed, strict)
  const fits = quantity === undefined ? undefined : found.find((unit) => unit.quantity === quantity)
  if (fits) return fits
  return known ?? (exact || found.length === 1 ? found[0] : undefined)
}

/** As `findUnit`, refusing an unknown name with `unknown-unit`. */
export function unitOf(name: string): Unit {
  const unit = findUnit(name)
  if (!unit) throw new Refusal('unknown-unit', `“${name}” is not a unit this application knows.`)
  return unit
}

/** The unit of a difference of two readings: of °C it is a °C without a zero; of anything else the unit itself. */
export const differenceUnit = (unit: string): string =>
  ({ degC: 'delta_degC', degF: 'delta_degF', K: 'delta_K' })[unit] ?? unit

/** All units of a quantity, in table order. */
export function unitsOf(quantity: QuantityName): Unit[] {
  return UNITS.filter((unit) => unit.quantity === quantity)
}
/** All quantities there are. */
export const QUANTITIES = Object.keys(table.quantities) as [QuantityName, ...QuantityName[]]

/** The quantity's name in words, e.g. `volume flow`. */
export function quantityName(quantity: QuantityName): string {
  return table.quantities[quantity].name
}

/** A reading in `unit` as the quantity's SI unit. Temperatures are readings, not differences. */
export function toSi(value: number, unit: string): number {
  const u = unitOf(unit)
  return (value + u.offset) * u.scale
}

/** An SI value as a reading in `unit`. */
export function fromSi(si: number, unit: string): number {
  const u = unitOf(unit)
  return si / u.scale - u.offset
}

/** Whether one can be told in the other. @throws Refusal `unknown-unit` */
export const sameQuantity = (a: string, b: string): boolean => unitOf(a).quantity === unitOf(b).quantity

/**
 * A reading in another unit of the same quantity. Temperatures are readings, not differences.
 * @throws Refusal `unknown-unit`, `incommensurable` (another quantity, or gauge against absolute)
 * Source: the unit table's own source line.
 */
export function convertUnit(value: number, from: string, to: string): number {
  const a = unitOf(from)
  const b = unitOf(to)
  if (a.quantity !== b.quantity)
    throw new Refusal(
      'incommensurable',
      `${a.label} measures ${quantityName(a.quantity)}, ${b.label} measures ${quantityName(b.quantity)}: one ` +
        'cannot become the other.',
    )
  if (a.reference && b.reference && a.reference !== b.reference)
    throw new Refusal(
      'incommensurable',
      `${a.label} is ${a.reference}, ${b.label} is ${b.reference}: the atmosphere lies between them.`,
    )
  if (a === b) return value
  return ((value + a.offset) * a.scale) / b.scale - b.offset
}
