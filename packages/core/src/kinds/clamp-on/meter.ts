// What the meter makes of a flow and back, as the thread, the trials and the bench need it.
import {
  clampOnFlow,
  clampOnGeometry,
  flowThrough,
  profileFactor,
  transitTimes,
  type BeamInput,
  type FlowModel,
  type ModelInput,
} from '../../flow/index.ts'
import { Refusal } from '../../refusal/index.ts'
import type { Reader } from '../reader.ts'
import { beamOf, knownFluid, type ClampOn } from './setup.ts'
import { sure } from '../../sure/index.ts'

/** Mean velocity, m/s, of a volume flow in m³/h in a bore in mm. */
export const meanVelocity = (flow_m3ph: number, id_mm: number): number =>
  flow_m3ph / 3600 / ((Math.PI / 4) * (id_mm / 1000) ** 2)
export const volumeFlow = (velocity_mps: number, id_mm: number): number =>
  velocity_mps * (Math.PI / 4) * (id_mm / 1000) ** 2 * 3600

/** Times in the fluid for a mean velocity, µs, and their difference, ns. */
export function timesOf(input: BeamInput, kinematic_cSt: number, velocity_mps: number) {
  const beam = clampOnGeometry(input)
  const reynolds = (Math.abs(velocity_mps) * (beam.id_mm / 1000)) / (kinematic_cSt * 1e-6)
  const times = transitTimes(beam, input.fluidSpeed_mps, velocity_mps / profileFactor(reynolds))
  return { ...times, difference_ns: 1000 * (times.upTime_us - times.downTime_us), reynolds, beam }
}

/** Mean velocity that makes a time difference, m/s. */
export function velocityOf(input: BeamInput, kinematic_cSt: number, difference_ns: number): number {
  const beam = clampOnGeometry(input)
  // t_up − t_down = d with t = P/(c ∓ w): 2Pw = d(c² − w²).
  const path = beam.fluidPath_mm * 1000
  const d = difference_ns / 1000
  const along = d === 0 ? 0 : (-path + Math.sqrt(path * path + d * d * input.fluidSpeed_mps ** 2)) / d
  const times = { upTime_us: path / (input.fluidSpeed_mps - along), downTime_us: path / (input.fluidSpeed_mps + along) }
  return clampOnFlow({ ...input, ...times, kinematicViscosity_cSt: kinematic_cSt }).meanVelocity_mps
}

/**
 * Spacing and flow as they hang on every entry, at the flow that stands at mid range; undefined while the beam is not
 * known.
 */
