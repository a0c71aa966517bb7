import fc from 'fast-check'
import { expect, it } from 'vitest'
import { rtdResistance, rtdTemperature } from './index.ts'

it('comes back from resistance to temperature over the whole range', () => {
  fc.assert(
    fc.property(fc.double({ min: -200, max: 850, noNaN: true }), fc.constantFrom(100, 500, 1000), (t, r0) => {
      expect(rtdTemperature(rtdResistance(t, r0), r0)).toBeCloseTo(t, 6)
    }),
  )
})
it('rises with temperature', () => {
  fc.assert(
    fc.property(fc.double({ min: -199, max: 849, noNaN: true }), (t) => rtdResistance(t + 0.5) > rtdResistance(t)),
  )
})
it('agrees with the table of IEC 60751', () => {
  for (const [t, ohm] of [
    [-200, 18.52],
    [-100, 60.26],
    [0, 100],
    [100, 138.51],
    [400, 247.09],
    [850, 390.48],
  ] as const)
    expect(rtdResistance(t)).toBeCloseTo(ohm, 2)
})
it('refuses what no platinum thermometer reads', () => {
  for (const ohm of [1, 1000, Number.NaN])
    expect(() => rtdTemperature(ohm)).toThrowError(expect.objectContaining({ code: 'out-of-range' }))
  for (const t of [-200.1, 850.1])
    expect(() => rtdResistance(t)).toThrowError(expect.objectContaining({ code: 'out-of-range' }))
})
