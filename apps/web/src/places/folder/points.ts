// One point of a check after the other: which is at hand, whether it was read before, and how its reading is sent.
import type { Check, Reading, TakeReading } from '@calm-loop/contract'
import { standingByPoint } from '@calm-loop/contract/judging'
import { v7 as uuid } from 'uuid'
import { computed, ref } from 'vue'
import { useFolder } from '../../stores/folder.ts'
import { useLive } from '../../stores/live.ts'
import { useOutbox } from '../../stores/outbox.ts'
import { sure } from '@calm-loop/core/sure'

/** @param cleared called when another point comes up: what was typed for the one before is gone */
export function usePoints(check: () => Check, cleared: () => void) {
  const folder = useFolder()
  const live = useLive()
  const outbox = useOutbox()
  const standing = computed(() => standingByPoint(check()))
  /** Readings of this check that the server does not have yet, by point. */
  const waiting = computed(
    () =>
      new Map(
        outbox.pending
          .filter((p) => p.endpoint === 'takeReading' && p.params['checkId'] === check().id)
          .map((p) => [(p.body as TakeReading).pointIndex, p]),
      ),
  )
  const isTaken = (index: number) =>
    standing.value.has(index) || (waiting.value.has(index) && !sure(waiting.value.get(index)).refused)
  /** Index of the first point not read; −1 when all are. */
  const firstOpen = () => check().points.find((p) => !isTaken(p.index))?.index ?? -1
  function send(body: TakeReading): void {
    const id = uuid()
    const checkId = check().id
    const params = { loopId: sure(folder.view).loop.id, checkId, readingId: id }
    outbox.put({ id, endpoint: 'takeReading', params, body, tag: sure(folder.view).loop.tag }, (saved) =>
      saved ? folder.addReading(checkId, saved as Reading) : void folder.refresh().catch(() => undefined),
    )
  }

  /** Index of the point at hand; −1 when all are read. */
  const at = ref(firstOpen())
  const point = computed(() => check().points[at.value])
  const earlier = computed(() => standing.value.get(at.value))
  const reason = ref('')
  const says = ref('')
  function go(index: number): void {
    at.value = index
    reason.value = says.value = ''
    cleared()
  }
  const back = () => go(Math.max(0, (at.value < 0 ? check().points.length : at.value) - 1))
  const unexplained = () =>
    earlier.value && !reason.value.trim()
      ? 'This point was read before. Say why it is read again; the earlier reading stays on record.'
      : ''
  /**
   * Sends what was read at the point at hand, and goes on to the next.
   * @param typed false where all of it is of the link’s latest sample
   */
  function take(read: Pick<TakeReading, 'applied' | 'reads'>, typed: boolean): void {
    if (!point.value) return
    const { token, at_ms } = live.reading ?? {}
    send({
      pointIndex: point.value.index,
      ...read,
      ...(typed || !token || at_ms === undefined
        ? { source: 'typed', takenAt: new Date().toISOString() }
        : { source: 'live', sample: token, takenAt: new Date(at_ms).toISOString() }),
      supersedes: earlier.value?.id ?? null,
      reason: reason.value.trim(),
    })
    go(firstOpen())
  }
  return { at, point, earlier, waiting, reason, says, unexplained, take, go, back }
}
