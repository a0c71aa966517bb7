// The verdict of a discrete check: witnesses, volts, and the distances at which it switched.
import { judgeDistances, type DistanceResult } from './operate-distance.ts'
import { firstToDisagree, judgeVolts, type Expected, type Seen, type VoltsSaid, type WitnessId } from './witnesses.ts'
import { sure } from '../sure/index.ts'

export interface SwitchReading {
  readonly id: string
  readonly pointIndex: number
  /** Target there or not. */
  readonly target: boolean
  readonly seen: Seen
  /** Distance at which it changed as the target came or went, mm. */
  readonly distance_mm?: number | undefined
  /** Signal wire to negative pole as metered, V. */
  readonly signalV?: number | undefined
}
export interface SwitchPlan {
  readonly present: Expected
  readonly absent: Expected
  readonly supplyV: number
  /** Undefined for a sensor without an operating distance. */
  readonly distance?:
    { readonly expected_mm: number; readonly tolerancePct: number; readonly differentialMaxPct: number } | undefined
}
export interface JudgedSwitchReading {
  readonly reading: SwitchReading
  readonly disagrees: WitnessId | undefined
  readonly volts: VoltsSaid | undefined
}
export interface SwitchJudgement {
  readonly readings: readonly JudgedSwitchReading[]
  readonly distances: DistanceResult
  /** Operate distance against the expected one, % of it; null without. */
  readonly distanceErrorPct: number | null
  /** What failed, in words; empty when it passes. */
  readonly faults: readonly string[]
  readonly pass: boolean
}

/** A tenth of the supply: lamps, cable and supply are not exact. */
export const VOLTS_SPARE = 0.1
const SPARE_pct = 1e-9

/** The verdict over the readings that count. */
export function judgeSwitch(readings: readonly SwitchReading[], plan: SwitchPlan): SwitchJudgement {
  const judged = readings.map((reading): JudgedSwitchReading => {
    const [own, other] = reading.target ? [plan.present, plan.absent] : [plan.absent, plan.present]
    const volts =
      reading.signalV === undefined || own.signalV === undefined || other.signalV === undefined
        ? undefined
        : judgeVolts(reading.signalV, own.signalV, other.signalV, VOLTS_SPARE * plan.supplyV)
    return { reading, disagrees: firstToDisagree(own, reading.seen), volts }
  })
  const at = (r: SwitchReading) => r.distance_mm
  // An approach is a target brought up and the withdrawal that follows it.
  const approaches = readings.flatMap((r, i) => {
    if (!r.target || at(r) === undefined) return []
    const next = readings[i + 1]
    return [{ operate_mm: sure(at(r)), release_mm: next && !next.target ? at(next) : undefined }]
  })
  const distances = judgeDistances(approaches)
  const { distance } = plan
  const error =
    distance && distances.operate_mm !== null
      ? (100 * (distances.operate_mm - distance.expected_mm)) / distance.expected_mm
      : null
  const faults: string[] = []
  const lying = judged.filter((j) => j.disagrees)
  if (lying.length) faults.push(`A witness disagrees at ${lying.length} of ${judged.length} points.`)
  const volts = judged.filter((j) => j.volts !== undefined && j.volts !== 'agrees' && j.volts !== 'leads-exchanged')
  if (volts.length) faults.push(`The volts on the signal wire are not as expected at ${volts.length} points.`)
  if (distance && error !== null && Math.abs(error) > distance.tolerancePct + SPARE_pct)
    faults.push('The operate distance is outside its tolerance.')
  if (distance && distances.differentialPct !== null) {
    if (distances.differentialPct > distance.differentialMaxPct + SPARE_pct)
      faults.push('The differential is too large.')
    if (distances.differentialPct < 0)
      faults.push('It turns off nearer than it turns on: the two distances are exchanged.')
  }
  return {
    readings: judged,
    distances,
    distanceErrorPct: error,
    faults,
    pass: readings.length > 0 && faults.length === 0,
  }
}
