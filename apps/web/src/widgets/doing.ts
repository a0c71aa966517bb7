// Something sent to the server from a form: busy meanwhile, and what stood in its way in words; what was typed stays.
import { ref } from 'vue'
import type { ApiProblem } from '../api/client.ts'

export function useDoing() {
  const busy = ref(false)
  const says = ref('')
  /** Whether it was done. */
  async function run(work: () => Promise<unknown>): Promise<boolean> {
    busy.value = true
    says.value = ''
    try {
      await work()
      return true
    } catch (error) {
      says.value = (error as ApiProblem).message
      return false
    } finally {
      busy.value = false
    }
  }
  return { busy, says, run }
}
