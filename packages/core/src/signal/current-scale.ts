// 4–20 mA: what a process value, a per cent, a current, a shunt voltage and raw counts mean to each other.
import { Refusal } from '../refusal/index.ts'
import { sure } from '../sure/index.ts'

export type Transfer = 'linear' | 'square-root'

/** NAMUR NE 43 regions of the current. */
export type SignalBand =
  'failure-low' | 'transition-low' | 'under-range' | 'normal' | 'over-range' | 'transition-high' | 'failure-high'

/** Room for rounding when a computed current meets a band's limit exactly, mA. */
const BAND_ROUNDING = 1e-9

/** Region of a current in mA after NAMUR NE 43. */
export function signalBand(mA: number): SignalBand {
  if (mA <= 3.6 + BAND_ROUNDING) return 'failure-low'
  if (mA < 3.8 - BAND_ROUNDING) return 'transition-low'
  if (mA < 4 - BAND_ROUNDING) return 'under-range'
  if (mA <= 20 + BAND_ROUNDING) return 'normal'
  if (mA <= 20.5 + BAND_ROUNDING) return 'over-range'
  if (mA < 21 - BAND_ROUNDING) return 'transition-high'
  return 'failure-high'
}

/** A band in words a person would use. */
export const signalBandWords: Readonly<Record<SignalBand, string>> = {
  'failure-low': 'fault signal, low',
  'transition-low': 'between fault and range, low',
  'under-range': 'under range',
  normal: 'in range',
  'over-range': 'over range',
  'transition-high': 'between range and fault, high',
  'failure-high': 'fault signal, high',
}

/** Fraction of the output span for a process value. Square root of a negative input fraction gives 0. */
export function outputFraction(pv: number, lrv: number, urv: number, transfer: Transfer): number {
  const input = (pv - lrv) / (urv - lrv)
  return transfer === 'linear' ? input : Math.sqrt(Math.max(0, input))
}

/** Process value for a fraction of the output span; lrv below zero output on a square-root range. */
export function processValue(fraction: number, lrv: number, urv: number, transfer: Transfer): number {
  if (transfer === 'linear') return lrv + fraction * (urv - lrv)
  return fraction < 0 ? lrv : lrv + fraction * fraction * (urv - lrv)
}

/** mA for per cent of output span. */
export const mAFromPercent = (percent: number): number => 4 + 0.16 * percent
/** Per cent of output span for mA. */
export const percentFrommA = (mA: number): number => (mA - 4) / 0.16

export interface ScaleInput {
  /** Process value at 4 mA; above `urv` on a reverse-acting range. */
  readonly lrv: number
  /** Process value at 20 mA. */
  readonly urv: number
  readonly transfer: Transfer
  /** Receiver's shunt, Ω; 250 when not given. */
  readonly shuntOhm?: number | undefined
  /** Receiver's raw counts at 4 mA. */
  readonly countsLow?: number | undefined
  /** Receiver's raw counts at 20 mA. */
  readonly countsHigh?: number | undefined
  readonly pv?: number | undefined
  readonly mA?: number | undefined
  readonly percent?: number | undefined
  readonly shuntVolts?: number | undefined
  readonly countsRead?: number | undefined
}

export interface ScaleResult {
  readonly pv: number
  /** Per cent of output span: 0 at 4 mA, 100 at 20 mA. */
  readonly percent: number
  readonly mA: number
  readonly shuntVolts: number
  readonly countsRead?: number
  readonly band: SignalBand
}

/**
 * All forms of one signal from any one of them. Exactly one of `pv`, `mA`, `percent`, `shuntVolts`, `countsRead` is
 * given, and comes back as given.
 * Nothing is clamped, save the square root of a negative input fraction.
 * @throws Refusal `zero-span` (lrv = urv, or counts equal), `invalid-input`
 * Source: definition of the 4–20 mA signal (IEC 60381-1); bands NAMUR NE 43.
 */
export function scaleSignal(input: ScaleInput): ScaleResult {
  const { lrv, urv, transfer, shuntOhm = 250, countsLow, countsHigh } = input
  const given = (['pv', 'mA', 'percent', 'shuntVolts', 'countsRead'] as const).filter((k) => input[k] !== undefined)
  const hasCounts = countsLow !== undefined && countsHigh !== undefined
  if (given.length !== 1)
    throw new Refusal('invalid-input', 'Give exactly one of pv, mA, percent, shuntVolts, countsRead.')
  if (input.countsRead !== undefined && !hasCounts)
    throw new Refusal('invalid-input', 'Counts need the receiver’s counts at 4 mA and at 20 mA.')
  if (lrv === urv) throw new Refusal('zero-span', 'The range has no span: lower and upper range value are equal.')
  if (hasCounts && countsLow === countsHigh)
    throw new Refusal('zero-span', 'The receiver has no span: its counts at 4 and 20 mA are equal.')

  const percent =
    input.percent ??
    (input.pv !== undefined
      ? 100 * outputFraction(input.pv, lrv, urv, transfer)
      : input.mA !== undefined
        ? percentFrommA(input.mA)
        : input.shuntVolts !== undefined
          ? percentFrommA((1000 * input.shuntVolts) / shuntOhm)
          : (100 * (sure(input.countsRead) - sure(countsLow))) / (sure(countsHigh) - sure(countsLow)))
  const mA =
    input.mA ?? (input.shuntVolts !== undefined ? (1000 * input.shuntVolts) / shuntOhm : mAFromPercent(percent))
  const result: ScaleResult = {
    pv: input.pv ?? processValue(percent / 100, lrv, urv, transfer),
    percent,
    mA,
    shuntVolts: input.shuntVolts ?? (mA * shuntOhm) / 1000,
    band: signalBand(mA),
  }
  return hasCounts
    ? { ...result, countsRead: input.countsRead ?? countsLow + (percent / 100) * (countsHigh - countsLow) }
    : result
}
