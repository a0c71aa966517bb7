// A kind of point: flow by two transducers clamped on the outside of a pipe, liquid or gas.
import { LIQUIDS, liquidProperties, seawaterProperties, waterProperties } from '../../fluid/index.ts'
import {
  clampOnGeometry,
  isMatchedPair,
  mountingFor,
  profileFactor,
  soundSpeedVerdict,
  straightRun,
  transducersFor,
  TRANSDUCERS,
  type SoundSpeedVerdict,
} from '../../flow/index.ts'
import { convertUnit, formatQuantity as show } from '../../quantity/index.ts'
import { attempt, Refusal } from '../../refusal/index.ts'
import { withCutoff, type Stage } from '../../thread/index.ts'
import { figure, flowKnot, loopUnit, MANUAL } from '../flow/shared.ts'
import { linesOf, OUTPUT_KEYS } from '../flow/setup-lines.ts'
import type { Figure, SetupLine } from '../kind.ts'
import { flowKind } from '../flow/flow-kind.ts'
import type { Reader } from '../reader.ts'
import { currentTail, cutoffIn, stageOr } from '../two-wire/index.ts'
import { clampOnMeter } from './bench.ts'
import { fields } from './fields.ts'
import { clampOnFindings } from './findings.ts'
import { clampOnModel, meanVelocity, timesOf, velocityOf, volumeFlow } from './meter.ts'
import { beamOf, clampOnOf, knownFluid, spacingOf, type ClampOn } from './setup.ts'
import { clampOnSheets } from './sheets.ts'

export { clampOnOf, beamOf, knownFluid, spacingOf, type ClampOn } from './setup.ts'
export { normalisedWords } from './findings.ts'

const USUAL = 'm3/h'
const beamNeeds = (c: ClampOn): string[] =>
  c.needs.length ? [...c.needs] : beamOf(c) ? [] : ['a pipe, fluid and pair that go together']

function threadOf(r: Reader, c: ClampOn) {
  const unit = loopUnit(r, USUAL)
  const beam = beamOf(c)
  const fluid = knownFluid(c)
  const decimals = 1
  const digital = flowKnot(
    'digital',
    'digital',
    'Reported flow',
    'The meter’s own digital value.',
    'volume-flow',
    unit,
    decimals,
  )
  const knots = [
    flowKnot('flow', 'process', 'Volume flow', 'True flow through the pipe.', 'volume-flow', unit, decimals),
    flowKnot('velocity', 'sensor', 'Mean velocity', 'Flow over the area of the bore.', 'velocity', 'm/s', 3),
    flowKnot('difference', 'sensor', 'Time difference', 'Against the flow less with it.', 'time', 'ns', 2),
    digital,
  ]
  const needs = beamNeeds(c)
  const m3ph = (v: number) => convertUnit(v, unit, USUAL)
  const own = (v: number) => convertUnit(v, USUAL, unit)
  const bore = ['wall, diameter or liner entered wrong', 'scale or sediment in the pipe', 'pipe not full']
  const beamCauses = [
    'zero not taken',
    'sound speed wrong: fluid, temperature',
    'wrong number of traverses',
    'disturbed profile',
  ]
  const meterCauses = ['meter holds other pipe data than the record', 'zero offset', 'weak signal']
  const stages: Stage[] = [
    stageOr('Bore', bore, needs, () => ({
      title: 'Bore',
      causes: bore,
      ready: true,
      forward: (v) => meanVelocity(m3ph(v), beam!.id_mm),
      inverse: (v) => own(volumeFlow(v, beam!.id_mm)),
      working: (v) => ({
        title: 'Mean velocity',
        formula: 'v = Q / (π/4 · d²)',
        numbers:
          `${show(v, unit)} / (π/4 × (${show(beam!.id_mm, 'mm')})²) = ` +
          `${show(meanVelocity(m3ph(v), beam!.id_mm), 'm/s', { decimals: 3 })}`,
        source: 'Continuity in a full pipe',
      }),
    })),
    stageOr('Beam', beamCauses, needs, () => ({
      title: 'Beam',
      causes: beamCauses,
      ready: true,
      forward: (v) => timesOf(c.input!, fluid!.kinematic_cSt, v).difference_ns,
      inverse: (d) => velocityOf(c.input!, fluid!.kinematic_cSt, d),
      working: (v) => {
        const t = timesOf(c.input!, fluid!.kinematic_cSt, v)
        return {
          title: 'Time difference',
          formula: 'Δt = P/(c − v·sin θ/k) − P/(c + v·sin θ/k)',
          numbers:
            `P ${show(t.beam.fluidPath_mm, 'mm')}, c ${show(c.input!.fluidSpeed_mps, 'm/s', { decimals: 1 })}, ` +
            `θ ${show(t.beam.fluidAngle_deg, 'deg', { decimals: 2 })}, profile factor k ` +
            `${profileFactor(t.reynolds).toFixed(4)} at Re ${Math.round(t.reynolds)}: ` +
            `${show(t.difference_ns, 'ns', { decimals: 2 })}`,
          source: 'Transit times along the beam, axial flow, first order; profile by power law',
        }
      },
    })),
    withCutoff(
      stageOr('Meter', meterCauses, needs, () => ({
        title: 'Meter',
        causes: meterCauses,
        ready: true,
        forward: (d) => own(volumeFlow(velocityOf(c.input!, fluid!.kinematic_cSt, d), beam!.id_mm)),
        inverse: (v) => timesOf(c.input!, fluid!.kinematic_cSt, meanVelocity(m3ph(v), beam!.id_mm)).difference_ns,
      })),
      cutoffIn(r, unit),
    ),
  ]
  const tail = currentTail(r, digital)
  return { knots: [...knots, ...tail.knots], stages: [...stages, ...tail.stages], ends: tail.ends }
}

