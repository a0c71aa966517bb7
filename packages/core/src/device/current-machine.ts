// The machine of a loop with a current: process, transmitter (or a meter of its own), multimeter, card and controller.
import { Refusal, attempt } from '../refusal/index.ts'
import type { Thread } from '../thread/index.ts'
import type {
  MeterReadings,
  DeviceCommand,
  Machine,
  MachineAnswer,
  PracticeAct,
  Readings,
  TrendPoint,
} from './machine.ts'
import type { MeterModel, MeterShown, MeterState } from './meter.ts'
import { normal, seedFrom, uniform, type RandomState } from './random.ts'
import { commandMeter, observeMeter, startMeter, stepMeter } from './run-meter.ts'
import {
  moveProcess,
  observeStandIn,
  startStandIn,
  stepStandIn,
  type HiddenFaults,
  type Shape,
  type StandInSetup,
  type StandInState,
} from './stand-in.ts'
import { casesFor, type TransmitterSetup, type TransmitterState } from './transmitter-cases.ts'
import { commandTransmitter } from './transmitter-commands.ts'
import {
  beginCase,
  digitalOf,
  drivenCurrent,
  electrode_mV,
  electrodeTemp_C,
  heldBy,
  inputOf,
  keepRange,
  powerCycle,
  setValve,
  shownOf,
  slowness,
  startTransmitter,
  stepTransmitter,
} from './transmitter.ts'
import { sure } from '../sure/index.ts'

export interface CurrentMachineSetup {
  readonly thread: Thread
  readonly process: StandInSetup['process']
  readonly damping_s: number
  readonly fault_mA: number | undefined
  readonly device: TransmitterSetup
  /** The meter that measures, where the kind has one of its own. */
  readonly meter: MeterModel | undefined
}

export interface CurrentMachineStart {
  /** The loop's own: its small errors are the same each time. */
  readonly name: string
  /** Differs each time. */
  readonly seed: string
  readonly at: number
  /** The transmitter as it stood when it was last told something. */
  readonly transmitter?: TransmitterState | undefined
  /** Practice case, where the transmitter was never told anything. */
  readonly practice?: string | undefined
}

export interface CurrentMachineState {
  readonly world: StandInState
  readonly device: TransmitterState
  readonly meter?: { readonly state: MeterState; readonly shown: MeterShown } | undefined
  readonly electrode_mV?: number | undefined
  /** The device's own digital values of the last steps, % of span. */
  readonly seen: readonly number[]
  readonly since_s: number
  readonly noise: RandomState
}

const LONGEST_STEP_s = 0.25
/** Steps that the device's own digital value is averaged over. */
const SEEN = 20
const NOISE_PCT = 0.03
const OUTPUT_ZERO_PCT = 0.02

/** A slightly wrong zero, its own for each loop: 0.08 to 0.24 % of span, and a trace of span error. */
export function hiddenFaults(name: string): HiddenFaults {
  const [size, next] = uniform(seedFrom(name))
  const [side, last] = uniform(next)
  const [slope] = uniform(last)
  return {
    sensorZeroPct: (side < 0.5 ? -1 : 1) * (0.08 + 0.16 * size),
    sensorSpanPct: 0.1 * (slope - 0.5),
    outputZeroPct: OUTPUT_ZERO_PCT,
  }
}

