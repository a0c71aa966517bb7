// Calibration of a pH electrode in two to five buffers: slope, offset, and what they say of its health.
import { Refusal } from '../refusal/index.ts'

const R = 8.314462618
const F = 96485.33212
const SPARE = 1e-9

export interface PhPoint {
  /** pH of the buffer at its temperature. */
  readonly ph: number
  /** Electrode's voltage, mV. */
  readonly mV: number
}
export type ElectrodeVerdict = 'good' | 'worn' | 'replace'
export interface PhCalibration {
  /** Negative for a healthy electrode. */
  readonly slope_mVperPh: number
  /** Per cent of the ideal slope at the temperature. */
  readonly slopePercent: number
  /** The line at pH 7, mV. */
  readonly offset_mV: number
  /** pH at which the line crosses 0 mV. */
  readonly zeroPh: number
  readonly verdict: ElectrodeVerdict
}

/** Ideal slope of a pH electrode, mV per pH (negative). Source: Nernst, −R·T·ln 10/F with the CODATA 2018 constants. */
export const idealSlope_mV = (temp_C: number): number => (-R * (temp_C + 273.15) * Math.LN10 * 1000) / F

/**
 * Offset at pH 7 from one buffer, the slope kept as it was: what one point can say.
 * @param slopePercent per cent of the ideal slope at the temperature, above 0
 */
export function onePointCalibration({
  point,
  temp_C,
  slopePercent,
}: {
  readonly point: PhPoint
  readonly temp_C: number
  readonly slopePercent: number
}): PhCalibration {
  const slope = (slopePercent / 100) * idealSlope_mV(temp_C)
  const offset_mV = point.mV - slope * (point.ph - 7)
  return {
    slope_mVperPh: slope,
    slopePercent,
    offset_mV,
    zeroPh: 7 - offset_mV / slope,
    verdict: verdictOf(slopePercent, offset_mV),
  }
}

/** What an electrode is by its line: good 95 … 102 % and ± 15 mV, worn 90 … 105 % and ± 30 mV, else to be replaced. */
export function verdictOf(slopePercent: number, offset_mV: number): ElectrodeVerdict {
  const within = (low: number, high: number, most: number) =>
    slopePercent >= low - SPARE && slopePercent <= high + SPARE && Math.abs(offset_mV) <= most + SPARE
  return within(95, 102, 15) ? 'good' : within(90, 105, 30) ? 'worn' : 'replace'
}

/** Straight line y = a + b·x by least squares. Undefined slope when all x are equal. */
export function fitLine(xs: readonly number[], ys: readonly number[]): { at0: number; slope: number } {
  const n = xs.length
  const mx = xs.reduce((sum, x) => sum + x, 0) / n
  const my = ys.reduce((sum, y) => sum + y, 0) / n
  let xx = 0
  let xy = 0
  xs.forEach((x, i) => {
    xx += (x - mx) ** 2
    xy += (x - mx) * (ys[i]! - my)
  })
  const slope = xy / xx
  return { at0: my - slope * mx, slope }
}

/**
 * Line through 2 to 5 buffer points by least squares of mV on pH.
 * Good: slope 95 … 102 % and offset within ±15 mV; worn: 90 … 105 % and ±30 mV; else replace.
 * @throws Refusal `points-too-close` (pH apart by less than 1), `no-slope`
 */
export function phCalibration({ points, temp_C }: { points: readonly PhPoint[]; temp_C: number }): PhCalibration {
  const phs = points.map((p) => p.ph)
  if (Math.max(...phs) - Math.min(...phs) < 1)
    throw new Refusal('points-too-close', 'The buffers are less than 1 pH apart.')
  const { at0, slope } = fitLine(
    phs,
    points.map((p) => p.mV),
  )
  if (Math.abs(slope) < SPARE)
    throw new Refusal('no-slope', 'The electrode does not answer: the same voltage in every buffer.')
  const slopePercent = (100 * slope) / idealSlope_mV(temp_C)
  const offset_mV = at0 + 7 * slope
  return {
    slope_mVperPh: slope,
    slopePercent,
    offset_mV,
    zeroPh: -at0 / slope,
    verdict: verdictOf(slopePercent, offset_mV),
  }
}
