// The room itself: what of it can be sent, and how often all of it is read.
import 'fake-indexeddb/auto'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { leaveNothing } from './room.fixture.ts'
import { dropSent, dropWrite, keepWrite, noteWrite, watchRoom, writesOf, type NewWrite } from './waiting-room.ts'

const write = (id: string, loopId: string, by = 'ailsa'): NewWrite => ({
  ...{ id, by, byName: by, endpoint: 'addWork', params: { loopId, entryId: id }, body: {}, tag: loopId, at: 0 },
})
afterEach(async () => {
  await leaveNothing()
})

describe('what can be sent', () => {
  it('is of its person, in the order in which it was entered, and not what was refused', async () => {
    const ids = async (by: string) => (await writesOf(by)).map((w) => w.id)
    for (const w of [write('a', '1', 'rona'), write('c', '1'), write('b', '2')]) await keepWrite(w)
    expect(await ids('ailsa')).toEqual(['c', 'b'])
    await noteWrite('c', { refused: 'No.' })
    expect(await ids('ailsa')).toEqual(['b'])
    const [b] = await writesOf('ailsa')
    await dropSent([b!])
    expect(await ids('ailsa')).toEqual([])
    expect(await ids('rona')).toEqual(['a'])
  })
})

describe('a room of hundreds', () => {
  it('is not read whole for each of its changes, and what is heard last is what stands there', async () => {
    const reads = vi.spyOn(IDBObjectStore.prototype, 'getAll')
    let heard = 0
    const stop = watchRoom((writes) => (heard = writes.length))
    for (let i = 0; i < 400; i++) await keepWrite(write(`w${i}`, '1'))
    await vi.waitFor(() => expect(heard).toBe(400), { timeout: 60_000 })
    for (let i = 0; i < 399; i++) await dropWrite(`w${i}`)
    await vi.waitFor(() => expect(heard).toBe(1), { timeout: 60_000 })
    expect(reads.mock.calls.length).toBeLessThan(400)
    stop()
  })
})
