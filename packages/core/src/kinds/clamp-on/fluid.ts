// The fluid of a clamp-on point: its sound speed, density and viscosity, and how they hang on what was entered.
import {
  GAS_MODEL,
  GAS_PRESETS,
  gasProperties,
  dewRisk,
  LIQUIDS,
  liquidProperties,
  readComposition,
  seawaterProperties,
  waterProperties,
  type Composition,
} from '../../fluid/index.ts'
import { attempt, Refusal } from '../../refusal/index.ts'
import { ATMOSPHERE_kPa } from '../flow/shared.ts'
import type { Reader } from '../reader.ts'
import { sure } from '../../sure/index.ts'

export interface Fluid {
  readonly name: string
  readonly medium: 'liquid' | 'gas'
  readonly soundSpeed_mps: number
  readonly density_kgm3: number
  readonly viscosity_mPas: number
  readonly kinematic_cSt: number
  /** What gave these figures. */
  readonly model: string
  readonly temp_C: number
  readonly pressure_kPa: number
  readonly composition?: Composition
  readonly dewRisk?: number
  /** Sound speed at another temperature; may refuse. */
  readonly speedAt: (temp_C: number) => number
  /** How sure the sound speed of its equation or table is, ± % (two standard deviations). */
  readonly speedDoubtPct: number
  /** With something else than entered; may refuse. */
  readonly otherwise: (change: FluidChange) => FluidState
}

export interface FluidState {
  readonly soundSpeed_mps: number
  readonly density_kgm3: number
  /** Of a gas. */
  readonly composition?: Composition
}

/** What may be otherwise than entered, as a change; nothing changes with what the fluid has not. */
export interface FluidChange {
  readonly temp_C?: number
  readonly pressure_kPa?: number
  readonly salinity_gkg?: number
  /** Moved from the most common component of a gas to the next. */
  readonly share?: number
}

/** Sound speeds by their equations: IAPWS-95 and TEOS-10 0.1 %, DETAIL 0.2 %; one’s own figures 1 %. */
const SPEED_DOUBT_PCT = { equation: 0.1, gas: 0.2, own: 1 }

/** The composition that counts: the preset’s, or what was typed, as fractions. */
export function compositionOf(r: Reader): { composition: Composition; sum: number } | Refusal | undefined {
  const preset = GAS_PRESETS.find((p) => p.id === r.text('gas'))
  if (preset) return { composition: preset.composition, sum: 1 }
  const text = r.text('composition')
  return text ? attempt(() => readComposition(text)) : undefined
}

/**
 * A share of the most common component exchanged for the next; a pure gas can only be less pure, by nitrogen or
 * oxygen.
 */
function moved(composition: Composition, share: number): Composition {
  const sorted = Object.entries(composition).sort(([, a = 0], [, b = 0]) => b - a)
  const [[first, most = 0], [second, least = 0] = []] = [sure(sorted[0]), sorted[1]]
  const given = second === undefined ? Math.abs(share) : Math.max(-least, Math.min(share, most))
  const other = second ?? (first === 'nitrogen' ? 'oxygen' : 'nitrogen')
  return { ...composition, [first]: most - given, [other]: (composition[other] ?? 0) + given }
}

function gasOf(r: Reader, temp_C: number, pressure_kPa: number): Fluid | Refusal | undefined {
  const read = compositionOf(r)
  if (read === undefined || read instanceof Refusal) return read
  const { composition } = read
  const own = r.in('ownViscosity', 'mPa.s')
  return attempt(() => {
    const p = gasProperties(composition, temp_C, pressure_kPa)
    const viscosity = own ?? p.viscosity_mPas
    return {
      name: GAS_PRESETS.find((g) => g.id === r.text('gas'))?.name ?? 'the entered gas',
      medium: 'gas' as const,
      soundSpeed_mps: p.soundSpeed_mps,
      density_kgm3: p.density_kgm3,
      viscosity_mPas: viscosity,
      kinematic_cSt: (1000 * viscosity) / p.density_kgm3,
      model: GAS_MODEL,
      temp_C,
      pressure_kPa,
      composition,
      dewRisk: dewRisk(composition, temp_C, pressure_kPa),
      speedAt: (t: number) => gasProperties(composition, t, pressure_kPa).soundSpeed_mps,
      speedDoubtPct: SPEED_DOUBT_PCT.gas,
      otherwise: ({ temp_C: warmer = 0, pressure_kPa: more = 0, share = 0 }) => {
        const other = moved(composition, share)
        return { ...gasProperties(other, temp_C + warmer, pressure_kPa + more), composition: other }
      },
    }
  })
}

