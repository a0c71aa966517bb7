// What an orifice plate comes to: ratio of diameters, coefficients, losses, flow at the ends, and its doubt.
import { saturationTemperature_C } from '../../fluid/index.ts'
import {
  coefficientDoubtPct,
  expansibilityDoubtPct,
  orificeFlow,
  outsideLimits,
  type FlowModel,
} from '../../flow/index.ts'
import { formatQuantity as show } from '../../quantity/index.ts'
import { attempt, Refusal } from '../../refusal/index.ts'
import { figure } from '../flow/shared.ts'
import type { Figure } from '../kind.ts'
import type { Reader } from '../reader.ts'
import { USUAL } from './fields.ts'
import { type Plate, dpAt, positive } from './plate.ts'
import { sure } from '../../sure/index.ts'

const source = 'ISO 5167-2:2003'

const superheat = (r: Reader, pressure_kPa: number): Figure =>
  figure({
    id: 'superheat',
    label: 'Above the boiling point by',
    unit: 'K',
    decimals: 1,
    value:
      r.in('fluidTemp', 'degC') === undefined
        ? undefined
        : sure(r.in('fluidTemp', 'degC')) - saturationTemperature_C(pressure_kPa),
    from: {
      needs: r.missing('fluidTemp'),
      working: () => ({
        formula: 't − t(sat)',
        numbers:
          `${show(sure(r.in('fluidTemp', 'degC')), 'degC', { trim: true })} − ` +
          `${show(saturationTemperature_C(pressure_kPa), 'degC', { decimals: 1 })}`,
        source: 'IAPWS SR1-86',
      }),
    },
  })

function cutoffFigure(r: Reader, p: Plate, says: string): Figure {
  const cutoff = r.in('cutoff', USUAL)
  const cutoffDp = p.plate && positive(cutoff) ? attempt(() => dpAt(sure(p.plate), cutoff)) : undefined
  return figure({
    id: 'dp-cutoff',
    label: 'Differential pressure at the cutoff',
    unit: 'mbar',
    decimals: 3,
    value: typeof cutoffDp === 'number' ? cutoffDp : undefined,
    from: {
      needs: [...p.needs, ...r.missing('cutoff')],
      says: cutoffDp instanceof Refusal ? cutoffDp.message : says,
      working: () => ({ formula: 'Δp at the cutoff flow', numbers: show(sure(cutoff), USUAL), source }),
    },
  })
}

export function figuresOf(r: Reader, p: Plate): Figure[] {
  const full = p.full && !(p.full instanceof Refusal) ? p.full : undefined
  const says =
    p.full instanceof Refusal
      ? p.full.message
      : p.fluid instanceof Refusal
        ? p.fluid.message
        : 'a figure is not above 0'
  const needs = [...p.needs, ...r.missing('urv')]
  const fluid = p.fluid && !(p.fluid instanceof Refusal) ? p.fluid : undefined
  const steam = r.text('fluid') === 'steam' && positive(p.pressure_kPa) && p.pressure_kPa < 22_000
  const from = (formula: string, numbers: () => string, of = source) => ({
    needs,
    says,
    working: () => ({ formula, numbers: numbers(), source: of }),
  })
  const fluidFrom = (formula: string) => ({
    needs: r.missing('fluid', 'fluidTemp', 'fluidPressure', 'ownDensity', 'ownViscosity'),
    says,
    working: () => ({
      formula,
      numbers:
        `at ${show(sure(r.in('fluidTemp', 'degC')), 'degC', { trim: true })} and ` +
        `${show(sure(p.pressure_kPa), 'kPa', { decimals: 0 })} absolute`,
      source: sure(fluid).model,
    }),
  })
  return [
    figure({
      id: 'dp-full',
      label: 'Differential pressure at the upper range value',
      unit: 'mbar',
      decimals: 2,
      value: full && full.dp_kPa * 10,
      from: from(
        'ṁ = C/√(1 − β⁴)·ε·π/4·d²·√(2·Δp·ρ), solved for Δp',
        () =>
          `${show(sure(r.in('urv', USUAL)), USUAL)}: C ${sure(full).dischargeCoefficient.toFixed(5)}, ε ` +
          `${sure(full).expansibility.toFixed(5)}`,
      ),
    }),
    figure({
      id: 'beta',
      label: 'β, bore over pipe',
      unit: '1',
      decimals: 4,
      value:
        positive(r.in('bore', 'mm')) && positive(r.in('pipeBore', 'mm'))
          ? sure(r.in('bore', 'mm')) / sure(r.in('pipeBore', 'mm'))
          : undefined,
      from: {
        needs: r.missing('bore', 'pipeBore'),
        says,
        working: () => ({
          formula: 'β = d / D',
          numbers: `${show(sure(r.in('bore', 'mm')), 'mm')} / ${show(sure(r.in('pipeBore', 'mm')), 'mm')}`,
          source,
        }),
      },
    }),
    figure({
      id: 'coefficient',
      label: 'Discharge coefficient at full flow',
      unit: '1',
      decimals: 5,
      value: full?.dischargeCoefficient,
      from: from(
        'C by Reader-Harris/Gallagher',
        () => `β ${sure(full).beta.toFixed(4)}, Re ${Math.round(sure(full).reynolds)}, ${r.text('taps')} taps`,
      ),
    }),
    figure({
      id: 'expansibility',
      label: 'Expansibility at full flow',
      unit: '1',
      decimals: 5,
      value: full?.expansibility,
      from: from('ε = 1 − (0.351 + 0.256β⁴ + 0.93β⁸)·(1 − (p₂/p₁)^(1/κ))', () =>
        fluid?.exponent ? `κ ${fluid.exponent.toFixed(3)}` : 'a liquid does not expand',
      ),
    }),
    figure({
      id: 'reynolds',
      label: 'Reynolds number at full flow',
      unit: '1',
      decimals: 0,
      value: full?.reynolds,
      from: from('Re = 4·ṁ / (π·η·D)', () => `viscosity ${show(sure(fluid).viscosity_mPas, 'mPa.s', { decimals: 5 })}`),
    }),
    figure({
      id: 'density',
      label: 'Density',
      unit: 'kg/m3',
      decimals: 3,
      value: fluid?.density_kgm3,
      from: fluidFrom('ρ of the fluid'),
    }),
    ...(steam ? [superheat(r, sure(p.pressure_kPa))] : []),
    cutoffFigure(r, p, says),
  ]
}

