import { existsSync, readdirSync, readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { CALCULATORS, runCalculator, runCase, type ReferenceCase } from './index.ts'

const copy = new URL('../../../../reference-cases/', import.meta.url)
const shared = new URL('../../../../../shared/reference/', import.meta.url)
const filesOf = (folder: URL) =>
  ['', 'added/'].flatMap((sub) =>
    readdirSync(new URL(sub, folder)).flatMap((name) => (name.endsWith('.json') ? [sub + name] : [])),
  )
const casesOf = (file: string) =>
  (JSON.parse(readFileSync(new URL(file, copy), 'utf8')) as { cases: ReferenceCase[] }).cases
const cases = filesOf(copy).flatMap(casesOf)

it('knows every calculator that a case asks for', () => {
  const unknown = new Set(cases.map((c) => c.calculator).filter((n) => !CALCULATORS.some((k) => k.name === n)))
  expect([...unknown]).toEqual([])
})
it.runIf(existsSync(shared))('has a copy of every case of the contract', () => {
  expect(filesOf(copy)).toEqual(filesOf(shared))
  for (const file of filesOf(shared))
    expect(readFileSync(new URL(file, copy), 'utf8')).toBe(readFileSync(new URL(file, shared), 'utf8'))
})

describe.each(CALCULATORS.map((c) => c.name))('%s', (name) => {
  const own = cases.filter((c) => c.calculator === name)
  it('has reference cases', () => expect(own.length).toBeGreaterThan(0))
  it.each(own)('$id', (c) => expect(runCase(c)).toMatchObject({ passed: true, says: '' }))
})

describe('the comparison itself', () => {
  const base = { id: 'x', calculator: 'air-sound-speed', input: { temp_C: 0 } }
  it('fails a wrong figure', () =>
    expect(runCase({ ...base, expect: { soundSpeed_mps: { value: 331.4, abs: 0.01 } } }).passed).toBe(false))
  it('fails an error that did not come', () =>
    expect(runCase({ ...base, expect: { error: 'out-of-range' } }).passed).toBe(false))
  it('fails a result where an error was expected to be another', () =>
    expect(runCase({ ...base, input: {}, expect: { error: 'out-of-range' } }).passed).toBe(false))
  it('fails a key that is not there', () => expect(runCase({ ...base, expect: { nothing: 1 } }).passed).toBe(false))
  it('names an unknown calculator', () =>
    expect(runCase({ ...base, calculator: 'zork', expect: {} })).toMatchObject({
      passed: false,
      unknownCalculator: true,
    }))
})

it.each([
  ['scale-signal', { lrv: 0, urv: 1, transfer: 'linear', mA: 'x' }],
  ['scale-signal', { lrv: 0, urv: 1, transfer: 'cubic', mA: 4 }],
  ['scale-signal', { lrv: 0, urv: 1, transfer: 'linear', countsRead: 4 }],
  ['wire-resistance', { length_m: 1, temp_C: 20 }],
  ['wire-resistance', { awg: 18, area_mm2: 1, length_m: 1, temp_C: 20 }],
  ['rtd', { temp_C: 1, ohm: 100 }],
  ['multi-point-check', { lrv: 0, urv: 1, tolerancePct: 1, points: [] }],
  ['tank-volume', { tank: { shape: 'cone' }, level_m: 1 }],
  ['loop-budget', { supplyV: 24, liftOffV: 12 }],
])('%s refuses %j as invalid input', (name, input) => {
  expect(() => runCalculator(name, input)).toThrowError(expect.objectContaining({ code: 'invalid-input' }))
})
