// Counting live: every edge with its time, cycles since one began to watch, and edges put on record in pieces.
import { gapsText } from '@calm-loop/contract'
import { useEventListener, useIntervalFn } from '@vueuse/core'
import { v7 as uuid } from 'uuid'
import { computed, onScopeDispose, ref, shallowRef, watch } from 'vue'
import { useFolder } from '../stores/folder.ts'
import { useLive } from '../stores/live.ts'
import { useOutbox } from '../stores/outbox.ts'

export interface SeenEdge {
  readonly t_ms: number
  readonly state: boolean
}
const KEPT = 400
/** Pieces are sent so often, so that little is lost with the page. */
const PIECE_ms = 15_000

export function useRecording() {
  const live = useLive()
  const folder = useFolder()
  const outbox = useOutbox()
  const edges = shallowRef<readonly SeenEdge[]>([])
  const count = ref(0)
  const recording = ref(false)
  const recorded = ref(0)
  /** The piece being recorded: since when, in what state, and its changes so far. */
  let piece: { startMs: number; startState: boolean; last: number; gaps: number[] } | undefined
  const state = computed<boolean | undefined>(() => {
    const v = live.connected ? live.reading?.knots['controller'] : undefined
    return v === undefined ? undefined : v >= 0.5
  })

  watch(
    () => live.reading,
    (reading) => {
      for (const { t_ms, state: now } of reading?.edges ?? []) {
        edges.value = [...edges.value.slice(-KEPT), { t_ms, state: now }]
        if (now) count.value++
        if (piece && t_ms > piece.last) {
          piece.gaps.push(t_ms - piece.last)
          piece.last = t_ms
          recorded.value++
        }
      }
    },
    { flush: 'sync' },
  )
  function send(): void {
    if (!piece?.gaps.length || !folder.view) return
    const id = uuid()
    const { startMs, startState, gaps, last } = piece
    outbox.put(
      {
        id,
        endpoint: 'addEdges',
        params: { loopId: folder.view.loop.id, trainId: id },
        body: { startMs, startState, gaps: gapsText(gaps), origin: 'live', note: 'watched' },
      },
      () => void folder.refresh(),
    )
    // The next piece begins a millisecond later: a time is never counted twice.
    piece = { startMs: last + 1, startState: gaps.length % 2 ? !startState : startState, last: last + 1, gaps: [] }
  }
  function record(on: boolean): void {
    if (on && state.value !== undefined) {
      const now = live.reading?.at_ms ?? Date.now()
      piece = { startMs: now, startState: state.value, last: now, gaps: [] }
      recorded.value = 0
    } else {
      send()
      piece = undefined
    }
    recording.value = on && piece !== undefined
  }
  useIntervalFn(send, PIECE_ms)
  useEventListener(window, 'pagehide', send)
  onScopeDispose(() => record(false))
  const forget = () => {
    edges.value = []
    count.value = 0
  }
  return { edges, count, state, recording, recorded, record, forget }
}
