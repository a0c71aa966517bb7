// Gas mixtures of up to 21 components: compressibility, density, sound speed after the DETAIL equation.
import { knownRange } from './known-range.ts'
import { Refusal } from '../refusal/index.ts'
import table from './gas-coefficients.json' with { type: 'json' }

export const GAS_MODEL = 'AGA Report No. 8 Part 1, DETAIL'
/** Mole fractions by component name. */
export type Composition = Readonly<Partial<Record<string, number>>>

export interface GasProperties {
  readonly molarMass_gmol: number
  readonly z: number
  readonly density_kgm3: number
  readonly soundSpeed_mps: number
  /** Ratio of heats of the gas as it is, ρc²/p (isentropic exponent). */
  readonly isentropicExponent: number
  /** Of the dilute mixture, mPa·s, ± 10 %. */
  readonly viscosity_mPas: number
}

interface Component {
  readonly name: string
  readonly molarMass: number
  readonly energy: number
  readonly size: number
  readonly orientation: number
  readonly quadrupole: number
  readonly highTemperature: number
  readonly dipole: number
  readonly association: number
  readonly heat: readonly number[]
  readonly theta: readonly number[]
  readonly criticalTemp_K: number
  readonly criticalPressure_bar: number
  readonly acentric: number
}
interface Pair {
  readonly e?: number
  readonly u?: number
  readonly k?: number
  readonly g?: number
}

const COMPONENTS: readonly Component[] = table.components
export const GAS_COMPONENTS = COMPONENTS.map((c) => c.name) as [string, ...string[]]
const TERMS = table.terms
const R = table.gasConstant_JmolK
const KELVIN = 273.15
/** How far a sum of mole fractions may lie from 1. */
const SUM_TOLERANCE = 1e-4
/** Terms from this one on belong to the higher densities; before it they make up the second virial coefficient. */
const FIRST_DENSE = 12
/** Terms whose straight part in density is taken off again. */
const LAST_BOTH = 18

const INDEX = new Map(GAS_COMPONENTS.map((name, i) => [name, i]))
const PAIRS = new Map<string, Pair>(
  table.pairs.map(({ of, ...pair }) => [
    of
      .map((name) => INDEX.get(name)!)
      .sort((a, b) => a - b)
      .join(' '),
    pair,
  ]),
)
const NONE: Pair = {}
const pairOf = (i: number, j: number): Pair => PAIRS.get(i < j ? `${i} ${j}` : `${j} ${i}`) ?? NONE

/** What of a mixture does not hang on temperature and density. */
interface Mixture {
  readonly x: readonly (readonly [Component, number])[]
  readonly molarMass: number
  /** Second-virial factor of each of its 18 terms. */
  readonly virial: Float64Array
  /** Factor of each denser term. */
  readonly dense: Float64Array
  readonly sizeCubed: number
  /** Mean of the components’ critical temperatures: above it no isotherm turns back. */
  readonly criticalTemp_K: number
}

function virialFactors(x: readonly (readonly [number, number])[]): Float64Array {
  const factors = new Float64Array(LAST_BOTH)
  for (let a = 0; a < x.length; a++)
    for (let b = a; b < x.length; b++) {
      const [i, xi] = x[a]!
      const [j, xj] = x[b]!
      const [ci, cj] = [COMPONENTS[i]!, COMPONENTS[j]!]
      const { e = 1, g = 1 } = i === j ? NONE : pairOf(i, j)
      const energy = e * Math.sqrt(ci.energy * cj.energy)
      const orientation = (g * (ci.orientation + cj.orientation)) / 2
      const size = (ci.size * cj.size) ** 1.5
      const share = (a === b ? 1 : 2) * xi * xj * size
      for (let n = 0; n < LAST_BOTH; n++) {
        const { a: coefficient, u, of } = TERMS[n]!
        let kind = 1
        if (of === 'G') kind = orientation
        else if (of === 'Q') kind = ci.quadrupole * cj.quadrupole
        else if (of === 'F') kind = Math.sqrt(ci.highTemperature * cj.highTemperature)
        else if (of === 'S') kind = ci.dipole * cj.dipole
        else if (of === 'W') kind = ci.association * cj.association
        factors[n]! += coefficient * share * energy ** u * kind
      }
    }
  return factors
}

