// An orifice plate: mass flow from differential pressure, with the discharge coefficient at the Reynolds number that
// it makes.
import { Refusal } from '../refusal/index.ts'

export type Taps = 'corner' | 'flange' | 'D-D/2'

export interface OrificeInput {
  readonly pipe_mm: number
  readonly bore_mm: number
  readonly taps: Taps
  /** Upstream. */
  readonly density_kgm3: number
  readonly viscosity_mPas: number
  readonly dp_kPa: number
  /** For a gas or steam: upstream absolute pressure and isentropic exponent. */
  readonly compressible?: { readonly pressure_kPa: number; readonly isentropicExponent: number } | undefined
}
export interface OrificeResult {
  readonly beta: number
  readonly dischargeCoefficient: number
  readonly expansibility: number
  readonly massFlow_kgps: number
  /** Of the pipe. */
  readonly reynolds: number
}

/** Below this inside diameter the coefficient has a further term, mm. */
export const SMALL_PIPE_mm = 71.12

/** Discharge coefficient. Source: Reader-Harris/Gallagher equation, ISO 5167-2:2003, 5.3.2.1. */
export function dischargeCoefficient(beta: number, reynolds: number, pipe_mm: number, taps: Taps): number {
  const [l1, l2] = taps === 'corner' ? [0, 0] : taps === 'flange' ? [25.4 / pipe_mm, 25.4 / pipe_mm] : [1, 0.47]
  const a = ((19_000 * beta) / reynolds) ** 0.8
  const m2 = (2 * l2) / (1 - beta)
  const b4 = beta ** 4
  return (
    0.5961 +
    0.0261 * beta ** 2 -
    0.216 * beta ** 8 +
    0.000521 * ((1e6 * beta) / reynolds) ** 0.7 +
    (0.0188 + 0.0063 * a) * beta ** 3.5 * (1e6 / reynolds) ** 0.3 +
    ((0.043 + 0.08 * Math.exp(-10 * l1) - 0.123 * Math.exp(-7 * l1)) * (1 - 0.11 * a) * b4) / (1 - b4) -
    0.031 * (m2 - 0.8 * m2 ** 1.1) * beta ** 1.3 +
    (pipe_mm < SMALL_PIPE_mm ? 0.011 * (0.75 - beta) * (2.8 - pipe_mm / 25.4) : 0)
  )
}

/** Expansibility factor. Source: ISO 5167-2:2003, 5.3.2.2. */
export function expansibility(beta: number, dp_kPa: number, pressure_kPa: number, exponent: number): number {
  const ratio = (pressure_kPa - dp_kPa) / pressure_kPa
  return 1 - (0.351 + 0.256 * beta ** 4 + 0.93 * beta ** 8) * (1 - ratio ** (1 / exponent))
}

/** Mass flow for each of a coefficient, kg/s, in what cannot be compressed. Source: ISO 5167-1, 5.1. */
export function flowPerCoefficient(
  i: Pick<OrificeInput, 'bore_mm' | 'pipe_mm' | 'density_kgm3'>,
  dp_kPa: number,
): number {
  const area = (Math.PI / 4) * (i.bore_mm / 1000) ** 2
  return (area * Math.sqrt(2 * dp_kPa * 1000 * i.density_kgm3)) / Math.sqrt(1 - (i.bore_mm / i.pipe_mm) ** 4)
}

const CLOSE = 1e-13
const MOST_ROUNDS = 500

/**
 * Mass flow through an orifice plate.
 * @throws Refusal `out-of-range` for a β outside 0.1 … 0.75, or a differential pressure that the line does not have
 * Source: ISO 5167-2:2003 (flow equation: ISO 5167-1, 5.1)
 */
export function orificeFlow(i: OrificeInput): OrificeResult {
  const beta = i.bore_mm / i.pipe_mm
  if (!(beta >= 0.1 && beta <= 0.75))
    throw new Refusal(
      'out-of-range',
      'The ratio of bore to pipe lies outside 0.1 … 0.75, where the standard’s coefficient holds.',
    )
  if (i.compressible && i.dp_kPa >= i.compressible.pressure_kPa)
    throw new Refusal('out-of-range', 'The differential pressure is not below the upstream absolute pressure.')
  const epsilon = i.compressible
    ? expansibility(beta, i.dp_kPa, i.compressible.pressure_kPa, i.compressible.isentropicExponent)
    : 1
  const perCoefficient = epsilon * flowPerCoefficient(i, i.dp_kPa)
  const perFlow = 4 / (Math.PI * (i.viscosity_mPas / 1000) * (i.pipe_mm / 1000))
  const off = (c: number) => dischargeCoefficient(beta, perFlow * perCoefficient * c, i.pipe_mm, i.taps) - c
  let [before, coefficient] = [Number.NaN, 0.6]
  let [offBefore, offNow] = [Number.NaN, off(coefficient)]
  for (let round = 0; round < MOST_ROUNDS && Math.abs(offNow) >= CLOSE; round++) {
    const secant = coefficient - (offNow * (coefficient - before)) / (offNow - offBefore)
    // Half the way where the secant leads astray: a whole step would swing where the coefficient falls steeply.
    const next = secant > 0.3 && secant < 3 ? secant : coefficient + offNow / 2
    const offNext = off(next)
    const good = Math.abs(offNext) < Math.abs(offNow)
    ;[before, offBefore] = good ? [coefficient, offNow] : [Number.NaN, Number.NaN]
    coefficient = good ? next : coefficient + offNow / 2
    offNow = good ? offNext : off(coefficient)
  }
  const massFlow = perCoefficient * coefficient
  return {
    beta,
    dischargeCoefficient: coefficient,
    expansibility: epsilon,
    massFlow_kgps: massFlow,
    reynolds: perFlow * massFlow,
  }
}
