// The register: pages of loops by tag, as filtered.
import type { LoopRow, LoopState } from '@calm-loop/contract'
import { defineStore } from 'pinia'
import { ref, shallowRef } from 'vue'
import { call, isAway, type ApiProblem } from '../api/client.ts'
import { today } from '../widgets/dates.ts'
import { useCoverage } from './coverage.ts'
import { keptLoops } from './kept.ts'
import { useSession } from './session.ts'

export interface Filter {
  q: string
  area: string
  state: LoopState | 'overdue' | ''
}

export const useRegister = defineStore('register', () => {
  const loops = shallowRef<LoopRow[]>([])
  const areas = shallowRef<string[]>([])
  const next = ref<string | null>(null)
  const loading = ref(false)
  const problem = ref('')
  const filter = ref<Filter>({ q: '', area: '', state: '' })
  let turn = 0

  async function load(more = false): Promise<void> {
    const mine = ++turn
    loading.value = true
    problem.value = ''
    try {
      const { q, area, state } = filter.value
      const page = await call('loops', {
        query: {
          ...(q ? { q } : {}),
          ...(area ? { area } : {}),
          ...(state ? { state } : {}),
          ...(more && next.value ? { after: next.value } : {}),
        },
      })
      if (mine !== turn) return
      loops.value = more ? [...loops.value, ...page.loops] : page.loops
      next.value = page.next
      areas.value = page.areas
    } catch (error) {
      const kept = isAway(error as ApiProblem) ? await fromThisDevice() : undefined
      if (mine !== turn) return
      if (kept) {
        loops.value = kept
        next.value = null
      } else problem.value = (error as ApiProblem).message
    } finally {
      if (mine === turn) loading.value = false
    }
  }
  /** Without the server: the loops whose folder this device has kept, as filtered; undefined where it has none. */
  async function fromThisDevice(): Promise<LoopRow[] | undefined> {
    const kept = await keptLoops(useSession().person?.id ?? '').catch(() => [])
    if (!kept.length) return undefined
    useCoverage().shown()
    const { q, area, state } = filter.value
    const words = q.toLowerCase().split(/\s+/)
    areas.value = [...new Set(kept.map((k) => k.row.area))].sort()
    return kept
      .map((k) => k.row)
      .filter((row) => {
        const text = `${row.tag} ${row.service} ${row.area}`.toLowerCase()
        const overdue = row.nextDue !== null && row.nextDue < today()
        return (
          words.every((w) => text.includes(w)) &&
          (!area || row.area === area) &&
          (!state || (state === 'overdue' ? overdue : row.state === state))
        )
      })
  }
  return { loops, areas, next, loading, problem, filter, load }
})
