// The waiting room of a test, left empty.
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, vi } from 'vitest'
import { useOutbox } from './outbox.ts'
import { handFed } from './server.fixture.ts'
import { closeRoom } from './waiting-room.ts'

/** Nothing of a test stays in this window: no write, no note, no answer given in place of a server's. */
export async function leaveNothing(): Promise<void> {
  await closeRoom()
  await new Promise((done) => {
    indexedDB.deleteDatabase('calm-loop').onsuccess = done
  })
  vi.unstubAllGlobals()
  vi.restoreAllMocks()
  localStorage.clear()
}

/** Registers that every test begins with stores of its own and ends with an empty room. */
export function inEmptyRoom(): void {
  beforeEach(() => {
    setActivePinia(createPinia())
    handFed()
  })
  afterEach(async () => {
    useOutbox().close()
    await leaveNothing()
  })
}
