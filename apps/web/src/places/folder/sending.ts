// What a check still waits for: readings that the server does not have yet, the first point open, and how a reading is
// sent.
import type { Check, Reading, TakeReading } from '@calm-loop/contract'
import { standingByPoint } from '@calm-loop/contract/judging'
import { v7 as uuid } from 'uuid'
import { computed } from 'vue'
import { useFolder } from '../../stores/folder.ts'
import { useOutbox } from '../../stores/outbox.ts'

export function useSending(check: () => Check) {
  const folder = useFolder()
  const outbox = useOutbox()
  const standing = computed(() => standingByPoint(check()))
  /** Readings of this check that the server does not have yet, by point. */
  const waiting = computed(
    () =>
      new Map(
        outbox.pending
          .filter((p) => p.params['checkId'] === check().id)
          .map((p) => [(p.body as TakeReading).pointIndex, p]),
      ),
  )
  const isTaken = (index: number) =>
    standing.value.has(index) || (waiting.value.has(index) && !waiting.value.get(index)!.refused)
  /** Index of the first point not read; −1 when all are. */
  const firstOpen = () => check().points.find((p) => !isTaken(p.index))?.index ?? -1
  function send(body: TakeReading): void {
    const id = uuid()
    const checkId = check().id
    const params = { loopId: folder.view!.loop.id, checkId, readingId: id }
    outbox.put({ id, endpoint: 'takeReading', params, body, tag: folder.view!.loop.tag }, (saved) =>
      saved ? folder.addReading(checkId, saved as Reading) : void folder.refresh().catch(() => undefined),
    )
  }
  return { standing, waiting, firstOpen, send }
}
