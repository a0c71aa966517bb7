// The equation of state of ordinary water: Helmholtz energy over density and temperature, liquid or steam.
import { Refusal } from '../refusal/index.ts'
import table from './water-coefficients.json' with { type: 'json' }

const { criticalTemp_K: TC, criticalDensity_kgm3: RHOC, criticalPressure_kPa: PC, gasConstant_JkgK: R } = table

/** Derivatives of the Helmholtz energy that density and sound speed need, in SI per kilogram. */
export interface WaterState {
  readonly density_kgm3: number
  readonly pressure_Pa: number
  /** ∂p/∂ρ and ∂p/∂T, ∂²f/∂T². */
  readonly dp_drho: number
  readonly dp_dT: number
  readonly d2f_dT2: number
}

interface Isotherm {
  readonly T: number
  readonly tau: number
  /** n·τ^t of every term, so that a change of density costs no power of τ. */
  readonly terms: Float64Array
  readonly gauss: Float64Array
}

const TERMS = table.residual.map(([n, c, d, t]) => ({ n: n!, c: c!, d: d!, t: t! }))
const GAUSS = table.gaussian.map(([n, d, t, a, b, g]) => ({ n: n!, d: d!, t: t!, a: a!, b: b!, g: g! }))
const MOST_POWER = 15

const MOST_TAU = 50
const tauPowers = new Float64Array(MOST_TAU + 1)

function isotherm(T: number): Isotherm {
  const tau = TC / T
  tauPowers[0] = 1
  for (let t = 1; t <= MOST_TAU; t++) tauPowers[t] = tauPowers[t - 1]! * tau
  const terms = new Float64Array(TERMS.length)
  for (let i = 0; i < TERMS.length; i++) {
    const { n, t } = TERMS[i]!
    terms[i] = n * (Number.isInteger(t) ? tauPowers[t]! : tau ** t)
  }
  const gauss = new Float64Array(GAUSS.length)
  for (let i = 0; i < GAUSS.length; i++) {
    const { n, t, b, g } = GAUSS[i]!
    gauss[i] = n * tauPowers[t]! * Math.exp(-b * (tau - g) ** 2)
  }
  return { T, tau, terms, gauss }
}

const powers = new Float64Array(MOST_POWER + 1)
const damped = new Float64Array(7)
function fill(delta: number): void {
  powers[0] = 1
  for (let d = 1; d <= MOST_POWER; d++) powers[d] = powers[d - 1]! * delta
  damped[0] = 1
  for (let c = 1; c <= 6; c++) damped[c] = Math.exp(-powers[c]!)
}

/** δ·φ_δ and δ²·φ_δδ of the residual part. */
function densitySums({ terms, gauss }: Isotherm, delta: number): [number, number] {
  fill(delta)
  let first = 0
  let second = 0
  for (let i = 0; i < TERMS.length; i++) {
    const { c, d } = TERMS[i]!
    const value = terms[i]! * powers[d]! * damped[c]!
    const k = c ? d - c * powers[c]! : d
    first += value * k
    second += value * (c ? k * (k - 1) - c * c * powers[c]! : d * (d - 1))
  }
  for (let i = 0; i < GAUSS.length; i++) {
    const { d, a } = GAUSS[i]!
    const value = gauss[i]! * powers[d]! * Math.exp(-a * (delta - 1) ** 2)
    const k = d - 2 * a * delta * (delta - 1)
    first += value * k
    second += value * (k * (k - 1) - 2 * a * delta * (2 * delta - 1))
  }
  return [first, second]
}

/** τ²·φ_ττ of the residual part and δτ·φ_δτ. */
function temperatureSums({ tau, terms, gauss }: Isotherm, delta: number): [number, number] {
  fill(delta)
  let second = 0
  let mixed = 0
  for (let i = 0; i < TERMS.length; i++) {
    const { c, d, t } = TERMS[i]!
    const value = terms[i]! * powers[d]! * damped[c]!
    second += value * t * (t - 1)
    mixed += value * t * (c ? d - c * powers[c]! : d)
  }
  for (let i = 0; i < GAUSS.length; i++) {
    const { d, t, a, b, g } = GAUSS[i]!
    const value = gauss[i]! * powers[d]! * Math.exp(-a * (delta - 1) ** 2)
    const k = t - 2 * b * tau * (tau - g)
    second += value * (k * (k - 1) - 2 * b * tau * (2 * tau - g))
    mixed += value * k * (d - 2 * a * delta * (delta - 1))
  }
  return [second, mixed]
}

