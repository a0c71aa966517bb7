// The working drawer: which figure's working is shown.
import type { Working } from '@calm-loop/core/working'
import { defineStore } from 'pinia'
import { shallowRef } from 'vue'

export const useWorking = defineStore('working', () => {
  /** Made anew at each look, so that the drawer follows the typing. */
  const shown = shallowRef<() => Working>()
  return { shown, show: (working: () => Working) => (shown.value = working), hide: () => (shown.value = undefined) }
})
