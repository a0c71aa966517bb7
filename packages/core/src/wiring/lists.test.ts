// The lists that go with a wiring: the same facts as the sheet, each terminal and each end once.
import { describe, expect, it } from 'vitest'
import { Refusal } from '../refusal/index.ts'
import {
  COLOUR_CONVENTIONS,
  conventionOf,
  energise,
  judgeWiring,
  LISTS,
  PLAIN,
  propose,
  readWiring,
  setLegend,
  setOwnLegend,
  terminalsOf,
  wiringList,
  wiringSheet,
  writeWiring,
} from './index.ts'
import { everyArrangement, usual } from './wiring.fixture.ts'

const volts = (v: number) => `${v.toFixed(2)} V`
const wiring = propose(PLAIN)
const list = (name: (typeof LISTS)[number]) => wiringList(name, wiring, energise({ wiring, conditions: usual }), volts)

describe('the lists of a wiring', () => {
  it('have as many texts in a row as heads, in every arrangement', () => {
    for (const a of everyArrangement())
      for (const name of LISTS) {
        const { heads, rows } = wiringList(name, propose(a), undefined, volts)
        for (const row of rows) expect(row).toHaveLength(heads.length)
      }
  })
  it('name every terminal once, free ones as free, with its volts', () => {
    const { rows } = list('terminals')
    expect(rows.map((r) => r[1])).toEqual([...terminalsOf(wiring).keys()])
    expect(rows.find((r) => r[1] === 'JB:3')).toMatchObject(['Junction box', 'JB:3', 'passes through', 'free', '', ''])
    expect(rows.find((r) => r[1] === 'RX:24V')![5]).toBe('24.00 V')
  })
  it('put a ferrule on every end that is landed, saying what the sheet says', () => {
    const { rows } = list('ferrules')
    expect(rows).toHaveLength(wiring.conductors.flatMap((c) => [c.from, c.to].filter(Boolean)).length)
    const sheet = new Map(wiringSheet(wiring).map((l) => [l.id, l.ferrule]))
    for (const [ferrule, , conductor] of rows) expect(ferrule).toBe(sheet.get(conductor!))
  })
  it('tell of a cable where it runs, its cores in use and those cut back', () => {
    expect(list('cables').rows).toEqual([
      [
        'W1',
        'Field cable',
        expect.stringContaining('Transmitter (TX)'),
        'white, black',
        'shield',
        expect.any(String),
        expect.any(String),
      ],
      [
        'W2',
        'Home run',
        expect.stringContaining('Input card (RX)'),
        'white, black, shield',
        '',
        expect.any(String),
        expect.any(String),
      ],
    ])
  })
  it('never state a colour without its convention and source', () => {
    for (const [, , , by, source] of list('legend').rows) expect([by, source].every(Boolean)).toBe(true)
  })
})

describe('a legend of a cable’s own', () => {
  const lead = [
    { colour: 'brown', means: 'bus high' },
    { colour: 'white', means: 'bus low' },
    { colour: 'green', means: 'bus common' },
  ]
  const bus = propose({ ...PLAIN, output: 'digital bus' })
  it('takes the place of a convention, and comes back from the record', () => {
    const own = readWiring(writeWiring(setOwnLegend(bus, 'W1', lead)))
    expect(conventionOf(own.cables[0]!).colours).toEqual({ brown: 'bus high', white: 'bus low', green: 'bus common' })
    expect(wiringList('legend', own, undefined, volts).rows.filter((r) => r[0]!.startsWith('W1'))).toHaveLength(3)
    const back = setLegend(own, 'W1', 'bus-red-green')
    expect(conventionOf(back.cables[0]!)).toBe(COLOUR_CONVENTIONS.find((c) => c.id === 'bus-red-green'))
  })
  it('judges the cores by it: a red core on the higher line is no longer one by its colour', () => {
    const codes = (w: typeof bus) => judgeWiring(w, usual, 22).findings.map((f) => f.code)
    expect(codes(bus)).not.toContain('colour-against-function')
    expect(codes(setOwnLegend(bus, 'W1', [{ colour: 'red', means: 'bus low' }]))).toContain('colour-against-function')
  })
  it.each([
    [[...lead, lead[0]!], /“brown” is there twice/],
    [[], /at least one colour/],
    [[{ colour: ' ', means: 'plus' }], /cannot be taken/],
    [[{ colour: 'red', means: '' }], /cannot be taken/],
  ])('refuses %j in words', (rows, says) => {
    expect(() => setOwnLegend(bus, 'W1', rows)).toThrow(Refusal)
    expect(() => setOwnLegend(bus, 'W1', rows)).toThrow(says)
  })
  it('with the same colour twice is refused from a file too', () => {
    const text = writeWiring({ ...bus, cables: bus.cables.map((c) => ({ ...c, own: [lead[0]!, lead[0]!] })) })
    expect(() => readWiring(text)).toThrow(/“brown” is there twice/)
  })
})