/** Flow at the middle of the range, m³/h; undefined while there is no range. */
export function midFlow(r: Reader): number | undefined {
  const [a, b] = [r.in('lrv', USUAL), r.in('urv', USUAL)]
  return a === undefined || b === undefined ? undefined : (a + b) / 2
}

function figuresOf(r: Reader, c: ClampOn): Figure[] {
  const beam = beamOf(c)
  const fluid = knownFluid(c)
  const needs = beamNeeds(c)
  const says = c.beam instanceof Refusal ? c.beam.message : c.fluid instanceof Refusal ? c.fluid.message : undefined
  const from = (formula: string, numbers: string, source: string) => ({
    needs,
    says,
    working: () => ({ formula, numbers, source }),
  })
  const spacing = spacingOf(c, r)
  const n = (v: number, unit: string, decimals = 2) => show(v, unit, { decimals })
  const fluidSource = fluid?.model ?? ''
  const fluidNumbers = fluid
    ? `${fluid.name} at ${n(fluid.temp_C, 'degC', 1)} and ${n(fluid.pressure_kPa, 'kPa', 0)} absolute, by ` +
      `${fluid.model}`
    : ''
  const flow = midFlow(r)
  const [up, down] = [r.in('upstream', 'mm'), r.in('downstream', 'mm')]
  const run =
    beam && up !== undefined && down !== undefined && r.text('disturbance')
      ? straightRun(r.text('school'), r.text('disturbance'), up, down, beam.id_mm, r.text('paths') === '2' ? 2 : 1)
      : undefined
  const runNeeds = [...r.missing('disturbance', 'upstream', 'downstream'), ...needs]
  const input = c.input
  return [
    figure(
      'spacing',
      'Spacing',
      'mm',
      1,
      spacing?.spacing_mm,
      from(
        's = 2·w·tan α + 2·l·tan β + n·d·tan θ + 2·offset',
        beam && input
          ? `${n(input.wall_mm, 'mm')} wall at ${n(beam.wallAngle_deg, 'deg', 1)}, ${input.traverses} × ` +
              `${n(beam.id_mm, 'mm', 1)} at ` +
              `${n(beam.fluidAngle_deg, 'deg', 2)}${input.liner_mm ? `, liner ${n(input.liner_mm, 'mm', 1)}` : ''}, ` +
              `offset ${n(r.in('faceOffset', 'mm') ?? 0, 'mm', 1)}`
          : '',
        'Law of refraction at each layer',
      ),
    ),
    figure(
      'spacing-in',
      'Spacing in inches',
      'in',
      3,
      spacing && convertUnit(spacing.spacing_mm, 'mm', 'in'),
      from('s / 25.4', spacing ? n(spacing.spacing_mm, 'mm', 1) : '', 'Inch of 25.4 mm'),
    ),
    figure('holes', 'Hole of the index bar', '1', 0, spacing?.holes, {
      needs: [...needs, ...r.missing('barPitch')],
      says: 'needs a pitch above 0',
      working: () => ({
        formula: 'hole = spacing / pitch, to the nearest',
        numbers:
          `${n(spacing!.spacing_mm, 'mm', 1)} / ${n(r.in('barPitch', 'mm')!, 'mm', 1)}, off by ` +
          `${show(spacing!.holeError_mm!, 'mm', { decimals: 1, sign: true })}`,
        source: 'The bar as entered',
      }),
    }),
    figure(
      'bore',
      'Bore',
      'mm',
      2,
      beam?.id_mm,
      from(
        'd = D − 2·w − 2·l',
        input
          ? `${n(input.od_mm, 'mm')} − 2 × ` +
              `${n(input.wall_mm, 'mm')}${input.liner_mm ? ` − 2 × ${n(input.liner_mm, 'mm')}` : ''}`
          : '',
        'The pipe as entered',
      ),
    ),
    figure(
      'sound-speed',
      'Sound speed expected',
      'm/s',
      1,
      fluid?.soundSpeed_mps,
      from('c of the fluid', fluidNumbers, fluidSource),
    ),
    figure('density', 'Density', 'kg/m3', 2, fluid?.density_kgm3, from('ρ of the fluid', fluidNumbers, fluidSource)),
    figure(
      'viscosity',
      'Kinematic viscosity',
      'cSt',
      3,
      fluid?.kinematic_cSt,
      from(
        'ν = η / ρ',
        fluid ? `${n(fluid.viscosity_mPas, 'mPa.s', 4)} / ${n(fluid.density_kgm3, 'kg/m3', 1)}` : '',
        r.in('ownViscosity', 'mPa.s') === undefined ? fluidSource : 'viscosity as entered',
      ),
    ),
    figure(
      'angle',
      'Angle in the fluid',
      'deg',
      2,
      beam?.fluidAngle_deg,
      from(
        'sin θ / c = sin φ / c(wedge)',
        input
          ? `asin(${n(input.fluidSpeed_mps, 'm/s', 1)} × sin ${n(input.wedgeAngle_deg, 'deg', 1)} / ` +
              `${n(input.wedgeSpeed_mps, 'm/s', 0)})`
          : '',
        'Law of refraction',
      ),
    ),
    figure(
      'transit',
      'Time in the fluid, no flow',
      'us',
      2,
      beam?.fluidTransit_us,
      from(
        't = P / c',
        beam && input ? `${n(beam.fluidPath_mm, 'mm', 1)} / ${n(input.fluidSpeed_mps, 'm/s', 1)}` : '',
        'Path over sound speed',
      ),
    ),
    figure(
      'reynolds',
      'Reynolds number at mid range',
      '1',
      0,
      beam && fluid && flow !== undefined
        ? timesOf(input!, fluid.kinematic_cSt, meanVelocity(flow, beam.id_mm)).reynolds
        : undefined,
      {
        needs: [...needs, ...r.missing('lrv', 'urv')],
        working: () => ({
          formula: 'Re = v·d / ν',
          numbers:
            `${n(meanVelocity(flow!, beam!.id_mm), 'm/s')} × ${n(beam!.id_mm, 'mm', 1)} / ` +
            `${n(fluid!.kinematic_cSt, 'cSt', 3)}`,
          source: 'Mean velocity in the bore',
        }),
      },
    ),
    figure('run-need', 'Straight pipe needed upstream', 'm', 2, run && (run.needUp_D * beam!.id_mm) / 1000, {
      needs: runNeeds,
      working: () => ({
        formula: 'need = diameters by the rule × bore',
        numbers: `${run!.needUp_D} × ${n(beam!.id_mm, 'mm', 1)} (there: ${run!.haveUp_D.toFixed(1)} D)`,
        source: 'Common working rule, as chosen',
      }),
    }),
    figure('run-error', 'Likely error of the run', '%', 1, run?.likelyErrorPct, {
      needs: runNeeds,
      working: () => ({
        formula: 'error near the disturbance, dying away with e^(−L/8 D)',
        numbers:
          `${run!.haveUp_D.toFixed(1)} D of ${run!.needUp_D} D upstream, ${run!.haveDown_D.toFixed(1)} D of ` +
          `${run!.needDown_D} D downstream`,
        source: 'Estimate, see docs/methods/flow.md',
      }),
    }),
  ]
}

