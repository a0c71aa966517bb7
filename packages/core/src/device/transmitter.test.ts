import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  beginCase,
  casesFor,
  commandTransmitter,
  digitalOf,
  drivenCurrent,
  electrodeTemp_C,
  heldBy,
  inputOf,
  keepRange,
  powerCycle,
  setValve,
  shownOf,
  startTransmitter,
  stepTransmitter,
  TRANSMITTER_CASES,
  type TransmitterSetup,
  type TransmitterState,
} from './index.ts'
import { idealSlope_mV } from '../analysis/index.ts'
import type { Command } from '../procedure/index.ts'

const SETUP: TransmitterSetup = {
  lrv: 0,
  urv: 600,
  receiverLow: 0,
  receiverHigh: 600,
  manifold: 'three-valve',
  electrode: false,
  meter: false,
  current: true,
}
const PH: TransmitterSetup = {
  ...SETUP,
  lrv: 2,
  urv: 12,
  receiverLow: 2,
  receiverHigh: 12,
  manifold: 'none',
  electrode: true,
}
const NONE = { sensorZeroPct: 0, sensorSpanPct: 0, noisePct: 0 }
const shows = (state: TransmitterState, input: number, setup = SETUP) =>
  digitalOf({ setup, state, input, noise: 0, base: NONE })
const tell = (state: TransmitterState, command: Command, seen = 0, setup = SETUP) =>
  commandTransmitter({ setup, state, command, seen, at: 'now' })
const fresh = startTransmitter(SETUP)

describe('trims', () => {
  it('a zero trim takes off what is seen, at every point alike', () => {
    const shifted = beginCase(SETUP, fresh, 'mounting-shift')
    const { state } = tell(shifted, { do: 'zero-trim' }, shows(shifted, 0))
    for (const p of [0, 300, 600]) expect(shows(state, p)).toBeCloseTo(p, 9)
  })
  it('lower and upper sensor trim make the ends agree, whatever zero and span were', () => {
    const any = fc.double({ min: -8, max: 8, noNaN: true })
    fc.assert(
      fc.property(any, any, (zero, span) => {
        const base = { sensorZeroPct: zero, sensorSpanPct: span, noisePct: 0 }
        const seen = (s: TransmitterState, p: number) => digitalOf({ setup: SETUP, state: s, input: p, noise: 0, base })
        const lower = tell(fresh, { do: 'sensor-trim', end: 'lower', value: 0 }, seen(fresh, 0)).state
        const upper = tell(lower, { do: 'sensor-trim', end: 'upper', value: 600 }, seen(lower, 600)).state
        for (const p of [0, 150, 600]) expect(seen(upper, p)).toBeCloseTo(p, 6)
      }),
    )
  })
  it('a current trim at 4 and at 20 mA makes the current agree', () => {
    const wrong = beginCase(SETUP, fresh, 'output-error')
    const at = (s: TransmitterState, mA: number) => drivenCurrent(SETUP, { ...s, fixed_mA: mA }, 0)
    expect(at(wrong, 4)).toBeCloseTo(4.09, 9)
    const low = tell(wrong, { do: 'current-trim', at: 4, reading: at(wrong, 4) }).state
    const both = tell(low, { do: 'current-trim', at: 20, reading: at(low, 20) }).state
    for (const mA of [4, 12, 20]) expect(at(both, mA)).toBeCloseTo(mA, 9)
    expect(drivenCurrent(SETUP, both, 300)).toBeCloseTo(12, 9)
  })
  it('a pH calibration with the electrode’s own slope and offset reads true', () => {
    const worn = beginCase(PH, startTransmitter(PH), 'worn-electrode')
    expect(Math.abs(shows(worn, 7, PH) - 7)).toBeGreaterThan(0.3)
    const slope_mVperPh = -0.915 * 59.15934
    const { state } = tell(worn, { do: 'ph-calibrate', slope_mVperPh, offset_mV: 21 }, 0, PH)
    for (const ph of [4, 7, 10]) expect(shows(state, ph, PH)).toBeCloseTo(ph, 4)
  })
  it('an electrode takes the temperature of its buffer after a while, and reads true in and out of the process', () => {
    const hot = { ...PH, liquid_C: 62 }
    const start = startTransmitter(hot)
    const benched = { ...start, bench: { value: 7, wanted: 7 } }
    const after = (s: TransmitterState, seconds: number) =>
      Array.from({ length: seconds * 10 }).reduce((now: TransmitterState) => stepTransmitter(hot, now, 0.1), s)
    expect(electrodeTemp_C(hot, start)).toBe(62)
    const soon = electrodeTemp_C(hot, after(benched, 2))
    expect(soon).toBeGreaterThan(30)
    expect(soon).toBeLessThan(50)
    const cold = after(benched, 30)
    expect(electrodeTemp_C(hot, cold)).toBe(25)
    // A healthy electrode: 98.5 % of the ideal, 4 mV off.
    const { state } = tell(cold, { do: 'ph-calibrate', slope_mVperPh: 0.985 * idealSlope_mV(25), offset_mV: 4 }, 0, hot)
    const back = after({ ...state, bench: null }, 30)
    expect(electrodeTemp_C(hot, back)).toBe(62)
    for (const ph of [2, 4, 10]) {
      expect(shows(state, ph, hot)).toBeCloseTo(ph, 9)
      expect(shows(back, ph, hot)).toBeCloseTo(ph, 9)
    }
  })
  it('a range and a scale mean something else, and change no measurement', () => {
    const half = tell(fresh, { do: 'set-range', lrv: 0, urv: 300 }).state
    expect([drivenCurrent(SETUP, half, 300), shows(half, 300)]).toEqual([20, 300])
    const scaled = tell(fresh, { do: 'receiver', low: 0, high: 750 }).state
    expect(shownOf(SETUP, scaled, 300)).toBe(375)
  })
})

