// The meter behind the link while a page that needs it is open: its live state on the thread, its tells, its commands.
import type { CommandMeter } from '@calm-loop/contract'
import { computed, onBeforeUnmount, onMounted, watch } from 'vue'
import { useFolder } from '../stores/folder.ts'
import { useLive } from '../stores/live.ts'
import { useThread } from '../stores/thread.ts'

/** How many parts of the page use the link now: the first opens it, the last closes it. */
let users = 0

export function useMeter() {
  const folder = useFolder()
  const live = useLive()
  const thread = useThread()
  const loopId = computed(() => folder.view!.loop.id)
  async function open(): Promise<void> {
    await live.open(loopId.value)
    if (!live.problem) await live.readHeld(loopId.value)
  }
  onMounted(() => {
    if (users++ === 0) void open()
  })
  // Saved entries make the meter anew: what it holds is read again.
  watch(
    () => folder.view?.versions.at(-1)?.savedAt,
    () => users && live.connected && void live.readHeld(loopId.value),
  )
  watch(
    () => live.reading,
    (reading) => {
      const process = thread.thread?.knots[0]?.id
      thread.live = reading && process ? { [process]: reading.reference, ...reading.knots } : undefined
    },
  )
  onBeforeUnmount(() => {
    if (--users) return
    live.close()
    thread.live = undefined
  })
  const meter = computed(() => live.reading?.meter)
  const tell = (id: string) => meter.value?.tells.find((t) => t.id === id)?.value
  const command = (body: CommandMeter) => live.command(loopId.value, body)
  return { meter, tell, command, loopId, live }
}
