// The bench while a page of Trim is open: its live readings on the thread, its trend, what was found held on the
// thread instead.
import { onBeforeUnmount, onMounted, watch } from 'vue'
import { useFolder } from '../stores/folder.ts'
import { useLive } from '../stores/live.ts'
import { useThread } from '../stores/thread.ts'
import { useTrim } from '../stores/trim.ts'
import { sure } from '@calm-loop/core/sure'

export function useBench() {
  const folder = useFolder()
  const live = useLive()
  const thread = useThread()
  const trim = useTrim()
  onMounted(() => {
    void live.open(sure(folder.view).loop.id, true)
    void trim.load()
  })
  watch(
    () => live.reading,
    (reading) => {
      const knots = thread.thread?.knots ?? []
      const digital = knots.find((k) => k.role === 'digital')
      if (!reading || !knots[0]) return (thread.live = undefined)
      // What the bench applies is in the digital value's unit; the process knot may speak of something else.
      const same = !reading.transmitter?.bench || digital?.unit === knots[0].unit
      const mV = reading.transmitter?.electrode_mV
      thread.live = {
        ...(same && reading.reference !== undefined ? { [knots[0].id]: reading.reference } : {}),
        ...(mV !== undefined && knots.some((k) => k.id === 'electrode') ? { electrode: mV } : {}),
        ...reading.knots,
      }
    },
  )
  onBeforeUnmount(() => {
    live.close()
    thread.live = undefined
    thread.pinned = undefined
  })
  return { folder, live, thread, trim }
}