/** What the page advises: the best pairs for the pipe, and the mounting. */
export function advice(c: ClampOn, r: Reader) {
  if (c.od_mm === undefined || c.wall_mm === undefined) return undefined
  const pipe = {
    od_mm: c.od_mm,
    wall_mm: c.wall_mm,
    metal: c.metal,
    lined: c.lined,
    temp_C: r.in('fluidTemp', 'degC') ?? 20,
    medium: r.text('medium') === 'gas' ? ('gas' as const) : ('liquid' as const),
  }
  const id_mm = c.od_mm - 2 * c.wall_mm - 2 * c.liner_mm
  const [a, b] = [r.text('serialA'), r.text('serialB')]
  return {
    pairs: transducersFor(pipe),
    mounting: mountingFor({ ...pipe, id_mm }),
    matched: a && b ? isMatchedPair(a, b) : undefined,
  }
}

/** The first sound speed challenged. @throws Refusal as the geometry does */
export function judgeSoundSpeed(c: ClampOn, r: Reader, measured_mps: number): SoundSpeedVerdict | undefined {
  const fluid = knownFluid(c)
  if (!c.input || !fluid || !beamOf(c) || !(measured_mps > 0)) return undefined
  const others = fluid.medium === 'gas' ? [] : otherLiquids(fluid.name, fluid.temp_C, fluid.pressure_kPa)
  return soundSpeedVerdict(
    {
      beam: c.input,
      medium: fluid.medium,
      fluidName: fluid.name,
      density_kgm3: fluid.density_kgm3,
      speedAt: fluid.speedAt,
      temp_C: fluid.temp_C,
      others,
      usual: {
        temp_C: Number.parseFloat(r.text('tempDoubt')) || 2,
        wall_mm: Math.max(0.05, r.in('wallDoubt', 'mm') ?? 0.1),
        od_mm: Math.max(0.1, r.in('odDoubt', 'mm') ?? 0.5),
        liner_mm: Math.max(0.1, r.in('linerDoubt', 'mm') ?? 1),
      },
    },
    measured_mps,
    fluid.pressure_kPa,
  )
}

