// Any real pair of ends: what the display shows, what the converter's input takes, and which channel the wires are on.
import { describe, expect, it } from 'vitest'
import { demoEntries } from '../kinds/demo-entries.fixture.ts'
import { currentKindOf } from '../kinds/index.ts'
import { spread } from '../thread/index.ts'
import { landConductor, writeWiring } from '../wiring/index.ts'
import { bothEnds, chainOf, proceduresFor, receiverMeans, study } from './index.ts'

const of = (changed: Record<string, string>) => study(currentKindOf('pressure'), demoEntries('pressure', changed))
type Of = ReturnType<typeof of>
/** What a knot shows at a loop current. */
function at(s: Of, knotId: string, mA: number): number | undefined {
  const i = s.thread.knots.findIndex((k) => k.id === knotId)
  const v = spread(s.thread, 'current', mA)[i]
  return v?.known ? v.value : undefined
}
const codes = (s: Of) => s.findings.map((f) => f.code)
const stops = (s: Of) => s.findings.filter((f) => f.grade === 'stop').map((f) => f.code)
const CONVERTER = { receiver: 'converter, channel 1', channelLow: '0 mbar', channelHigh: '600 mbar' }

describe('a display', () => {
  it.each([
    ['%', 0, 50, 100, '%'],
    ['mA', 4, 12, 20, 'mA'],
    ['counts', 13107, 39321, 65535, 'counts'],
  ])('in %s shows that, and asks for no scale in engineering units', (shows, low, middle, high, unit) => {
    const s = of({ shows, receiverLow: '', receiverHigh: '' })
    expect([4, 12, 20].map((mA) => at(s, 'controller', mA))).toEqual([low, middle, high])
    expect(s.thread.knots.at(-1)!.unit).toBe(unit)
    expect(s.missing.range).toEqual([])
    expect(codes(s)).not.toContain('ends-disagree')
    const chain = chainOf(s)
    expect(receiverMeans(chain, middle)).toBeCloseTo(300, 6)
    const ends = bothEnds({ kind: s.kind, r: s.reader, thread: s.thread, chain })
    expect(ends.scales[1]).toMatchObject({ unit, low, high })
    expect(ends.worstPct[1]).toBe(0)
  })
  it('may run from 100 % down', () => {
    const s = of({ shows: '%', percentLow: '100 %', percentHigh: '0 %' })
    expect([4, 8].map((mA) => at(s, 'controller', mA))).toEqual([100, 75])
  })
  it('has no scale to set where it shows the current itself', () => {
    expect(proceduresFor(of({ shows: 'mA' }))).not.toContain('receiver-scale')
    expect(proceduresFor(of({ shows: '%' }))).toContain('receiver-scale')
  })
  it('without a raw number asks for none and has no knot for it', () => {
    const s = of({ cardCounts: 'not shown', countsLow: '', countsHigh: '' })
    expect(s.thread.knots.map((k) => k.id)).not.toContain('counts')
    expect(s.missing.range).toEqual([])
    expect(at(s, 'controller', 12)).toBe(300)
  })
  it('of a raw number that nobody sees says what it lacks', () => {
    const s = of({ shows: 'counts', cardCounts: 'not shown' })
    expect(s.thread.stages.at(-1)).toMatchObject({ ready: false, needs: ['a raw number that is shown'] })
  })
})

