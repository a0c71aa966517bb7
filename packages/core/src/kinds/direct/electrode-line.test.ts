import { describe, expect, it } from 'vitest'
import { demoEntries } from '../demo-entries.fixture.ts'
import { electrodeLine, entriesOfCalibration, holdsCalibration, kindOf, readEntries } from '../index.ts'

const line = (changed: Record<string, string> = {}) =>
  electrodeLine(readEntries(kindOf('ph').fields, demoEntries('ph', changed)))

describe('the line of an electrode', () => {
  it('is its share of what is ideal at its temperature, and its offset', () => {
    expect(line({ slopePercent: '95 %', electrodeOffset: '-4 mV', phTemp: '25 degC' })).toMatchObject({
      slope_mVperPh: expect.closeTo(-56.2, 1) as number,
      ideal_mVperPh: expect.closeTo(-59.16, 1) as number,
      offset_mV: -4,
    })
    expect(line({ phTemp: '60 degC' }).ideal_mVperPh).toBeCloseTo(-66.1, 1)
    expect(line({ slopePercent: '0 %' }).slope_mVperPh).toBeUndefined()
  })
  it('follows a calibration once it is taken over', () => {
    const found = { slopePercent: 97.84, offset_mV: -4.13 }
    expect(holdsCalibration(line(), found)).toBe(false)
    expect(entriesOfCalibration(found)).toEqual({ slopePercent: '97.8 %', electrodeOffset: '-4.1 mV' })
    expect(holdsCalibration(line(entriesOfCalibration(found)), found)).toBe(true)
  })
})
