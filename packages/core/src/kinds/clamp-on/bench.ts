// The bench's clamp-on meter: it hears a real pipe, and reckons with what it holds.
import { truthIn, type Truth } from '../flow/shared.ts'
import type { MeterModel, MeterState, Tell } from '../../device/index.ts'
import { clampOnFlow, clampOnGeometry, measuredWith, type BeamInput } from '../../flow/index.ts'
import { attempt, Refusal } from '../../refusal/index.ts'
import type { Reported } from './carried.ts'
import { keyedNumber } from '../flow/setup-lines.ts'
import { meanVelocity, timesOf } from './meter.ts'
import type { Fluid } from './fluid.ts'

interface Hidden extends Truth {
  /** Real wall over entered, real fluid speed over entered. */
  readonly wall?: number
  readonly speed?: number
  readonly swapped?: boolean
  readonly signal?: number
  readonly zero_ns?: number
}

const truths = (fluid: Fluid): readonly Hidden[] => [
  { id: 'A', reveals: 'Nothing was wrong: pipe, fluid, leads and zero are as entered.' },
  { id: 'B', reveals: 'The real wall is a fifth thinner than entered.', wall: 0.8 },
  {
    id: 'C',
    reveals:
      fluid.medium === 'gas'
        ? 'The gas is another one: its sound speed is 6 % lower.'
        : 'The liquid is another one, or far warmer: its sound speed is 4 % higher.',
    speed: fluid.medium === 'gas' ? 0.94 : 1.04,
  },
  { id: 'D', reveals: 'The leads are swapped at the meter: it reads backwards.', swapped: true },
  { id: 'E', reveals: 'The signal is weak: dry couplant under one transducer.', signal: 22 },
  { id: 'F', reveals: 'The meter has a zero of 6 ns.', zero_ns: 6 },
  {
    id: 'G',
    reveals: 'The meter holds a wall with a lost decimal point.',
    held: (keyed) => {
      const wall = keyedNumber(keyed['wall'])
      return wall === undefined ? keyed : { wall: `${Number((wall / 10).toPrecision(4))} mm` }
    },
  },
]

/** Usual scatter of a measured time difference, ns. */
const SCATTER_ns = 0.08
const SEARCH_s = 5
/** How far off its spacing a pair loses most of its signal, mm. */
const SPACING_WIDTH_mm = 22

export interface ClampOnBench {
  readonly entered: BeamInput
  readonly fluid: Fluid
  readonly keyed: Readonly<Record<string, string>>
  readonly spacing_mm: number
  readonly reported: Pick<Reported, 'm3ph' | 'own'>
  readonly cutoff_m3ph: number
  readonly frequency_MHz: number
}

/** What the meter reckons with: the entries, save where it holds another diameter or wall. */
function heldBeam(bench: ClampOnBench, state: MeterState): BeamInput {
  const od = keyedNumber(state.held['od']) ?? bench.entered.od_mm
  const wall = keyedNumber(state.held['wall']) ?? bench.entered.wall_mm
  return { ...bench.entered, od_mm: od, wall_mm: wall }
}

export function clampOnMeter(bench: ClampOnBench): MeterModel {
  const cases = truths(bench.fluid)
  const truthOf = (id: string) => truthIn(cases, id)
  const real = (truth: Hidden): BeamInput => ({
    ...bench.entered,
    wall_mm: bench.entered.wall_mm * (truth.wall ?? 1),
    fluidSpeed_mps: bench.entered.fluidSpeed_mps * (truth.speed ?? 1),
  })
  const signalOf = (state: MeterState): number => {
    const truth = truthOf(state.practice)
    const beam = attempt(() => clampOnGeometry(real(truth)))
    if (beam instanceof Refusal) return 0
    const mounted = state.mount.spacing_mm ?? bench.spacing_mm
    const best = beam.spacing_mm + (bench.spacing_mm - clampOnGeometry(bench.entered).spacing_mm)
    return (truth.signal ?? 93) * Math.exp(-(((mounted - best) / SPACING_WIDTH_mm) ** 2))
  }
  return {
    cases,
    keyed: bench.keyed,
    search_s: SEARCH_s,
    health_s: 0,
    begin: (practice) => ({
      held: { ...bench.keyed, ...(truthOf(practice).held?.(bench.keyed) ?? {}) },
      measures: practice === '',
    }),
    measure(state, process, noise) {
      const truth = truthOf(state.practice)
      const signal = signalOf(state)
      if (signal < 12) return undefined
      const pipe = real(truth)
      const times = attempt(() =>
        timesOf(
          pipe,
          bench.fluid.kinematic_cSt,
          meanVelocity(bench.reported.m3ph(process), clampOnGeometry(pipe).id_mm),
        ),
      )
      if (times instanceof Refusal) return undefined
      const sign = (truth.swapped ? -1 : 1) * (state.mount.swapped ? -1 : 1)
      return sign * times.difference_ns + (truth.zero_ns ?? 0.35) + noise * SCATTER_ns * (93 / signal)
    },
    show(state, _process, measured) {
      const signal = signalOf(state)
      const truth = truthOf(state.practice)
      const tells: Tell[] = []
      if (state.phase === 'searching') {
        const share = Math.min(1, state.phase_s / SEARCH_s)
        tells.push({
          id: 'frequency',
          label: 'Frequency being tried',
          value: bench.frequency_MHz * (0.7 + 0.5 * share),
          unit: 'MHz',
          decimals: 3,
        })
      }
      if (measured === undefined) return { digital: undefined, tells }
      const held = heldBeam(bench, state)
      const speed = attempt(() => measuredWith(held, real(truth), real(truth).fluidSpeed_mps))
      const beam = attempt(() => clampOnGeometry(held))
      if (speed instanceof Refusal || beam instanceof Refusal) return { digital: undefined, tells }
      const half = (measured - state.zero) / 2000
      const middle = (1000 * beam.fluidPath_mm) / speed
      const flow = clampOnFlow({
        ...held,
        upTime_us: middle + half,
        downTime_us: middle - half,
        kinematicViscosity_cSt: bench.fluid.kinematic_cSt,
      })
      tells.push(
        { id: 'frequency', label: 'Frequency found', value: bench.frequency_MHz * 1.04, unit: 'MHz', decimals: 3 },
        { id: 'signal', label: 'Signal quality', value: signal, unit: '%', decimals: 0 },
        { id: 'sound-speed', label: 'Measured sound speed', value: speed, unit: 'm/s', decimals: 1 },
        { id: 'difference', label: 'Time difference', value: measured - state.zero, unit: 'ns', decimals: 2 },
        { id: 'velocity', label: 'Mean velocity', value: flow.meanVelocity_mps, unit: 'm/s', decimals: 3 },
        { id: 'reynolds', label: 'Reynolds number', value: flow.reynolds, unit: '1', decimals: 0 },
      )
      const cut = Math.abs(flow.volumeFlow_m3ph) < bench.cutoff_m3ph ? 0 : flow.volumeFlow_m3ph
      return { digital: bench.reported.own(cut), tells }
    },
  }
}
