// What fills a leg, a capillary or a vessel: its density at its temperature, and so its specific gravity.
import { boilingWaterDensity_kgm3 } from '../fluid/index.ts'
import { Refusal } from '../refusal/index.ts'
import table from './leg-fluids.json' with { type: 'json' }

interface Row {
  readonly id: string
  readonly name: string
  readonly from_C: number
  readonly to_C: number
  readonly at_C?: number
  readonly density_kgm3?: number
  /** Expansion, 1/°C. */
  readonly perC?: number
}
const ROWS: readonly Row[] = table.rows
export const LEG_FLUIDS = ROWS.map(({ id, name }) => ({ id, name }))
export const LEG_FLUIDS_SOURCE = table.source

/** Density that 1 mmH2O is defined by, kg/m³. */
export const WATER_OF_mmH2O = 1000

/**
 * Density, kg/m³, of a fluid of the table at a temperature; each row says from where to where it holds.
 * @throws Refusal `unknown-liquid`, `out-of-range`
 * Source: as in the table; water as it boils, by IAPWS-95.
 */
export function legFluidDensity(id: string, temp_C: number): number {
  const row = ROWS.find((r) => r.id === id)
  if (!row) throw new Refusal('unknown-liquid', `The table of fills has none called “${id}”.`)
  if (!(temp_C >= row.from_C && temp_C <= row.to_C))
    throw new Refusal('out-of-range', `The density of ${row.name} is known from ${row.from_C} to ${row.to_C} °C.`)
  if (row.density_kgm3 === undefined) return boilingWaterDensity_kgm3(temp_C)
  return row.density_kgm3 * (1 - (row.perC ?? 0) * (temp_C - (row.at_C ?? 20)))
}
