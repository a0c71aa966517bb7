import fc from 'fast-check'
import { describe, expect, it, vi } from 'vitest'
import { judgeByRange, judgeByThread, upAndDown, type RecordedReading } from '../check/index.ts'
import { demoEntries } from '../kinds/demo-entries.fixture.ts'
import { currentKindOf, entriesNow, KINDS, kindOf } from '../kinds/index.ts'
import { addDevice, connect, energise, refOf, setDeviceFigure, takeOut, typeOf, writeWiring } from '../wiring/index.ts'
import { study, type CurrentStudy } from './index.ts'

const of = (id: string, changed: Record<string, string> = {}) => study(currentKindOf(id), demoEntries(id, changed))
const currents = KINDS.filter((k) => k.family === 'current').map((k) => k.id)

/** Readings of a loop that is exactly as it should be, at every knot, up and down. */
function perfect(s: CurrentStudy, wrong: Readonly<Record<string, number>> = {}): RecordedReading[] {
  const { low, high } = s.scales[0]!
  return upAndDown().map(({ index, percent, direction }) => {
    const applied = low! + (percent / 100) * (high! - low!)
    const reads = s.expect(s.thread.knots[0]!.id, applied).flatMap((v, i) => {
      const knot = s.thread.knots[i]!
      const { low: a, high: b } = s.scales[i]!
      return v.known ? [[knot.id, v.value + ((wrong[knot.id] ?? 0) / 100) * (b! - a!)] as const] : []
    })
    return { id: `r${index}`, pointIndex: index, percent, direction, applied, reads: Object.fromEntries(reads) }
  })
}

describe.each(currents)('a perfect loop: %s', (id) => {
  it('is within any tolerance, judged at every knot that was read', () => {
    const s = of(id)
    const judged = judgeByThread(perfect(s), s.thread, 0.01)!
    expect(judged.result.pass).toBe(true)
    expect(judged.judged).toHaveLength(10)
    expect(judged.judged[0]!.knots.length).toBe(s.thread.knots.length - 1)
  })
  it('shows an error of the current, and one of the controller, as large as it is', () => {
    const s = of(id)
    for (const knot of ['current', 'controller']) {
      const judged = judgeByThread(perfect(s, { [knot]: 0.7 }), s.thread, 0.5)!
      expect(judged.result.pass).toBe(false)
      expect(judged.result.maxErrorPct).toBeCloseTo(0.7, 6)
      expect(judged.judged[3]!.worst.knotId).toBe(knot)
    }
  })
  it('has a study that is the same whether or not it follows another', () => {
    const kind = currentKindOf(id)
    const before = study(kind, demoEntries(id, { damping: '3 s' }))
    const [after, alone] = [study(kind, demoEntries(id), before), study(kind, demoEntries(id))]
    const seen = (s: CurrentStudy) => [
      s.figures.map((f) => [f.id, f.value]),
      s.findings,
      s.scales,
      s.missing,
      s.electrical.budget,
    ]
    expect(seen(after)).toEqual(seen(alone))
    expect(after.desk.findings).toEqual(alone.desk.findings)
  })
})

describe('the expectation is the thread’s', () => {
  it.each(['transmitter', 'receiver'])(
    'a perfect orifice loop with the root at the %s is within tolerance',
    (rootAt) => {
      const s = of('orifice-dp', { rootAt })
      expect(judgeByThread(perfect(s), s.thread, 0.1)!.result.maxErrorPct).toBeCloseTo(0, 6)
    },
  )
  it('a straight line would have failed it by a quarter', () => {
    const s = of('orifice-dp', { rootAt: 'receiver' })
    const { low, high } = s.scales[0]!
    const line = judgeByRange(perfect(s), { lrv: low!, urv: high! }, 0.5)!
    expect(line.result.pass).toBe(false)
    expect(Math.abs(line.result.maxErrorPct)).toBeGreaterThan(20)
  })
  it('knows the low-flow cutoff', () => {
    const s = of('volume-flow', { cutoff: '5 m3/h', lrv: '0 m3/h', urv: '100 m3/h' })
    expect(s.expect('process', 4).find((_, i) => s.thread.knots[i]!.id === 'current')).toMatchObject({
      known: true,
      value: 4,
    })
    expect(s.expect('process', 6).find((_, i) => s.thread.knots[i]!.id === 'current')).not.toMatchObject({ value: 4 })
  })
  it('turns with a reverse range', () => {
    const s = of('pressure', { lrv: '600 mbar', urv: '0 mbar', receiverLow: '600 mbar', receiverHigh: '0 mbar' })
    expect(judgeByThread(perfect(s), s.thread, 0.1)!.result.pass).toBe(true)
  })
  it('agrees with the straight line wherever that is true', () => {
    fc.assert(
      fc.property(fc.double({ min: -2, max: 2, noNaN: true }), (errorPct) => {
        const s = of('level-from-above')
        const { low, high } = s.scales[0]!
        const readings = perfect(s, { current: errorPct })
        const only = readings.map((r) => ({ ...r, reads: { current: r.reads['current']! } }))
        const [a, b] = [
          judgeByThread(only, s.thread, 1)!.result,
          judgeByRange(only, { lrv: low!, urv: high! }, 1)!.result,
        ]
        expect(a.maxErrorPct).toBeCloseTo(b.maxErrorPct, 7)
        expect(a.linearityPct).toBeCloseTo(b.linearityPct, 7)
        expect(a.hysteresisPct).toBeCloseTo(b.hysteresisPct!, 7)
        expect(a.pass).toBe(b.pass)
      }),
    )
  })
})