describe('the input type of a converter’s channel', () => {
  it('4–20 mA shows its two values at 4 and 20 mA', () => {
    expect([4, 12, 20].map((mA) => at(of(CONVERTER), 'channel', mA))).toEqual([0, 300, 600])
  })
  it('0–20 mA shows the low value at 0 mA: a loop at 4 mA stands at a fifth', () => {
    const s = of({ ...CONVERTER, inputType: '0–20 mA' })
    expect(at(s, 'channel', 4)).toBeCloseTo(120, 9)
    expect(at(s, 'controller', 4)).toBeCloseTo(120, 9)
    expect(codes(s)).toContain('channel-disagrees')
    const made = of({ ...CONVERTER, inputType: '0–20 mA', channelLow: '-150 mbar', receiverLow: '-150 mbar' })
    expect([4, 20].map((mA) => at(made, 'channel', mA))).toEqual([0, 600])
    expect(codes(made)).not.toContain('channel-disagrees')
    expect(codes(made)).not.toContain('ends-disagree')
    const ends = bothEnds({ kind: made.kind, r: made.reader, thread: made.thread, chain: chainOf(made) })
    expect(ends.scales.map((e) => [e.low, e.high])).toEqual([
      [0, 600],
      [0, 600],
      [0, 600],
    ])
    expect(ends.worstPct).toEqual([0, 0, 0])
  })
  it.each([
    ['1–5 V', '250 Ohm', 0],
    ['0–5 V', '250 Ohm', 120],
    ['0–10 V', '500 Ohm', 120],
  ])('%s across %s reads 4 mA as %s of 600', (inputType, shunt, low) => {
    const s = of({ ...CONVERTER, inputType, shunt })
    expect(at(s, 'channel', 4)).toBeCloseTo(low, 9)
    expect(at(s, 'channel', 20)).toBeCloseTo(600, 9)
  })
  it('is stopped where the loop drives it beyond its scale, and asked about where it uses little of it', () => {
    expect(stops(of({ ...CONVERTER, inputType: '1–5 V', shunt: '500 Ohm' }))).toContain('signal-outside-input')
    const coarse = of({ ...CONVERTER, inputType: '0–10 V' })
    expect(codes(coarse)).toContain('signal-outside-input')
    expect(stops(coarse)).not.toContain('signal-outside-input')
  })
  it('is part of the circuit: a voltage input wants its resistor across it', () => {
    const right = of({ ...CONVERTER, inputType: '1–5 V' })
    expect(right.desk.wiring.devices.map((d) => d.id)).toContain('RS')
    expect(stops(right)).toEqual([])
    const drawn = right.desk.wiring
    const bare = drawn.conductors.filter((c) => c.from !== 'RS:+')
    expect(
      stops(of({ ...CONVERTER, inputType: '1–5 V', wiring: writeWiring({ ...drawn, conductors: bare }) })),
    ).toContain('loop-open')
    // The loop goes through the resistor, and the input is not on it.
    const apart = drawn.conductors.map((c) => (c.to === 'RX:1+' && c.from !== 'RS:+' ? { ...c, to: 'RS:+' } : c))
    const off = apart.filter((c) => !(c.from === 'RS:+' && c.to === 'RX:1+'))
    expect(stops(of({ ...CONVERTER, inputType: '1–5 V', wiring: writeWiring({ ...drawn, conductors: off }) }))).toEqual(
      ['voltage-input-bare'],
    )
    // With the input set to mA the same resistor takes half of the current past it.
    expect(stops(of({ ...CONVERTER, inputType: '4–20 mA', wiring: writeWiring(drawn) }))).toContain('split-in-parallel')
  })
})

describe('the channel', () => {
  it.each([
    ['converter, channel 1', '1', '2'],
    ['converter, channel 2', '2', '1'],
  ])('of %s is judged when the wires are on the other', (receiver, own, other) => {
    let wiring = of({ ...CONVERTER, receiver }).desk.wiring
    for (const pole of ['+', '−'])
      for (const c of wiring.conductors)
        for (const end of ['from', 'to'] as const)
          if (c[end] === `RX:${own}${pole}`) wiring = landConductor(wiring, c.id, end, `RX:${other}${pole}`)
    const s = of({ ...CONVERTER, receiver, wiring: writeWiring(wiring) })
    const found = s.findings.find((f) => f.code === 'wrong-channel')
    expect(found?.what).toContain(`RX:${other}+ and RX:${other}−`)
    expect(found?.action).toContain(`channel ${own}`)
    expect(stops(of({ ...CONVERTER, receiver }))).toEqual([])
  })
})

describe('what the plate says', () => {
  const mains = { output: 'four-wire active', power: 'mains', maxV: '15 V', powerLeast: '85 V', powerMost: '264 V' }
  it.each([
    ['230 V', []],
    ['400 V', ['supply-too-high']],
    ['24 V', ['supply-too-low']],
  ])('of its mains is held against %s', (powerV, expected) => {
    expect(stops(of({ ...mains, powerV }))).toEqual(expected)
  })
  it('of its DC supply is held against what it gets', () => {
    const dc = { output: 'four-wire active', maxV: '15 V' }
    expect(stops(of(dc))).toEqual([])
    expect(stops(of({ ...dc, powerLeast: '36 V', powerMost: '60 V' }))).toContain('supply-too-low')
    expect(stops(of({ ...dc, powerLeast: '9 V', powerMost: '16 V' }))).toContain('supply-too-high')
  })
  it('of the feed of its output is held against what feeds it', () => {
    const passive = { output: 'four-wire passive' }
    expect(stops(of({ ...passive, feedLeast: '12 V', feedMost: '30 V' }))).toEqual([])
    expect(stops(of({ ...passive, feedMost: '20 V' }))).toContain('feed-too-high')
    expect(stops(of({ ...passive, feedLeast: '26 V' }))).toContain('feed-too-low')
  })
  it('is asked about where no plant has such a voltage', () => {
    expect(codes(of({ ...mains, powerV: '1e9 V' }))).toContain('figure-unusual')
  })
})
