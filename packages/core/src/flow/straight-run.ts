// How much straight pipe a meter needs, by the school that the site follows.
import table from './straight-run.json' with { type: 'json' }
import { Refusal } from '../refusal/index.ts'
import { sure } from '../sure/index.ts'

export const DISTURBANCES: readonly string[] = table.disturbances
export const SCHOOLS = table.schools
export const STRAIGHT_RUN_SOURCE = table.source

/** What flows: a gas keeps a disturbance longer than a liquid, and wants a rule of its own. */
export type RunMedium = 'liquid' | 'gas'

/**
 * The school that judges: the one asked for, or, where that is made for liquids and a gas flows, its counterpart for
 * gases. One for gases asks more than its counterpart and may be taken for a liquid. The first for an unknown name.
 */
export function schoolFor(id: string, medium: RunMedium): (typeof SCHOOLS)[number] {
  const of = (id: string) => SCHOOLS.find((s) => s.id === id)
  const asked = of(id) ?? sure(SCHOOLS[0])
  return medium === 'gas' ? (of(asked.inGas) ?? asked) : asked
}

export interface StraightRun {
  /** The rule that it was judged by, in words. */
  readonly school: string
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
 * @param schoolId one of `SCHOOLS`; a gas is judged by its counterpart for gases
 * @param disturbance one of `DISTURBANCES`
 * @param up_mm straight length between it and the pair; 0 or more
 * @param id_mm inside diameter, above 0
 * @param paths two of them, 90° apart, halve the error
 * @throws Refusal `invalid-input` for a run below 0 or a bore not above it
 */
export function straightRun({
  schoolId,
  medium,
  disturbance,
  up_mm,
  down_mm,
  id_mm,
  paths = 1,
}: {
  readonly schoolId: string
  readonly medium: RunMedium
  readonly disturbance: string
  readonly up_mm: number
  readonly down_mm: number
  readonly id_mm: number
  readonly paths?: 1 | 2
}): StraightRun {
  if (!(up_mm >= 0 && down_mm >= 0 && id_mm > 0))
    throw new Refusal('invalid-input', 'A straight run is not below 0, and a bore is above it.')
  const school = schoolFor(schoolId, medium)
  const n = Math.max(0, DISTURBANCES.indexOf(disturbance))
  const [haveUp, haveDown] = [up_mm / id_mm, down_mm / id_mm]
  const [needUp, needDown] = [school.up[n]!, school.down]
  const enough = haveUp >= needUp && haveDown >= needDown
  const near = table.errorNearPct[n]! * Math.exp(-haveUp / table.dyingLength_D)
  const behind = haveDown < needDown ? 1.5 * (1 - haveDown / needDown) : 0
  return {
    school: school.name,
    needUp_D: needUp,
    needDown_D: needDown,
    haveUp_D: haveUp,
    haveDown_D: haveDown,
    enough,
    likelyErrorPct: enough ? 0 : ((haveUp < needUp ? near : 0) + behind) / paths,
  }
}
