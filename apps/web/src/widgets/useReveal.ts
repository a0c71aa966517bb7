// What a practice case hides, shown when it is asked for, until another case is begun.
import { ref, watch, type Ref } from 'vue'
import { call } from '../api/client.ts'

/** @param practice the case at the bench; undefined until its device has been seen for the first time */
export function useReveal(loopId: () => string, practice: () => string | undefined) {
  const revealed = ref('')
  /** Counts the cases begun: an answer about an earlier one is not shown. */
  let turn = 0
  watch([loopId, practice], ([loop, now], [loopBefore, before]) => {
    // A device that is seen for the first time has not changed: what was just shown of it stays.
    if (loop === loopBefore && (before === undefined || now === before)) return
    turn++
    revealed.value = ''
  })
  async function reveal(): Promise<void> {
    const asked = turn
    const { reveals } = await call('revealPractice', { params: { loopId: loopId() } })
    if (asked === turn) revealed.value = reveals
  }
  return { revealed: revealed as Readonly<Ref<string>>, reveal }
}
