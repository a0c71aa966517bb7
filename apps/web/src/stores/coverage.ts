// Whether what is shown was told by the server just now, or is what this device kept of it.
import { defineStore } from 'pinia'
import { ref } from 'vue'

export const useCoverage = defineStore('coverage', () => {
  /** The server cannot be reached, and something kept was shown in its place. */
  const away = ref(false)
  /** When the folder that is shown was told; undefined while none of those kept is shown. */
  const keptFrom = ref<string>()
  function shown(at?: number): void {
    away.value = true
    if (at !== undefined) keptFrom.value = new Date(at).toISOString()
  }
  function reached(): void {
    away.value = false
    keptFrom.value = undefined
  }
  return { away, keptFrom, shown, reached }
})
