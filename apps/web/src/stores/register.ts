// The register: pages of loops by tag, as filtered.
import type { LoopRow, LoopState } from '@calm-loop/contract'
import { defineStore } from 'pinia'
import { ref, shallowRef } from 'vue'
import { call, type ApiProblem } from '../api/client.ts'

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
      if (mine === turn) problem.value = (error as ApiProblem).message
    } finally {
      if (mine === turn) loading.value = false
    }
  }
  return { loops, areas, next, loading, problem, filter, load }
})
