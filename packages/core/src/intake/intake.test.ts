// An instrument list read: heads found, units taken from them, each line a loop or refused with every reason.
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { guessMapping, headOf, headsOf, isRefused, kindFor, readRows, wrongColumns } from './index.ts'
import type { Line, Mapping, RefusedLine, Sheet } from './index.ts'

const sheet = (...rows: string[][]): Sheet => ({ name: 'List', rows })
const HEADS = ['Tag No.', 'Description', 'Area', 'Type', 'Range low [bar]', 'Range high [bar]', 'Serial', 'Paint']
const ROW = ['PT-1', 'Header pressure', 'Drying', 'Pressure', '0', '16', 'P4-1', 'green']
const read = (of: Sheet, more: Partial<Mapping> = {}) => [...readRows(of, { ...guessMapping(of), ...more })]
const loopOf = (of: Sheet, more: Partial<Mapping> = {}) => (read(of, more)[0] as Line).loop
const whyOf = (of: Sheet, more: Partial<Mapping> = {}) => (read(of, more)[0] as RefusedLine).why

describe('the heads of a list', () => {
  it('are taken apart into words and unit', () => {
    expect(headOf('Range low [bar]')).toEqual({ words: 'range low', unit: 'bar' })
    expect(headOf('Supply (V)')).toEqual({ words: 'supply', unit: 'V' })
    expect(headOf('Cable length, m')).toEqual({ words: 'cable length', unit: 'm' })
    expect(headOf('Tag No.')).toEqual({ words: 'tag no', unit: '' })
  })
  it('are found below a title, and are what they are called', () => {
    const mapping = guessMapping(sheet(['Holmsay Kelp Works'], [], HEADS, ROW))
    expect(mapping.header).toBe(2)
    expect(mapping.columns.map((c) => c.to)).toEqual(['tag', 'service', 'area', 'kind', 'lrv', 'urv', 'serial', ''])
    expect(mapping.columns[4]).toEqual({ to: 'lrv', unit: 'bar' })
    expect(mapping.kinds).toEqual({ pressure: 'pressure' })
  })
  it('of two lines are one: units below them, or a head over two columns', () => {
    const units = sheet(
      ['Tag', 'Service', 'Area', 'LRV', 'URV'],
      ['', '', '', 'mbar', 'mbar'],
      ['PT-1', 'x', 'y', '0', '5'],
    )
    expect(guessMapping(units)).toMatchObject({ header: 0, headerLines: 2 })
    expect(guessMapping(units).columns[3]).toEqual({ to: 'lrv', unit: 'mbar' })
    const over = sheet(
      ['Tag', 'Service', 'Area', 'Range', 'Range'],
      ['', '', '', 'low', 'high'],
      ['PT-1', 'x', 'y', '0', '5'],
    )
    expect(headsOf(over, { header: 0, headerLines: 2 })).toEqual(['Tag', 'Service', 'Area', 'Range low', 'Range high'])
    expect(
      guessMapping(over)
        .columns.map((c) => c.to)
        .slice(3),
    ).toEqual(['lrv', 'urv'])
  })
  it('say which kind a word means, where that is plain', () => {
    const all = [
      'Level radar',
      'Pt100',
      'Thermocouple K',
      'Clamp-on flow',
      'Coriolis',
      'DP',
      'pH',
      'ORP',
      'Prox switch',
    ]
    expect(all.map(kindFor)).toEqual([
      ...['level-from-above', 'rtd-head', 'thermocouple', 'clamp-on', 'coriolis', 'pressure', 'ph', 'orp'],
      'discrete-sensor',
    ])
    expect(kindFor('Gas detector')).toBe('')
    expect(kindFor('Pressure or differential pressure')).toBe('pressure')
  })
  it('tell what is missing and what is twice', () => {
    const columns = [
      { to: 'tag', unit: '' },
      { to: 'serial', unit: '' },
      { to: 'serial', unit: '' },
    ]
    expect(wrongColumns(columns)).toEqual([
      'No column is the service.',
      'No column is the area.',
      'Two columns are serial.',
    ])
  })
})

