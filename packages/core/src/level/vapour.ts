// The speed of sound in air that carries vapour, and what a device that reckons with dry air makes of it.
import { Refusal } from '../refusal/index.ts'
import table from './vapours.json' with { type: 'json' }

interface Row {
  readonly id: string
  readonly name: string
  readonly molar_gpmol: number
  /** Molar heat capacity at constant pressure, J/(mol·K). */
  readonly cp: number
  /** Antoine: log₁₀ p[mmHg] = A − B / (C + t[°C]). */
  readonly antoine: readonly number[]
  readonly from_C: number
  readonly to_C: number
}
const ROWS: readonly Row[] = table.rows
export const VAPOURS = ROWS.map(({ id, name }) => ({ id, name }))
export const VAPOURS_SOURCE = table.source

const R = 8.314462618
const AIR = { molar_gpmol: 28.965, cp: 29.1 } as const
const ATM_mmHg = 760

/** Speed of sound in an ideal mixture of air and `share` of a vapour, m/s. */
function speed(temp_C: number, share: number, vapour: Pick<Row, 'molar_gpmol' | 'cp'>): number {
  const mix = (air: number, other: number) => (1 - share) * air + share * other
  const cp = mix(AIR.cp, vapour.cp)
  const molar_kg = mix(AIR.molar_gpmol, vapour.molar_gpmol) / 1000
  return Math.sqrt(((cp / (cp - R)) * R * (temp_C + 273.15)) / molar_kg)
}

export interface VapourPath {
  /** Share of the vapour by volume, 0 to 1. */
  readonly share: number
  /** Of sound against dry air of the same temperature, %. */
  readonly faster_pct: number
  /** Of the distance that a device shows which reckons with dry air, %. */
  readonly distanceError_pct: number
}

/**
 * Air over a liquid, as full of its vapour as its temperature allows at 1 atm (and `saturation` of that, 0 to 1).
 * @throws Refusal `unknown-liquid`, `out-of-range` where the liquid would boil or its vapour pressure is not known
 * Source: ideal gas mixture; vapour pressures by Antoine’s equation, constants as in the table.
 */
export function vapourPath(id: string, temp_C: number, saturation = 1): VapourPath {
  const row = ROWS.find((r) => r.id === id)
  if (!row) throw new Refusal('unknown-liquid', `The table of vapours has none called “${id}”.`)
  const [A = 0, B = 0, C = 0] = row.antoine
  const share = (saturation * 10 ** (A - B / (C + temp_C))) / ATM_mmHg
  if (!(temp_C >= row.from_C && temp_C <= row.to_C && share < 1))
    throw new Refusal(
      'out-of-range',
      `Vapour of ${row.name} is known here from ${row.from_C} to ${row.to_C} °C, below boiling.`,
    )
  const ratio = speed(temp_C, share, row) / speed(temp_C, 0, row)
  return { share, faster_pct: 100 * (ratio - 1), distanceError_pct: 100 * (1 / ratio - 1) }
}
