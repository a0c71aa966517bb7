// The thread that is shown: which knot holds the value typed last, what is expected everywhere else, and what was read.
import type { Reading } from '@calm-loop/contract'
import { standingReadings } from '@calm-loop/core/check'
import { convertUnit } from '@calm-loop/core/quantity'
import { departures, knotIndex, knotScales, spread, type KnotValue } from '@calm-loop/core/thread'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { useFolder } from './folder.ts'

export interface Held {
  readonly knotId: string
  readonly value: number
  /** As typed; absent when dragged or set by the page. */
  readonly typed?: string
}

export const useThread = defineStore('thread', () => {
  const folder = useFolder()
  const held = shallowRef<Held>()
  /** Live readings by knot, while a check is under way. */
  const live = shallowRef<Readonly<Record<string, number>>>()
  const caption = ref('')

  const thread = computed(() => folder.study?.thread)
  const scales = computed(() => (thread.value ? knotScales(thread.value) : []))

  /** The middle reading of the last check: what stands on the thread until someone types. */
  const lastReading = computed<Reading | undefined>(() => {
    const check = [...(folder.view?.checks ?? [])].reverse().find((c) => c.readings.length)
    if (!check) return undefined
    const standing = standingReadings(check.readings.map((r) => ({ ...r, supersedes: r.supersedes ?? undefined })))
    const middle = standing[Math.floor((standing.length - 1) / 2)]
    return check.readings.find((r) => r.id === middle?.id)
  })

  const source = computed<Held | undefined>(() => {
    const now = thread.value
    if (!now) return undefined
    if (held.value && now.knots.some((k) => k.id === held.value!.knotId)) return held.value
    const process = now.knots[0]!
    const reference = live.value?.[process.id]
    if (reference !== undefined) return { knotId: process.id, value: reference }
    if (lastReading.value)
      return {
        knotId: process.id,
        value: convertUnit(lastReading.value.applied.value, lastReading.value.applied.unit, process.unit),
      }
    const { low, high } = scales.value[0] ?? {}
    if (low !== undefined && high !== undefined) return { knotId: process.id, value: low + (high - low) / 2 }
    return undefined
  })

  const expected = computed<KnotValue[]>(() =>
    thread.value && source.value ? spread(thread.value, source.value.knotId, source.value.value) : [],
  )

  const reads = computed<Readonly<Record<string, number>>>(() => {
    if (live.value) return live.value
    const reading = lastReading.value
    if (held.value || !reading || !thread.value) return {}
    return Object.fromEntries(
      thread.value.knots
        .filter((k) => reading.reads[k.id])
        .map((k) => [k.id, convertUnit(reading.reads[k.id]!.value, reading.reads[k.id]!.unit, k.unit)]),
    )
  })
  const parted = computed(() =>
    thread.value && source.value && Object.keys(reads.value).length
      ? departures(thread.value, { [thread.value.knots[0]!.id]: processValue.value, ...reads.value } as Record<
          string,
          number
        >)
      : [],
  )
  const processValue = computed(() => {
    const first = expected.value[0]
    return first?.known ? first.value : undefined
  })

  function hold(knotId: string, value: number, typed?: string): void {
    held.value = typed === undefined ? { knotId, value } : { knotId, value, typed }
  }
  const release = () => (held.value = undefined)
  const valueAt = (knotId: string): KnotValue | undefined =>
    thread.value ? expected.value[knotIndex(thread.value, knotId)] : undefined
  return { thread, scales, source, expected, reads, parted, live, caption, held, lastReading, hold, release, valueAt }
})
