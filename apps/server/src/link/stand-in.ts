// The driver of a simulated device: lets a machine of the core run by the clock, and hands on what it shows.
import type { LiveReading } from '@calm-loop/contract'
import type { DeviceCommand, Machine, PracticeAct } from '@calm-loop/core/device'
import type { Bench, Driver, Link, Listener } from './driver.ts'

/** The machine is run, and a trend told, so often; readings of a current come a fifth as often. */
const TURN_ms = 50
const TELL_EVERY = { current: 4, switch: 1 }
/** How long a device takes to answer, ms. */
const ANSWER_ms = 120
const PATIENCE_ms = 2000
/** After a pause of the process no more than this is made up for. */
const MOST_s = 1

export interface StandInOptions {
  /** How many times faster than a clock the machine goes on: for tests that would only wait. */
  readonly pace?: number | undefined
  /** Keeps what outlasts a restart. */
  readonly keep?: ((kept: unknown) => Promise<void>) | undefined
}

export interface StandIn extends Link {
  readonly bench: Bench
}

export function runStandIn(machine: Machine<unknown>, { pace = 1, keep }: StandInOptions = {}): StandIn {
  let state = machine.start
  let last = performance.now()
  let turn = 0
  /** Changes up to here have been told, s. */
  let told_s = machine.readings(state).t_s
  const listeners = new Set<Listener>()
  const tell = (say: (to: Listener) => void) => [...listeners].forEach(say)

  const reading = (): LiveReading => ({
    ...machine.readings(state),
    ...(machine.family === 'switch' ? { at_ms: Date.now(), edges: [] } : {}),
  })
  /** Changes that have not been told, by the server's clock. */
  const newEdges = (now_s: number) =>
    machine
      .edges(state)
      .filter((e) => e.t_s > told_s)
      .map((e) => ({ t_ms: Math.round(Date.now() - (now_s - e.t_s) * 1000), state: e.state, at: e.at }))

  /** The machine with another state: what it worked by before is forgotten by those who judge how steady it is. */
  async function become(next: unknown): Promise<void> {
    const [was, kept] = [machine.since_s(state), machine.kept(state)]
    state = next
    if (machine.since_s(state) !== was) tell((to) => to.changed?.())
    if (machine.kept(state) !== kept) await keep?.(machine.kept(state))
  }

  const timer = setInterval(() => {
    const now = performance.now()
    const passed_s = Math.min(MOST_s, (now - last) / 1000)
    last = now
    for (let i = 0; i < pace; i++) {
      const was = machine.since_s(state)
      for (let left = passed_s; left > 1e-6; left -= machine.longestStep_s)
        state = machine.step(state, Math.min(machine.longestStep_s, left))
      if (machine.since_s(state) !== was) tell((to) => to.changed?.())
      const point = machine.trendPoint(state)
      if (point) tell((to) => to.trend?.(point))
    }
    if (turn++ % TELL_EVERY[machine.family] !== 0) return
    const latest = reading()
    const edges = machine.family === 'switch' ? { edges: newEdges(latest.t_s) } : {}
    told_s = latest.t_s
    tell((to) => to.reading?.({ ...latest, ...edges }))
  }, TURN_ms)
  timer.unref()

  const at = () => new Date().toISOString()
  const answering = () => new Promise((resolve) => setTimeout(resolve, ANSWER_ms))
  const driver: Driver = {
    description: { driver: 'stand-in', family: machine.family, ...machine.process },
    units: machine.units,
    ready: () => Promise.resolve(),
    patience_ms: PATIENCE_ms,
    witnesses: new Set(['digital', 'current', 'electrode', 'temperature']),
    async read() {
      await answering()
      return { held: machine.held(state), log: [...machine.log(state)], meter: machine.meterHeld(state) }
    },
    async command(command: DeviceCommand) {
      await answering()
      const { state: next, arrives, taken, says } = machine.command(state, command, at())
      await become(next)
      return arrives ? { taken, says } : await new Promise<never>(() => undefined)
    },
    subscribe(listener) {
      listeners.add(listener)
      listener.reading?.(reading())
      return () => void listeners.delete(listener)
    },
    latest: reading,
    close() {
      clearInterval(timer)
      const last = [...listeners]
      listeners.clear()
      last.forEach((to) => to.closed?.())
    },
  }
  return {
    driver,
    bench: {
      act: (act: PracticeAct) => become(machine.act(state, act, at())),
      processAt: () => machine.processAt(state),
      practice: () => machine.practice(state),
    },
  }
}
