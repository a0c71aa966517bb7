// The waiting room of a test, left empty.
import { vi } from 'vitest'
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
