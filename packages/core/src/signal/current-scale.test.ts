import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { scaleSignal, signalBand } from './index.ts'

const finite = (min: number, max: number) => fc.double({ min, max, noNaN: true })

describe('scaling', () => {
  it('comes back from every form to the one it started from', () => {
    fc.assert(
      fc.property(
        finite(-1e4, 1e4),
        finite(-1e4, 1e4),
        finite(-50, 150),
        fc.constantFrom('linear' as const, 'square-root' as const),
        (lrv, urv, percent, transfer) => {
          fc.pre(Math.abs(urv - lrv) > 1e-3)
          const range = { lrv, urv, transfer, countsLow: 13107, countsHigh: 65535 }
          const all = scaleSignal({ ...range, percent })
          for (const key of ['mA', 'shuntVolts', 'countsRead'] as const)
            expect(scaleSignal({ ...range, [key]: all[key] }).percent).toBeCloseTo(percent, 6)
          if (transfer === 'linear') expect(scaleSignal({ ...range, pv: all.pv }).percent).toBeCloseTo(percent, 4)
        },
      ),
    )
  })
  it('gives 4 and 20 mA exactly at the range values and calls them in range', () => {
    fc.assert(
      fc.property(finite(-1e4, 1e4), finite(-1e4, 1e4), (lrv, urv) => {
        fc.pre(lrv !== urv && Number.isFinite(1 / (urv - lrv)))
        expect(scaleSignal({ lrv, urv, transfer: 'linear', pv: lrv })).toMatchObject({ mA: 4, band: 'normal' })
        expect(scaleSignal({ lrv, urv, transfer: 'linear', pv: urv })).toMatchObject({ mA: 20, band: 'normal' })
      }),
    )
  })
})

it.each([
  [3.6, 'failure-low'],
  [3.61, 'transition-low'],
  [3.8, 'under-range'],
  [4, 'normal'],
  [20, 'normal'],
  [20.01, 'over-range'],
  [20.5, 'over-range'],
  [20.51, 'transition-high'],
  [21, 'failure-high'],
] as const)('%d mA is %s', (mA, band) => expect(signalBand(mA)).toBe(band))
