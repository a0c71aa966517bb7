import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { mergeEntries } from './merge.ts'

const e = (typed: string) => ({ typed })
const entries = fc.dictionary(fc.constantFrom('a', 'b', 'c', 'd'), fc.constantFrom(e('1'), e('2'), e('3')))

describe('two people’s changes brought together', () => {
  it('keeps what each changed alone', () => {
    const merged = mergeEntries({ a: e('1'), b: e('1') }, { a: e('2'), b: e('1') }, { a: e('1'), b: e('3'), c: e('9') })
    expect(merged).toEqual({ entries: { a: e('2'), b: e('3'), c: e('9') }, taken: ['b', 'c'], clashes: [] })
  })
  it('keeps my own text where both changed, and shows theirs', () => {
    const merged = mergeEntries({ a: e('1') }, { a: e('2') }, { a: e('3') })
    expect(merged.entries).toEqual({ a: e('2') })
    expect(merged.clashes).toEqual([{ key: 'a', mine: '2', theirs: '3' }])
  })
  it('sees a removal as a change', () => {
    expect(mergeEntries({ a: e('1') }, {}, { a: e('1') }).entries).toEqual({})
    expect(mergeEntries({ a: e('1') }, {}, { a: e('2') }).clashes).toEqual([{ key: 'a', mine: '', theirs: '2' }])
  })
  it('never drops a change of mine, and takes all of theirs that does not clash', () => {
    fc.assert(
      fc.property(entries, entries, entries, (base, mine, theirs) => {
        const merged = mergeEntries(base, mine, theirs)
        for (const key of ['a', 'b', 'c', 'd']) {
          const changed = mine[key]?.typed !== base[key]?.typed
          expect(merged.entries[key]?.typed).toBe(changed ? mine[key]?.typed : theirs[key]?.typed)
          const both = changed && theirs[key]?.typed !== base[key]?.typed && theirs[key]?.typed !== mine[key]?.typed
          expect(merged.clashes.some((c) => c.key === key)).toBe(both)
        }
      }),
    )
  })
})
