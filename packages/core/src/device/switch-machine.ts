// The machine of a discrete point: target, sensor, input card and controller, every change with its time.
import { Refusal } from '../refusal/index.ts'
import type { Machine, MachineEdge } from './machine.ts'
import { seedFrom } from './random.ts'
import {
  moveTarget,
  observeSwitch,
  runMachine,
  startSwitchStandIn,
  stepSwitchStandIn,
  type SwitchStandInSetup,
  type SwitchStandInState,
} from './switch-stand-in.ts'
import { sure } from '../sure/index.ts'

export interface SwitchMachineState {
  readonly point: SwitchStandInState
  /** What the controller last was sure of: 1, 0, or nothing yet. */
  readonly known: number | undefined
  readonly edges: readonly MachineEdge[]
}

/** Steps short enough that an edge's time is right to a hundredth of a second. */
const LONGEST_STEP_s = 0.01
const EDGES_KEPT_s = 1

const noDevice = (): never => {
  throw new Refusal('no-transmitter', 'This point has no simulated transmitter.')
}

export function switchMachine(
  setup: SwitchStandInSetup,
  start: { readonly seed: string; readonly at_mm?: number | undefined },
): Machine<SwitchMachineState> {
  const fresh = startSwitchStandIn(setup, seedFrom(start.seed))
  const at_mm = Math.min(setup.furthest_mm, Math.max(0, start.at_mm ?? setup.furthest_mm))
  const point = { ...fresh, at_mm, wanted_mm: at_mm }
  const truth = (state: SwitchStandInState) => observeSwitch(setup, state).knots['controller']
  return {
    family: 'switch',
    start: { point, known: truth(point), edges: [] },
    longestStep_s: LONGEST_STEP_s,
    units: { sensorLamp: 'state', inputLamp: 'state', controller: 'state', signal: 'V' },
    process: { unit: 'mm', lowest: 0, highest: setup.furthest_mm },
    step({ point: before, known, edges }, dt_s) {
      const point = stepSwitchStandIn(setup, before, dt_s)
      const value = truth(point)
      const changed = value !== undefined && value !== known
      const stale = edges.length > 0 && sure(edges[0]).t_s < point.t_s - EDGES_KEPT_s
      const kept = stale ? edges.filter((e) => e.t_s >= point.t_s - EDGES_KEPT_s) : edges
      return {
        point,
        known: value ?? known,
        edges: changed ? [...kept, { t_s: point.t_s, state: value === 1, at: point.at_mm }] : kept,
      }
    },
    command: noDevice,
    act(state, wish) {
      if (wish.do === 'move') return { ...state, point: moveTarget(setup, state.point, wish.wanted) }
      if (wish.do === 'run') return { ...state, point: runMachine(state.point, wish.running) }
      return noDevice()
    },
    readings: ({ point }) => ({ ...observeSwitch(setup, point), running: point.running }),
    trendPoint: () => undefined,
    since_s: () => 0,
    edges: (state) => state.edges,
    held: () => undefined,
    log: () => [],
    meterHeld: () => undefined,
    practice: () => ({}),
    processAt: (state) => state.point.at_mm,
    kept: () => undefined,
  }
}