function mixtureOf(composition: Composition): Mixture {
  const x: [number, number][] = []
  let sum = 0
  for (const [name, fraction = 0] of Object.entries(composition)) {
    const i = INDEX.get(name)
    if (i === undefined) throw new Refusal('unknown-component', `No gas here is called “${name}”.`)
    if (!(fraction >= 0)) throw new Refusal('composition-sum', `The fraction of ${name} is below 0.`)
    sum += fraction
    if (fraction > 0) x.push([i, fraction])
  }
  if (Math.abs(sum - 1) > SUM_TOLERANCE)
    throw new Refusal('composition-sum', `The mole fractions add up to ${Number(sum.toPrecision(6))}, not to 1.`)
  let [size, energy, orientation, quadrupole, high, mass] = [0, 0, 0, 0, 0, 0]
  for (const [i, xi] of x) {
    const c = COMPONENTS[i]!
    size += xi * c.size ** 2.5
    energy += xi * c.energy ** 2.5
    orientation += xi * c.orientation
    quadrupole += xi * c.quadrupole
    high += xi * xi * c.highTemperature
    mass += xi * c.molarMass
  }
  size **= 2
  energy **= 2
  for (let a = 0; a < x.length; a++)
    for (let b = a + 1; b < x.length; b++) {
      const [i, xi] = x[a]!
      const [j, xj] = x[b]!
      const { u = 1, k = 1, g = 1 } = pairOf(i, j)
      const [ci, cj] = [COMPONENTS[i]!, COMPONENTS[j]!]
      size += 2 * xi * xj * (k ** 5 - 1) * (ci.size * cj.size) ** 2.5
      energy += 2 * xi * xj * (u ** 5 - 1) * (ci.energy * cj.energy) ** 2.5
      orientation += xi * xj * (g - 1) * (ci.orientation + cj.orientation)
    }
  const u = energy ** 0.2
  const dense = Float64Array.from(TERMS, ({ a, u: power, of }, n) => {
    if (n < FIRST_DENSE) return 0
    const kind = of === 'G' ? orientation : of === 'Q' ? quadrupole ** 2 : of === 'F' ? high : 1
    return a * kind * u ** power
  })
  return {
    x: x.map(([i, xi]) => [COMPONENTS[i]!, xi]),
    molarMass: mass,
    virial: virialFactors(x),
    dense,
    sizeCubed: size ** 0.6,
    criticalTemp_K: x.reduce((sum, [i, xi]) => sum + xi * COMPONENTS[i]!.criticalTemp_K, 0),
  }
}

/** Coefficients at one temperature: second virial (and its temperature derivatives times T, T²) and the dense terms. */
interface Isotherm {
  readonly B: number
  readonly TdB: number
  readonly T2d2B: number
  readonly C: Float64Array
}

function isotherm(m: Mixture, T: number): Isotherm {
  let [B, TdB, T2d2B] = [0, 0, 0]
  const C = new Float64Array(TERMS.length)
  for (let n = 0; n < TERMS.length; n++) {
    const { u } = TERMS[n]!
    const power = T ** -u
    if (n < LAST_BOTH) {
      const value = m.virial[n]! * power
      B += value
      TdB -= u * value
      T2d2B += u * (u + 1) * value
    }
    C[n] = m.dense[n]! * power
  }
  return { B, TdB, T2d2B, C }
}

/** Sums over the residual Helmholtz energy a/RT: d·∂, d²·∂², and T-derivatives that the sound speed needs. */
function residual({ B, TdB, T2d2B, C }: Isotherm, sizeCubed: number, d: number, withT: boolean) {
  const D = sizeCubed * d
  let first = B * d
  let second = 0
  // With a = α(T, d)·RT: T·∂α/∂T, T²·∂²α/∂T², d·T·∂²α/∂d∂T.
  let [at, att, adt] = [TdB * d, T2d2B * d, TdB * d]
  for (let n = FIRST_DENSE; n < TERMS.length; n++) {
    const { b, c, k, u } = TERMS[n]!
    const ck = c ? D ** k : 0
    const value = C[n]! * D ** b * (c ? Math.exp(-ck) : 1)
    const s = b - k * ck
    const straight = n < LAST_BOTH ? C[n]! * D : 0
    first += value * s - straight
    second += value * (s * (s - 1) - k * k * ck)
    if (!withT) continue
    const both = value - straight
    at -= u * both
    att += u * (u + 1) * both
    adt -= u * (value * s - straight)
  }
  return { first, second, at, att, adt }
}

/** Heat capacity at constant volume of the ideal gas over R. Source: Jaeschke and Schley (1995) */
function idealHeat(m: Mixture, T: number): number {
  let sum = 0
  for (const [{ heat, theta }, x] of m.x) {
    let own = heat[0]! - 1
    for (let i = 0; i < theta.length; i++) {
      const q = theta[i]! / T
      if (q > 0) own += heat[i + 1]! * (q / (i % 2 === 0 ? Math.sinh(q) : Math.cosh(q))) ** 2
    }
    sum += x * own
  }
  return sum
}

/**
 * Viscosity of the dilute mixture, mPa·s, ± 10 % at up to about a quarter of the critical density.
 * Source: Lucas’s rule of corresponding states for each component, mixed after Herning and Zipperer
 */
function diluteViscosity(m: Mixture, T: number): number {
  let [above, below] = [0, 0]
  for (const [c, x] of m.x) {
    const t = T / c.criticalTemp_K
    const scale = 0.176 * (c.criticalTemp_K / (c.molarMass ** 3 * c.criticalPressure_bar ** 4)) ** (1 / 6)
    const own =
      (0.807 * t ** 0.618 - 0.357 * Math.exp(-0.449 * t) + 0.34 * Math.exp(-4.058 * t) + 0.018) / scale / 10_000
    above += x * own * Math.sqrt(c.molarMass)
    below += x * Math.sqrt(c.molarMass)
  }
  return above / below
}

