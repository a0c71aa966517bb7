// A loop that is begun out of coverage: kept on this device as an empty folder, and made when the server is reached.
import type { FolderView, LoopIdentity } from '@calm-loop/contract'
import type { Entries } from '@calm-loop/core/kinds'
import { keepDraftOf } from './draft-notes.ts'
import { keepFolder } from './kept.ts'
import { useOutbox } from './outbox.ts'
import { useSession } from './session.ts'

/** @param entries with which it begins, as a draft */
export async function beginLoopHere(id: string, identity: LoopIdentity, entries: Entries): Promise<void> {
  const person = useSession().person?.id ?? ''
  const view: FolderView = {
    loop: { ...identity, id, createdAt: new Date().toISOString() },
    row: { ...identity, id, state: 'half-entered', nextDue: null, lastErrorPct: null, tolerancePct: null },
    ...{ versions: [], checks: [], wireLog: [], countLog: [], workLog: [], trains: [] },
    ...{ bench: null, device: null },
  }
  await keepFolder(person, view)
  if (Object.keys(entries).length && !keepDraftOf(person, { loopId: id, base: {}, entries, tag: identity.tag }))
    throw new Error('This device has no room for what it begins with. Free some space, and create it again.')
  useOutbox().put({ id, endpoint: 'createLoop', params: { loopId: id }, body: identity, tag: identity.tag })
}