describe('a line of a list', () => {
  it('is a loop with its entries, each with its unit', () => {
    expect(loopOf(sheet(HEADS, ROW))).toMatchObject({
      ...{ tag: 'PT-1', service: 'Header pressure', area: 'Drying', kind: 'pressure' },
      entries: {
        lrv: { typed: '0 bar', value: 0, unit: 'bar' },
        urv: { typed: '16 bar', value: 16, unit: 'bar' },
        serial: { typed: 'P4-1' },
      },
    })
  })
  it('takes a unit from its own cell before that of the column, and both ends from one cell', () => {
    const heads = ['Tag', 'Service', 'Area', 'Type', 'Range [mbar]']
    const entries = (range: string) => loopOf(sheet(heads, ['PT-1', 'x', 'y', 'Pressure', range])).entries
    expect(entries('0-16 bar')).toMatchObject({ lrv: { typed: '0 bar' }, urv: { typed: '16 bar' } })
    expect(entries('-20 … 30')).toMatchObject({ lrv: { typed: '-20 mbar' }, urv: { typed: '30 mbar' } })
    expect(whyOf(sheet(heads, ['PT-1', 'x', 'y', 'Pressure', 'see sheet']))).toEqual([
      'Range: “see sheet” is not two ends, as in 0–10 bar.',
    ])
  })
  it('takes the unit of its range from a column of its own', () => {
    const of = sheet(
      ['Tag', 'Service', 'Area', 'Type', 'LRV', 'URV', 'Unit'],
      ['PT-1', 'x', 'y', 'DP', '0', '5', 'kPa'],
    )
    expect(loopOf(of).entries).toMatchObject({ lrv: { typed: '0 kPa' }, urv: { value: 5, unit: 'kPa' } })
  })
  it('is refused with every reason at once', () => {
    expect(whyOf(sheet(HEADS, ['', 'x', '=B2', 'Gas detector', 'soon', '16', '', '']))).toEqual([
      'Tag is missing.',
      'Area: a formula stands there, and no value.',
      'Kind: it is not settled what “Gas detector” is.',
    ])
    expect(whyOf(sheet(HEADS, ['PT-1', 'x', 'y', 'Pressure', 'soon', '16 V', '', '']))).toHaveLength(2)
  })
  it('has no entry where nothing is known, and says what is left out', () => {
    const heads = [...HEADS.slice(0, 7), 'Pipe material']
    const line = read(sheet(heads, [...ROW.slice(0, 4), '-', 'n/a', 'TBD', 'steel']))[0] as Line
    expect(line.loop.entries).toEqual({})
    expect(line.notes).toEqual(['left out: material steel'])
  })
  it('chooses by the words of a choice, and refuses others', () => {
    const heads = ['Tag', 'Service', 'Area', 'Type', 'On a fault, drive the current']
    const of = (cell: string) => sheet(heads, ['PT-1', 'x', 'y', 'Pressure', cell])
    expect(loopOf(of('High')).entries).toEqual({ faultAction: { typed: 'high' } })
    expect(whyOf(of('sideways'))[0]).toMatch(/“sideways” is none of/)
  })
  it('that stands twice is refused the second time, small or large letters', () => {
    const lines = read(sheet(HEADS, ROW, ['pt-1', ...ROW.slice(1)]))
    expect(lines.map(isRefused)).toEqual([false, true])
    expect((lines[1] as RefusedLine).why[0]).toBe('PT-1 stands in line 2 already.')
  })
  it('has its tag written as tags are here, and is refused where it is none', () => {
    const line = read(sheet(HEADS, ['pt 1', ...ROW.slice(1)]))[0] as Line
    expect([line.loop.tag, line.notes]).toEqual(['PT-1', ['pt 1 is written PT-1']])
    expect(whyOf(sheet(HEADS, ['spare', ...ROW.slice(1)]))).toEqual([
      'Tag: “spare” is not letters and a number, such as LT-112.',
    ])
  })
  it('reads a decimal comma where the list has one', () => {
    const of = sheet(HEADS, [...ROW.slice(0, 4), '0,5', '16,25', '', ''])
    expect(guessMapping(of).decimalMark).toBe(',')
    expect(loopOf(of).entries['urv']).toMatchObject({ value: 16.25 })
  })
  it('takes the kind that is settled for lines that say none', () => {
    const of = sheet(['Tag', 'Service', 'Area'], ['PT-1', 'x', 'y'])
    expect(whyOf(of)).toEqual(['Kind is missing.'])
    expect(loopOf(of, { kinds: { '': 'pressure' } }).kind).toBe('pressure')
  })
})

it('whatever stands in a sheet, each line that has something is a loop or is refused, once and in order', () => {
  const cell = fc.oneof(
    fc.constantFrom('', 'PT-1', 'Tag', 'Service', '=1+1', '0-16 bar', '3,5', '-', '\u0000'),
    fc.string(),
  )
  const rows = fc.array(fc.array(cell, { maxLength: 9 }), { maxLength: 30 })
  fc.assert(
    fc.property(rows, (cells) => {
      const of = sheet(...cells)
      const mapping = guessMapping(of)
      const found = [...readRows(of, { ...mapping, kinds: { ...mapping.kinds, '': 'pressure' } })].map((r) => r.line)
      const filled = cells.flatMap((row, i) => (row.some((c) => c.trim()) ? [i + 1] : []))
      expect(found).toEqual(filled.filter((line) => line > mapping.header + mapping.headerLines))
    }),
  )
})
