// Dielectric constants of liquids, which say how strongly a probe's pulse comes back from their surface.
import { Refusal } from '../refusal/index.ts'
import table from './dielectrics.json' with { type: 'json' }

interface Row {
  readonly id: string
  readonly name: string
  readonly from_C: number
  readonly to_C: number
  readonly at_C?: number
  readonly er?: number
  /** −d(log₁₀ ε)/dt, or −dε/dt, per °C. */
  readonly log10?: number
  readonly linear?: number
  /** As plant water is: its surface sends back everything. */
  readonly conducts?: boolean
}
const ROWS: readonly Row[] = table.rows
export const DIELECTRIC_SOURCE = table.source
export const DIELECTRIC_LIQUIDS = ROWS.map(({ id, name }) => ({ id, name }))

/** Malmberg and Maryott, 0 … 100 °C. */
const ofWater = (t: number) => 87.74 - 0.40008 * t + 9.398e-4 * t ** 2 - 1.41e-6 * t ** 3

/**
 * Dielectric constant (relative permittivity, static) of a liquid of the table.
 * @param temp_C of the liquid; each row says from where to where it holds
 * @throws Refusal `unknown-liquid`, `out-of-range`
 * Source: NBS Circular 514; water by Malmberg and Maryott.
 */
export function dielectric(id: string, temp_C: number): number {
  const row = ROWS.find((r) => r.id === id)
  if (!row) throw new Refusal('unknown-liquid', `The table of dielectric constants has no liquid “${id}”.`)
  if (!(temp_C >= row.from_C && temp_C <= row.to_C))
    throw new Refusal(
      'out-of-range',
      `The dielectric constant of ${row.name} is known from ${row.from_C} to ${row.to_C} °C.`,
    )
  const { at_C, er } = row
  if (at_C === undefined || er === undefined) return ofWater(temp_C)
  return row.log10 === undefined ? er - (row.linear ?? 0) * (temp_C - at_C) : er * 10 ** (-row.log10 * (temp_C - at_C))
}
