// The check that is handed over: the latest, or an earlier one that was chosen.
import type { Check } from '@calm-loop/contract'
import { computed, ref } from 'vue'
import { useFolder } from '../../stores/folder.ts'

export function useHandedOver() {
  const folder = useFolder()
  const chosen = ref<string>()
  const check = computed<Check | undefined>(
    () => folder.view?.checks.find((c) => c.id === chosen.value) ?? folder.latestCheck,
  )
  return { check, choose: (id: string) => void (chosen.value = id) }
}
