// Level by differential pressure: the pressures at empty and at full, with the zero suppressed or elevated by the
// mounting.
import { Refusal } from '../refusal/index.ts'

export type LegArrangement = 'open' | 'dry-leg' | 'wet-leg'

export interface DpLevelInput {
  readonly arrangement: LegArrangement
  /** Specific gravity of the process liquid, 1 for water. */
  readonly sg: number
  /** Liquid above the lower tap at 0 % and at 100 %, mm. */
  readonly emptyHeight_mm: number
  readonly fullHeight_mm: number
  /** How far the transmitter hangs below the lower tap, mm; negative when above. */
  readonly transmitterBelowTap_mm: number
  /** Fill of a wet leg, and its height above the transmitter, mm. */
  readonly legSg?: number | undefined
  readonly legHeight_mm?: number | undefined
}

export interface DpLevelRange {
  /** High less low side at empty and at full; 1 mm of liquid of sg 1 is 1 mmH2O. */
  readonly lrv_mmH2O: number
  readonly urv_mmH2O: number
  readonly span_mmH2O: number
}

/**
 * Range of a differential pressure transmitter that measures a level. The impulse line from the lower tap holds
 * process liquid; gas weighs nothing.
 * @throws Refusal `no-span`, `leg-missing`
 * Source: hydrostatics, p = sg · h in mmH2O.
 */
export function dpLevelRange(d: DpLevelInput): DpLevelRange {
  if (!(d.fullHeight_mm > d.emptyHeight_mm)) throw new Refusal('no-span', 'Full does not lie above empty.')
  let leg = 0
  if (d.arrangement === 'wet-leg') {
    if (d.legSg === undefined || d.legHeight_mm === undefined)
      throw new Refusal('leg-missing', 'A wet leg needs the specific gravity of its fill and its height.')
    leg = d.legSg * d.legHeight_mm
  }
  const at = (height: number) => d.sg * (height + d.transmitterBelowTap_mm) - leg
  const [lrv_mmH2O, urv_mmH2O] = [at(d.emptyHeight_mm), at(d.fullHeight_mm)]
  return { lrv_mmH2O, urv_mmH2O, span_mmH2O: d.sg * (d.fullHeight_mm - d.emptyHeight_mm) }
}
