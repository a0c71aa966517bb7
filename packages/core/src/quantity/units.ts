// Units of measurement: finding one by what a person types, and turning a reading in one into another.
import { Refusal } from '../refusal/index.ts'
import table from './unit-table.json' with { type: 'json' }

export type QuantityName = keyof typeof table.quantities

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
}

export const unitTableSource: string = table.source

interface Row {
  symbol: string
  quantity: string
  factor: number[]
  offset?: number
  label?: string
  aliases?: string[]
}

const bySymbol = new Map<string, Unit>()
const byAlias = new Map<string, Unit>()
const byFoldedName = new Map<string, Unit | null>()

function fold(name: string, unit: Unit): void {
  const key = name.toLowerCase()
  const known = byFoldedName.get(key)
  byFoldedName.set(key, known === undefined || known === unit ? unit : null)
}

for (const row of table.units as Row[]) {
  const unit: Unit = {
    symbol: row.symbol,
    label: row.label ?? row.symbol,
    quantity: row.quantity as QuantityName,
    offset: row.offset ?? 0,
    scale: row.factor.reduce((product, f) => product * f, 1),
  }
  bySymbol.set(row.symbol, unit)
  for (const alias of row.aliases ?? []) byAlias.set(alias, unit)
  for (const name of [row.symbol, ...(row.aliases ?? [])]) fold(name, unit)
}

/** The unit with this symbol or alias; letter case is forgiven only where it cannot mean two units (mPa / MPa). Undefined when unknown. */
export function findUnit(name: string): Unit | undefined {
  const trimmed = name.trim()
  return bySymbol.get(trimmed) ?? byAlias.get(trimmed) ?? byFoldedName.get(trimmed.toLowerCase()) ?? undefined
}

/** As `findUnit`, refusing an unknown name with `unknown-unit`. */
export function unitOf(name: string): Unit {
  const unit = findUnit(name)
  if (!unit) throw new Refusal('unknown-unit', `“${name}” is not a unit this application knows.`)
  return unit
}

/** All units of a quantity, in table order. */
export function unitsOf(quantity: QuantityName): Unit[] {
  return [...bySymbol.values()].filter((unit) => unit.quantity === quantity)
}

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

/**
 * A reading in another unit of the same quantity. Temperatures are readings, not differences.
 * @throws Refusal `unknown-unit`, `incommensurable`
 * Source: the unit table's own source line.
 */
export function convertUnit(value: number, from: string, to: string): number {
  const a = unitOf(from)
  const b = unitOf(to)
  if (a.quantity !== b.quantity)
    throw new Refusal(
      'incommensurable',
      `${a.label} measures ${quantityName(a.quantity)}, ${b.label} measures ${quantityName(b.quantity)}: one cannot become the other.`,
    )
  if (a === b) return value
  return ((value + a.offset) * a.scale) / b.scale - b.offset
}
