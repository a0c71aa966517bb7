import fc from 'fast-check'
import { expect, it } from 'vitest'
import { study } from '../../loop/index.ts'
import { demoEntries } from '../demo-entries.fixture.ts'
import { currentKindOf } from '../index.ts'
import { flowOf, frequencyOf } from './index.ts'

const of = (changed: Record<string, string> = {}) =>
  study(currentKindOf('pulse-flow'), demoEntries('pulse-flow', changed))
const codes = (changed: Record<string, string>) => of(changed).findings.map((f) => `${f.grade} ${f.code}`)

it('gives the frequency that the factor says', () => {
  // 36 m³/h are 10 l/s; 2.5 pulses a litre make 25 Hz.
  expect(of().expect('flow', 36)[1]).toMatchObject({ known: true, value: 25 })
  expect(of({ pulses: '1000', perVolume: '1 gal' }).expect('flow', 36)[1]).toMatchObject({
    value: expect.closeTo(10_000 / 3.785411784, 6),
  })
})
it('comes back from the frequency to the flow', () => {
  const any = fc.double({ min: 0.001, max: 1e4, noNaN: true })
  fc.assert(fc.property(any, any, (q, k) => Math.abs(flowOf(frequencyOf(q, k), k) / q - 1) < 1e-12))
})
it('reports nothing below its cutoff, and 4 mA with it', () => {
  const s = of({ cutoff: '3 m3/h' })
  expect(s.expect('flow', 2).slice(2, 4)).toMatchObject([{ value: 0 }, { value: 4 }])
})
it.each([
  [{ pulses: '0' }, 'stop factor-not-positive'],
  [{ pulses: '100', inputMost: '1 kHz' }, 'stop pulses-too-fast'],
  [{ most: '100 m3/h' }, 'look range-beyond-meter'],
  [{ principle: 'turbine', least: '6 m3/h' }, 'note cutoff-below-least'],
] as const)('finds with %j: %s', (changed, code) => expect(codes(changed)).toContain(code))
it('has a zero only where one can be taken', () => {
  expect(of().procedures).toEqual(['flow-zero'])
  expect(of({ principle: 'turbine' }).procedures).toEqual([])
})