/** What an edge that nobody looked at, or that is no longer sharp, may do to the flow, ± %: working figures. */
const EDGE_PCT: Readonly<Record<string, number>> = { sharp: 0, unseen: 0.5, rounded: 2 }

export function modelOf(r: Reader, p: Plate): FlowModel | undefined {
  const full = p.full && !(p.full instanceof Refusal) ? p.full : undefined
  if (!p.plate || !full) return undefined
  const plate = p.plate
  // Mid range of the flow is a quarter of the differential pressure.
  const dp = full.dp_kPa / 4
  const mid = orificeFlow({ ...plate, dp_kPa: dp })
  const beyond = outsideLimits({ ...plate, dp_kPa: dp }, mid).length > 0
  const share = (key: string) => (r.in(key, '%') ?? 0) / 100
  return {
    inputs: [
      {
        key: 'bore',
        label: 'Bore of the plate',
        unit: 'mm',
        value: plate.bore_mm,
        tolerance: r.in('boreDoubt', 'mm') ?? 0,
        distribution: 'rectangular',
      },
      {
        key: 'pipeBore',
        label: 'Inside diameter of the pipe',
        unit: 'mm',
        value: plate.pipe_mm,
        tolerance: r.in('pipeDoubt', 'mm') ?? 0,
        distribution: 'rectangular',
      },
      {
        key: 'density',
        label: 'Density',
        unit: 'kg/m3',
        value: plate.density_kgm3,
        tolerance: plate.density_kgm3 * share('densityDoubt'),
        distribution: 'rectangular',
      },
      {
        key: 'dp',
        label: 'Differential pressure',
        unit: 'mbar',
        value: dp * 10,
        tolerance: dp * 10 * share('dpDoubt'),
        distribution: 'normal',
      },
      {
        key: 'coefficient',
        label: beyond
          ? 'Discharge coefficient, outside the standard: twice its doubt'
          : 'Discharge coefficient, the standard’s own doubt',
        unit: '%',
        value: 0,
        tolerance: coefficientDoubtPct(plate, mid.reynolds) * (beyond ? 2 : 1),
        distribution: 'normal',
      },
      {
        key: 'edge',
        label: 'Edge of the plate',
        unit: '%',
        value: 0,
        tolerance: EDGE_PCT[r.text('edge')] ?? 0,
        distribution: 'rectangular',
      },
      {
        key: 'expansibility',
        label: 'Expansibility, the standard’s own doubt',
        unit: '%',
        value: 0,
        tolerance: expansibilityDoubtPct({ ...plate, dp_kPa: dp }),
        distribution: 'normal',
      },
    ],
    outputs: [{ id: 'flow', label: 'Mass flow', unit: USUAL, decimals: 2 }],
    compute: (v) => [
      orificeFlow({
        ...plate,
        bore_mm: sure(v[0]),
        pipe_mm: sure(v[1]),
        density_kgm3: sure(v[2]),
        dp_kPa: sure(v[3]) / 10,
      }).massFlow_kgps *
        3600 *
        (1 + sure(v[4]) / 100) *
        (1 + sure(v[5]) / 100) *
        (1 + sure(v[6]) / 100),
    ],
  }
}
