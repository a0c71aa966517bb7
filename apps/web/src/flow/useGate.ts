// What stands before an act at a device: the step of its sheet that is still open, in words; empty where it may be
// done.
import { workOf } from '@calm-loop/contract'
import { gateBefore, type GuardedAct } from '@calm-loop/core/sheet'
import { inSentence } from '@calm-loop/core/words'
import { computed } from 'vue'
import { useFolder } from '../stores/folder.ts'
import { useWork } from '../stores/work.ts'

export function useGate(act: GuardedAct, afterwards = false) {
  const folder = useFolder()
  const work = useWork()
  return computed(() => {
    const gate = gateBefore(folder.current?.sheets?.() ?? [], workOf(work.log, 'step'), act, afterwards)
    return gate ? `First, in the sheet “${gate.sheet}”: ${inSentence(gate.step)}.` : ''
  })
}
