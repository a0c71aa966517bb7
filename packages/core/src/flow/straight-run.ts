// How much straight pipe a meter needs, by the school that the site follows.
import table from './straight-run.json' with { type: 'json' }
import { sure } from '../sure/index.ts'

export const DISTURBANCES: readonly string[] = table.disturbances
export const SCHOOLS = table.schools
export const STRAIGHT_RUN_SOURCE = table.source

export interface StraightRun {
  /** Diameters. */
  readonly needUp_D: number
  readonly needDown_D: number
  readonly haveUp_D: number
  readonly haveDown_D: number
  readonly enough: boolean
  /** Likely error of the flow where the run is short, ± %; 0 where it is enough. */
  readonly likelyErrorPct: number
}

/**
 * Need against what is there.
 * @param disturbance one of `DISTURBANCES`
 * @param up_mm straight length between it and the pair; 0 or more
 * @param id_mm inside diameter, above 0
 * @param paths two of them, 90° apart, halve the error
 */
export function straightRun({
  schoolId,
  disturbance,
  up_mm,
  down_mm,
  id_mm,
  paths = 1,
}: {
  readonly schoolId: string
  readonly disturbance: string
  readonly up_mm: number
  readonly down_mm: number
  readonly id_mm: number
  readonly paths?: 1 | 2
}): StraightRun {
  const school = SCHOOLS.find((s) => s.id === schoolId) ?? sure(SCHOOLS[0])
  const n = Math.max(0, DISTURBANCES.indexOf(disturbance))
  const [haveUp, haveDown] = [up_mm / id_mm, down_mm / id_mm]
  const [needUp, needDown] = [school.up[n]!, school.down]
  const enough = haveUp >= needUp && haveDown >= needDown
  const near = table.errorNearPct[n]! * Math.exp(-haveUp / table.dyingLength_D)
  const behind = haveDown < needDown ? 1.5 * (1 - haveDown / needDown) : 0
  return {
    needUp_D: needUp,
    needDown_D: needDown,
    haveUp_D: haveUp,
    haveDown_D: haveDown,
    enough,
    likelyErrorPct: enough ? 0 : ((haveUp < needUp ? near : 0) + behind) / paths,
  }
}