function otherLiquids(
  name: string,
  temp_C: number,
  pressure_kPa: number,
): { name: string; speed_mps: number; near: boolean }[] {
  const rows: [string, () => { soundSpeed_mps: number }][] = [
    ['water', () => waterProperties(Math.max(0.01, temp_C), pressure_kPa)],
    ['seawater of 35 g/kg', () => seawaterProperties(35, temp_C, pressure_kPa)],
    ...LIQUIDS.map((l): [string, () => { soundSpeed_mps: number }] => [l.name, () => liquidProperties(l, temp_C)]),
  ]
  return rows.flatMap(([other, make]) => {
    const made = other.startsWith(name) ? undefined : attempt(make)
    return made && !(made instanceof Refusal)
      ? [{ name: other, speed_mps: made.soundSpeed_mps, near: /water|brine/.test(other) && /water|brine/.test(name) }]
      : []
  })
}

function setupOf(r: Reader, c: ClampOn): SetupLine[] {
  const fluid = knownFluid(c)
  const figureLine = (
    key: string,
    group: string,
    label: string,
    value: number | undefined,
    unit: string,
    decimals: number,
  ): SetupLine => ({
    key,
    group,
    label,
    text: value === undefined ? '' : show(value, unit, { decimals, trim: true }),
  })
  return [
    ...linesOf(r, ['Pipe:', 'material']),
    figureLine('od', 'Pipe', 'Outside diameter', c.od_mm, 'mm', 2),
    figureLine('wall', 'Pipe', 'Wall thickness', c.wall_mm, 'mm', 2),
    figureLine('wallSpeed', 'Pipe', 'Wave speed in the wall', c.wallSpeed_mps, 'm/s', 0),
    ...linesOf(r, ['Pipe:', 'liner', 'linerThickness']),
    ...(c.lined ? [figureLine('linerSpeed', 'Pipe', 'Wave speed in the liner', c.linerSpeed_mps, 'm/s', 0)] : []),
    ...linesOf(r, ['Fluid:', 'liquid', 'salinity', 'gas', 'composition', 'fluidTemp', 'fluidPressure']),
    figureLine('soundSpeed', 'Fluid', 'Sound speed', fluid?.soundSpeed_mps, 'm/s', 1),
    figureLine('density', 'Fluid', 'Density', fluid?.density_kgm3, 'kg/m3', 2),
    figureLine('kinematic', 'Fluid', 'Kinematic viscosity', fluid?.kinematic_cSt, 'cSt', 4),
    ...linesOf(r, ['Pair:', 'transducer', 'serialA', 'serialB', 'traverses', 'paths', 'leadLength']),
    ...linesOf(r, OUTPUT_KEYS),
  ]
}

