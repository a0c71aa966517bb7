// The thread that is shown: which knot holds the value typed last, what is expected everywhere else, and what was read.
import type { Reading } from '@calm-loop/contract'
import { midReading, readsOnThread, standardOf } from '@calm-loop/contract/judging'
import { departures, type KnotValue } from '@calm-loop/core/thread'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { useFolder } from './folder.ts'
import { sure } from '@calm-loop/core/sure'

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
  /** A moment of the past held on the thread, as a point found. */
  const pinned = shallowRef<{ readonly reads: Readonly<Record<string, number>>; readonly caption: string }>()

  const thread = computed(() => folder.thread)
  const scales = computed(() => folder.current?.scales ?? [])

  /** The reading of the last check nearest to mid range: what stands on the thread until someone types. */
  const last = computed(() => {
    const check = [...folder.here.checks].reverse().find((c) => c.readings.length)
    return check && { check, reading: midReading(check) }
  })
  const lastReading = computed<Reading | undefined>(() => last.value?.reading)
  const lastReads = computed<Readonly<Record<string, number>>>(() => {
    const { check, reading } = last.value ?? {}
    return check && reading && thread.value ? readsOnThread(check, reading, thread.value) : {}
  })

  const source = computed<Held | undefined>(() => {
    const now = thread.value
    if (!now) return undefined
    if (held.value && now.knots.some((k) => k.id === sure(held.value).knotId)) return held.value
    const process = sure(now.knots[0])
    const reference = (pinned.value?.reads ?? live.value)?.[process.id]
    if (reference !== undefined) return { knotId: process.id, value: reference }
    const standard = last.value && standardOf(last.value.check, now)
    const applied = standard === undefined ? undefined : lastReads.value[standard]
    if (standard !== undefined && applied !== undefined) return { knotId: standard, value: applied }
    const { low, high } = scales.value[0] ?? {}
    if (low !== undefined && high !== undefined) return { knotId: process.id, value: low + (high - low) / 2 }
    return undefined
  })

  const expected = computed<KnotValue[]>(() =>
    folder.current && source.value ? folder.current.expect(source.value.knotId, source.value.value) : [],
  )

  const reads = computed<Readonly<Record<string, number>>>(() => {
    if (pinned.value && !held.value) return pinned.value.reads
    if (live.value) return live.value
    return held.value ? {} : lastReads.value
  })
  const parted = computed(() => (thread.value ? departures(thread.value, reads.value) : []))

  function hold(knotId: string, value: number, typed?: string): void {
    held.value = typed === undefined ? { knotId, value } : { knotId, value, typed }
  }
  const release = () => (held.value = undefined)
  const valueAt = (knotId: string): KnotValue | undefined =>
    expected.value[thread.value?.knots.findIndex((k) => k.id === knotId) ?? -1]
  return {
    pinned,
    thread,
    scales,
    source,
    expected,
    reads,
    parted,
    live,
    caption,
    held,
    lastReading,
    hold,
    release,
    valueAt,
  }
})
