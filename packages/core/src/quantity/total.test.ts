import { describe, expect, it } from 'vitest'
import { findUnit, toSi, totalLabel, totalOf, unitsOf, type QuantityName } from './index.ts'

const FLOWS: readonly QuantityName[] = ['volume-flow', 'mass-flow', 'reference-flow']

describe('what adds up when a flow is counted', () => {
  it.each([
    ['m3/h', 'm³', 1 / 3600],
    ['gpm', 'gal (US)', 1 / 60],
    ['ft3/min', 'ft³', 1 / 60],
    ['kg/s', 'kg', 1],
    ['t/h', 't', 1 / 3600],
    ['Nm3/h@0C', 'Nm³ (0 °C)', 1 / 3600],
    ['SCFM@60F', 'SCF (60 °F)', 1 / 60],
  ])('of %s is %s', (flow, label, perSecond) => {
    expect(totalOf(flow)).toEqual({ label, perSecond })
  })
  it.each(FLOWS.flatMap((quantity) => unitsOf(quantity).map((unit) => unit.symbol)))(
    'of %s is by the same scale as the table has for its amount',
    (flow) => {
      const { label, perSecond } = totalOf(flow)
      const amount = findUnit(label, 'volume')
      // Masses and reference volumes have no unit of their own in the table.
      if (amount) expect(toSi(1, flow)).toBeCloseTo(toSi(perSecond, amount.symbol), 12)
      else expect(label).toMatch(/^(kg|g|t|lb|(N|S)m³ \(\d+ °C\)|SCF \(\d+ °F\))$/)
    },
  )
  it('is nothing of what does not flow', () => {
    expect(() => totalOf('bar')).toThrowError(expect.objectContaining({ code: 'incommensurable' }))
    expect([totalLabel('bar'), totalLabel('furlong'), totalLabel('gpm')]).toEqual([
      '(of bar)',
      '(of furlong)',
      'gal (US)',
    ])
    expect(() => totalOf('furlong')).toThrowError(expect.objectContaining({ code: 'unknown-unit' }))
  })
})
