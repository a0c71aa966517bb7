import { describe, expect, it } from 'vitest'
import { PIPE_TABLES, pipeDimensions, type PipeStandard } from './index.ts'

describe('the pipe tables', () => {
  it('leave a bore in every pipe, and give every table its source', () => {
    for (const table of PIPE_TABLES) {
      expect(table.source).not.toBe('')
      for (const [size, { walls }] of Object.entries(table.sizes))
        for (const schedule of Object.keys(walls)) {
          const d = pipeDimensions(table.standard as PipeStandard, size, schedule)
          expect(d.id_mm, `${size} ${schedule}`).toBeGreaterThan(0)
          expect(d.id_mm + 2 * d.wall_mm).toBeCloseTo(d.od_mm, 9)
        }
    }
  })
  it('have no size of a name that every object knows', () => {
    for (const size of ['constructor', '__proto__', 'toString'])
      expect(() => pipeDimensions(PIPE_TABLES[0]!.standard as PipeStandard, size, '40')).toThrow('has no')
  })
  it('never grow thinner from one schedule number to the next, nor narrower from one size to the next', () => {
    const steel = PIPE_TABLES.find((t) => t.standard === 'ASME B36.10M')!
    const numbers = ['10', '20', '30', '40', '60', '80', '100', '120', '140', '160']
    const diameters = Object.values(steel.sizes).map((s) => s.od)
    expect([...diameters].sort((a, b) => a - b)).toEqual(diameters)
    for (const [size, { walls }] of Object.entries(steel.sizes)) {
      const there = numbers.flatMap((n) => (walls[n] === undefined ? [] : [walls[n]]))
      expect(
        [...there].sort((a, b) => a - b),
        size,
      ).toEqual(there)
    }
  })
  it('know a size by either of its names, and refuse what they do not hold', () => {
    expect(pipeDimensions('ASME B36.10M', 'DN 300', 'STD')).toEqual(pipeDimensions('ASME B36.10M', 'NPS 12', 'STD'))
    for (const [standard, size, schedule] of [
      ['ASME B36.10M', 'NPS 7', '40'],
      ['ASME B36.10M', 'NPS 4', 'constructor'],
      ['EN 10220', 'NPS 4', '3.6'],
      ['ASTM B88', '1/4', 'M'],
    ] as const)
      expect(() => pipeDimensions(standard, size, schedule)).toThrowError(
        expect.objectContaining({ code: 'not-in-table' }),
      )
  })
})