const CLOSE = 1e-12
const MOST_ROUNDS = 60
const RANGE = { lowest_C: -130, highest_C: 400, highest_kPa: 280_000 }

/**
 * Gas mixture at a temperature and pressure.
 * @param composition mole fractions by name of `GAS_COMPONENTS`, adding up to 1 ± 1e-4
 * @param temp_C −130 … 400
 * @param pressure_kPa absolute, above 0, to 280 000
 * @throws Refusal `composition-sum`, `unknown-component`, `out-of-range`, `two-phase` where no gas of this kind exists
 * Source: AGA Report No. 8 Part 1 (2017), DETAIL equation; 0.1 % in density for pipeline gas from −8 to 62 °C up to
 * 12 MPa
 */
export function gasProperties(composition: Composition, temp_C: number, pressure_kPa: number): GasProperties {
  return gasOf(composition)(temp_C, pressure_kPa)
}

/**
 * A mixture, ready to be asked at many states; see `gasProperties`. @throws Refusal `composition-sum`,
 * `unknown-component`
 */
export function gasOf(composition: Composition): (temp_C: number, pressure_kPa: number) => GasProperties {
  const m = mixtureOf(composition)
  return (temp_C, pressure_kPa) => stateOf(m, temp_C, pressure_kPa)
}

function stateOf(m: Mixture, temp_C: number, pressure_kPa: number): GasProperties {
  if (!(temp_C >= RANGE.lowest_C && temp_C <= RANGE.highest_C && pressure_kPa > 0 && pressure_kPa <= RANGE.highest_kPa))
    throw new Refusal('out-of-range', knownRange('Gas', [-130, 400], 280_000))
  const T = temp_C + KELVIN
  const line = isotherm(m, T)
  // In logarithms of pressure and density, which leaves no negative density on the way. mol/l and kPa.
  let d = pressure_kPa / (R * T)
  for (let round = 0; round < MOST_ROUNDS; round++) {
    const { first, second } = residual(line, m.sizeCubed, d, false)
    const z = 1 + first
    const slope = 1 + 2 * first + second
    if (!(z > 0 && slope > 0)) {
      // On the way to a dense gas the slope can fail: come from closer to the ideal gas.
      if (round > 40) break
      d *= 0.8
      continue
    }
    const step = (Math.log(pressure_kPa) - Math.log(d * R * T * z)) * (z / slope)
    d *= Math.exp(Math.max(-0.7, Math.min(0.7, step)))
    if (Math.abs(step) >= CLOSE) continue
    if (T < m.criticalTemp_K && turnsBack(m, line, d)) break
    return propertiesAt({ m, line, T, pressure_kPa, d })
  }
  throw new Refusal(
    'two-phase',
    'At this temperature and pressure the mixture is no gas: it condenses, at least in part.',
  )
}

/** Whether the isotherm turns back on itself below `d`: then gas and liquid stand apart there. */
function turnsBack(m: Mixture, line: Isotherm, d: number): boolean {
  for (let step = 1; step < 24; step++) {
    const { first, second } = residual(line, m.sizeCubed, (d * step) / 24, false)
    if (!(1 + 2 * first + second > 0)) return true
  }
  return false
}

/**
 * How near a mixture is to its dew point: 1 is on it, above 1 part of it has condensed.
 * Source: Wilson’s rule for the vapour pressures, ideal mixing; a guide only, up to some 10 MPa
 */
export function dewRisk(composition: Composition, temp_C: number, pressure_kPa: number): number {
  const T = temp_C + KELVIN
  return Object.entries(composition).reduce((sum, [name, x = 0]) => {
    const c = COMPONENTS[INDEX.get(name) ?? -1]
    if (!c || !(x > 0)) return sum
    const share =
      ((c.criticalPressure_bar * 100) / pressure_kPa) * Math.exp(5.373 * (1 + c.acentric) * (1 - c.criticalTemp_K / T))
    return sum + x / share
  }, 0)
}

function propertiesAt({
  m,
  line,
  T,
  pressure_kPa,
  d,
}: {
  readonly m: Mixture
  readonly line: Isotherm
  readonly T: number
  readonly pressure_kPa: number
  readonly d: number
}): GasProperties {
  const { first, second, at, att, adt } = residual(line, m.sizeCubed, d, true)
  // c_v/R = c_v° − (2Tα_T + T²α_TT); ∂p/∂T/(dR) = 1 + dα_d + dTα_dT.
  const cv = idealHeat(m, T) - 2 * at - att
  const dpdT = 1 + first + adt
  const square = ((1 + 2 * first + second + dpdT ** 2 / cv) * (R * T * 1000)) / m.molarMass
  const density = d * m.molarMass
  return {
    molarMass_gmol: m.molarMass,
    z: pressure_kPa / (d * R * T),
    density_kgm3: density,
    soundSpeed_mps: Math.sqrt(square),
    isentropicExponent: (density * square) / (pressure_kPa * 1000),
    viscosity_mPas: diluteViscosity(m, T),
  }
}
