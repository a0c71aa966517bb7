// The line of a pH electrode beside its ideal, and what a calibration found that the entries do not hold.
import { idealSlope_mV } from '../../analysis/index.ts'
import type { Reader } from '../reader.ts'

export interface ElectrodeLine {
  readonly temp_C: number
  /** mV per pH, negative; undefined where no electrode has such a slope. */
  readonly slope_mVperPh: number | undefined
  readonly ideal_mVperPh: number
  readonly offset_mV: number
  readonly slopePercent: number
  /** Temperature that the device reckons with, °C: the liquid's own, unless it is set to one. */
  readonly reckons_C: number
  /** Slope that it reckons with; undefined where no electrode has such a slope. */
  readonly reckoned_mVperPh: number | undefined
}

/** An electrode as its entries say, at the temperature of its liquid. */
export function electrodeLine(r: Reader): ElectrodeLine {
  const [temp_C, slopePercent, offset] = [
    r.in('phTemp', 'degC') ?? 25,
    r.in('slopePercent', '%') ?? 100,
    r.in('electrodeOffset', 'mV') ?? 0,
  ]
  const fixed = r.text('compensation') === 'fixed'
  const reckons_C = fixed ? (r.in('compTemp', 'degC') ?? 25) : temp_C
  const usable = Math.min(temp_C, reckons_C) > -273 && slopePercent > 0 && Number.isFinite(slopePercent)
  const ideal_mVperPh = idealSlope_mV(temp_C)
  return {
    temp_C,
    slopePercent,
    ideal_mVperPh,
    reckons_C,
    reckoned_mVperPh: usable ? (slopePercent / 100) * idealSlope_mV(reckons_C) : undefined,
    slope_mVperPh: usable ? (slopePercent / 100) * ideal_mVperPh : undefined,
    offset_mV: Number.isFinite(offset) ? offset : 0,
  }
}

/** What a calibration found of an electrode. */
export interface FoundElectrode {
  /** Undefined of an electrode that has none, as a redox electrode. */
  readonly slopePercent: number | undefined
  readonly offset_mV: number
}
/** Closer than this, in % of slope and in mV, entries and calibration say the same. */
const SAME = { slope: 0.05, offset: 0.05 } as const
/** Whether the entries say of the electrode what a calibration found. */
export const holdsCalibration = (line: ElectrodeLine, found: FoundElectrode): boolean =>
  Math.abs(line.slopePercent - (found.slopePercent ?? line.slopePercent)) <= SAME.slope &&
  Math.abs(line.offset_mV - found.offset_mV) <= SAME.offset
/** The entries that a calibration makes, as they are typed. */
export const entriesOfCalibration = (
  found: FoundElectrode,
): Readonly<Partial<Record<'slopePercent' | 'electrodeOffset', string>>> => ({
  ...(found.slopePercent === undefined ? {} : { slopePercent: `${found.slopePercent.toFixed(1)} %` }),
  electrodeOffset: `${found.offset_mV.toFixed(1)} mV`,
})