/** @throws Refusal `loop-incomplete` */
export function currentMachine(setup: CurrentMachineSetup, start: CurrentMachineStart): Machine<CurrentMachineState> {
  const { thread, device, meter: model, process } = setup
  // A meter of its own hides what it hides itself.
  const faults: HiddenFaults = model
    ? { sensorZeroPct: 0, sensorSpanPct: 0, outputZeroPct: OUTPUT_ZERO_PCT }
    : hiddenFaults(start.name)
  const standIn: StandInSetup = {
    thread,
    faults,
    noisePct: NOISE_PCT,
    damping_s: setup.damping_s,
    process,
    fault_mA: setup.fault_mA,
  }
  const digitalKnot = thread.knots.findIndex((k) => k.role === 'digital')
  const span = device.urv - device.lrv
  const percent = (digital: number) => (100 * (digital - device.lrv)) / span
  const digitalAt = (pct: number) => device.lrv + (pct / 100) * span

  /** What the sensor is fed with while the process stands at `value`, in the digital value's unit. */
  const sensed = (value: number): number => {
    const digital = attempt(() =>
      thread.stages.slice(0, digitalKnot).reduce((v, s) => (s.ready ? s.forward(v) : v), value),
    )
    if (!(digital instanceof Refusal)) return digital
    // Beyond what the sensor can follow it keeps showing the end it ran into.
    return value > (process.lowest + process.highest) / 2 ? device.urv + 0.1 * span : device.lrv - 0.1 * span
  }
  /** What a plain sensor measures, and the noise after it. */
  const measure = (state: CurrentMachineState, value: number) => {
    const fed = inputOf(device, state.device, sensed(value), state.world.t_s)
    const [n1, afterElectrode] = normal(state.noise)
    const [n2, noise] = device.electrode ? normal(afterElectrode) : [n1, afterElectrode]
    const digital = digitalOf({
      setup: device,
      state: state.device,
      input: fed,
      noise: n2,
      base: { ...faults, noisePct: NOISE_PCT },
    })
    const temp_C = electrodeTemp_C(device, state.device)
    return { digital, noise, ...(device.electrode ? { electrode: electrode_mV(state.device, fed, n1, temp_C) } : {}) }
  }
  const shapeOf = (held: TransmitterState): Shape => ({
    current: (digital) => drivenCurrent(device, held, digital) + 0.16 * OUTPUT_ZERO_PCT,
    shown: (value) => shownOf(device, held, value),
    fixed: held.fixed_mA !== null,
  })
  const observed = (state: CurrentMachineState) => observeStandIn(standIn, state.world, shapeOf(state.device))
  const zeroing = (state: CurrentMachineState) => state.meter?.state.phase === 'zeroing'
  const forgetting = (state: CurrentMachineState): CurrentMachineState => ({
    ...state,
    seen: [],
    since_s: state.world.t_s,
  })

  /**
   * The state with another transmitter in it: what it worked by until now is no measure of how steady it is from now
   * on.
   */
  const settled = (state: CurrentMachineState, next: TransmitterState): CurrentMachineState => {
    const was = state.device
    if (next.active === was.active && next.fixed_mA === was.fixed_mA && next.practice === was.practice)
      return { ...state, device: next }
    const retrimmed =
      next.active.sensorOffset !== was.active.sensorOffset || next.active.sensorGain !== was.active.sensorGain
    const { damped } = state.world
    const plain = (digitalAt(damped) - was.active.sensorOffset) / was.active.sensorGain
    const world = retrimmed
      ? { ...state.world, damped: percent(next.active.sensorOffset + next.active.sensorGain * plain) }
      : state.world
    return forgetting({ ...state, world, device: next })
  }

  const meterPractice = (state: MeterState) => ({
    case: state.practice,
    cases: sure(model).cases.map((c) => c.id),
    reveals: sure(model).cases.find((c) => c.id === state.practice)?.reveals ?? 'No practice case is under way.',
  })
  const toMeter = (state: CurrentMachineState, command: Parameters<typeof commandMeter>[2]): CurrentMachineState => {
    if (!model || !state.meter)
      throw new Refusal('no-meter', 'This point has no simulated meter, or its entries do not make one yet.')
    const { state: meter, shown } = state.meter
    return { ...state, meter: { shown, state: commandMeter(model, meter, command, shown.digital ?? 0) } }
  }

  const first = ((): CurrentMachineState => {
    const fresh = startTransmitter(device)
    const known = start.practice !== undefined && casesFor(device).some((c) => c.id === start.practice)
    const held = start.transmitter ?? (known ? beginCase(device, fresh, start.practice) : fresh)
    const within = Math.min(process.highest, Math.max(process.lowest, start.at))
    const state: CurrentMachineState = {
      // Not measuring yet: a meter's first value is taken as it comes, not crept up to.
      world: { ...startStandIn(standIn, within, seedFrom(start.seed)), failed: !!model },
      device: held,
      ...(model
        ? {
            meter: {
              state: startMeter(model, '', seedFrom(`${start.seed} meter`)),
              shown: { digital: undefined, tells: [] },
            },
          }
        : {}),
      seen: [],
      since_s: 0,
      noise: seedFrom(`${start.seed} noise`),
    }
    if (model) return state
    // At rest from the beginning: nothing creeps up to where it stands already.
    const { digital, noise, electrode } = measure(state, within)
    return { ...state, noise, electrode_mV: electrode, world: { ...state.world, damped: percent(digital) } }
  })()

  function step(state: CurrentMachineState, dt_s: number): CurrentMachineState {
    let next: CurrentMachineState = { ...state, device: stepTransmitter(device, state.device, dt_s) }
    const measured = (value: number) => {
      if (model && next.meter) {
        const fed = next.device.bench?.value ?? value
        const meter = stepMeter(model, next.meter.state, fed, dt_s)
        const shown = observeMeter(model, meter, fed)
        next = { ...next, meter: { state: meter, shown } }
        return { digital: shown.digital }
      }
      const { digital, noise, electrode } = measure(next, value)
      next = { ...next, noise, electrode_mV: electrode }
      return { digital }
    }
    const world = stepStandIn({
      setup: standIn,
      state: state.world,
      dt_s,
      reported: measured,
      damping_s: (next.device.active.damping_s ?? setup.damping_s) + slowness(next.device),
    })
    next = { ...next, world }
    if (zeroing(next)) return forgetting(next)
    return world.failed ? next : { ...next, seen: [...next.seen.slice(1 - SEEN), world.damped] }
  }

  function command(state: CurrentMachineState, wish: DeviceCommand, at: string): MachineAnswer<CurrentMachineState> {
    if (wish.do === 'start' || wish.do === 'zero' || wish.do === 'write' || wish.do === 'health')
      return { state: toMeter(state, wish), taken: true, says: '', arrives: true }
    const mean = state.seen.reduce((sum, v) => sum + v, 0) / Math.max(1, state.seen.length)
    const answer = commandTransmitter({ setup: device, state: state.device, command: wish, seen: digitalAt(mean), at })
    if (!answer.taken || wish.do !== 'flow-zero' || !state.meter)
      return { ...answer, state: settled(state, answer.state) }
    // The meter takes its own zero; nothing is shifted behind it.
    const untouched = { ...answer.state, active: state.device.active, stored: state.device.stored }
    return { ...answer, state: settled(toMeter(state, { do: 'zero', length_s: 6 }), untouched) }
  }

  function feed(state: CurrentMachineState, input: 'process' | 'bench'): CurrentMachineState {
    const held = state.device
    if (input === 'bench' && held.bench) return state
    const spansZero = device.lrv * device.urv <= 0 || device.manifold !== 'none' || device.meter
    const rest = device.electrode ? 7 : spansZero ? 0 : device.lrv
    return forgetting({
      ...state,
      device: { ...held, bench: input === 'process' ? null : { value: rest, wanted: rest } },
    })
  }
  function apply(state: CurrentMachineState, value: number): CurrentMachineState {
    const { bench } = state.device
    if (!bench)
      throw new Refusal(
        'on-process',
        'The process feeds the sensor. The bench can apply something only once the run sheet has taken the ' +
          'input off it.',
      )
    if (device.meter && value !== 0) throw new Refusal('on-process', 'A meter is not fed from the bench.')
    return { ...state, device: { ...state.device, bench: { ...bench, wanted: value } } }
  }
  function act(state: CurrentMachineState, wish: PracticeAct, at: string): CurrentMachineState {
    switch (wish.do) {
      case 'move':
        return { ...state, world: moveProcess(standIn, state.world, wish.wanted) }
      case 'run':
        throw new Refusal('outside-process', 'This process does not run by itself.')
      case 'valve':
        return { ...state, device: setValve(state.device, wish.move) }
      case 'feed':
        return feed(state, wish.input)
      case 'apply':
        return apply(state, wish.value)
      case 'keep':
        return settled(state, keepRange(device, state.device))
      case 'power-cycle':
        return settled(state, powerCycle(state.device, at))
      case 'protect':
        return { ...state, device: { ...state.device, protected: wish.on } }
      case 'transmitter-case':
        return settled(state, beginCase(device, state.device, wish.case))
      case 'meter':
        return toMeter(state, wish.act)
    }
  }

  function meterReadings({ state, shown }: NonNullable<CurrentMachineState['meter']>): MeterReadings {
    const lasts: Partial<Record<MeterState['phase'], number>> = {
      searching: sure(model).search_s,
      health: sure(model).health_s,
      zeroing: state.zeroing.length_s,
    }
    return {
      phase: state.phase,
      phase_s: state.phase_s,
      lasts_s: lasts[state.phase] ?? 0,
      practice: state.practice,
      tells: shown.tells,
      zero: state.zero,
      ...(state.zeroed ? { zeroed: state.zeroed } : {}),
      mount: { spacing_mm: state.mount.spacing_mm ?? null, swapped: state.mount.swapped },
      ...(state.gas ? { gas: state.gas } : {}),
      digital: shown.digital ?? null,
    }
  }
  function readings(state: CurrentMachineState): Readings {
    const { device: held, electrode_mV } = state
    const { bench } = held
    return {
      ...observed(state),
      ...(bench ? { reference: bench.value, wanted: bench.wanted, moving: bench.value !== bench.wanted } : {}),
      transmitter: {
        practice: held.practice,
        manifold: Object.fromEntries(Object.entries(held.manifold)),
        bench,
        fixed_mA: held.fixed_mA,
        protected: held.protected,
        changes: held.changes,
        ...(electrode_mV === undefined ? {} : { electrode_mV, electrode_C: electrodeTemp_C(device, held) }),
      },
      ...(device.current ? {} : { signal_mA: 4 + 0.16 * state.world.damped }),
      ...(state.meter ? { meter: meterReadings(state.meter) } : {}),
    }
  }
  function trendPoint(state: CurrentMachineState): TrendPoint | undefined {
    // While a meter averages its zero nothing it shows is steady: the process must not be let back on before it is
    // done.
    if (zeroing(state)) return undefined
    const { knots } = observed(state)
    const digital = knots[thread.knots[digitalKnot]!.id]
    const mA = knots['current']
    return {
      t_s: state.world.t_s,
      digital: digital === undefined ? null : percent(digital),
      current: mA === undefined ? null : (100 * (mA - 4)) / 16,
      electrode: state.electrode_mV ?? null,
      ...(device.electrode ? { temperature: electrodeTemp_C(device, state.device) } : {}),
    }
  }

  return {
    family: 'current',
    start: first,
    longestStep_s: LONGEST_STEP_s,
    units: Object.fromEntries(thread.knots.map((k) => [k.id, k.unit])),
    process: { unit: sure(thread.knots[0]).unit, lowest: process.lowest, highest: process.highest },
    step,
    command,
    act,
    readings,
    trendPoint,
    since_s: (state) => state.since_s,
    edges: () => [],
    held: (state) => heldBy(device, state.device),
    log: (state) => state.device.log,
    meterHeld: (state) => state.meter && { ...state.meter.state.held },
    practice: (state) => ({
      transmitter: {
        case: state.device.practice,
        cases: casesFor(device).map((c) => c.id),
        reveals:
          casesFor(device).find((c) => c.id === state.device.practice)?.reveals ?? 'No practice case is under way.',
      },
      ...(state.meter ? { meter: meterPractice(state.meter.state) } : {}),
    }),
    processAt: (state) => state.world.process,
    kept: (state) => state.device,
  }
}
