// The meter as entered: how deep it is put in, the law it is calibrated by, and its verification through a nozzle.
import { GAS_PRESETS, gasProperties, readComposition } from '../../fluid/index.ts'
import { insertionDepth, sonicNozzle, type Insertion, type NozzleGas, type ThermalLaw } from '../../flow/index.ts'
import { formatQuantity } from '../../quantity/index.ts'
import { attempt, Refusal } from '../../refusal/index.ts'
import { near, type StepPlan } from '../../sheet/index.ts'
import { ATMOSPHERE_kPa } from '../flow/shared.ts'
import type { Reader } from '../reader.ts'
import { BASELINE_POINTS, ROD_PRESSURE_bar, USUAL } from './fields.ts'
import { sure } from '../../sure/index.ts'

const positive = (v: number | undefined): v is number => v !== undefined && Number.isFinite(v) && v > 0

export function insertionOf(r: Reader): Insertion | undefined {
  const [od, wall, branch, valve, fitting, tip] = ['od', 'wall', 'branch', 'valve', 'fitting', 'tip'].map((k) =>
    r.in(k, 'mm'),
  )
  if (![od, wall, branch, valve, fitting, tip].every((v) => v !== undefined && v >= 0) || !positive(od))
    return undefined
  return insertionDepth({
    od_mm: od,
    wall_mm: sure(wall),
    branch_mm: sure(branch),
    valve_mm: sure(valve),
    fitting_mm: sure(fitting),
    tip_mm: sure(tip),
  })
}

/** Above it restraining rods are mandatory, bar gauge: as entered. */
export const rodLimit_bar = (r: Reader): number => r.in('rodLimit', 'bar') ?? ROD_PRESSURE_bar

/** The thermometers sit on the centre line, or a few millimetres beside it. */
export const depthPlan = (wanted_mm: number): StepPlan => ({
  against: `The centre line is at ${formatQuantity(wanted_mm, 'mm', { decimals: 0, trim: true })}`,
  ...near(wanted_mm, { good: 3, most: 10 }),
  else: 'Off the centre line it measures another speed. Move the stem, or correct what was typed.',
})

/** The meter's law in kg/h; undefined while it is missing or contradicts itself. */
export function lawOf(r: Reader): ThermalLaw | undefined {
  const [dtZero_K, dtFull_K, fullFlow] = [r.in('dtZero', 'delta_K'), r.in('dtFull', 'delta_K'), r.in('fullFlow', USUAL)]
  return positive(dtZero_K) && positive(dtFull_K) && positive(fullFlow) && dtFull_K < dtZero_K
    ? { dtZero_K, dtFull_K, fullFlow }
    : undefined
}

export const nozzleOf = (r: Reader) => {
  const [throat_mm, discharge] = [r.in('throat', 'mm'), Number(r.text('discharge').replace(',', '.') || Number.NaN)]
  return positive(throat_mm) && discharge > 0 && discharge <= 1.1
    ? { throat_mm, dischargeCoefficient: discharge, gas: (r.text('testGas') || 'nitrogen') as NozzleGas }
    : undefined
}

export interface VerificationStep {
  readonly n: number
  readonly pressure_bar: number
  /** Flow that the nozzle passes at today's temperature, kg/h. */
  readonly nozzle_kgph: number
  /** What the meter must show for it: its baseline reading, corrected for the gas temperature. */
  readonly expected_kgph: number
  readonly reading_kgph?: number
  readonly offPct?: number
  readonly inside?: boolean
}

/** The four steps of an in-place verification at a gas temperature, with what was read so far. */
export function verification(
  r: Reader,
  temp_C: number | undefined,
  readings: Readonly<Record<number, number>>,
): VerificationStep[] {
  const nozzle = nozzleOf(r)
  const base = r.in('baseTemp', 'degC')
  const limit = r.in('repeat', '%') ?? 2
  if (!nozzle || base === undefined) return []
  const today = temp_C ?? base
  return BASELINE_POINTS.flatMap((n) => {
    const [bar, baseline] = [r.in(`base${n}Pressure`, 'bar'), r.in(`base${n}Reading`, USUAL)]
    if (bar === undefined || !(bar > -1) || !positive(baseline) || !(today > -273)) return []
    const at = (t: number) =>
      sonicNozzle({ ...nozzle, pressure_kPa: bar * 100 + ATMOSPHERE_kPa, temp_C: t }).massFlow_kgph
    const nozzle_kgph = at(today)
    const expected_kgph = (baseline * nozzle_kgph) / at(base)
    const reading_kgph = readings[n]
    const head = { n, pressure_bar: bar, nozzle_kgph, expected_kgph }
    if (reading_kgph === undefined) return [head]
    const offPct = 100 * (reading_kgph / expected_kgph - 1)
    return [{ ...head, reading_kgph, offPct, inside: Math.abs(offPct) <= limit + 1e-9 }]
  })
}

/** How far a baseline reading may lie from the nozzle's flow, against the others of its certificate. */
const BASELINE_FACTOR = 2
/**
 * Steps whose reading over the nozzle's own flow is not that of the others: a point lost, or a pressure of another
 * step. Source: one nozzle passes in proportion to its pressure, so the ratios of one certificate are alike.
 */
export function oddBaselines(r: Reader): { n: number; reading_kgph: number; nozzle_kgph: number; usual: number }[] {
  const steps = verification(r, undefined, {}).map((s) => ({ ...s, ratio: s.expected_kgph / s.nozzle_kgph }))
  if (steps.length < 3) return []
  const sorted = steps.map((s) => s.ratio).sort((a, b) => a - b)
  const usual = sure(sorted[Math.floor((sorted.length - 1) / 2)])
  return steps
    .filter((s) => s.ratio > BASELINE_FACTOR * usual || s.ratio < usual / BASELINE_FACTOR)
    .map(({ n, expected_kgph, nozzle_kgph }) => ({ n, reading_kgph: expected_kgph, nozzle_kgph, usual }))
}

export function gasDensity(r: Reader): number | Refusal | undefined {
  const preset = GAS_PRESETS.find((p) => p.id === r.text('gas'))
  const [temp, bar] = [r.in('fluidTemp', 'degC'), r.in('fluidPressure', 'bar')]
  if (temp === undefined || bar === undefined || (!preset && !r.text('composition'))) return undefined
  return attempt(
    () =>
      gasProperties(
        preset?.composition ?? readComposition(r.text('composition')).composition,
        temp,
        bar * 100 + ATMOSPHERE_kPa,
      ).density_kgm3,
  )
}
