// What is sent side by side: in order within each loop, whatever takes how long, is held back or fails.
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { inLanes, type Went } from './lanes.ts'
import type { Write } from './waiting-room.ts'

const write = (seq: number, loopId: string): Write => ({
  ...{
    seq,
    id: `${seq}`,
    by: 'ailsa',
    byName: 'Ailsa',
    endpoint: 'addWork',
    params: { loopId },
    body: {},
    tag: loopId,
  },
  ...{ at: 0, tries: 0 },
})
const writesOf = (loops: readonly number[]) => loops.map((l, i) => write(i, `${l}`))
const soon = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms))
const on = (writes: readonly Write[]): Promise<Went> => Promise.resolve({ done: writes.length, how: 'on' })
const plain = { isHeld: () => false, send: on, together: () => false }

describe('writes of several loops', () => {
  const planned = fc.array(fc.tuple(fc.nat(6), fc.nat(2)), { maxLength: 40 })
  it.each([true, false])('are each sent once, in order within their loop; together: %s', async (together) => {
    const run = fc.asyncProperty(planned, async (plan) => {
      const writes = writesOf(plan.map(([loop]) => loop))
      const begun: number[] = []
      const busy = new Set<string>()
      let most = 0
      const send = async (given: readonly Write[]): Promise<Went> => {
        const [{ seq, tag }] = given as [Write]
        expect(busy.has(tag)).toBe(false)
        if (!together) expect(given).toHaveLength(1)
        // Of what was given not all need be done with.
        const done = Math.max(1, given.length - plan[seq]![1])
        begun.push(...given.slice(0, done).map((w) => w.seq))
        busy.add(tag)
        most = Math.max(most, busy.size)
        await soon(plan[seq]![1])
        busy.delete(tag)
        return { done, how: 'on' }
      }
      expect(await inLanes(writes, { ...plain, send, together: () => together })).toBe(writes.length)
      expect(most).toBeLessThanOrEqual(4)
      for (const tag of new Set(writes.map((w) => w.tag))) {
        const mine = begun.filter((seq) => writes[seq]!.tag === tag)
        expect(mine).toEqual(writes.filter((w) => w.tag === tag).map((w) => w.seq))
      }
    })
    await fc.assert(run, { numRuns: 60 })
  })
  it('go in messages of at most 25, and what must come alone does', async () => {
    const writes = writesOf(Array.from({ length: 60 }, () => 1))
    writes[30] = { ...writes[30]!, endpoint: 'sign' }
    const sizes: number[] = []
    await inLanes(writes, { ...plain, together: () => true, send: (w) => (sizes.push(w.length), on(w)) })
    expect(sizes).toEqual([25, 5, 1, 25, 4])
  })
  it('begin with what was entered first', async () => {
    const begun: number[] = []
    await inLanes(writesOf([1, 2, 3, 4, 5]), { ...plain, send: (w) => (begun.push(w[0]!.seq), on(w)) })
    expect(begun.slice(0, 4)).toEqual([0, 1, 2, 3])
  })
  it('wait behind one of their loop that is held back, or cannot go now; others do not', async () => {
    const sent: number[] = []
    const send = ([w]: readonly Write[]): Promise<Went> => {
      sent.push(w!.seq)
      return Promise.resolve(w!.seq === 1 ? { done: 0, how: 'wait' } : { done: 1, how: 'on' })
    }
    expect(await inLanes(writesOf([1, 2, 1, 2, 3]), { ...plain, isHeld: ({ seq }) => seq === 0, send })).toBe(1)
    expect(sent).toEqual([1, 4])
  })
  it('are not begun once nothing more is to be sent', async () => {
    const sent: number[] = []
    const send = ([w]: readonly Write[]): Promise<Went> => {
      sent.push(w!.seq)
      return Promise.resolve({ done: w!.seq === 1 ? 0 : 1, how: w!.seq === 1 ? 'stop' : 'on' })
    }
    expect(await inLanes(writesOf([1, 1, 1, 1]), { ...plain, send })).toBeUndefined()
    expect(sent).toEqual([0, 1])
    expect(await inLanes([], plain)).toBe(0)
  })
})
