// The simulated driver of a current: a stand-in for process, transmitter, meter and card, stepped by the clock.
import type { CommandBench, CommandMeter, LiveReading, TrendSample } from '@calm-loop/contract'
import type { Sample } from '@calm-loop/core/check'
import {
  beginCase,
  casesFor,
  commandMeter,
  commandTransmitter,
  digitalOf,
  drivenCurrent,
  electrode_mV,
  heldBy,
  inputOf,
  keepRange,
  moveProcess,
  normal,
  observeMeter,
  observeStandIn,
  powerCycle,
  seedFrom,
  setValve,
  shownOf,
  slowness,
  startMeter,
  startStandIn,
  startTransmitter,
  stepMeter,
  stepStandIn,
  stepTransmitter,
  uniform,
  type HiddenFaults,
  type MeterModel,
  type MeterShown,
  type MeterState,
  type StandInSetup,
  type StandInState,
  type TransmitterState,
} from '@calm-loop/core/device'
import { transmitterFor, type CurrentStudy } from '@calm-loop/core/loop'
import type { Command, ValveMove } from '@calm-loop/core/procedure'
import { Refusal } from '@calm-loop/core/refusal'
import { audience, type DeviceLink, type TransmitterLink, type Witness } from './link.ts'

const STEP_ms = 50
const TELL_EVERY = 4
const KEPT_s = 70
/** How long a device takes to answer, ms. */
const ANSWER_ms = 120

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
    zeroing: () => state.phase === 'zeroing',
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

/** What a link is opened with, besides the entries. */
export interface StandInStart {
  readonly startAt?: number | undefined
  /** The transmitter as it stood when it was last told something. */
  readonly transmitter?: TransmitterState | undefined
  /** Practice case on record, where the transmitter was never told anything. */
  readonly practice?: string | undefined
  /** How many times faster than a clock the bench goes on: for tests that would only wait. */
  readonly pace?: number | undefined
  /** Keeps the transmitter's state. */
  readonly save?: ((state: TransmitterState) => Promise<void>) | undefined
}

