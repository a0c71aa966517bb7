// The room itself: the next write by person and loop, and how often all of it is read.
import 'fake-indexeddb/auto'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { leaveNothing } from './room.fixture.ts'
import { dropWrite, keepWrite, nextWrite, noteWrite, watchRoom, type NewWrite } from './waiting-room.ts'

const write = (id: string, loopId: string, by = 'ailsa'): NewWrite => ({
  ...{ id, by, byName: by, endpoint: 'addWork', params: { loopId, entryId: id }, body: {}, tag: loopId, at: 0 },
})
afterEach(async () => {
  await leaveNothing()
})

describe('the next write', () => {
  it('is the first of its person that was not refused', async () => {
    for (const w of [write('a', '1', 'rona'), write('b', '1'), write('c', '1')]) await keepWrite(w)
    expect((await nextWrite('ailsa'))?.id).toBe('b')
    await noteWrite('b', { refused: 'No.' })
    expect((await nextWrite('ailsa'))?.id).toBe('c')
    await dropWrite('c')
    expect(await nextWrite('ailsa')).toBeUndefined()
    expect((await nextWrite('rona'))?.id).toBe('a')
  })
  it('of a loop waits behind one that is held back, of another loop it does not', async () => {
    for (const w of [write('held', '1'), write('behind', '1'), write('free', '2')]) await keepWrite(w)
    const isHeld = ({ id }: NewWrite) => id === 'held'
    expect((await nextWrite('ailsa', isHeld))?.id).toBe('free')
    await dropWrite('free')
    expect(await nextWrite('ailsa', isHeld)).toBeUndefined()
    expect((await nextWrite('ailsa'))?.id).toBe('held')
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
