// Compositions as laboratories write them, and liquids within what is known of them.
import { describe, expect, it } from 'vitest'
import { GAS_COMPONENTS, LIQUIDS, liquidProperties, readComposition } from './index.ts'

describe('a composition as typed', () => {
  it.each([
    ['iC4 2 %, nC4 3 %, iC5 1, nC5 1', { isoButane: 0.02, nButane: 0.03, isoPentane: 1, nPentane: 1 }],
    ['CO₂ 40 %; CH4 60 %', { carbonDioxide: 0.4, methane: 0.6 }],
    ['C1 0,9; C2 0,06; C3 0,03; C6+ 0,01', { methane: 0.9, ethane: 0.06, propane: 0.03, nHexane: 0.01 }],
    ['C2H6 5 %, C10H22 1 %, i-C4H10 1 %', { ethane: 0.05, nDecane: 0.01, isoButane: 0.01 }],
    ['H2S 0.1 %, hydrogen sulphide 0.1 %', undefined],
    ['butane 2 %, isobutane 1 %', { nButane: 0.02, isoButane: 0.01 }],
    ['zork 5 %', undefined],
    ['methane', undefined],
    ['', undefined],
  ])('%s', (text, composition) => {
    if (composition) expect(readComposition(text).composition).toEqual(composition)
    else expect(() => readComposition(text)).toThrowError(/component|twice/)
  })
  it.each([...GAS_COMPONENTS])('%s by its own name', (name) => {
    expect(readComposition(`${name} 100 %`)).toEqual({ composition: { [name]: 1 }, sum: 1 })
  })
})

describe('a liquid of the table', () => {
  it.each([
    ['milk', 120],
    ['acetone', 57],
    ['glycerol', 10],
    ['ethanol', Number.NaN],
  ])('%s at %d °C is not known, and says so', (id, temp) => {
    const row = LIQUIDS.find((l) => l.id === id)!
    expect(() => liquidProperties(row, temp)).toThrowError(new RegExp(`${row.name} is known from`))
  })
  it.each(LIQUIDS.map((l) => [l.id, l] as const))('%s has sensible figures from freezing to boiling', (_, row) => {
    for (const temp of row.liquid_C) {
      const p = liquidProperties(row, temp)
      expect(p.soundSpeed_mps).toBeGreaterThan(700)
      expect(p.density_kgm3).toBeGreaterThan(600)
      expect(p.viscosity_mPas).toBeGreaterThan(0.1)
    }
  })
})
