// What a clamp-on pair comes to: bore, angles, spacing, transit times, profile, flow at the ends.
import { clampOnGeometry } from '../../flow/index.ts'
import { convertUnit, formatQuantity as show } from '../../quantity/index.ts'
import { carriedReader } from '../flow/carried.ts'
import { CARRIED, gasFlowOf, conditionsOf, conditionsWords, perReference } from './carried.ts'
import { Refusal } from '../../refusal/index.ts'
import { figure } from '../flow/shared.ts'
import type { Figure } from '../kind.ts'
import type { Reader } from '../reader.ts'
import { flowOfZero, usualCutoff } from './cutoff.ts'
import { meanVelocity, timesOf } from './meter.ts'
import { beamOf, knownFluid, spacingOf, type ClampOn } from './setup.ts'
import { runOf } from './place.ts'
import { beamNeeds, midFlow } from './thread.ts'
import { sure } from '../../sure/index.ts'

/** What every figure of the pair is worked out from. */
function groundOf(r: Reader, c: ClampOn) {
  const needs = beamNeeds(c)
  const says = c.beam instanceof Refusal ? c.beam.message : c.fluid instanceof Refusal ? c.fluid.message : undefined
  return {
    r,
    c,
    input: c.input,
    beam: beamOf(c),
    fluid: knownFluid(c),
    spacing: spacingOf(c, r),
    needs,
    from: (formula: string, numbers: string, source: string) => ({
      needs,
      says,
      working: () => ({ formula, numbers, source }),
    }),
  }
}
type Ground = ReturnType<typeof groundOf>
const n = (v: number, unit: string, decimals = 2) => show(v, unit, { decimals })

function spacingFigures({ r, input, beam, spacing, needs, from }: Ground): Figure[] {
  return [
    figure({
      id: 'spacing',
      label: 'Spacing',
      unit: 'mm',
      decimals: 1,
      value: spacing?.spacing_mm,
      from: from(
        's = 2·w·tan α + 2·l·tan β + n·d·tan θ + 2·offset',
        beam && input
          ? `${n(input.wall_mm, 'mm')} wall at ${n(beam.wallAngle_deg, 'deg', 1)}, ${input.traverses} × ` +
              `${n(beam.id_mm, 'mm', 1)} at ` +
              `${n(beam.fluidAngle_deg, 'deg', 2)}${input.liner_mm ? `, liner ${n(input.liner_mm, 'mm', 1)}` : ''}, ` +
              `offset ${n(r.in('faceOffset', 'mm') ?? 0, 'mm', 1)}`
          : '',
        'Law of refraction at each layer',
      ),
    }),
    figure({
      id: 'spacing-in',
      label: 'Spacing in inches',
      unit: 'in',
      decimals: 3,
      value: spacing && convertUnit(spacing.spacing_mm, 'mm', 'in'),
      from: from('s / 25.4', spacing ? n(spacing.spacing_mm, 'mm', 1) : '', 'Definition of the inch'),
    }),
    figure({
      id: 'holes',
      label: 'Hole of the index bar',
      unit: '1',
      decimals: 0,
      value: spacing?.holes,
      from: {
        needs: [...needs, ...r.missing('barPitch')],
        says: 'needs a pitch above 0',
        working: () => ({
          formula: 'hole = spacing / pitch, to the nearest',
          numbers:
            `${n(sure(spacing).spacing_mm, 'mm', 1)} / ${n(sure(r.in('barPitch', 'mm')), 'mm', 1)}, off by ` +
            `${show(sure(sure(spacing).holeError_mm), 'mm', { decimals: 1, sign: true })}`,
          source: 'The bar as entered',
        }),
      },
    }),
    figure({
      id: 'bore',
      label: 'Bore',
      unit: 'mm',
      decimals: 2,
      value: beam?.id_mm,
      from: from(
        'd = D − 2·w − 2·l',
        input
          ? `${n(input.od_mm, 'mm')} − 2 × ` +
              `${n(input.wall_mm, 'mm')}${input.liner_mm ? ` − 2 × ${n(input.liner_mm, 'mm')}` : ''}`
          : '',
        'The pipe as entered',
      ),
    }),
  ]
}

