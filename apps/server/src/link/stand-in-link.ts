// The simulated driver of a current: a stand-in for process, transmitter, meter and card, stepped by the clock.
import type { CommandMeter, LiveReading } from '@calm-loop/contract'
import {
  commandMeter,
  moveProcess,
  observeMeter,
  observeStandIn,
  seedFrom,
  startMeter,
  startStandIn,
  stepMeter,
  stepStandIn,
  uniform,
  type HiddenFaults,
  type MeterModel,
  type MeterShown,
  type MeterState,
  type StandInSetup,
  type StandInState,
} from '@calm-loop/core/device'
import { readEntries, type CurrentKind, type Entries } from '@calm-loop/core/kinds'
import { Refusal } from '@calm-loop/core/refusal'
import { knotScales } from '@calm-loop/core/thread'
import { audience, type DeviceLink } from './link.ts'

const STEP_ms = 100
const TELL_EVERY = 2

/** A slightly wrong zero, its own for each loop: 0.08 to 0.24 % of span, and a trace of span error. */
export function hiddenFaults(loopId: string): HiddenFaults {
  const [size, next] = uniform(seedFrom(loopId))
  const [side, last] = uniform(next)
  const [slope] = uniform(last)
  return {
    sensorZeroPct: (side < 0.5 ? -1 : 1) * (0.08 + 0.16 * size),
    sensorSpanPct: 0.1 * (slope - 0.5),
    outputZeroPct: 0.02,
  }
}

/** A simulated meter, run beside the process. */
function meterBench(model: MeterModel, seed: number) {
  let state: MeterState = startMeter(model, '', seed)
  let shown: MeterShown = { digital: undefined, tells: [] }
  const lasts = () =>
    ({ searching: model.search_s, health: model.health_s, zeroing: state.zeroing.length_s })[state.phase as string] ?? 0
  return {
    step(process: number, dt_s: number): MeterShown {
      state = stepMeter(model, state, process, dt_s)
      return (shown = observeMeter(model, state, process))
    },
    live: (): NonNullable<LiveReading['meter']> => ({
      phase: state.phase,
      phase_s: state.phase_s,
      lasts_s: lasts(),
      practice: state.practice,
      tells: [...shown.tells],
      zero: state.zero,
      ...(state.zeroed ? { zeroed: state.zeroed } : {}),
      mount: { spacing_mm: state.mount.spacing_mm ?? null, swapped: state.mount.swapped },
      ...(state.gas ? { gas: state.gas } : {}),
      digital: shown.digital ?? null,
    }),
    held: () => ({ held: { ...state.held }, cases: model.cases.map((c) => c.id) }),
    command: (command: CommandMeter) => void (state = commandMeter(model, state, command, shown.digital ?? 0)),
    reveal: () => ({
      case: state.practice,
      reveals: model.cases.find((c) => c.id === state.practice)?.reveals ?? 'No practice case is under way.',
    }),
  }
}

/** @throws Refusal `loop-incomplete` */
export function openStandIn(loopId: string, kind: CurrentKind, entries: Entries, startAt?: number): DeviceLink {
  const { thread } = kind.study(entries)
  const process = kind.standIn(entries)
  if (!process) throw new Refusal('loop-incomplete', 'The stand-in needs the whole loop: finish Point and Range first.')
  const reader = readEntries(kind.fields, entries)
  const setup: StandInSetup = {
    thread,
    // A meter of its own hides what it hides itself.
    faults: kind.meter ? { sensorZeroPct: 0, sensorSpanPct: 0, outputZeroPct: 0.02 } : hiddenFaults(loopId),
    noisePct: 0.03,
    damping_s: Math.max(0, reader.in('damping', 's') ?? 0),
    process,
    fault_mA: reader.in('faultCurrent', 'mA'),
  }
  const model = kind.meter?.(entries)
  const meter = model && meterBench(model, seedFrom(`${loopId} meter ${Date.now()}`))
  const { low = process.lowest } = knotScales(thread)[0]!
  const within = (v: number) => Math.min(process.highest, Math.max(process.lowest, v))
  // Not measuring yet: the meter’s first value is taken as it comes, not crept up to.
  let state: StandInState = {
    ...startStandIn(setup, within(startAt ?? low), seedFrom(`${loopId} ${Date.now()}`)),
    failed: !!meter,
  }
  const listeners = audience()
  let last = performance.now()
  let turn = 0
  const reading = (): LiveReading => ({ ...observeStandIn(setup, state), ...(meter ? { meter: meter.live() } : {}) })
  const timer = setInterval(() => {
    const now = performance.now()
    const dt_s = Math.min(1, (now - last) / 1000)
    state = stepStandIn(setup, state, dt_s, meter && ((process) => meter.step(process, dt_s)))
    last = now
    if (turn++ % TELL_EVERY === 0 && listeners.size()) listeners.tell(reading())
  }, STEP_ms)
  timer.unref()
  return {
    description: {
      driver: 'stand-in',
      family: 'current',
      unit: thread.knots[0]!.unit,
      lowest: process.lowest,
      highest: process.highest,
    },
    subscribe(listener, closed) {
      listener(reading())
      return listeners.join(listener, closed)
    },
    move(wish) {
      if (!('wanted' in wish)) throw new Refusal('outside-process', 'This process does not run by itself.')
      state = moveProcess(setup, state, wish.wanted)
    },
    processNow: () => state.process,
    ...(meter ? { meter: { held: meter.held, command: meter.command, reveal: meter.reveal } } : {}),
    listening: listeners.size,
    close() {
      clearInterval(timer)
      listeners.close()
    },
  }
}
