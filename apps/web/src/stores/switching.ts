// What is shown of a discrete point: the two lanes expected, and what its witnesses show live.
import { defineStore } from 'pinia'
import { computed, shallowRef } from 'vue'
import { useFolder } from './folder.ts'

/** What a witness shows: 1 and 0, the signal wire in V; by witness. */
export type Shown = Readonly<Record<string, number>>

export const useSwitching = defineStore('switching', () => {
  const folder = useFolder()
  /** Live or last read witnesses, with the target there or not where that is known. */
  const live = shallowRef<{ readonly shown: Shown; readonly target?: boolean | undefined; readonly caption: string }>()
  /** The last reading on record: what stands on the band until something is live. */
  const last = computed(() => {
    const check = [...folder.here.checks].reverse().find((c) => c.readings.length)
    const reading = check?.readings.find((r) => r.percent > 50)
    if (!reading) return undefined
    const shown = Object.fromEntries(Object.entries(reading.reads).map(([key, e]) => [key, e.value]))
    return { shown, target: true, caption: `Read ${reading.takenAt.slice(0, 10)}, target present.` }
  })
  const read = computed(() => live.value ?? last.value)
  return { live, read }
})
