// What is kept for a moment: asked once, dropped when told, and never kept from before it was dropped.
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { keptFor } from '../src/services/kept-for.ts'

beforeEach(() => void vi.useFakeTimers({ toFake: ['performance'] }))
afterEach(() => void vi.useRealTimers())

/** Looks up in a table that a test changes, each look answered when the test says so. */
function table(most?: number) {
  const rows: Record<string, string> = { a: 'first' }
  const looks: string[] = []
  const late: (() => void)[] = []
  let held = false
  const kept = keptFor(
    2000,
    async (key) => {
      looks.push(key)
      const read = rows[key]
      if (read === undefined) throw new Error(`no ${key}`)
      if (held) await new Promise<void>((go) => late.push(go))
      return read
    },
    most,
  )
  return { rows, looks, kept, hold: (on: boolean) => (held = on), go: () => late.splice(0).forEach((l) => l()) }
}

describe('an answer', () => {
  it('is asked once by all who want it at a time, and again when it is too old', async () => {
    const { rows, looks, kept } = table()
    expect(await Promise.all([kept.get('a'), kept.get('a')])).toEqual(['first', 'first'])
    rows['a'] = 'second'
    vi.advanceTimersByTime(1999)
    expect(await kept.get('a')).toBe('first')
    vi.advanceTimersByTime(2)
    expect(await kept.get('a')).toBe('second')
    expect(looks).toHaveLength(2)
  })
  it.each([['a'], [undefined]])('is forgotten when told (%s)', async (key) => {
    const { rows, kept } = table()
    await kept.get('a')
    rows['a'] = 'second'
    kept.drop('b')
    expect(await kept.get('a')).toBe('first')
    kept.drop(key)
    expect(await kept.get('a')).toBe('second')
  })
  it('that was read before a drop and comes after it is not kept', async () => {
    const { rows, kept, hold, go } = table()
    hold(true)
    const old = kept.get('a')
    rows['a'] = 'second'
    kept.drop()
    hold(false)
    expect(await kept.get('a')).toBe('second')
    go()
    expect(await old).toBe('first')
    expect(await kept.get('a')).toBe('second')
  })
  it('that could not be had is asked for again', async () => {
    const { rows, kept } = table()
    await expect(kept.get('b')).rejects.toThrow('no b')
    rows['b'] = 'here'
    expect(await kept.get('b')).toBe('here')
  })
  it('is one of so many at most', async () => {
    const { rows, looks, kept } = table(2)
    Object.assign(rows, { b: 'b', c: 'c' })
    for (const key of ['a', 'b', 'c', 'a']) await kept.get(key)
    expect(looks).toEqual(['a', 'b', 'c', 'a'])
  })
})