/** τ²·φ_ττ of the ideal part. */
function idealSecond(tau: number): number {
  const { log, n, gamma } = table.ideal
  // ln δ does not hang on τ, and the first two terms are linear in it.
  let sum = -log
  for (let i = 0; i < n.length; i++) {
    const x = gamma[i]! * tau
    const e = Math.exp(-x)
    sum -= (n[i]! * x * x * e) / (1 - e) ** 2
  }
  return sum
}

const CLOSE = 1e-12
const MOST_ROUNDS = 60

/**
 * Water at a temperature and pressure, on the side (liquid or steam) that `startDensity` lies on.
 * @throws Refusal `no-solution` where that side does not exist
 * Source: IAPWS R6-95(2018)
 */
export function waterState(T: number, pressure_Pa: number, startDensity_kgm3: number): WaterState {
  const line = isotherm(T)
  let rho = startDensity_kgm3
  for (let round = 0; round < MOST_ROUNDS; round++) {
    const [first, second] = densitySums(line, rho / RHOC)
    const p = rho * R * T * (1 + first)
    const slope = R * T * (1 + 2 * first + second)
    if (!(slope > 0)) break
    const step = (pressure_Pa - p) / slope
    const next = Math.max(rho / 2, rho + step)
    const done = Math.abs(next - rho) <= CLOSE * rho
    rho = next
    if (done) return derivatives(line, rho)
  }
  throw new Refusal('no-solution', 'The equation has no such water at this temperature and pressure.')
}

function derivatives(line: Isotherm, rho: number): WaterState {
  const { T, tau } = line
  const delta = rho / RHOC
  const [first, second] = densitySums(line, delta)
  const [tt, dt] = temperatureSums(line, delta)
  return {
    density_kgm3: rho,
    pressure_Pa: rho * R * T * (1 + first),
    dp_drho: R * T * (1 + 2 * first + second),
    dp_dT: rho * R * (1 + first - dt),
    d2f_dT2: (R / T) * (idealSecond(tau) + tt),
  }
}

/** Sound speed, m/s, from the derivatives. */
export function soundSpeedOf(s: WaterState, T: number): number {
  const cv = -T * s.d2f_dT2
  return Math.sqrt(s.dp_drho + (T * s.dp_dT ** 2) / (s.density_kgm3 ** 2 * cv))
}

/** Saturation pressure, kPa. Source: IAPWS SR1-86(1992), equation 1; ± 0.02 % */
export function saturationPressure_kPa(T: number): number {
  const v = 1 - T / TC
  return PC * Math.exp((TC / T) * table.saturationPressure.reduce((sum, [a, e]) => sum + a! * v ** e!, 0))
}

/** Density of the boiling liquid, kg/m³. Source: IAPWS SR1-86(1992), equation 2 */
export function boilingDensity_kgm3(T: number): number {
  const v = 1 - T / TC
  return RHOC * (1 + table.saturatedDensity.reduce((sum, [b, e]) => sum + b! * v ** e!, 0))
}

/**
 * Viscosity of liquid or steam, mPa·s, without the enhancement at the critical point (under 0.1 % away from it).
 * Source: IAPWS R12-08, equations 10 to 12
 */
export function waterViscosity_mPas(T: number, density_kgm3: number): number {
  const t = T / TC
  const d = density_kgm3 / RHOC
  const dilute = (100 * Math.sqrt(t)) / table.viscosity0.reduce((sum, h, i) => sum + h / t ** i, 0)
  const dense = table.viscosity1.reduce((sum, [h, i, j]) => sum + h! * (1 / t - 1) ** i! * (d - 1) ** j!, 0)
  return (dilute * Math.exp(d * dense)) / 1000
}
