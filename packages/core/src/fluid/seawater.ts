// Seawater: the equation of pure water and what its salt adds.
import { knownRange } from './known-range.ts'
import { Refusal } from '../refusal/index.ts'
import table from './seawater-coefficients.json' with { type: 'json' }
import { soundSpeedOf, waterState, waterViscosity_mPas, type WaterState } from './water-equation.ts'
import type { FluidProperties } from './water.ts'

const KELVIN = 273.15
const ATMOSPHERE_kPa = 101.325
/** Salinity by which the polynomial is reduced, g/kg. */
const REDUCING_gkg = (35.16504 * 40) / 35

/** Derivatives of the saline part of the Gibbs energy: by pressure (Pa) and temperature (K), in SI per kilogram. */
function saline(salinity_gkg: number, T: number, sea_kPa: number) {
  const x = Math.sqrt(salinity_gkg / REDUCING_gkg)
  const y = (T - KELVIN) / 40
  const z = sea_kPa / 1e5
  let [tt, p, tp, pp] = [0, 0, 0, 0]
  if (x > 0)
    for (const [g, i, j, k] of table.terms as unknown as readonly (readonly [number, number, number, number])[]) {
      const ofX = i === 1 ? x * x * Math.log(x) : x ** i
      if (j >= 2) tt += g * ofX * j * (j - 1) * y ** (j - 2) * z ** k
      if (k >= 1) p += g * ofX * y ** j * k * z ** (k - 1)
      if (j >= 1 && k >= 1) tp += g * ofX * j * y ** (j - 1) * k * z ** (k - 1)
      if (k >= 2) pp += g * ofX * y ** j * k * (k - 1) * z ** (k - 2)
    }
  return { tt: tt / 40 ** 2, p: p / 1e8, tp: tp / 40 / 1e8, pp: pp / 1e16 }
}

/** The same derivatives of pure water, from its Helmholtz energy. */
function pure(s: WaterState) {
  const perSquare = s.density_kgm3 ** 2 * s.dp_drho
  return {
    tt: s.d2f_dT2 - s.dp_dT ** 2 / perSquare,
    p: 1 / s.density_kgm3,
    tp: s.dp_dT / perSquare,
    pp: -1 / perSquare,
  }
}

/**
 * Seawater.
 * @param salinity_gkg absolute salinity, 0 … 42
 * @param temp_C −2 … 40
 * @param pressure_kPa absolute, to 10 000
 * @returns density and sound speed after TEOS-10; viscosity that of pure water raised by salt (± 1.5 %)
 * @throws Refusal `out-of-range`
 * Source: TEOS-10: IAPWS R6-95(2018) with IAPWS R13-08; viscosity ratio after Sharqawy, Lienhard and Zubair (2010)
 */
export function seawaterProperties(salinity_gkg: number, temp_C: number, pressure_kPa: number): FluidProperties {
  if (!(
    salinity_gkg >= 0 &&
    salinity_gkg <= 42 &&
    temp_C >= -2 &&
    temp_C <= 40 &&
    pressure_kPa > 0 &&
    pressure_kPa <= 10_000
  ))
    throw new Refusal('out-of-range', knownRange('Seawater of up to 42 g/kg', [-2, 40], 10_000))
  const T = temp_C + KELVIN
  const water = waterState(T, pressure_kPa * 1000, 1005)
  const w = pure(water)
  const s = saline(salinity_gkg, T, pressure_kPa - ATMOSPHERE_kPa)
  const [tt, p, tp, pp] = [w.tt + s.tt, w.p + s.p, w.tp + s.tp, w.pp + s.pp]
  const share = salinity_gkg / 1000
  const thicker =
    1 +
    (1.541 + 1.998e-2 * temp_C - 9.52e-5 * temp_C ** 2) * share +
    (7.974 - 7.561e-2 * temp_C + 4.724e-4 * temp_C ** 2) * share ** 2
  return {
    density_kgm3: 1 / p,
    soundSpeed_mps: salinity_gkg === 0 ? soundSpeedOf(water, T) : p * Math.sqrt(tt / (tp * tp - tt * pp)),
    viscosity_mPas: waterViscosity_mPas(T, water.density_kgm3) * thicker,
  }
}