function fluidFigures({ r, c, fluid }: Ground): Figure[] {
  const says = c.fluid instanceof Refusal ? c.fluid.message : undefined
  const from = (formula: string, numbers: string, source: string) => ({
    needs: c.fluidNeeds,
    says,
    working: () => ({ formula, numbers, source }),
  })
  const fluidSource = fluid?.model ?? ''
  const fluidNumbers = fluid
    ? `${fluid.name} at ${n(fluid.temp_C, 'degC', 1)} and ${n(fluid.pressure_kPa, 'kPa', 0)} absolute, by ` +
      `${fluid.model}`
    : ''
  return [
    figure({
      id: 'sound-speed',
      label: 'Sound speed expected',
      unit: 'm/s',
      decimals: 1,
      value: fluid?.soundSpeed_mps,
      from: from('c of the fluid', fluidNumbers, fluidSource),
    }),
    figure({
      id: 'density',
      label: 'Density',
      unit: 'kg/m3',
      decimals: 2,
      value: fluid?.density_kgm3,
      from: from('ρ of the fluid', fluidNumbers, fluidSource),
    }),
    figure({
      id: 'viscosity',
      label: 'Kinematic viscosity',
      unit: 'cSt',
      decimals: 3,
      value: fluid?.kinematic_cSt,
      from: from(
        'ν = η / ρ',
        fluid ? `${n(fluid.viscosity_mPas, 'mPa.s', 4)} / ${n(fluid.density_kgm3, 'kg/m3', 1)}` : '',
        r.in('ownViscosity', 'mPa.s') === undefined ? fluidSource : 'viscosity as entered',
      ),
    }),
  ]
}

function beamFigures({ r, c, input, beam, fluid, needs, from }: Ground): Figure[] {
  const flow = midFlow(r, c)
  return [
    figure({
      id: 'angle',
      label: 'Angle in the fluid',
      unit: 'deg',
      decimals: 2,
      value: beam?.fluidAngle_deg,
      from: from(
        'sin θ / c = sin φ / c(wedge)',
        input
          ? `asin(${n(input.fluidSpeed_mps, 'm/s', 1)} × sin ${n(input.wedgeAngle_deg, 'deg', 1)} / ` +
              `${n(input.wedgeSpeed_mps, 'm/s', 0)})`
          : '',
        'Law of refraction',
      ),
    }),
    figure({
      id: 'transit',
      label: 'Time in the fluid, no flow',
      unit: 'us',
      decimals: 2,
      value: beam?.fluidTransit_us,
      from: from(
        't = P / c',
        beam && input ? `${n(beam.fluidPath_mm, 'mm', 1)} / ${n(input.fluidSpeed_mps, 'm/s', 1)}` : '',
        'Path over sound speed',
      ),
    }),
    figure({
      id: 'reynolds',
      label: 'Reynolds number at mid range',
      unit: '1',
      decimals: 0,
      value:
        beam && fluid && flow !== undefined
          ? timesOf(sure(input), fluid.kinematic_cSt, meanVelocity(flow, beam.id_mm)).reynolds
          : undefined,
      from: {
        needs: [...needs, ...carriedReader(CARRIED, r).missing('lrv', 'urv')],
        working: () => ({
          formula: 'Re = v·d / ν',
          numbers:
            `${n(meanVelocity(sure(flow), sure(beam).id_mm), 'm/s')} × ${n(sure(beam).id_mm, 'mm', 1)} / ` +
            `${n(sure(fluid).kinematic_cSt, 'cSt', 3)}`,
          source: 'Mean velocity in the bore',
        }),
      },
    }),
  ]
}

/** The flow at the middle of the range as it runs, at reference conditions and as mass. */
function gasFigures({ r, c, needs, fluid }: Ground): Figure[] {
  if (r.text('medium') !== 'gas') return []
  const [flow, gas, { unit }] = [midFlow(r, c), gasFlowOf(r, c), conditionsOf(r)]
  const own = carriedReader(CARRIED, r)
  const wants = { needs: [...needs, ...own.missing('lrv', 'urv')], says: 'outside what the gas equation covers' }
  const times = (factor: number | undefined) => (flow === undefined || factor === undefined ? undefined : flow * factor)
  const from = (formula: string, numbers: string) => ({
    ...wants,
    working: () => ({ formula, numbers, source: `${sure(fluid).model}, at both states` }),
  })
  const at = fluid ? `${n(fluid.temp_C, 'degC', 1)} and ${n(fluid.pressure_kPa, 'kPa', 1)} absolute` : ''
  return [
    figure({
      ...{ id: 'mid-actual', label: 'Mid range as it flows', unit: 'm3/h', decimals: 2, value: flow },
      from: from('Q', at),
    }),
    figure({
      ...{ id: 'mid-reference', label: 'Mid range at reference conditions', unit, decimals: 1 },
      value: times(gas && perReference(gas.referenceFlow_m3ph, unit)),
      from: from(
        'Qref = Q · ρ / ρref',
        gas && flow !== undefined
          ? `${n(flow, 'm3/h')} × ${n(gas.densityActual_kgm3, 'kg/m3', 4)} / ` +
              `${n(gas.densityReference_kgm3, 'kg/m3', 4)} ` +
              `(Z ${gas.zActual.toFixed(4)} and ${gas.zReference.toFixed(4)} ${conditionsWords()})`
          : '',
      ),
    }),
    figure({
      ...{ id: 'mid-mass', label: 'Mid range as mass', unit: 'kg/h', decimals: 1 },
      value: times(gas?.massFlow_kgph),
      from: from(
        'ṁ = Q · ρ',
        gas && flow !== undefined ? `${n(flow, 'm3/h')} × ${n(gas.densityActual_kgm3, 'kg/m3', 4)}` : '',
      ),
    }),
  ]
}

