import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { attempt } from '../refusal/index.ts'
import {
  bufferName,
  bufferPh,
  BUFFER_SETS,
  buffersOf,
  idealSlope_mV,
  ownBuffersOf,
  phBuffer,
  recogniseBuffer,
} from './index.ts'

describe('a buffer', () => {
  it('is recognised in every named set from 5 to 50 °C, with every electrode that can still be used', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...BUFFER_SETS),
        fc.nat({ max: 2 }),
        fc.double({ min: 5, max: 50, noNaN: true }),
        fc.double({ min: 0.9, max: 1.02, noNaN: true }),
        fc.double({ min: -25, max: 25, noNaN: true }),
        (set, i, temp_C, share, offset) => {
          const names = buffersOf(set)
          const { ph } = phBuffer({ set, nominal: Number(names[i]), temp_C })
          const mV = share * idealSlope_mV(temp_C) * (ph - 7) + offset
          expect(recogniseBuffer({ mV, temp_C, names })).toEqual({ name: names[i], ph })
        },
      ),
    )
  })
  it('is not guessed where none fits, or two do', () => {
    const of = (mV: number, names: string[]) => attempt(() => recogniseBuffer({ mV, temp_C: 25, names }))
    expect(of(95, ['4.00', '7.00', '10.01'])).toMatchObject({ code: 'buffer-not-recognised' })
    expect(of(-150, ['9.180', '10.01'])).toMatchObject({ message: expect.stringContaining(' or ') as string })
    expect(of(0, ['4.00', '15'])).toMatchObject({ code: 'not-a-buffer' })
  })
  it.each([
    ['9.18', 40, 9.068],
    ['6.86', 10, 6.923],
    ['7', 5, 7.09],
    ['7,00', 5, 7.09],
    ['4', 50, 4.06],
    ['4.01', 50, 4.05],
    ['10.01', 50, 9.83],
  ])('typed %s has the table of its set, at %d °C too', (name, temp, ph) => {
    expect(bufferPh(bufferName(name), temp)).toMatchObject({ ph, set: expect.not.stringMatching('own') as string })
  })
  it('is called as its set prints it', () => {
    expect(['9,18', '6.86', '7', '1,68 '].map(bufferName)).toEqual(['9.180', '6.865', '7.00', '1.68'])
  })
  it('of the site’s own counts as it was kept last; a row that cannot be read is none', () => {
    const row = (name: string, table: string) => ({ table: 'buffer', name, fills: { table } })
    const own = ownBuffersOf([
      row('a', '15: 4.68; 25: 4.66'),
      row('b', 'nothing'),
      { ...row('c', '15: 4; 25: 4'), table: 'liquid' },
      row('a', '15: 4.70; 25: 4.70'),
    ])
    expect(own.map((b) => b.name)).toEqual(['a'])
    expect(bufferPh('a', 20, own).ph).toBeCloseTo(4.7, 9)
  })
  it('of the site’s own is taken as it is named', () => {
    expect(bufferPh('1.68', 40)).toEqual({ ph: 1.68, set: 'own' })
    expect(bufferPh('9.5', 40)).toEqual({ ph: 9.5, set: 'own' })
    expect(attempt(() => bufferPh('', 40))).toMatchObject({ code: 'not-a-buffer' })
  })
})
