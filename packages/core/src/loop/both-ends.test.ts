import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { demoEntries } from '../kinds/demo-entries.fixture.ts'
import { currentKindOf, KINDS } from '../kinds/index.ts'
import { attempt, Refusal } from '../refusal/index.ts'
import { bothEnds, chainOf, study } from './index.ts'

function ends(id: string, changed: Record<string, string> = {}) {
  const kind = currentKindOf(id)
  const s = study(kind, demoEntries(id, changed))
  const chain = attempt(() => chainOf(s))
  return bothEnds({ kind, r: s.reader, thread: s.thread, chain: chain instanceof Refusal ? undefined : chain })
}
const currents = KINDS.filter((k) => k.family === 'current').map((k) => k.id)

describe('both ends of the wire', () => {
  it.each(currents)('%s: agree in a loop that is set right', (id) => {
    const e = ends(id)
    expect(e.scales[0]!.id).toBe('transmitter')
    expect(e.scales.flatMap((s) => s.needs)).toEqual([])
    expect(e.worstPct.map((v) => Math.abs(v) < 1e-3)).toEqual(e.scales.map(() => true))
    for (const rung of e.rungs) for (const at of rung.ends) expect(at.means).toSatisfy(Number.isFinite)
  })
  it('tell how far a controller’s scale is off, at each current', () => {
    const e = ends('pressure', { receiverHigh: '1200 mbar' })
    expect(e.rungs.map((g) => g.ends[1]!.value)).toEqual([0, 600, 1200])
    const apart = e.rungs.map((g) => g.ends[1]!.apartPct)
    expect(apart[0]).toBe(0)
    expect(apart[1]).toBeCloseTo(50, 9)
    expect(apart[2]).toBeCloseTo(100, 9)
    expect(e.worstPct[0]).toBe(0)
    expect(e.worstPct[1]).toBeCloseTo(100, 9)
  })
  it('keep the sign of what is worst', () => {
    expect(ends('pressure', { receiverHigh: '300 mbar' }).worstPct[1]).toBeCloseTo(-50, 9)
    expect(ends('pressure', { receiverLow: '-60 mbar' }).worstPct[1]).toBeCloseTo(-10, 9)
  })
  it('agree in any unit of the same quantity', () => {
    const bar = ends('pressure', { receiverLow: '0 bar', receiverHigh: '0.6 bar' })
    expect(bar.scales[1]!.unit).toBe('bar')
    expect(bar.worstPct[1]).toBe(0)
    expect(bar.rungs[2]!.ends[1]!.value).toBeCloseTo(0.6, 12)
  })
  it('agree in a loop that acts in reverse', () => {
    const e = ends('pressure', { lrv: '600 mbar', urv: '0 mbar', receiverLow: '600 mbar', receiverHigh: '0 mbar' })
    expect(e.worstPct).toEqual([0, 0])
    expect(e.rungs.map((g) => g.ends[0]!.value)).toEqual([600, 300, 0])
  })
  it('have a converter’s channel and a loop indicator between them, where there are some', () => {
    const e = ends('pressure', {
      receiver: 'converter, channel 1',
      channelLow: '0 mbar',
      channelHigh: '500 mbar',
      second: 'loop indicator',
      indicatorLow: '0 mbar',
      indicatorHigh: '600 mbar',
    })
    expect(e.scales.map((s) => s.id)).toEqual(['transmitter', 'channel', 'controller', 'indicator'])
    expect(e.worstPct[1]).toBeCloseTo((-100 * 100) / 600, 9)
    expect(e.worstPct[3]).toBe(0)
  })
  it('are one only on a bus, which carries the value itself', () => {
    const e = ends('pressure', { output: 'digital bus', shunt: '', faultAction: '', faultCurrent: '' })
    expect(e.carries).toBe(false)
    expect(e.scales.map((s) => s.id)).toEqual(['transmitter'])
  })
  it('name what is still to be entered, and judge nothing by it', () => {
    const e = ends('pressure', { receiverHigh: '' })
    expect(e.scales[1]!.needs).not.toEqual([])
    expect(e.rungs.map((g) => g.ends[1])).toEqual(
      e.rungs.map(() => ({ value: undefined, means: undefined, apartPct: 0 })),
    )
    expect(e.worstPct).toEqual([0, 0])
    const none = ends('pressure', { lrv: '', urv: '' })
    expect(none.scales[0]!.needs).not.toEqual([])
    expect(none.rungs.every((g) => g.ends[0]!.means === undefined)).toBe(true)
  })
  it('bend where the root is taken at the receiver, and still agree', () => {
    const e = ends('orifice-dp', { rootAt: 'receiver', cutoff: '' })
    expect(e.worstPct.every((v) => Math.abs(v) < 1e-3)).toBe(true)
    const shown = e.rungs.map((g) => g.ends[1]!.value!)
    const share = (shown[1]! - shown[0]!) / (shown[2]! - shown[0]!)
    expect(share).toBeCloseTo(Math.SQRT1_2, 9)
  })
  it('are off by what the ends are off, whatever they are', () => {
    const end = fc.integer({ min: -500, max: 1500 })
    fc.assert(
      fc.property(end, end, (low, high) => {
        fc.pre(low !== high)
        const e = ends('pressure', { receiverLow: `${low} mbar`, receiverHigh: `${high} mbar` })
        const expected = [(100 * low) / 600, (100 * (high - 600)) / 600].reduce((a, b) =>
          Math.abs(b) > Math.abs(a) ? b : a,
        )
        expect(e.worstPct[1]).toBeCloseTo(expected, 6)
      }),
      { numRuns: 40 },
    )
  })
})
