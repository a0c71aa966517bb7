// Counting live: every edge with its time, cycles since one began to watch; and whether the server records them, which
// it does without this page too.
import type { Recorded } from '@calm-loop/contract'
import { useIntervalFn } from '@vueuse/core'
import { computed, onScopeDispose, ref, shallowRef, watch } from 'vue'
import { call, type ApiProblem } from '../api/client.ts'
import { useFolder } from '../stores/folder.ts'
import { useLive } from '../stores/live.ts'
import { sure } from '@calm-loop/core/sure'

export interface SeenEdge {
  readonly t_ms: number
  readonly state: boolean
}
const KEPT = 400
const LOOK_ms = 3000

export function useRecording() {
  const live = useLive()
  const folder = useFolder()
  const edges = shallowRef<readonly SeenEdge[]>([])
  const count = ref(0)
  const state = computed<boolean | undefined>(() => {
    const v = live.connected ? live.reading?.knots['controller'] : undefined
    return v === undefined ? undefined : v >= 0.5
  })
  const recorded = shallowRef<Recorded['recorded']>(null)
  const problem = ref('')
  let gone = false
  onScopeDispose(() => (gone = true))

  async function told(answer: Promise<Recorded>): Promise<void> {
    const now = (await answer).recorded
    if (gone) return
    // Each piece that is kept is told of by itself.
    const turned = !now !== !recorded.value
    recorded.value = now
    if (turned) void folder.refresh().catch(() => undefined)
  }
  const params = () => ({ loopId: sure(folder.view).loop.id })
  const look = () => told(call('recorded', { params: params() })).catch(() => undefined)
  /** Lets the server record every edge, or ends that; what was refused stands in `problem`. */
  async function record(on: boolean): Promise<void> {
    problem.value = ''
    await told(call('recordPoint', { params: params(), body: { on } })).catch((error: unknown) => {
      problem.value = (error as ApiProblem).message
    })
  }
  void look()
  useIntervalFn(() => void look(), LOOK_ms)

  watch(
    () => live.reading,
    (reading) => {
      for (const { t_ms, state: now } of reading?.edges ?? []) {
        edges.value = [...edges.value.slice(-KEPT), { t_ms, state: now }]
        if (now) count.value++
      }
    },
    { flush: 'sync' },
  )
  const forget = () => {
    edges.value = []
    count.value = 0
  }
  return { edges, count, state, recorded, problem, record, forget }
}
