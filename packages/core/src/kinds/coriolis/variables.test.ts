// What the current of a Coriolis meter follows, and which way its flow runs.
import { describe, expect, it } from 'vitest'
import { bothEnds, chainOf, study } from '../../loop/index.ts'
import { spread } from '../../thread/index.ts'
import { demoEntries } from '../demo-entries.fixture.ts'
import { currentKindOf } from '../registry.ts'

const kind = currentKindOf('coriolis')
const of = (changed: Record<string, string> = {}) => study(kind, demoEntries('coriolis', changed))
type Of = ReturnType<typeof of>
const at = (s: Of, from: string, value: number) => {
  const values = spread(s.thread, from, value)
  return Object.fromEntries(
    s.thread.knots.map((k, i) => {
      const v = values[i]
      return [k.id, v?.known ? v.value : undefined]
    }),
  )
}
const codes = (s: Of) => s.findings.map((f) => f.code)
const top = (s: Of) => s.reader.in('urv', 'kg/h') ?? 0

describe('the direction of a Coriolis meter', () => {
  it('set as the pipe runs reports what flows, with or against the arrow', () => {
    for (const way of ['with the arrow', 'against the arrow']) {
      const s = of({ runs: way, direction: way })
      const seen = at(s, 'flow', top(s) / 2)
      expect(seen['digital']).toBeCloseTo(top(s) / 2, 6)
      expect(Math.sign(seen['delay'] ?? 0)).toBe(way === 'with the arrow' ? 1 : -1)
      expect(codes(s)).not.toContain('against-arrow')
    }
  })
  it('set the other way reports none, says so, and the current stands at its low end', () => {
    const s = of({ runs: 'against the arrow' })
    const seen = at(s, 'flow', top(s) / 2)
    expect(seen['digital']).toBe(0)
    expect(seen['current']).toBe(4)
    expect(s.findings.find((f) => f.code === 'against-arrow')).toMatchObject({ grade: 'stop' })
  })
  it('both ways reports the other as negative, and the current goes no lower than an output does', () => {
    const s = of({ runs: 'against the arrow', direction: 'both ways' })
    const seen = at(s, 'flow', top(s) / 2)
    expect(seen['digital']).toBeCloseTo(-top(s) / 2, 6)
    expect(seen['current']).toBe(3.8)
    const wide = of({ runs: 'against the arrow', direction: 'both ways', lrv: `-${top(s)} kg/h` })
    expect(at(wide, 'flow', top(s) / 2)['current']).toBeCloseTo(8, 6)
  })
  it('above its range stands still at the top too', () => {
    const s = of()
    expect(at(s, 'flow', top(s) * 1.5)['current']).toBe(20.5)
  })
})

describe('the current of a Coriolis meter', () => {
  it.each([
    ['density', 'density', '600 kg/m3', '1000 kg/m3', 800],
    ['temperature', 'temperature', '0 degC', '100 degC', 50],
    ['volume flow', 'volume', '0 m3/h', '4 m3/h', 2],
  ])('follows the %s by its own range and scales', (source, stem, low, high, middle) => {
    const scales = {
      ...{ [`${stem}Lrv`]: low, [`${stem}Urv`]: high },
      ...{ [`${stem}ReceiverLow`]: low, [`${stem}ReceiverHigh`]: high },
    }
    const s = of({ source, ...scales, lrv: '', urv: '', receiverLow: '', receiverHigh: '' })
    expect(s.missing.range).toEqual([])
    expect(s.findings.filter((f) => f.grade === 'stop')).toEqual([])
    const seen = at(s, 'process', middle)
    expect(seen['current']).toBeCloseTo(12, 9)
    expect(seen['controller']).toBeCloseTo(middle, 9)
    const chain = chainOf(s)
    expect(chain.digital.unit).toBe(low.split(' ')[1])
    const ends = bothEnds({ kind, r: s.reader, thread: s.thread, chain })
    expect(ends.worstPct).toEqual([0, 0])
    expect(s.process()).toBeDefined()
    expect(s.meter?.()).toBeUndefined()
    const off = of({ source, ...scales, [`${stem}ReceiverHigh`]: high.replace(/^\S+/, '3000') })
    expect(codes(off)).toContain('ends-disagree')
  })
  it('reports no volume flow that runs against what is set, as its finding says', () => {
    const scales = {
      volumeLrv: '0 m3/h',
      volumeUrv: '4 m3/h',
      volumeReceiverLow: '0 m3/h',
      volumeReceiverHigh: '4 m3/h',
    }
    const s = of({ source: 'volume flow', ...scales, runs: 'against the arrow' })
    expect(codes(s)).toContain('against-arrow')
    expect(at(s, 'process', 2)['current']).toBe(4)
  })
  it('forgets the scale of every variable with the input type of a channel', () => {
    const field = kind.fields.find((f) => f.key === 'inputType')!
    expect(field.resets).toEqual(expect.arrayContaining(['channelLow', 'densityChannelLow', 'temperatureChannelHigh']))
    for (const key of field.resets!) expect(kind.fields.map((f) => f.key)).toContain(key)
  })
  it('asks for no range of another variable', () => {
    expect(of().missing.range).toEqual([])
    expect(of({ source: 'density' }).missing.range).toContain('lower range value (4 mA)')
  })
})

describe('a lit display', () => {
  it('takes its volt of the loop', () => {
    const [dark, lit] = [of(), of({ display: 'lit' })]
    const spare = (s: Of) => s.electrical.budget!.voltsAtTransmitterMax - s.electrical.liftOffV!
    const two = dark.reader.text('output') === 'two-wire'
    expect(spare(dark) - spare(lit)).toBeCloseTo(two ? 1 : 0, 9)
    expect(codes(lit).includes('display-takes-volts')).toBe(two)
    const wired = of({ output: 'two-wire', liftOff: '12 V', supply: '24 V', display: 'lit' })
    expect(wired.electrical.liftOffV).toBe(13)
    expect(of({ output: 'two-wire', liftOff: '12 V', display: 'lit', displayVolts: '1.4 V' }).electrical.liftOffV).toBe(
      13.4,
    )
  })
  it('of a record of before stands in the lift-off voltage that was entered with it', () => {
    const before = demoEntries('coriolis', { output: 'two-wire', liftOff: '13 V', display: 'lit' })
    const now = kind.migrate!(before, 1)
    expect(study(kind, now).electrical.liftOffV).toBe(13)
    expect(kind.migrate!(demoEntries('coriolis'), 1)).toEqual(demoEntries('coriolis'))
  })
})
