// Where a proximity sensor must switch: rated, corrected for the target's metal, and the limits the standard gives.
import { Refusal } from '../refusal/index.ts'

export interface OperateInput {
  /** Rated operating distance s_n for mild steel, mm, above 0. */
  readonly rated_mm: number
  /** Correction factor of the target's metal, above 0. */
  readonly metalFactor: number
  /** Diameter of the sensing face, mm. */
  readonly face_mm?: number | undefined
}
export interface OperateLimits {
  /** Expected operate distance: rated times factor, mm. */
  readonly expected_mm: number
  /** A sensor at 23 °C and rated supply switches between these: 0.9 and 1.1 of expected, mm. */
  readonly effective_mm: readonly [number, number]
  /** Over temperature and supply: 0.81 and 1.21 of expected, mm. */
  readonly usable_mm: readonly [number, number]
  /** Any such sensor surely sees the target up to here: 0.81 of expected, mm. */
  readonly assured_mm: number
  /** Differential travel is at most this: 0.2 of the effective distance, mm. */
  readonly differentialMax_mm: number
  /**
   * Side of the standard target: the face's diameter or three times the rated distance, whichever is greater; null
   * without the face.
   */
  readonly standardSide_mm: number | null
}

/**
 * Limits of IEC 60947-5-2, 8.2.1 (operating distances) and 8.2.1.5 (differential travel). @throws Refusal
 * `not-positive`
 */
export function operateLimits({ rated_mm, metalFactor, face_mm }: OperateInput): OperateLimits {
  if (!(rated_mm > 0 && metalFactor > 0))
    throw new Refusal('not-positive', 'Rated distance and metal factor must be above 0.')
  const expected = rated_mm * metalFactor
  return {
    expected_mm: expected,
    effective_mm: [0.9 * expected, 1.1 * expected],
    usable_mm: [0.81 * expected, 1.21 * expected],
    assured_mm: 0.81 * expected,
    differentialMax_mm: 0.2 * expected,
    standardSide_mm: face_mm !== undefined && face_mm > 0 ? Math.max(face_mm, 3 * rated_mm) : null,
  }
}

export interface Approach {
  /** Distance at which it turned on as the target came, mm. */
  readonly operate_mm: number
  /** Distance at which it turned off as the target went; undefined while not yet taken, mm. */
  readonly release_mm?: number | undefined
}
export interface DistanceResult {
  /** Means over the approaches, mm; null without any. */
  readonly operate_mm: number | null
  readonly release_mm: number | null
  /** Release less operate, mm and % of operate. */
  readonly differential_mm: number | null
  readonly differentialPct: number | null
  /** Largest less smallest operate distance, % of their mean; null under two. */
  readonly repeatPct: number | null
}

const mean = (values: readonly number[]) => (values.length ? values.reduce((a, b) => a + b, 0) / values.length : null)

/**
 * Operate distance, differential travel and repeat accuracy of the approaches taken. Source: definitions of IEC
 * 60947-5-2, 2.3.
 */
export function judgeDistances(approaches: readonly Approach[]): DistanceResult {
  const operate = mean(approaches.map((a) => a.operate_mm))
  const release = mean(approaches.flatMap((a) => (a.release_mm === undefined ? [] : [a.release_mm])))
  const all = approaches.map((a) => a.operate_mm)
  const differential = operate === null || release === null ? null : release - operate
  return {
    operate_mm: operate,
    release_mm: release,
    differential_mm: differential,
    differentialPct: differential === null || !operate ? null : (100 * differential) / operate,
    repeatPct: all.length < 2 || !operate ? null : (100 * (Math.max(...all) - Math.min(...all))) / operate,
  }
}
