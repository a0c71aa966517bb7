// How sure a clamp-on flow is: every cause that the page knows of, and what each does to the flow.
import { flowThrough, clampOnGeometry, type BeamInput, type FlowModel, type ModelInput } from '../../flow/index.ts'
import { LINERS, MATERIALS } from '../../pipe/index.ts'
import { attempt, Refusal } from '../../refusal/index.ts'
import type { Reader } from '../reader.ts'
import { meanVelocity, timesOf } from './meter.ts'
import { runOf } from './place.ts'
import { gasProperties, REFERENCE_PRESSURE_kPa } from '../../fluid/index.ts'
import { conditionsOf, perReference } from './carried.ts'
import type { Fluid, FluidState } from './fluid.ts'
import { beamOf, knownFluid, spacingOf, type ClampOn } from './setup.ts'

/** Speeds that somebody entered are taken as this sure where nothing better is known, ± %. */
const OWN_PCT = { wall: 1, liner: 5 }
/** A nominal wall may be short by an eighth (pipe standards’ usual tolerance). */
const NOMINAL_WALL = 1 / 8
/** Angle in the wedge, two standard deviations, degrees: as wedges are cut. */
const WEDGE_deg = 0.25
/** A pair set off by one spacing per traverse is taken to read this share off: a rule of thumb. */
const OFF_SPACING = 0.1

/** Densities by their equations, ± %: DETAIL 0.1; water and seawater are far better. */
const DENSITY_DOUBT_PCT = 0.1

type Cause = Omit<ModelInput, 'distribution'>
const even = (cause: Cause): ModelInput => ({ ...cause, distribution: 'rectangular' })
const bell = (cause: Cause): ModelInput => ({ ...cause, distribution: 'normal' })

/**
 * What a change of one thing does to a figure of the fluid, as a parabola through it and its two ends: the equations of
 * fluids are too slow for a hundred thousand trials.
 * @param at the figure at a change; where it refuses at one end, the line from the other is taken on
 */
function parabola(tolerance: number, at: (change: number) => number, here: number): (change: number) => number {
  const [below, above] = [-tolerance, tolerance].map((change) => {
    const made = attempt(() => at(change))
    return made instanceof Refusal ? undefined : made
  })
  const high = above ?? (below === undefined ? here : 2 * here - below)
  const low = below ?? 2 * here - high
  const slope = (high - low) / (2 * tolerance)
  const bend = (high + low - 2 * here) / (2 * tolerance * tolerance)
  return (change) => change * (slope + bend * change)
}

/** An answer worked out once for each change asked for. */
function once(at: (change: number) => FluidState): (change: number) => FluidState {
  const known = new Map<number, FluidState>()
  return (change) => {
    const made = known.get(change) ?? at(change)
    known.set(change, made)
    return made
  }
}

/** Density of a gas at the site’s reference conditions, kg/m³; the same one where only its state changes. */
function referenceDensity(r: Reader): (s: FluidState) => number {
  const { temp_C } = conditionsOf(r)
  const known = new Map<unknown, number>()
  return ({ composition }) => {
    if (!composition) return NaN
    const made = known.get(composition) ?? gasProperties(composition, temp_C, REFERENCE_PRESSURE_kPa).density_kgm3
    known.set(composition, made)
    return made
  }
}

