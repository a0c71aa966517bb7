// The meter behind the link while a page that needs it is open: its live state on the thread, its tells, its commands.
import { computed, onBeforeUnmount, onMounted, watch } from 'vue'
import { useHeld } from './useHeld.ts'
import { useFolder } from '../stores/folder.ts'
import { useThread } from '../stores/thread.ts'
import { sure } from '@calm-loop/core/sure'

/** How many parts of the page use the link now: the first opens it, the last closes it. */
let users = 0

export function useMeter() {
  const folder = useFolder()
  const { live, command } = useHeld()
  const thread = useThread()
  const loopId = computed(() => sure(folder.view).loop.id)
  onMounted(() => {
    if (users++ === 0) void live.open(loopId.value)
  })
  watch(
    () => live.reading,
    (reading) => {
      const knots = thread.thread?.knots ?? []
      // What the meter tells of itself stands at its own knots.
      const told = (reading?.meter?.tells ?? []).filter((t) => knots.some((k) => k.id === t.id && k.unit === t.unit))
      thread.live =
        reading && knots[0]
          ? {
              ...(reading.reference === undefined ? {} : { [knots[0].id]: reading.reference }),
              ...Object.fromEntries(told.map((t) => [t.id, t.value])),
              ...reading.knots,
            }
          : undefined
    },
  )
  onBeforeUnmount(() => {
    if (--users) return
    live.close()
    thread.live = undefined
  })
  const meter = computed(() => live.reading?.meter)
  const tell = (id: string) => meter.value?.tells.find((t) => t.id === id)?.value
  return { meter, tell, command, loopId, live }
}