describe('what it holds', () => {
  it('keeps what was written through a power failure, and loses it where it forgets and was not told to store', () => {
    const kept = powerCycle(tell(fresh, { do: 'zero-trim' }, 5).state, 'now')
    expect(shows(kept, 0)).toBe(-5)
    const forgets = tell(beginCase(SETUP, fresh, 'forgets'), { do: 'zero-trim' }, 5).state
    expect(heldBy(SETUP, forgets).stored).toBe(false)
    expect(powerCycle(forgets, 'now').active.sensorOffset).toBe(0)
    const stored = tell(forgets, { do: 'store' }).state
    expect(powerCycle(stored, 'now').active.sensorOffset).toBe(-5)
  })
  it('refuses every write while it is protected, but drives and releases', () => {
    const locked = { ...fresh, protected: true }
    for (const command of [{ do: 'zero-trim' }, { do: 'store' }, { do: 'set-range', lrv: 0, urv: 1 }] as Command[])
      expect(tell(locked, command)).toMatchObject({ taken: false, state: locked })
    expect(tell(locked, { do: 'drive', mA: 12 }).taken).toBe(true)
  })
  it('loses one answer, with the write or without it', () => {
    const lost = tell(beginCase(SETUP, fresh, 'answer-lost'), { do: 'zero-trim' }, 5)
    expect([lost.arrives, lost.state.changes]).toEqual([false, 1])
    expect(tell(lost.state, { do: 'zero-trim' }, 1).arrives).toBe(true)
    const never = tell(beginCase(SETUP, fresh, 'command-lost'), { do: 'zero-trim' }, 5)
    expect([never.arrives, never.state.changes]).toEqual([false, 0])
  })
  it('counts and logs its changes, and keeps its range when the record moves on', () => {
    const twice = tell(tell(fresh, { do: 'zero-trim' }, 1).state, { do: 'zero-trim' }, 1).state
    expect([heldBy(SETUP, twice).changes, twice.log.length]).toEqual([2, 2])
    const own = keepRange(SETUP, fresh)
    expect(heldBy({ ...SETUP, urv: 500, receiverHigh: 500 }, own)).toMatchObject({ urv: 600, receiverHigh: 600 })
  })
})

describe('what feeds it', () => {
  const out = (['low', 'equalize', 'high'] as const).reduce(
    (s, valve) => setValve(s, { valve, to: valve === 'equalize' ? 'open' : 'shut' }),
    fresh,
  )
  it('sees true zero when equalized, the process in service, and the pump at the bench', () => {
    expect(inputOf(SETUP, fresh, 400, 0)).toBe(400)
    expect(inputOf(SETUP, out, 400, 0)).toBe(0)
    const pumping = { ...setValve(out, { valve: 'equalize', to: 'shut' }), bench: { value: 10, wanted: 600 } }
    expect(inputOf(SETUP, pumping, 400, 0)).toBe(10)
    expect(stepTransmitter(SETUP, pumping, 1).bench!.value).toBeCloseTo(250, 9)
    expect(stepTransmitter(SETUP, pumping, 60).bench!.value).toBe(600)
  })
  it('never stands still with a leaking equalizing valve', () => {
    const leaking = { ...out, practice: 'leaking-valve' }
    const seen = Array.from({ length: 200 }, (_, i) => inputOf(SETUP, leaking, 400, i / 20))
    expect(Math.max(...seen) - Math.min(...seen)).toBeGreaterThan(3)
  })
  it('has for every case a story, and offers those that fit', () => {
    expect(TRANSMITTER_CASES.every((c) => c.reveals.length > 20)).toBe(true)
    expect(casesFor(PH).map((c) => c.id)).toContain('worn-electrode')
    expect(casesFor(PH).map((c) => c.id)).not.toContain('leaking-valve')
    expect(() => beginCase(PH, startTransmitter(PH), 'leaking-valve')).toThrow('no such practice case')
    const seen = casesFor(SETUP).map((c) => shows(beginCase(SETUP, fresh, c.id), 300))
    expect(seen.every(Number.isFinite)).toBe(true)
  })
})