/** How the fluid’s own figures are unsure: each thing that its sound speed hangs on. */
function fluidCauses(r: Reader, fluid: Fluid) {
  const gas = fluid.medium === 'gas'
  const pressure = gas ? (r.in('pressureDoubt', 'kPa') ?? 0) : 0
  const shares = gas ? (r.in('compositionDoubt', '%') ?? 0) : 0
  const salinity = r.text('liquid') === 'seawater' && !gas ? (r.in('salinityDoubt', 'g/kg') ?? 0) : 0
  const temp = r.in('tempDoubt', 'delta_K') ?? 0
  const model = r.in('speedDoubt', '%') ?? fluid.speedDoubtPct
  const causes = [
    {
      cause: even({ key: 'fluidTemp', label: 'Fluid temperature', unit: 'degC', value: fluid.temp_C, tolerance: temp }),
      at: (d: number) => fluid.otherwise({ temp_C: d }),
    },
    {
      cause: bell({
        key: 'speedDoubt',
        label: 'Sound speed of the fluid itself',
        unit: '%',
        value: 0,
        tolerance: model,
      }),
      at: (d: number): FluidState => ({ ...fluid, soundSpeed_mps: fluid.soundSpeed_mps * (1 + d / 100) }),
    },
    {
      cause: even({ key: 'salinity', label: 'Salinity', unit: 'g/kg', value: 0, tolerance: salinity }),
      at: (d: number) => fluid.otherwise({ salinity_gkg: d }),
    },
    {
      cause: even({ key: 'composition', label: 'Composition', unit: '%', value: 0, tolerance: shares }),
      at: (d: number) => fluid.otherwise({ share: d / 100 }),
    },
    {
      cause: even({ key: 'fluidPressure', label: 'Pressure', unit: 'kPa', value: 0, tolerance: pressure }),
      at: (d: number) => fluid.otherwise({ pressure_kPa: d }),
    },
  ]
  const reference = referenceDensity(r)
  return causes
    .filter(({ cause }) => cause.tolerance > 0)
    .map(({ cause, at }) => {
      const state = once(at)
      const of = (figure: (s: FluidState) => number) =>
        parabola(cause.tolerance, (d) => figure(state(d)), figure(fluid))
      return {
        cause,
        speed: of((s) => s.soundSpeed_mps),
        density: of((s) => s.density_kgm3),
        /** m³ at reference conditions for 1 m³ as it flows. */
        reference: gas ? of((s) => s.density_kgm3 / reference(s)) : () => 0,
      }
    })
}

/** How far the pair sits from where it should, as far as that is known: as set, or at the nearest hole of its bar. */
function missOf(c: ClampOn, r: Reader): number {
  const wanted = spacingOf(c, r)
  const set = r.in('setSpacing', 'mm')
  return Math.abs(set !== undefined && wanted ? set - wanted.spacing_mm : (wanted?.holeError_mm ?? 0))
}

/** Every cause of doubt about pipe, layers, pair and place; those that cannot move anything are left out. */
function otherCauses(c: ClampOn, r: Reader, input: BeamInput, fluid: Fluid): Record<string, ModelInput> {
  const mm = (key: string) => r.in(key, 'mm') ?? 0
  const percent = (table: readonly { readonly id: string; readonly accuracyPct: number }[], key: string) =>
    table.find((row) => row.id === r.text(key))?.accuracyPct
  const wall = Math.max(mm('wallDoubt'), c.wallFromTable ? input.wall_mm * NOMINAL_WALL : 0)
  const wallPct = percent(MATERIALS, 'material') ?? OWN_PCT.wall
  const linerPct = percent(LINERS, 'liner') ?? OWN_PCT.liner
  const [liner, linerSpeed] = [input.liner_mm ?? 0, input.linerSpeed_mps ?? 0]
  const lined = liner > 0
  const viscosity = fluid.kinematic_cSt
  const cause = (key: string, label: string, unit: string, [value, tolerance]: readonly [number, number]): Cause => ({
    key,
    label,
    unit,
    value,
    tolerance,
  })
  const material = input.wallSpeed_mps
  const viscosityDoubt = (viscosity * (r.in('viscosityDoubt', '%') ?? 0)) / 100
  return {
    od: even(cause('od', 'Outside diameter', 'mm', [input.od_mm, mm('odDoubt')])),
    wall: even(cause('wall', 'Wall thickness', 'mm', [input.wall_mm, wall])),
    material: even(cause('material', 'Wave speed in the wall', 'm/s', [material, (material * wallPct) / 100])),
    linerThickness: even(cause('linerThickness', 'Liner thickness', 'mm', [liner, lined ? mm('linerDoubt') : 0])),
    liner: even(
      cause('liner', 'Wave speed in the liner', 'm/s', [linerSpeed, lined ? (linerSpeed * linerPct) / 100 : 0]),
    ),
    viscosity: even(cause('ownViscosity', 'Viscosity', 'cSt', [viscosity, viscosityDoubt])),
    wedge: bell(cause('transducer', 'Angle in the wedge', 'deg', [input.wedgeAngle_deg, WEDGE_deg])),
    set: even(cause('spacingDoubt', 'Spacing as mounted', 'mm', [0, mm('spacingDoubt')])),
    miss: even(cause('setSpacing', 'Nearest hole, or spacing as set', 'mm', [0, missOf(c, r)])),
    time: bell(cause('timeDoubt', 'Time difference', 'ns', [0, r.in('timeDoubt', 'ns') ?? 0])),
    density: bell(cause('densityDoubt', 'Density by its equation', '%', [0, DENSITY_DOUBT_PCT])),
    run: even(cause('upstream', 'Straight pipe too short', '%', [0, runOf(c, r)?.likelyErrorPct ?? 0])),
  }
}

