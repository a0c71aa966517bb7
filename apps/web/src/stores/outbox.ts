// Writes that must not be lost: kept on this device until the server has said that it has them, sent in order, sent again after a failure.
import type { EndpointName } from '@calm-loop/contract'
import { defineStore } from 'pinia'
import { computed, ref, watch } from 'vue'
import { ApiProblem, call } from '../api/client.ts'
import { useSession } from './session.ts'

export interface Pending {
  /** Who wrote it: it is sent in nobody else's name. */
  readonly by: string
  /** Id of the thing written. */
  readonly id: string
  readonly endpoint: EndpointName
  readonly params: Record<string, string>
  readonly body: unknown
  /** Why the server refused it; it stays here until someone has seen that. */
  refused?: string
}

const KEY = 'calm-loop.outbox'
const AGAIN_ms = 2000

function kept(): Pending[] {
  try {
    return JSON.parse(localStorage.getItem(KEY) ?? '[]') as Pending[]
  } catch {
    return []
  }
}

export const useOutbox = defineStore('outbox', () => {
  const session = useSession()
  const pending = ref<Pending[]>(kept())
  const sending = ref(false)
  const offline = ref(false)
  const waiting = computed(() => pending.value.filter((p) => !p.refused && p.by === session.person?.id))
  const saved = new Map<string, (result: unknown) => void>()
  let timer: ReturnType<typeof setTimeout> | undefined

  const keep = () => localStorage.setItem(KEY, JSON.stringify(pending.value))

  /** Queues a write; `onSaved` runs with the server's answer. */
  function put(item: Omit<Pending, 'by'>, onSaved?: (result: unknown) => void): void {
    if (onSaved) saved.set(item.id, onSaved)
    pending.value.push({ ...item, by: session.person?.id ?? '' })
    keep()
    void flush()
  }

  async function flush(): Promise<void> {
    if (sending.value) return
    sending.value = true
    clearTimeout(timer)
    try {
      for (let next = waiting.value[0]; next; next = waiting.value[0]) {
        try {
          const result = await call(next.endpoint, { params: next.params, body: next.body } as never)
          pending.value = pending.value.filter((p) => p.id !== next!.id)
          offline.value = false
          saved.get(next.id)?.(result)
          saved.delete(next.id)
        } catch (error) {
          const problem = error as ApiProblem
          if (problem.status === 0 || problem.status >= 500 || problem.status === 401) {
            offline.value = problem.status !== 401
            timer = setTimeout(() => void flush(), AGAIN_ms)
            return
          }
          const refused = pending.value.find((p) => p.id === next!.id)
          if (refused) refused.refused = problem.message
        }
        keep()
      }
    } finally {
      keep()
      sending.value = false
    }
  }
  function dismiss(id: string): void {
    pending.value = pending.value.filter((p) => p.id !== id)
    keep()
  }
  window.addEventListener('online', () => void flush())
  watch(
    () => session.person?.id,
    () => void flush(),
    { immediate: true },
  )
  return { pending, waiting, offline, put, flush, dismiss }
})
