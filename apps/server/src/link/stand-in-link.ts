// The simulated driver of a current: a stand-in for process, transmitter, meter and card, stepped by the clock.
import {
  moveProcess,
  observeStandIn,
  seedFrom,
  startStandIn,
  stepStandIn,
  uniform,
  type HiddenFaults,
  type StandInSetup,
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

/** @throws Refusal `loop-incomplete` */
export function openStandIn(loopId: string, kind: CurrentKind, entries: Entries, startAt?: number): DeviceLink {
  const { thread } = kind.study(entries)
  const process = kind.standIn(entries)
  if (!process) throw new Refusal('loop-incomplete', 'The stand-in needs the whole loop: finish Point and Range first.')
  const setup: StandInSetup = {
    thread,
    faults: hiddenFaults(loopId),
    noisePct: 0.03,
    damping_s: Math.max(0, readEntries(kind.fields, entries).in('damping', 's') ?? 0),
    process,
  }
  const { low = process.lowest } = knotScales(thread)[0]!
  const within = (v: number) => Math.min(process.highest, Math.max(process.lowest, v))
  let state = startStandIn(setup, within(startAt ?? low), seedFrom(`${loopId} ${Date.now()}`))
  const listeners = audience()
  let last = performance.now()
  let turn = 0
  const timer = setInterval(() => {
    const now = performance.now()
    state = stepStandIn(setup, state, Math.min(1, (now - last) / 1000))
    last = now
    if (turn++ % TELL_EVERY === 0 && listeners.size()) listeners.tell(observeStandIn(setup, state))
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
      listener(observeStandIn(setup, state))
      return listeners.join(listener, closed)
    },
    move(wish) {
      if (!('wanted' in wish)) throw new Refusal('outside-process', 'This process does not run by itself.')
      state = moveProcess(setup, state, wish.wanted)
    },
    processNow: () => state.process,
    listening: listeners.size,
    close() {
      clearInterval(timer)
      listeners.close()
    },
  }
}
