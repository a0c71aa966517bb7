import { describe, expect, it } from 'vitest'
import { ageWords } from '../widgets/ago.ts'
import { byLoop, savingWords, sentOf, standingInstead, writeWords } from './waiting.ts'

const write = (tag: string, at: number) => ({
  id: `${tag}${at}`,
  by: 'a',
  byName: 'A',
  endpoint: 'takeReading' as const,
  params: {},
  body: {},
  tag,
  at,
})

describe('what waits', () => {
  it('is told by loop, the longest waiting first', () => {
    expect(byLoop([write('LT-2', 50), write('LT-1', 20), write('LT-2', 10)])).toEqual([
      { tag: 'LT-2', count: 2, since: 10 },
      { tag: 'LT-1', count: 1, since: 20 },
    ])
  })
  it('is counted down, and of many it is told how far they are sent', () => {
    expect(savingWords(3, 3)).toBe('saving 3')
    expect(savingWords(1, 19)).toBe('saving 1')
    expect(savingWords(3800, 5000)).toBe('saving: 1200 of 5000 sent')
    expect(sentOf(2, 3)).toBeUndefined()
    expect(sentOf(20, 20)).toEqual({ sent: 0, of: 20 })
  })
  it('is named by what it is', () => {
    const body = { applied: { typed: '3 mm' }, reads: { current: { typed: '4.02 mA' } } }
    expect(writeWords({ endpoint: 'takeReading', body })).toBe('reading at 3 mm: 4.02 mA')
    expect(writeWords({ endpoint: 'addEdges', body: {} })).toBe('changes counted')
    expect(writeWords({ endpoint: 'addWork', body: {} })).toBe('step of the work')
    expect(writeWords({ endpoint: 'sign', body: {} })).toBe('signature')
  })
  it('can be sent as a correction only where another reading stands', () => {
    const current = { id: 'r1' }
    expect(standingInstead({ refusedCode: 'already-read', current })).toBe(current)
    expect(standingInstead({ refusedCode: 'signed', current })).toBeUndefined()
  })
  it.each([
    [0, 'just now'],
    [59_000, 'just now'],
    [4 * 60_000, '4 min'],
    [3 * 3_600_000, '3 h'],
    [50 * 3_600_000, '2 days'],
    [-5000, 'just now'],
  ])('after %i ms has waited %s', (age, words) => expect(ageWords(0, age)).toBe(words))
})