const IMPOSSIBLE = 'a run is not below 0'
/** The straight pipe before and after the pair, by the school that is chosen. */
function runFigures({ r, c, beam, needs }: Ground): Figure[] {
  const run = runOf(c, r)
  const runNeeds = [...r.missing('disturbance', 'upstream', 'downstream'), ...needs]
  return [
    figure({
      id: 'run-need',
      label: 'Straight pipe needed upstream',
      unit: 'm',
      decimals: 2,
      value: run && (run.needUp_D * sure(beam).id_mm) / 1000,
      from: {
        needs: runNeeds,
        says: IMPOSSIBLE,
        working: () => ({
          formula: 'need = diameters by the rule × bore',
          numbers:
            `${sure(run).needUp_D} × ${n(sure(beam).id_mm, 'mm', 1)} ` + `(there: ${sure(run).haveUp_D.toFixed(1)} D)`,
          source: `Common working rule: ${sure(run).school}`,
        }),
      },
    }),
    figure({
      id: 'run-error',
      label: 'Likely error of the run',
      unit: '%',
      decimals: 1,
      value: run?.likelyErrorPct,
      from: {
        needs: runNeeds,
        says: IMPOSSIBLE,
        working: () => ({
          formula: 'error near the disturbance, dying away with e^(−L/8 D)',
          numbers:
            `${sure(run).haveUp_D.toFixed(1)} D of ${sure(run).needUp_D} D upstream, ` +
            `${sure(run).haveDown_D.toFixed(1)} D of ` +
            `${sure(run).needDown_D} D downstream`,
          source: 'Estimate, see docs/methods/flow.md',
        }),
      },
    }),
  ]
}

/** The cutoff that size and zero ask for, whether or not another is entered. */
function cutoffFigure({ r, c, beam, from }: Ground): Figure {
  const zero = flowOfZero(c, r)
  const made = figure({
    id: 'cutoff-usual',
    label: 'Cutoff by size and zero',
    unit: 'm3/h',
    decimals: 3,
    value: usualCutoff(c, r),
    from: from(
      `twice the flow that the zero’s doubt shows, at least ${show(0.01, 'm/s', { decimals: 2 })}`,
      beam && zero !== undefined
        ? `${n(sure(r.in('timeDoubt', 'ns')), 'ns')} is ${n(zero, 'm3/h', 4)}; bore ${n(beam.id_mm, 'mm', 1)}`
        : '',
      'Working rule; the meter’s own zero stability comes first',
    ),
  })
  return { ...made, stage: 'range' }
}

export function figuresOf(r: Reader, c: ClampOn): Figure[] {
  const ground = groundOf(r, c)
  return [
    ...spacingFigures(ground),
    ...fluidFigures(ground),
    ...beamFigures(ground),
    ...gasFigures(ground),
    ...runFigures(ground),
    cutoffFigure(ground),
  ]
}

/**
 * Points of the beam for its drawing: where it crosses each surface, mm along the pipe and mm from the upper outside.
 */
export function beamPoints(c: ClampOn): { x: number; y: number }[] {
  const { input } = c
  if (!input || !beamOf(c)) return []
  const beam = clampOnGeometry(input)
  const rad = (deg: number) => (deg * Math.PI) / 180
  const liner = input.liner_mm ?? 0
  const linerAngle =
    liner > 0 ? Math.asin((Math.sin(rad(input.wedgeAngle_deg)) / input.wedgeSpeed_mps) * sure(input.linerSpeed_mps)) : 0
  const points = [{ x: 0, y: 0 }]
  let at = { x: input.wall_mm * Math.tan(rad(beam.wallAngle_deg)), y: input.wall_mm }
  points.push(at)
  if (liner > 0) points.push((at = { x: at.x + liner * Math.tan(linerAngle), y: at.y + liner }))
  for (let i = 0; i < input.traverses; i++) {
    const down = i % 2 === 0
    at = { x: at.x + beam.id_mm * Math.tan(rad(beam.fluidAngle_deg)), y: at.y + (down ? 1 : -1) * beam.id_mm }
    points.push(at)
  }
  const out = input.traverses % 2 === 0 ? -1 : 1
  if (liner > 0) points.push((at = { x: at.x + liner * Math.tan(linerAngle), y: at.y + out * liner }))
  points.push({ x: at.x + input.wall_mm * Math.tan(rad(beam.wallAngle_deg)), y: at.y + out * input.wall_mm })
  return points
}
