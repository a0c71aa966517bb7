// The stages of the loop that is open, in the order of work, each with how far it has come.
import { RUN_SHEETS, type StageId } from '@calm-loop/core/kinds'
import { computed } from 'vue'
import { useFolder } from '../../stores/folder.ts'
import { useTrim } from '../../stores/trim.ts'
import { checkLine, entriesLine, handOverLine, type StageLine } from './runSheet.ts'

const NOTHING_YET: StageLine = { mark: 'open', words: '' }

export function useRunLines() {
  const folder = useFolder()
  const trim = useTrim()
  const stages = computed(() => RUN_SHEETS[folder.kind?.family ?? 'current'])
  function lineOf(stage: StageId): StageLine {
    if (stage === 'check') return checkLine(folder.latestCheck, folder.openCheck)
    if (stage === 'trim') return trim.line
    if (stage === 'hand-over') return handOverLine(folder.latestCheck)
    const { kind, study } = folder
    return kind ? entriesLine({ kind, stage }, study?.missing[stage] ?? [], study?.findings ?? []) : NOTHING_YET
  }
  return computed(() => stages.value.map(({ id, name }) => ({ id, name, ...lineOf(id) })))
}
