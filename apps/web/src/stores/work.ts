// Work at the point put on record: steps, zeroes, health checks, read-backs, surveys; and the site's own rows.
import type { AddSiteRow, AddWorkEntry, SiteRow, WorkEntry } from '@calm-loop/contract'
import { defineStore } from 'pinia'
import { v7 as uuid } from 'uuid'
import { computed, ref, shallowRef } from 'vue'
import { call, type ApiProblem } from '../api/client.ts'
import { useFolder } from './folder.ts'
import { useLater } from './later.ts'
import { useSession } from './session.ts'
import { entryOf } from './with-waiting.ts'
import { sure } from '@calm-loop/core/sure'

export const useWork = defineStore('work', () => {
  const folder = useFolder()
  const later = useLater()
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
    busy.value = true
    const write = { id, endpoint: 'addWork' as const, params: { loopId, entryId: id }, body: entry }
    try {
      const saved = await later.write(write)
      if (saved && folder.view?.loop.id === loopId) await folder.refresh()
      const { id: by = '', name: byName = '' } = session.person ?? {}
      return saved ?? entryOf({ ...write, tag: '', by, byName, at: Date.now() })
    } catch (error) {
      problem.value = (error as ApiProblem).message
      return undefined
    } finally {
      busy.value = false
    }
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
