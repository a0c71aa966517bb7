// Readings at the terminals of the loop that is open: those on record and those on their way, and putting one more
// there.
import { standingReadings, type LoopSpot, type WireReading } from '@calm-loop/contract'
import type { Entry } from '@calm-loop/core/quantity'
import { v7 as uuid } from 'uuid'
import { computed } from 'vue'
import { useFolder } from '../stores/folder.ts'
import { useOutbox } from '../stores/outbox.ts'
import { useSession } from '../stores/session.ts'
import { sure } from '@calm-loop/core/sure'

interface SpotReading {
  readonly spot: LoopSpot
  readonly read: Entry
  readonly expected: number | null
  readonly signal_mA: number | null
  /** Why it replaces an earlier one of the same spot. */
  readonly reason: string
}

export function useReadings() {
  const folder = useFolder()
  const outbox = useOutbox()
  const session = useSession()
  const mine = computed(() =>
    outbox.pending.filter((p) => p.endpoint === 'addWireEntry' && p.params['loopId'] === folder.view?.loop.id),
  )
  /** Readings on their way to the server count like those that are there. */
  const waiting = computed(() =>
    mine.value.flatMap((p): WireReading[] => {
      const body = p.body as WireReading
      if (p.refused || body.what !== 'reading') return []
      return [{ ...body, id: p.id, by: { id: p.by, name: session.person?.name ?? '' }, at: '' }]
    }),
  )
  const refused = computed(() => mine.value.filter((p) => p.refused))
  const readings = computed(() => {
    const log = folder.here.wireLog
    return standingReadings([...log, ...waiting.value.filter((w) => !log.some((e) => e.id === w.id))])
  })
  const at = (spot: LoopSpot) => readings.value.find((r) => JSON.stringify(r.spot) === JSON.stringify(spot))

  function add(body: object): void {
    const id = uuid()
    const params = { loopId: sure(folder.view).loop.id, entryId: id }
    outbox.put(
      { id, endpoint: 'addWireEntry', params, body, tag: sure(folder.view).loop.tag },
      () => void folder.refresh(),
    )
  }
  /** Puts a reading on record; one of the same spot is replaced, for a reason. */
  function put({ reason, ...reading }: SpotReading): void {
    const replaced = at(reading.spot)
    add({
      what: 'reading',
      ...reading,
      supersedes: replaced?.id ?? null,
      reason: replaced ? reason : '',
    })
  }
  /** After a repair: what was read so far no longer counts. */
  const startAfresh = (reason: string) => add({ what: 'afresh', reason })
  return { readings, refused, at, put, startAfresh, dismiss: outbox.dismiss }
}
