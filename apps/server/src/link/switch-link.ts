// The simulated driver of a discrete point: target, sensor, input card and controller, stepped by the clock, every edge with its time.
import type { SwitchStudy } from '@calm-loop/core/loop'
import type { LiveReading } from '@calm-loop/contract'
import {
  moveTarget,
  observeSwitch,
  runMachine,
  seedFrom,
  startSwitchStandIn,
  stepSwitchStandIn,
  uniform,
  type SwitchStandInSetup,
} from '@calm-loop/core/device'
import { countTerms, type Lane } from '@calm-loop/core/kinds'
import { Refusal } from '@calm-loop/core/refusal'
import { audience, type DeviceLink } from './link.ts'

/** Twenty times a second, in steps short enough that an edge's time is right to a hundredth. */
const TELL_ms = 50
const STEP_ms = 10
const USUAL_mm = 5
const USUAL_CYCLE_s = 4

const shows = (lane: Lane) => ({
  sensorLamp: lane.sensorLamp, inputLamp: lane.inputLamp, controller: lane.controller, signalV: lane.signalV,
}) // prettier-ignore

/** The stand-in of these entries: its own operate distance is up to 4 % off, as sensors are. @throws Refusal `loop-incomplete` */
export function switchSetup(loopId: string, { run, entries }: SwitchStudy): SwitchStandInSetup {
  const { lanes, distance } = run
  if (!lanes) throw new Refusal('loop-incomplete', 'The stand-in needs sensor and input: finish Wire first.')
  const [u, next] = uniform(seedFrom(loopId))
  const [v] = uniform(next)
  const operate_mm = (distance?.expected_mm ?? USUAL_mm) * (0.96 + 0.08 * u)
  const furthest_mm = Math.round(3 * operate_mm)
  const cycle_s = countTerms(entries).idealCycle_s ?? USUAL_CYCLE_s
  return {
    present: shows(lanes.present),
    absent: shows(lanes.absent),
    operate_mm,
    release_mm: operate_mm * (1.04 + 0.08 * v),
    furthest_mm,
    // Fast enough that the machine's own stroke fits into half a cycle.
    rate_mmps: Math.max(4, (furthest_mm * 3) / cycle_s),
    hand_mmps: operate_mm / 2,
    cycle_s,
  }
}

export function openSwitchLink(loopId: string, point: SwitchStudy, startAt?: number): DeviceLink {
  const setup = switchSetup(loopId, point)
  let state = startSwitchStandIn(setup, seedFrom(`${loopId} ${Date.now()}`))
  if (startAt !== undefined) {
    const at = Math.min(setup.furthest_mm, Math.max(0, startAt))
    state = { ...state, at_mm: at, wanted_mm: at }
  }
  const listeners = audience()
  const truth = () => observeSwitch(setup, state).knots['controller']
  let known = truth()
  let last = performance.now()
  let edges: { t_ms: number; state: boolean; at: number }[] = []
  const reading = (): LiveReading => ({
    ...observeSwitch(setup, state),
    at_ms: Date.now(),
    running: state.running,
    edges,
  })
  const timer = setInterval(() => {
    const now = performance.now()
    const passed = Math.min(1000, now - last)
    const end = Date.now()
    for (let left = passed; left > 1e-6; left -= STEP_ms) {
      state = stepSwitchStandIn(setup, state, Math.min(STEP_ms, left) / 1000)
      const value = truth()
      if (value !== known && value !== undefined)
        edges.push({ t_ms: Math.round(end - Math.max(0, left - STEP_ms)), state: value === 1, at: state.at_mm })
      known = value ?? known
    }
    last = now
    if (listeners.size()) listeners.tell(reading())
    edges = []
  }, TELL_ms)
  timer.unref()
  return {
    units: { sensorLamp: 'state', inputLamp: 'state', controller: 'state', signal: 'V' },
    description: { driver: 'stand-in', family: 'switch', unit: 'mm', lowest: 0, highest: setup.furthest_mm },
    subscribe(listener, closed) {
      listener({ ...reading(), edges: [] })
      return listeners.join(listener, closed)
    },
    move(wish) {
      state = 'wanted' in wish ? moveTarget(setup, state, wish.wanted) : runMachine(state, wish.running)
    },
    processNow: () => state.at_mm,
    listening: listeners.size,
    close() {
      clearInterval(timer)
      listeners.close()
    },
  }
}