function liquidOf(r: Reader, temp_C: number, pressure_kPa: number): Fluid | Refusal | undefined {
  const id = r.text('liquid')
  const own = r.in('ownViscosity', 'mPa.s')
  const make = (
    name: string,
    { model, pct }: { readonly model: string; readonly pct: number },
    at: (t: number, change?: FluidChange) => { soundSpeed_mps: number; density_kgm3: number; viscosity_mPas: number },
  ): Fluid => {
    const p = at(temp_C)
    const viscosity = own ?? p.viscosity_mPas
    return {
      name,
      medium: 'liquid',
      model,
      temp_C,
      pressure_kPa,
      soundSpeed_mps: p.soundSpeed_mps,
      density_kgm3: p.density_kgm3,
      viscosity_mPas: viscosity,
      kinematic_cSt: (1000 * viscosity) / p.density_kgm3,
      speedAt: (t) => at(t).soundSpeed_mps,
      speedDoubtPct: pct,
      otherwise: (change) => at(temp_C + (change.temp_C ?? 0), change),
    }
  }
  const equation = (model: string) => ({ model, pct: SPEED_DOUBT_PCT.equation })
  if (id === 'water')
    return attempt(() =>
      make('water', equation('IAPWS-95, viscosity IAPWS 2008'), (t) =>
        waterProperties(Math.max(0.01, t), pressure_kPa),
      ),
    )
  if (id === 'seawater') {
    const salinity = r.in('salinity', 'g/kg')
    if (salinity === undefined) return undefined
    return attempt(() =>
      make('seawater', equation('TEOS-10'), (t, { salinity_gkg = 0 } = {}) =>
        seawaterProperties(salinity + salinity_gkg, t, pressure_kPa),
      ),
    )
  }
  if (id === 'own') {
    const [speed, density] = [r.in('ownSpeed', 'm/s'), r.in('ownDensity', 'kg/m3')]
    if (speed === undefined || density === undefined || own === undefined) return undefined
    if (!(speed > 0 && density > 0 && own > 0))
      return new Refusal('not-positive', 'Sound speed, density and viscosity are above 0.')
    return make('the entered liquid', { model: 'own figures', pct: SPEED_DOUBT_PCT.own }, () => ({
      soundSpeed_mps: speed,
      density_kgm3: density,
      viscosity_mPas: own,
    }))
  }
  const row = LIQUIDS.find((l) => l.id === id)
  return (
    row &&
    attempt(() =>
      make(row.name, { model: `table of liquids, ± ${row.accuracyPct} %`, pct: row.accuracyPct }, (t) =>
        liquidProperties(row, t),
      ),
    )
  )
}

/** The fluid of the entries; a refusal where they contradict each other, undefined while something is missing. */
export function fluidOf(r: Reader): Fluid | Refusal | undefined {
  const [temp, gauge] = [r.in('fluidTemp', 'degC'), r.in('fluidPressure', 'kPa')]
  if (temp === undefined || gauge === undefined) return undefined
  const pressure = gauge + ATMOSPHERE_kPa
  if (!(pressure > 0)) return new Refusal('out-of-range', 'The pressure is below a vacuum.')
  return r.text('medium') === 'gas' ? gasOf(r, temp, pressure) : liquidOf(r, temp, pressure)
}

/** What the fluid still needs. */
export const fluidNeeds = (r: Reader): string[] =>
  r.text('medium') === 'gas'
    ? r.missing('gas', 'composition', 'fluidTemp', 'fluidPressure')
    : [
        ...r.missing('liquid', 'salinity', 'fluidTemp', 'fluidPressure', 'ownSpeed', 'ownDensity'),
        ...(r.text('liquid') === 'own' ? r.missing('ownViscosity') : []),
      ]
