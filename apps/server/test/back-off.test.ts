import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { backOff } from '../src/ports/back-off.ts'

beforeEach(() => void vi.useFakeTimers())
afterEach(() => void vi.useRealTimers())

/** A port that is there again after so many attempts. */
function away(attempts: number) {
  const seen = { tried: [] as number[], waits: [] as number[], wanted: true }
  const begun = Date.now()
  const coming = backOff(
    () => {
      seen.tried.push(Date.now() - begun)
      return seen.tried.length > attempts ? Promise.resolve() : Promise.reject(new Error('still away'))
    },
    () => seen.wanted,
    (wait_ms) => seen.waits.push(wait_ms),
  )
  return { seen, coming }
}

describe('coming back', () => {
  it('is tried soon, then more and more seldom, up to twice a minute; and no more when it is there', async () => {
    const { seen, coming } = away(8)
    coming.begin()
    await vi.advanceTimersByTimeAsync(10 * 60_000)
    expect(seen.tried.map((t) => t / 1000)).toEqual([1, 3, 7, 15, 31, 61, 91, 121, 151])
    expect(seen.waits.slice(0, 6).map((w) => w / 1000)).toEqual([1, 2, 4, 8, 16, 30])
  })
  it('waits while nobody wants it', async () => {
    const { seen, coming } = away(0)
    seen.wanted = false
    coming.begin()
    await vi.advanceTimersByTimeAsync(60_000)
    expect(seen.tried).toEqual([])
    seen.wanted = true
    await vi.advanceTimersByTimeAsync(1000)
    expect(seen.tried).toHaveLength(1)
  })
  it('ends when it is told so, and begins anew from soon', async () => {
    const { seen, coming } = away(99)
    coming.begin()
    await vi.advanceTimersByTimeAsync(8000)
    coming.end()
    await vi.advanceTimersByTimeAsync(60_000)
    expect(seen.tried).toHaveLength(3)
    coming.begin()
    await vi.advanceTimersByTimeAsync(1000)
    expect(seen.tried).toHaveLength(4)
  })
})
