// The plate as entered: its geometry, the fluid in it, and the full flow that the cell is ranged for.
import { GAS_MODEL, GAS_PRESETS, gasProperties, steamProperties, waterProperties } from '../../fluid/index.ts'
import { orificeDp, orificeFlow, type OrificeInput, type OrificeResult, type Taps } from '../../flow/index.ts'
import { attempt, Refusal } from '../../refusal/index.ts'
import { ATMOSPHERE_kPa } from '../flow/shared.ts'
import type { Reader } from '../reader.ts'

export const positive = (v: number | undefined): v is number => v !== undefined && Number.isFinite(v) && v > 0

export interface Plate {
  readonly plate: Omit<OrificeInput, 'dp_kPa'> | undefined
  readonly fluid:
    | {
        readonly density_kgm3: number
        readonly viscosity_mPas: number
        readonly model: string
        readonly exponent?: number
      }
    | Refusal
    | undefined
  readonly pressure_kPa: number | undefined
  /** What stands at the upper range value, and at mid range. */
  readonly full: (OrificeResult & { dp_kPa: number }) | Refusal | undefined
  readonly needs: readonly string[]
}

function fluidOf(r: Reader, temp: number, pressure: number): Plate['fluid'] {
  const id = r.text('fluid')
  if (id === 'steam')
    return attempt(() => {
      const s = steamProperties(temp, pressure)
      return {
        density_kgm3: s.density_kgm3,
        viscosity_mPas: s.viscosity_mPas,
        exponent: s.isentropicExponent,
        model: 'IAPWS-95, viscosity IAPWS 2008',
      }
    })
  if (id === 'water')
    return attempt(() => ({
      ...waterProperties(Math.max(0.01, temp), pressure),
      model: 'IAPWS-95, viscosity IAPWS 2008',
    }))
  if (id === 'own') {
    const [density_kgm3, viscosity_mPas] = [r.in('ownDensity', 'kg/m3'), r.in('ownViscosity', 'mPa.s')]
    if (density_kgm3 === undefined || viscosity_mPas === undefined) return undefined
    if (!(density_kgm3 > 0 && viscosity_mPas > 0))
      return new Refusal('not-positive', 'Density and viscosity are above 0.')
    return { density_kgm3, viscosity_mPas, model: 'own figures' }
  }
  const gas = GAS_PRESETS.find((p) => p.id === id)
  return (
    gas &&
    attempt(() => {
      const g = gasProperties(gas.composition, temp, pressure)
      return {
        density_kgm3: g.density_kgm3,
        viscosity_mPas: g.viscosity_mPas,
        exponent: g.isentropicExponent,
        model: GAS_MODEL,
      }
    })
  )
}

/** Entries that plate and fluid hang on. */
export const OF_THE_PLATE = [
  'pipeBore',
  'bore',
  'taps',
  'fluid',
  'fluidTemp',
  'fluidPressure',
  'ownDensity',
  'ownViscosity',
  'urv',
] as const

export function plateOf(r: Reader): Plate {
  const needs = r.missing('pipeBore', 'bore', 'fluid', 'fluidTemp', 'fluidPressure', 'ownDensity', 'ownViscosity')
  const [pipe_mm, bore_mm, temp, gauge] = [
    r.in('pipeBore', 'mm'),
    r.in('bore', 'mm'),
    r.in('fluidTemp', 'degC'),
    r.in('fluidPressure', 'kPa'),
  ]
  const pressure_kPa = gauge === undefined ? undefined : gauge + ATMOSPHERE_kPa
  const fluid = temp === undefined || !positive(pressure_kPa) ? undefined : fluidOf(r, temp, pressure_kPa)
  if (!positive(pipe_mm) || !positive(bore_mm) || !fluid || fluid instanceof Refusal || !pressure_kPa)
    return { plate: undefined, fluid, pressure_kPa, full: undefined, needs }
  const plate: Omit<OrificeInput, 'dp_kPa'> = {
    pipe_mm,
    bore_mm,
    taps: (r.text('taps') || 'flange') as Taps,
    density_kgm3: fluid.density_kgm3,
    viscosity_mPas: fluid.viscosity_mPas,
    ...(fluid.exponent ? { compressible: { pressure_kPa, isentropicExponent: fluid.exponent } } : {}),
  }
  const urv = r.in('urv', 'kg/s')
  return { plate, fluid, pressure_kPa, needs, full: positive(urv) ? attempt(() => orificeDp(plate, urv)) : undefined }
}

/** Flow in kg/h at a differential pressure in mbar, and back. @throws Refusal */
export const flowAt = (plate: Omit<OrificeInput, 'dp_kPa'>, dp_mbar: number): number =>
  dp_mbar <= 0 ? 0 : orificeFlow({ ...plate, dp_kPa: dp_mbar / 10 }).massFlow_kgps * 3600
export const dpAt = (plate: Omit<OrificeInput, 'dp_kPa'>, flow_kgph: number): number =>
  flow_kgph <= 0 ? 0 : orificeDp(plate, flow_kgph / 3600).dp_kPa * 10

export const rootFlow = (dp_mbar: number, full: { dp_kPa: number }, urv_kgph: number): number =>
  Math.sign(dp_mbar) * urv_kgph * Math.sqrt(Math.abs(dp_mbar) / (full.dp_kPa * 10))
