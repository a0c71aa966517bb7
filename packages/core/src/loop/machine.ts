// The simulated device of a loop, made from its study: what the bench plays where nothing real is connected.
import {
  currentMachine,
  seedFrom,
  switchMachine,
  uniform,
  type Machine,
  type SwitchStandInSetup,
  type TransmitterState,
} from '../device/index.ts'
import { countTerms, type Lane } from '../kinds/index.ts'
import { attempt, Refusal } from '../refusal/index.ts'
import { chainOf, transmitterFor } from './chain.ts'
import { study, type CurrentStudy, type Study, type SwitchStudy } from './study.ts'

export interface MachineStart {
  /** The loop's own name: what is slightly off in its device is the same each time. */
  readonly name: string
  /** Differs each time: noise and chance. */
  readonly seed: string
  /** Where the process stands; at the low end of its range where nothing is said. */
  readonly at?: number | undefined
  /** The transmitter as it was kept. */
  readonly kept?: TransmitterState | undefined
  /** Practice case on record, where the transmitter was never told anything. */
  readonly practice?: string | undefined
}

const USUAL_mm = 5
const USUAL_CYCLE_s = 4

const shows = ({ sensorLamp, inputLamp, controller, signalV }: Lane) => ({
  sensorLamp,
  inputLamp,
  controller,
  signalV,
})

/**
 * The stand-in of a discrete point: its own operate distance is up to 4 % off, as sensors are. @throws Refusal
 * `loop-incomplete`
 */
export function switchStandInOf(name: string, { run, entries }: SwitchStudy): SwitchStandInSetup {
  const { lanes, distance } = run
  if (!lanes) throw new Refusal('loop-incomplete', 'The stand-in needs sensor and input: finish Wire first.')
  const [u, next] = uniform(seedFrom(name))
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

/** The loop, or its meter by itself while wiring, range or controller are not entered. */
function wholeOf(known: CurrentStudy): CurrentStudy {
  if (!(attempt(() => chainOf(known)) instanceof Refusal)) return known
  const alone = known.portable?.()
  return alone ? study(known.kind, alone) : known
}

/** @throws Refusal `loop-incomplete` while a part of the loop is missing */
export function machineOf(known: Study, { name, seed, at, kept, practice }: MachineStart): Machine<unknown> {
  if (known.family === 'switch') return switchMachine(switchStandInOf(name, known), { seed, at_mm: at })
  const whole = wholeOf(known)
  const process = whole.process()
  if (!process) throw new Refusal('loop-incomplete', 'The stand-in needs the whole loop: finish Point and Range first.')
  const setup = {
    thread: whole.thread,
    process,
    damping_s: Math.max(0, whole.reader.in('damping', 's') ?? 0),
    fault_mA: whole.reader.in('faultCurrent', 'mA'),
    device: transmitterFor(whole),
    meter: whole.meter?.(),
  }
  const low = whole.scales[0]?.low ?? process.lowest
  return currentMachine(setup, { name, seed, at: at ?? low, transmitter: kept, practice })
}