export const clampOn = flowKind({
  id: 'clamp-on',
  name: 'Flow, clamp-on',
  summary: 'Two ultrasonic transducers outside a pipe; liquid or gas; 4–20 mA.',
  fields,
  usual: USUAL,
  check: {
    trueInput: 'True flow reached',
    reference: 'reference meter or the meter’s own simulation',
    process: 'Flow',
    cautions: [
      MANUAL,
      'Hot or pressurised pipe, hazardous area, work at height: certified equipment, permit, and hands off ' +
        'what is hot.',
    ],
  },
  known: clampOnOf,
  thread: threadOf,
  figures: figuresOf,
  findings: (r, c) => clampOnFindings(c, r),
  sheets: clampOnSheets,
  doubt(r, c) {
    const flow = midFlow(r)
    return flow === undefined ? undefined : clampOnModel(c, r, flow)
  },
  setup: setupOf,
  meter(r, c, keyed, unit) {
    const [beam, fluid, spacing] = [beamOf(c), knownFluid(c), spacingOf(c, r)]
    if (!beam || !fluid || !c.input || !spacing) return undefined
    const frequency_MHz = TRANSDUCERS.find((t) => t.id === r.text('transducer'))?.frequency_MHz ?? 1
    const cutoff_m3ph = r.in('cutoff', USUAL) ?? 0
    return clampOnMeter({
      entered: c.input,
      fluid,
      keyed,
      spacing_mm: spacing.spacing_mm,
      unit,
      cutoff_m3ph,
      frequency_MHz,
    })
  },
})

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
    liner > 0 ? Math.asin((Math.sin(rad(input.wedgeAngle_deg)) / input.wedgeSpeed_mps) * input.linerSpeed_mps!) : 0
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
