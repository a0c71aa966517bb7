// A vessel of any make: its level to its volume and back, by its shape or by its strapping table.
import { Refusal } from '../refusal/index.ts'
import { sure } from '../sure/index.ts'
import { strapping, type StrappingRow } from './strapping-table.ts'
import { tankHeight_m, tankVolume, type Tank } from './tank-volume.ts'
import { tiltedEnds_m, tiltedVolume_m3, type TiltedCylinder } from './tilted.ts'

export type Vessel = Tank | TiltedCylinder | { readonly shape: 'strapped'; readonly rows: readonly StrappingRow[] }

/**
 * Lowest and highest level at which a volume is known, m. Of a tilted cylinder the level is read at its gauge, square
 * to the axis, and begins below 0 where the low end holds liquid that the gauge does not see.
 */
export function vesselEnds_m(vessel: Vessel): readonly [number, number] {
  if (vessel.shape === 'strapped')
    return [sure(vessel.rows[0]).level_mm / 1000, sure(vessel.rows.at(-1)).level_mm / 1000]
  if (vessel.shape === 'tilted-cylinder') return tiltedEnds_m(vessel)
  return [0, tankHeight_m(vessel)]
}

/** A level as the table's rows count it, mm: an end of the vessel is an end of the table, whatever rounding leaves. */
function asCounted(vessel: Vessel & { shape: 'strapped' }, level_m: number): number {
  const [low, high] = vesselEnds_m(vessel)
  if (level_m === low) return sure(vessel.rows[0]).level_mm
  return level_m === high ? sure(vessel.rows.at(-1)).level_mm : level_m * 1000
}

/**
 * Volume, m³, at a level.
 * @param level_m above the lowest inside point; of a strapping table as its rows count it
 * @throws Refusal `invalid-input`, `impossible-head`, `level-outside-tank`, `outside-table`, `rows-not-ascending`
 */
export function vesselVolume_m3(vessel: Vessel, level_m: number): number {
  if (vessel.shape === 'strapped') return strapping(vessel.rows, { level_mm: asCounted(vessel, level_m) }).volume_m3
  if (vessel.shape !== 'tilted-cylinder') return tankVolume(vessel, level_m).volume_m3
  const [low, high] = tiltedEnds_m(vessel)
  if (!(level_m >= low && level_m <= high))
    throw new Refusal('level-outside-tank', `The level must lie between ${low} and ${high} m at the gauge.`)
  return tiltedVolume_m3(vessel, level_m)
}

/** What rounding may leave beyond either end, of the whole. */
const SPARE = 1e-9

/**
 * Level, m, at which a vessel holds a volume: the inverse of `vesselVolume_m3`, to the last figures of a double.
 * @throws Refusal `level-outside-tank`, `outside-table`, and what `vesselVolume_m3` throws
 */
export function vesselLevel_m(vessel: Vessel, volume_m3: number): number {
  if (vessel.shape === 'strapped') return strapping(vessel.rows, { volume_m3 }).level_mm / 1000
  let [low, high] = vesselEnds_m(vessel)
  const full = vesselVolume_m3(vessel, high)
  if (!(Math.abs(volume_m3 - full / 2) <= (full / 2) * (1 + SPARE)))
    throw new Refusal('level-outside-tank', `The vessel holds from 0 to ${full} m³.`)
  // The volume never falls with the level: halved until both ends are one.
  for (let i = 0; i < 60 && high > low; i++) {
    const middle = (low + high) / 2
    if (vesselVolume_m3(vessel, middle) < volume_m3) low = middle
    else high = middle
  }
  return (low + high) / 2
}

/** Levels, evenly from empty to full, with their volumes: `rows` of them, two or more. */
export function vesselTable(vessel: Vessel, rows: number): StrappingRow[] {
  const [low, high] = vesselEnds_m(vessel)
  return Array.from({ length: rows }, (_, i) => {
    const level_m = i === rows - 1 ? high : low + ((high - low) * i) / (rows - 1)
    return { level_mm: level_m * 1000, volume_m3: vesselVolume_m3(vessel, level_m) }
  })
}
