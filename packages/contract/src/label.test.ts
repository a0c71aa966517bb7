import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { labelText, readLabel } from './label.ts'

const HERE = '3f0c2d4e-5a6b-4c7d-8e9f-0123456789ab'

describe('the text of a label', () => {
  it('is read back as the loop that it was made for, in small letters too', () => {
    fc.assert(
      fc.property(fc.uuid(), fc.uuid(), (installation, loopId) => {
        const text = labelText(installation, loopId)
        // The alphanumeric mode of the code.
        expect(text).toMatch(/^[0-9A-Z:-]{50,80}$/)
        expect(readLabel(` ${text.toLowerCase()}\n`, installation)).toEqual({ loopId })
      }),
    )
  })
  it('of another installation is known as such', () => {
    fc.assert(
      fc.property(fc.uuid(), fc.uuid(), (other, loopId) => {
        fc.pre(other.slice(0, 8) !== HERE.slice(0, 8))
        expect(readLabel(labelText(other, loopId), HERE)).toEqual({ fault: 'elsewhere' })
      }),
    )
  })
  it('is damaged where any sign of it is another, or it ends too soon', () => {
    const whole = labelText(HERE, '018f2c50-0000-7000-8000-0000000000aa')
    for (let i = 'CALM-LOOP:1:'.length; i < whole.length; i++) {
      const other = whole[i] === '0' ? '1' : '0'
      expect(readLabel(whole.slice(0, i) + other + whole.slice(i + 1), HERE), `sign ${i}`).toEqual({ fault: 'damaged' })
      expect(readLabel(whole.slice(0, i), HERE), `cut at ${i}`).toEqual({ fault: 'damaged' })
    }
  })
  it('is told from other codes, and from those of a later version', () => {
    expect(readLabel('http://example/', HERE)).toEqual({ fault: 'no-label' })
    expect(readLabel('', HERE)).toEqual({ fault: 'no-label' })
    expect(readLabel('CALM-LOOP:2:00:11:22', HERE)).toEqual({ fault: 'newer' })
  })
})
