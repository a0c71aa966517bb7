// Counting live: every edge with its time, cycles since one began to watch, and edges put on record in pieces.
import { gapsText } from '@calm-loop/contract'
import { useEventListener, useIntervalFn } from '@vueuse/core'
import { v7 as uuid } from 'uuid'
import { computed, onScopeDispose, ref, shallowRef, watch } from 'vue'
import { useFolder } from '../stores/folder.ts'
import { useLive } from '../stores/live.ts'
import { useOutbox } from '../stores/outbox.ts'
import { sure } from '@calm-loop/core/sure'

export interface SeenEdge {
  readonly t_ms: number
  readonly state: boolean
}
interface Piece {
  readonly startMs: number
  readonly startState: boolean
  readonly gaps: number[]
  last: number
}
const KEPT = 400
/** Pieces are sent so often, so that little is lost with the page. */
const PIECE_ms = 15_000

const begun = (startMs: number, startState: boolean): Piece => ({ startMs, startState, gaps: [], last: startMs })
const stateOf = (piece: Piece) => piece.startState !== (piece.gaps.length % 2 === 1)

export function useRecording() {
  const live = useLive()
  const folder = useFolder()
  const outbox = useOutbox()
  const edges = shallowRef<readonly SeenEdge[]>([])
  const count = ref(0)
  const recording = ref(false)
  const recorded = ref(0)
  /** What is being recorded: since when, in what state, and its changes so far. None while nothing can be seen. */
  let piece: Piece | undefined
  const state = computed<boolean | undefined>(() => {
    const v = live.connected ? live.reading?.knots['controller'] : undefined
    return v === undefined ? undefined : v >= 0.5
  })
  /** Pieces that the server would not take, as where another page records the same time. */
  const refused = computed(() =>
    outbox.pending.filter((p) => p.endpoint === 'addEdges' && p.refused && p.params['loopId'] === folder.view?.loop.id),
  )

  /** Puts the piece on record; what follows begins a millisecond later, as a time is never counted twice. */
  function send(): void {
    if (!piece?.gaps.length || !folder.view) return
    const id = uuid()
    const { startMs, startState, gaps, last } = piece
    outbox.put(
      {
        id,
        endpoint: 'addEdges',
        params: { loopId: folder.view.loop.id, trainId: id },
        tag: folder.view.loop.tag,
        body: { startMs, startState, gaps: gapsText(gaps), origin: 'live', note: 'watched' },
      },
      () => void folder.refresh(),
    )
    piece = begun(last + 1, stateOf(piece))
  }
  /** Ends the piece: what happens until the next begins is not known. */
  function end(): void {
    send()
    piece = undefined
  }

  watch(
    () => live.reading,
    (reading) => {
      for (const { t_ms, state: now } of reading?.edges ?? []) {
        edges.value = [...edges.value.slice(-KEPT), { t_ms, state: now }]
        if (now) count.value++
        // An edge that does not change the state follows one that was not seen.
        if (!piece || t_ms <= piece.last || now === stateOf(piece)) continue
        piece.gaps.push(t_ms - piece.last)
        piece.last = t_ms
        recorded.value++
      }
      if (!recording.value || state.value === undefined) return
      if (piece && stateOf(piece) !== state.value) end()
      piece ??= begun(Math.max(reading?.at_ms ?? 0, (edges.value.at(-1)?.t_ms ?? 0) + 1), state.value)
    },
    { flush: 'sync' },
  )
  watch(
    () => live.connected,
    (connected) => connected || end(),
    { flush: 'sync' },
  )
  function record(on: boolean): void {
    recording.value = on && state.value !== undefined
    if (recording.value) {
      piece = begun(live.reading?.at_ms ?? Date.now(), sure(state.value))
      recorded.value = 0
    } else end()
  }
  useIntervalFn(send, PIECE_ms)
  useEventListener(window, 'pagehide', send)
  onScopeDispose(end)
  const forget = () => {
    edges.value = []
    count.value = 0
  }
  return { edges, count, state, recording, recorded, refused, record, forget }
}
