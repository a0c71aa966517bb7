// What the meter holds, without listening to it: read when the page opens and whenever saved entries have made the
// meter anew.
import type { CommandMeter } from '@calm-loop/contract'
import { computed, onMounted, watch } from 'vue'
import { useFolder } from '../stores/folder.ts'
import { useLive } from '../stores/live.ts'
import { sure } from '@calm-loop/core/sure'

export function useHeld() {
  const folder = useFolder()
  const live = useLive()
  const loopId = computed(() => sure(folder.view).loop.id)
  onMounted(() => void live.readHeld(loopId.value))
  watch(
    () => [folder.view?.versions.at(-1)?.savedAt, folder.practising],
    () => void live.readHeld(loopId.value),
  )
  const command = (body: CommandMeter) => live.command(loopId.value, body)
  return { live, command }
}
