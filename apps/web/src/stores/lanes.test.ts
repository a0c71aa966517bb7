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
const never = () => false
const soon = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms))

describe('writes of several loops', () => {
  it('are each sent once, in order within their loop, at most four at a time', async () => {
    const run = fc.asyncProperty(fc.array(fc.tuple(fc.nat(6), fc.nat(2)), { maxLength: 30 }), async (planned) => {
      const writes = writesOf(planned.map(([loop]) => loop))
      const begun: number[] = []
      const busy = new Set<string>()
      let most = 0
      const went = await inLanes(writes, never, async ({ seq, tag }) => {
        expect(busy.has(tag)).toBe(false)
        begun.push(seq)
        busy.add(tag)
        most = Math.max(most, busy.size)
        await soon(planned[seq]![1])
        busy.delete(tag)
        return 'on'
      })
      expect(went).toBe(writes.length)
      expect(most).toBeLessThanOrEqual(4)
      for (const tag of new Set(writes.map((w) => w.tag))) {
        const mine = begun.filter((seq) => writes[seq]!.tag === tag)
        expect(mine).toEqual(writes.filter((w) => w.tag === tag).map((w) => w.seq))
      }
    })
    await fc.assert(run, { numRuns: 60 })
  })
  it('begin with what was entered first', async () => {
    const begun: number[] = []
    await inLanes(writesOf([1, 2, 3, 4, 5]), never, ({ seq }) => (begun.push(seq), Promise.resolve('on')))
    expect(begun.slice(0, 4)).toEqual([0, 1, 2, 3])
  })
  it('wait behind one of their loop that is held back, or cannot go now; others do not', async () => {
    const sent: number[] = []
    const send = ({ seq }: Write): Promise<Went> => (sent.push(seq), Promise.resolve(seq === 1 ? 'wait' : 'on'))
    expect(await inLanes(writesOf([1, 2, 1, 2, 3]), ({ seq }) => seq === 0, send)).toBe(1)
    expect(sent).toEqual([1, 4])
  })
  it('are not begun once nothing more is to be sent', async () => {
    const sent: number[] = []
    const send = ({ seq }: Write): Promise<Went> => (sent.push(seq), Promise.resolve(seq === 1 ? 'stop' : 'on'))
    expect(await inLanes(writesOf([1, 1, 1, 1]), never, send)).toBeUndefined()
    expect(sent).toEqual([0, 1])
    expect(await inLanes([], never, send)).toBe(0)
  })
})
