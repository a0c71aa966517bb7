// Work at the point put on record: steps, zeroes, health checks, read-backs, surveys; and the site's own rows.
import type { AddSiteRow, AddWorkEntry, SiteRow, WorkEntry } from '@calm-loop/contract'
import { defineStore } from 'pinia'
import { v7 as uuid } from 'uuid'
import { computed, ref, shallowRef } from 'vue'
import { call, isAway, type ApiProblem } from '../api/client.ts'
import { useFolder } from './folder.ts'
import { useOutbox } from './outbox.ts'
import { useSession } from './session.ts'
import { entryOf, waitingFor } from './with-waiting.ts'
import { sure } from '@calm-loop/core/sure'

export const useWork = defineStore('work', () => {
  const folder = useFolder()
  const outbox = useOutbox()
  const session = useSession()
  const problem = ref('')
  const busy = ref(false)
  const log = computed<readonly WorkEntry[]>(() => folder.here.workLog)
  const rows = shallowRef<readonly SiteRow[]>([])

  /**
   * Adds an entry; undefined when it was refused, and why stands in `problem`. The id lets a lost answer be asked for
   * again.
   */
  async function add(
    entry: AddWorkEntry,
    id = uuid(),
    loopId = sure(folder.view).loop.id,
  ): Promise<WorkEntry | undefined> {
    problem.value = ''
    // After what waits already, or the server would hear the second before the first.
    if (!folder.practising && waitingFor(outbox.waiting, loopId).length) return later(entry, id, loopId)
    busy.value = true
    try {
      const saved = await call('addWork', { params: { loopId, entryId: id }, body: entry })
      if (folder.view?.loop.id === loopId) await folder.refresh()
      return saved
    } catch (error) {
      if (isAway(error as ApiProblem) && !folder.practising) return later(entry, id, loopId)
      problem.value = (error as ApiProblem).message
      return undefined
    } finally {
      busy.value = false
    }
  }
  /** Out of coverage it waits on this device, and counts here as it will when it has been sent. */
  function later(body: AddWorkEntry, id: string, loopId: string): WorkEntry | undefined {
    const write = { id, endpoint: 'addWork' as const, params: { loopId, entryId: id }, body }
    const tag = folder.view?.loop.id === loopId ? folder.view.loop.tag : ''
    outbox.put({ ...write, tag }, (saved) => {
      if (saved) folder.addEntry(loopId, saved as WorkEntry)
      void folder.refresh().catch(() => undefined)
    })
    const { person } = session
    return entryOf({ ...write, tag, by: person?.id ?? '', byName: person?.name ?? '', at: Date.now() })
  }
  async function loadRows(): Promise<void> {
    rows.value = await call('siteRows').catch((error: ApiProblem) => {
      problem.value = error.message
      return []
    })
  }
  async function addRow(body: AddSiteRow): Promise<boolean> {
    problem.value = ''
    try {
      const row = await call('addSiteRow', { params: { rowId: uuid() }, body })
      rows.value = [...rows.value, row]
      return true
    } catch (error) {
      problem.value = (error as ApiProblem).message
      return false
    }
  }
  return { problem, busy, log, rows, add, loadRows, addRow }
})