describe('the budget is that of the circuit as drawn', () => {
  it('agrees with the entries where the drawing is their proposal', () => {
    const s = of('level-from-above', { otherSeries: '40 Ohm' })
    const entered = 250 + 40 + s.electrical.cableOhm!
    // Each clamp and the supply’s own resistance count too.
    expect(s.electrical.budget!.totalOhm).toBeGreaterThan(entered)
    expect(s.electrical.budget!.totalOhm).toBeLessThan(entered + 0.6)
  })
  it('counts a resistor drawn into the loop, wherever it stands', () => {
    const plain = of('level-from-above')
    const { wiring } = plain.desk
    const returns = wiring.conductors.filter((c) => {
      const solved = energise({ wiring, conditions: { ...plain.desk.conditions, mA: 12 } })
      return Math.abs((solved.milliamps(c.id) ?? 0) - 12) < 0.05 || Math.abs((solved.milliamps(c.id) ?? 0) + 12) < 0.05
    })
    expect(returns.length).toBeGreaterThan(2)
    for (const cut of returns) {
      const added = addDevice(wiring, 'series-resistor')
      const device = added.devices.at(-1)!
      const [a, b] = typeOf(device)!.terminals.map((t) => refOf(device.id, t.id))
      const open = setDeviceFigure(takeOut(added, cut.id), device.id, 'otherSeries', 250)
      const s = of('level-from-above', { wiring: writeWiring(connect(connect(open, cut.from, a!), b!, cut.to)) })
      const more = s.electrical.budget!.totalOhm - plain.electrical.budget!.totalOhm
      // Two short wires stand in the place of the one taken out, which may have been a core of the cable.
      expect(more, cut.id).toBeGreaterThan(249 - plain.electrical.cableOhm! / 2)
      expect(more, cut.id).toBeLessThan(251)
    }
  })
})

it('works a loop out once, whatever is then asked of it', () => {
  const kind = currentKindOf('orifice-dp')
  const look = vi.spyOn(kind, 'look')
  const s = study(kind, demoEntries('orifice-dp'))
  s.process()
  s.sheets?.()
  s.setup?.()
  s.doubt?.()
  s.meter?.()
  judgeByThread(perfect(s), s.thread, 0.5)
  expect(look).toHaveBeenCalledTimes(1)
  look.mockRestore()
})

describe('entries of an earlier version of their kind', () => {
  it('mean the difference that was typed, not the temperature that it was taken for', () => {
    const kind = kindOf('thermal-insertion')
    const entries = demoEntries('thermal-insertion')
    const old = {
      ...entries,
      dtZero: { typed: '60 °C', value: 60, unit: 'degC' },
      dtFull: { typed: '20 K', value: 20, unit: 'K' },
    }
    const now = entriesNow(kind, { entries: old })
    expect(now['dtZero']).toEqual({ typed: '60 °C', value: 60, unit: 'delta_degC' })
    expect(study(kind, now).reader.in('dtZero', 'delta_K')).toBeCloseTo(60, 9)
    expect(entriesNow(kind, { entries: now, kindVersion: 2 })).toBe(now)
  })
  it('of a later release are refused', () => {
    expect(() => entriesNow(kindOf('pressure'), { entries: {}, kindVersion: 9 })).toThrowError(
      expect.objectContaining({ code: 'newer-kind' }),
    )
  })
})