export function clampOnModel(c: ClampOn, r: Reader, flow_m3ph: number): FlowModel | undefined {
  const [beam, fluid, input] = [beamOf(c), knownFluid(c), c.input]
  if (!beam || !fluid || !input) return undefined
  const { upTime_us, downTime_us } = timesOf(input, fluid.kinematic_cSt, meanVelocity(flow_m3ph, beam.id_mm))
  const ratio = (key: string) => (r.in(key, '%') ?? 0) / 100
  const spacing = beam.spacing_mm
  const perMm = 1 / (beam.spacing_mm / input.traverses || 1)
  const material = (share: number) => input.wallSpeed_mps * share
  const inputs: ModelInput[] = [
    {
      key: 'od',
      label: 'Outside diameter',
      unit: 'mm',
      value: input.od_mm,
      tolerance: r.in('odDoubt', 'mm') ?? 0,
      distribution: 'rectangular',
    },
    {
      key: 'wall',
      label: 'Wall thickness',
      unit: 'mm',
      value: input.wall_mm,
      tolerance: r.in('wallDoubt', 'mm') ?? 0,
      distribution: 'rectangular',
    },
    {
      key: 'material',
      label: 'Wave speed in the wall',
      unit: 'm/s',
      value: input.wallSpeed_mps,
      tolerance: material(0.01),
      distribution: 'rectangular',
    },
    ...(input.liner_mm
      ? ([
          {
            key: 'linerThickness',
            label: 'Liner thickness',
            unit: 'mm',
            value: input.liner_mm,
            tolerance: r.in('linerDoubt', 'mm') ?? 0,
            distribution: 'rectangular',
          },
          {
            key: 'liner',
            label: 'Wave speed in the liner',
            unit: 'm/s',
            value: sure(input.linerSpeed_mps),
            tolerance: sure(input.linerSpeed_mps) * 0.05,
            distribution: 'rectangular',
          },
        ] as const)
      : []),
    {
      key: 'fluidTemp',
      label: 'Fluid temperature',
      unit: 'degC',
      value: fluid.temp_C,
      tolerance: Number.parseFloat(r.text('tempDoubt')) || 0,
      distribution: 'rectangular',
    },
    {
      key: 'ownViscosity',
      label: 'Viscosity',
      unit: 'cSt',
      value: fluid.kinematic_cSt,
      tolerance: fluid.kinematic_cSt * ratio('viscosityDoubt'),
      distribution: 'rectangular',
    },
    {
      key: 'transducer',
      label: 'Angle in the wedge',
      unit: 'deg',
      value: input.wedgeAngle_deg,
      tolerance: 0.25,
      distribution: 'normal',
    },
    {
      key: 'barPitch',
      label: 'Spacing as mounted',
      unit: 'mm',
      value: spacing,
      tolerance: r.in('spacingDoubt', 'mm') ?? 0,
      distribution: 'rectangular',
    },
    {
      key: 'timeDoubt',
      label: 'Time difference',
      unit: 'ns',
      value: 0,
      tolerance: r.in('timeDoubt', 'ns') ?? 0,
      distribution: 'normal',
    },
  ]
  // The fluid’s own equation is too slow for a hundred thousand trials: its sound speed is taken straight with
  // temperature.
  const at = (t: number) => {
    try {
      return fluid.speedAt(t)
    } catch (error) {
      if (error instanceof Refusal) return fluid.soundSpeed_mps
      throw error
    }
  }
  const perC = at(fluid.temp_C + 0.5) - at(fluid.temp_C - 0.5)
  const lined = input.liner_mm ? 2 : 0
  return {
    inputs,
    outputs: [
      { id: 'flow', label: 'Volume flow', unit: 'm3/h', decimals: 2 },
      { id: 'spacing', label: 'Spacing', unit: 'mm', decimals: 2 },
    ],
    compute(v) {
      // One literal for each shape: a hundred thousand of them are made.
      const fluidSpeed_mps = input.fluidSpeed_mps + perC * (v[3 + lined]! - fluid.temp_C)
      const { wedgeSpeed_mps, traverses } = input
      const pipe: BeamInput = lined
        ? {
            od_mm: sure(v[0]),
            wall_mm: sure(v[1]),
            wallSpeed_mps: sure(v[2]),
            liner_mm: sure(v[3]),
            linerSpeed_mps: sure(v[4]),
            fluidSpeed_mps,
            wedgeSpeed_mps,
            wedgeAngle_deg: v[5 + lined]!,
            traverses,
          }
        : {
            od_mm: sure(v[0]),
            wall_mm: sure(v[1]),
            wallSpeed_mps: sure(v[2]),
            fluidSpeed_mps,
            wedgeSpeed_mps,
            wedgeAngle_deg: sure(v[5]),
            traverses,
          }
      const through = clampOnGeometry(pipe)
      const shift = v[7 + lined]! / 2000
      const flow = flowThrough(through, upTime_us + shift, downTime_us - shift, v[4 + lined]!).volumeFlow_m3ph
      // A pair set off its spacing hears a beam that leaves at another angle: the path grows or shrinks with it.
      const off = (v[6 + lined]! - spacing) * perMm
      return [flow * (1 - 0.1 * off), through.spacing_mm]
    },
  }
}