/** @throws Refusal `loop-incomplete` */
export function openStandIn(loopId: string, known: CurrentStudy, start: StandInStart = {}): DeviceLink {
  const { thread, scales, reader } = known
  const { pace = 1 } = start
  const process = known.process()
  if (!process) throw new Refusal('loop-incomplete', 'The stand-in needs the whole loop: finish Point and Range first.')
  const setup: StandInSetup = {
    thread,
    // A meter of its own hides what it hides itself.
    faults: known.kind.has.meter ? { sensorZeroPct: 0, sensorSpanPct: 0, outputZeroPct: 0.02 } : hiddenFaults(loopId),
    noisePct: 0.03,
    damping_s: Math.max(0, reader.in('damping', 's') ?? 0),
    process,
    fault_mA: reader.in('faultCurrent', 'mA'),
  }
  const model = known.meter?.()
  const meter = model && meterBench(model, seedFrom(`${loopId} meter ${Date.now()}`))
  const { low = process.lowest } = scales[0]!
  const within = (v: number) => Math.min(process.highest, Math.max(process.lowest, v))
  const digitalKnot = thread.knots.findIndex((k) => k.role === 'digital')
  // Not measuring yet: the meter’s first value is taken as it comes, not crept up to.
  let state: StandInState = {
    ...startStandIn(setup, within(start.startAt ?? low), seedFrom(`${loopId} ${Date.now()}`)),
    failed: !!meter,
  }
  const device = transmitterFor(known)
  let held: TransmitterState = start.transmitter ?? startTransmitter(device)
  if (!start.transmitter && start.practice && casesFor(device).some((c) => c.id === start.practice))
    held = beginCase(device, held, start.practice)
  let noiseSeed = seedFrom(`${loopId} noise ${Date.now()}`)
  const noise = () => {
    const [n, next] = normal(noiseSeed)
    noiseSeed = next
    return n
  }
  const trueDigital = (value: number): number => {
    const stage = thread.stages.slice(0, digitalKnot)
    return stage.reduce((v, s) => (s.ready ? s.forward(v) : v), value)
  }
  const listeners = audience()
  const trends = new Set<(sample: TrendSample) => void>()
  const kept: Record<Witness, Sample[]> = { digital: [], current: [], electrode: [] }
  let electrode: number | undefined
  let last = performance.now()
  let turn = 0
  const span = device.urv - device.lrv
  const shape = {
    current: (digital: number) => drivenCurrent(device, held, digital) + 0.16 * setup.faults.outputZeroPct,
    shown: (value: number) => shownOf(device, held, value),
    get fixed() {
      return held.fixed_mA !== null
    },
  }
  const benchLive = (): NonNullable<LiveReading['transmitter']> => ({
    practice: held.practice,
    manifold: Object.fromEntries(Object.entries(held.manifold)) as Record<string, 'open' | 'shut'>,
    bench: held.bench,
    fixed_mA: held.fixed_mA,
    protected: held.protected,
    changes: held.changes,
    ...(electrode === undefined ? {} : { electrode_mV: electrode }),
  })
  const reading = (): LiveReading => {
    const seen = observeStandIn(setup, state, shape)
    return {
      ...seen,
      ...(held.bench
        ? { reference: held.bench.value, wanted: held.bench.wanted, moving: held.bench.value !== held.bench.wanted }
        : {}),
      transmitter: benchLive(),
      ...(device.current ? {} : { signal_mA: 4 + 0.16 * state.damped }),
      ...(meter ? { meter: meter.live() } : {}),
    }
  }
  /** What the device measures where a plain sensor stands in for it. */
  const measured = (value: number) => {
    let input: number
    try {
      input = trueDigital(value)
    } catch (error) {
      if (!(error instanceof Refusal)) throw error
      // Beyond what the sensor can follow it keeps showing the end it ran into.
      input = value > (process.lowest + process.highest) / 2 ? device.urv + 0.1 * span : device.lrv - 0.1 * span
    }
    const fed = inputOf(device, held, input, state.t_s)
    if (device.electrode) electrode = electrode_mV(held, fed, noise())
    return digitalOf(device, held, fed, noise(), { ...setup.faults, noisePct: setup.noisePct })
  }
  const sample = (): void => {
    // While a meter averages its zero nothing it shows is steady: the process must not be let back on before it is done.
    if (meter?.zeroing()) return forget()
    const seen = observeStandIn(setup, state, shape)
    const [digital, mA] = [seen.knots[thread.knots[digitalKnot]!.id], seen.knots['current']]
    const keep = (witness: Witness, value: number | undefined) => {
      if (value === undefined) return
      const list = kept[witness]
      list.push({ t_s: state.t_s, value })
      if (list.length > (KEPT_s * 1000) / STEP_ms) list.splice(0, 200)
    }
    const pct = digital === undefined ? undefined : (100 * (digital - device.lrv)) / span
    keep('digital', pct)
    keep('current', mA === undefined ? undefined : (100 * (mA - 4)) / 16)
    keep('electrode', electrode)
    if (trends.size) {
      const now: TrendSample = { t_s: state.t_s, digital: pct ?? null, current: mA === undefined ? null : (100 * (mA - 4)) / 16, electrode: electrode ?? null } // prettier-ignore
      trends.forEach((tell) => tell(now))
    }
  }
  // At rest from the beginning: nothing creeps up to where it stands already.
  if (!meter) state = { ...state, damped: (100 * (measured(state.process) - device.lrv)) / span }

  /** Everything on the bench goes on by so many seconds. */
  const pass = (dt_s: number): void => {
    held = stepTransmitter(device, held, dt_s)
    const feeding = meter && ((value: number) => meter.step(held.bench?.value ?? value, dt_s))
    const sensing = (value: number) => ({ digital: measured(value) })
    state = stepStandIn(setup, state, dt_s, feeding ?? sensing, setup.damping_s + slowness(held))
    sample()
  }
  const timer = setInterval(() => {
    const now = performance.now()
    const dt_s = Math.min(1, (now - last) / 1000)
    last = now
    for (let i = 0; i < pace; i++) pass(dt_s)
    if (turn++ % TELL_EVERY === 0 && listeners.size()) listeners.tell(reading())
  }, STEP_ms)
  timer.unref()

  /** The digital value as the device itself sees it, averaged over the last second. */
  const seenDigital = (): number => {
    const recent = kept.digital.slice(-Math.round(1000 / STEP_ms))
    const mean = recent.reduce((sum, s) => sum + s.value, 0) / Math.max(1, recent.length)
    return device.lrv + (mean / 100) * span
  }
  const forget = () => Object.values(kept).forEach((list) => list.splice(0))
  const settle = async (next: TransmitterState): Promise<void> => {
    // What the device worked by until now is no measure of how steady it is from now on.
    if (next.active !== held.active || next.fixed_mA !== held.fixed_mA || next.practice !== held.practice) {
      forget()
      if (next.active.sensorOffset !== held.active.sensorOffset || next.active.sensorGain !== held.active.sensorGain) {
        state = { ...state, damped: retrimmed(next, state.damped) }
      }
    }
    held = next
    await start.save?.(next)
  }
  /** Damped value, % of span, as it stands once other trims work on the same measurement. */
  const retrimmed = (next: TransmitterState, damped: number): number => {
    const digital = device.lrv + (damped / 100) * span
    const plain = (digital - held.active.sensorOffset) / held.active.sensorGain
    return (100 * (next.active.sensorOffset + next.active.sensorGain * plain - device.lrv)) / span
  }
  const at = () => new Date().toISOString()
  const transmitter: TransmitterLink = {
    view: () => ({
      held: heldBy(device, held),
      cases: casesFor(device).map((c) => c.id),
      practice: held.practice,
      log: [...held.log],
    }),
    async read() {
      await new Promise((resolve) => setTimeout(resolve, ANSWER_ms))
      return heldBy(device, held)
    },
    async command(command: Command) {
      await new Promise((resolve) => setTimeout(resolve, ANSWER_ms))
      const answer = commandTransmitter(device, held, command, seenDigital(), at())
      if (answer.taken && command.do === 'flow-zero' && meter) {
        meter.command({ do: 'zero', length_s: 6 })
        // The meter takes its own zero; nothing is shifted behind it.
        await settle({ ...answer.state, active: held.active, stored: held.stored })
      } else await settle(answer.state)
      return answer.arrives ? { taken: answer.taken, says: answer.says } : await new Promise<never>(() => undefined)
    },
    async valve(move: ValveMove) {
      await settle(setValve(held, move))
    },
    async feed(input) {
      if (input === 'bench' && held.bench) return
      const spansZero = device.lrv * device.urv <= 0 || device.manifold !== 'none' || device.meter
      const rest = device.electrode ? 7 : spansZero ? 0 : device.lrv
      await settle({ ...held, bench: input === 'process' ? null : { value: rest, wanted: rest } })
      forget()
    },
    async bench(command: CommandBench) {
      if (command.do === 'practice') return settle(beginCase(device, held, command.case))
      if (command.do === 'keep') return settle(keepRange(device, held))
      if (command.do === 'power-cycle') return settle(powerCycle(held, at()))
      if (command.do === 'protect') return settle({ ...held, protected: command.on })
      if (!held.bench)
        throw new Refusal('on-process', 'The process feeds the sensor. The bench can apply something only once the run sheet has taken the input off it.') // prettier-ignore
      if (device.meter && command.value !== 0) throw new Refusal('on-process', 'A meter is not fed from the bench.')
      return settle({ ...held, bench: { ...held.bench, wanted: command.value } })
    },
    reveal: () => ({
      case: held.practice,
      reveals: casesFor(device).find((c) => c.id === held.practice)?.reveals ?? 'No practice case is under way.',
    }),
    samples: (witness) => kept[witness],
    now: () => reading().knots,
  }
  return {
    units: Object.fromEntries(thread.knots.map((k) => [k.id, k.unit])),
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
    trend(listener) {
      trends.add(listener)
      return () => void trends.delete(listener)
    },
    move(wish) {
      if (!('wanted' in wish)) throw new Refusal('outside-process', 'This process does not run by itself.')
      state = moveProcess(setup, state, wish.wanted)
    },
    processNow: () => state.process,
    transmitter,
    ...(meter ? { meter: { held: meter.held, command: meter.command, reveal: meter.reveal } } : {}),
    listening: listeners.size,
    close() {
      clearInterval(timer)
      listeners.close()
      trends.clear()
    },
  }
}