/**
 * Spacing and flow as they hang on every cause, at a flow in m³/h; undefined while the beam is not known.
 * Source: docs/methods/flow.md, Doubt
 */
export function clampOnModel(c: ClampOn, r: Reader, flow_m3ph: number): FlowModel | undefined {
  const [beam, fluid, input] = [beamOf(c), knownFluid(c), c.input]
  if (!beam || !fluid || !input) return undefined
  const { upTime_us, downTime_us } = timesOf(input, fluid.kinematic_cSt, meanVelocity(flow_m3ph, beam.id_mm))
  const perMm = input.traverses / (beam.spacing_mm || input.traverses)
  const others = otherCauses(c, r, input, fluid)
  const names = Object.keys(others)
  const ofFluid = fluidCauses(r, fluid)
  const place = (name: string) => names.indexOf(name)
  const [od, wall, material, linerThickness, liner] = ['od', 'wall', 'material', 'linerThickness', 'liner'].map(place)
  const [viscosity, wedge, set, miss] = ['viscosity', 'wedge', 'set', 'miss'].map(place)
  const [time, run, densityDoubt] = ['time', 'run', 'density'].map(place)
  const gas = fluid.medium === 'gas'
  const conditions = conditionsOf(r)
  const perReferenceHere = gas ? fluid.density_kgm3 / referenceDensity(r)(fluid) : 1
  const { wedgeSpeed_mps, traverses } = input
  const lined = (input.liner_mm ?? 0) > 0
  return {
    inputs: [...Object.values(others), ...ofFluid.map(({ cause }) => cause)],
    outputs: [
      { id: 'flow', label: 'Volume flow', unit: 'm3/h', decimals: 2 },
      ...(gas ? [{ id: 'reference', label: 'Reference volume flow', unit: conditions.unit, decimals: 1 }] : []),
      { id: 'mass', label: 'Mass flow', unit: 'kg/h', decimals: 1 },
      { id: 'spacing', label: 'Spacing', unit: 'mm', decimals: 2 },
    ],
    compute(v) {
      const at = (i: number | undefined) => v[i as number]!
      let fluidSpeed_mps = input.fluidSpeed_mps
      let density = fluid.density_kgm3 * (1 + at(densityDoubt) / 100)
      let perOne = perReferenceHere * (1 + at(densityDoubt) / 100)
      for (let i = 0; i < ofFluid.length; i++) {
        const { cause, speed, density: thicker, reference: more } = ofFluid[i]!
        const change = v[names.length + i]! - cause.value
        fluidSpeed_mps += speed(change)
        density += thicker(change)
        perOne += more(change)
      }
      const pipe: BeamInput = {
        od_mm: at(od),
        wall_mm: at(wall),
        wallSpeed_mps: at(material),
        liner_mm: lined ? at(linerThickness) : 0,
        linerSpeed_mps: lined ? at(liner) : undefined,
        fluidSpeed_mps,
        wedgeSpeed_mps,
        wedgeAngle_deg: at(wedge),
        traverses,
      }
      const through = clampOnGeometry(pipe)
      const shift = at(time) / 2000
      const flow = flowThrough(through, upTime_us + shift, downTime_us - shift, at(viscosity)).volumeFlow_m3ph
      // A pair set off its spacing hears a beam that leaves at another angle: the path grows or shrinks with it.
      const off = (at(set) + at(miss)) * perMm
      const shown = flow * (1 - OFF_SPACING * off) * (1 + at(run) / 100)
      const others = gas ? [perReference(shown * perOne, conditions.unit), shown * density] : [shown * density]
      return [shown, ...others, through.spacing_mm]
    },
  }
}
