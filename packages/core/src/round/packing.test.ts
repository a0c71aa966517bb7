// Times of a round, whom to tell by when, and one list of what to bring.
import { describe, expect, it } from 'vitest'
import fc from 'fast-check'
import {
  lackLines,
  packLines,
  spreadWords,
  tagWords,
  tellings,
  timed,
  clockOf,
  type Need,
  type Packed,
} from './index.ts'

const stop = (tag: string, minutes: number, people: string[] = []) => ({
  loop: { id: tag, tag, area: 'A', kind: 'k', works: [], due: null, needs: [] },
  expected: { minutes, low: minutes, high: minutes, visits: undefined },
  people,
})
const need = (tag: string): Need => ({ tag, what: 'Loop current', unit: 'mA', low: 4, high: 20, tolerance: 0.08 })

describe('times', () => {
  it('go on from one stop to the next, past midnight said', () => {
    const times = timed([stop('1', 45), stop('2', 30.4), stop('3', 60)], '22:30')
    expect(times.map((t) => [t.from, t.to])).toEqual([
      ['22:30', '23:15'],
      ['23:15', '23:45'],
      ['23:45', '00:45 +1 d'],
    ])
  })
  it('are told with their spread', () => {
    const words = (low: number, high: number) => spreadWords({ low, high })
    expect([words(30, 30.2), words(30, 60), words(-4, 12)]).toEqual(['30 min', '30 to 60 min', '0 to 12 min'])
    expect([words(90, 150), words(240, 485)]).toEqual(['90 min to 2 h 30 min', '4 h to 8 h 5 min'])
  })
  it('are hours and minutes whatever is added up', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 20_000, noNaN: true }), (m) => {
        expect(clockOf(m)).toMatch(/^([01]\d|2[0-3]):[0-5]\d( \+\d+ d)?$/)
      }),
    )
  })
  it('tell each thing once, by when it is first needed, with all its loops', () => {
    const times = timed([stop('1', 30, ['operations']), stop('2', 30, ['permit', 'operations'])], '07:00')
    expect(tellings(times)).toEqual([
      { what: 'operations', by: '07:00', tags: ['1', '2'] },
      { what: 'permit', by: '07:30', tags: ['2'] },
    ])
  })
})

describe('what to bring', () => {
  const shelf = { kit: [], day: '2026-12-01', say: (day: string) => day }
  const piece = { id: 'p', name: 'Loop meter L1', serial: '7', due: '2027-01-01', holder: null, ranges: [] }
  const packed = (ratio: number | undefined, short: boolean): Packed => ({
    piece,
    uses: ['LT-1', 'LT-2'].map((t) => ({ need: need(t), at: need(t), ratio, short })),
  })
  it('names each piece once with its loops, and for what it is not good enough', () => {
    const [line] = packLines({ kit: [packed(2.53, true)], bring: [] }, 4, shelf)
    expect(line).toMatchObject({ key: 'kit p', what: 'Loop meter L1, 7', tags: ['LT-1', 'LT-2'] })
    expect(line!.mind).toEqual([
      'LT-1: Loop current, 2.5 to 1 instead of 4 to 1',
      'LT-2: Loop current, 2.5 to 1 instead of 4 to 1',
    ])
    expect(packLines({ kit: [packed(9, false)], bring: [] }, 4, shelf)[0]!.mind).toEqual([])
    expect(packLines({ kit: [packed(undefined, true)], bring: [] }, 4, shelf)[0]!.mind[0]).toContain(
      'say nothing of its worth',
    )
  })
  it('has a spare fuse for each meter that is packed', () => {
    const bring = [{ what: 'spare fuse of the meter', count: 1, tags: ['LT-1'] }]
    const current = { ...piece, ranges: [{ quantity: 'current' as const, unit: 'mA', low: 0, high: 24 }] }
    const words = (kit: Packed[]) => packLines({ kit, bring }, 4, shelf).at(-1)!.what
    expect(words([{ piece: current, uses: packed(9, false).uses }])).toBe('spare fuse for Loop meter L1')
    expect(words([packed(9, false)])).toBe('spare fuse of the meter')
  })
  it('names what ages with its lot and date, and minds what is past it', () => {
    const kit = [
      { name: 'Buffers pH 4, 7 and 10', serial: 'lot 61', due: '2026-12-01' },
      { name: 'Buffer pH 7', serial: 'lot 12', due: '2026-11-30' },
      { name: 'Couplant, hot pipes', serial: '', due: '2027-05-01' },
    ]
    const bring = ['buffers in date', 'couplant or pads', 'beakers'].map((what) => ({ what, count: 1, tags: ['AT-1'] }))
    const lines = packLines({ kit: [], bring }, 4, { ...shelf, kit })
    expect(lines.map((l) => [l.key, l.what, l.mind])).toEqual([
      [
        'buffers in date',
        'buffers in date: Buffers pH 4, 7 and 10, lot 61, good until 2026-12-01',
        ['Buffer pH 7, lot 12: was good until 2026-11-30'],
      ],
      ['couplant or pads', 'couplant or pads: Couplant, hot pipes, good until 2027-05-01', []],
      ['beakers', 'beakers', []],
    ])
  })
  it('says once what nothing reads, and why', () => {
    const why = (of: 'no-range' | 'past-due') => [need('LT-1'), need('LT-2')].map((n) => ({ need: n, why: of }))
    expect(lackLines(why('no-range'))).toEqual([
      { words: 'Loop current, 4 mA to 20 mA: nothing in the kit reads it', tags: ['LT-1', 'LT-2'] },
    ])
    expect(lackLines(why('past-due'))[0]!.words).toContain('past its due date')
  })
  it('counts tags beyond the first few', () => {
    expect([tagWords(['a']), tagWords(['a', 'b', 'c']), tagWords(['a', 'b', 'c', 'd'])]).toEqual([
      'a',
      'a, b, c',
      'a, b, c and 1 more',
    ])
  })
})
