// The voltage budget of a two-wire loop: what is left for the transmitter after every other drop.
import { Refusal } from '../refusal/index.ts'

export interface BudgetInput {
  /** Loop supply, V. */
  readonly supplyV: number
  /** Least voltage across the transmitter at which it still works, V. */
  readonly liftOffV: number
  /** Everything in the loop outside the transmitter, Ω. */
  readonly seriesOhms: readonly number[]
  /** Highest current the transmitter can drive (its high fault current), mA; 22 when not given. */
  readonly maxmA?: number | undefined
}

export interface BudgetResult {
  readonly totalOhm: number
  readonly voltsAtTransmitter4mA: number
  readonly voltsAtTransmitter20mA: number
  readonly voltsAtTransmitterMax: number
  /** Most resistance the supply can drive at the highest current, Ω. */
  readonly maxSeriesOhm: number
  /** What may still be added, Ω; negative when it is already too much. */
  readonly spareOhm: number
  /** Smallest supply that would do, V. */
  readonly minSupplyV: number
  /** Enough and not too much resistance for digital communication over the loop (230 … 1100 Ω). */
  readonly hartOk: boolean
  /** The transmitter keeps its lift-off voltage at the highest current. */
  readonly ok: boolean
}

/**
 * Ohm's law around the loop. Nothing is clamped: a negative voltage at the transmitter says by how much the supply
 * falls short.
 * @throws Refusal `invalid-input` for a negative resistance or a highest current not above 0
 * Source: Kirchhoff's voltage law; communication resistance IEC 61784-1 CPF 9 (230 Ω least).
 */
export function loopBudget(input: BudgetInput): BudgetResult {
  const { supplyV, liftOffV, seriesOhms, maxmA = 22 } = input
  if (!(maxmA > 0)) throw new Refusal('invalid-input', 'The highest current must be above 0 mA.')
  if (seriesOhms.some((ohm) => !(ohm >= 0))) throw new Refusal('invalid-input', 'A resistance must be 0 Ω or more.')
  const totalOhm = seriesOhms.reduce((sum, ohm) => sum + ohm, 0)
  const left = (mA: number): number => supplyV - (mA * totalOhm) / 1000
  const maxSeriesOhm = ((supplyV - liftOffV) * 1000) / maxmA
  return {
    totalOhm,
    voltsAtTransmitter4mA: left(4),
    voltsAtTransmitter20mA: left(20),
    voltsAtTransmitterMax: left(maxmA),
    maxSeriesOhm,
    spareOhm: maxSeriesOhm - totalOhm,
    minSupplyV: liftOffV + (maxmA * totalOhm) / 1000,
    hartOk: totalOhm >= 230 && totalOhm <= 1100,
    ok: left(maxmA) >= liftOffV,
  }
}

/** One point of the load line. */
export interface LoadLinePoint {
  readonly supplyV: number
  /** Most resistance outside the transmitter at this supply, Ω. */
  readonly maxOhm: number
}

/** The load line: most series resistance against supply voltage, from lift-off to `topV`, at the highest current. */
export function loadLine(liftOffV: number, maxmA: number, topV: number, points = 33): LoadLinePoint[] {
  if (!(maxmA > 0)) throw new Refusal('invalid-input', 'The highest current must be above 0 mA.')
  const top = Math.max(topV, liftOffV)
  return Array.from({ length: points }, (_, i) => {
    const supplyV = liftOffV + ((top - liftOffV) * i) / (points - 1)
    return { supplyV, maxOhm: ((supplyV - liftOffV) * 1000) / maxmA }
  })
}

/**
 * Longest one-way cable, m, that still leaves the lift-off voltage; null when nothing is left without any cable or the
 * wire has no resistance.
 */
export function longestCable_m(budget: BudgetResult, cableOhm: number, length_m: number): number | null {
  const room = budget.spareOhm + cableOhm
  if (room < 0 || cableOhm <= 0 || length_m <= 0) return null
  return (room / cableOhm) * length_m
}
