// Electrodes by their serial numbers: what is on record of each, and what follows from it.
import type { AddElectrodeEntry, ElectrodeView } from '@calm-loop/contract'
import { electrodeOf, replacementOf, shelfGrade, shelfWords, type Electrode } from '@calm-loop/core/electrode'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { call, type ApiProblem } from '../api/client.ts'
import { dayWords, today } from '../widgets/dates.ts'

/** An electrode with everything that is worked out of its record. */
export interface KnownElectrode {
  readonly id: string
  readonly view: ElectrodeView
  readonly now: Electrode
}

export const useElectrodes = defineStore('electrodes', () => {
  const views = shallowRef<readonly ElectrodeView[]>([])
  const problem = ref('')
  const busy = ref(false)
  const loaded = ref(false)
  const all = computed<readonly KnownElectrode[]>(() =>
    views.value
      .map((view) => ({ id: view.id, view, now: electrodeOf(view.log) }))
      .sort((a, b) => a.now.serial.localeCompare(b.now.serial)),
  )
  /** Days stand as people here write them. */
  const words = (e: Electrode) =>
    shelfWords(e, today()).map((w) => ({ ...w, says: w.says.replace(/\d{4}-\d\d-\d\d/, dayWords) }))
  const grade = (e: Electrode) => shelfGrade(e, today())
  function replacement(e: Electrode) {
    const found = replacementOf(e.calibrations)
    return found && { ...found, sure: found.sure.replace(/\d{4}-\d\d-\d\d/, dayWords) }
  }
  /** The one that is plugged in at a loop. */
  const at = (loopId: string | undefined) =>
    all.value.find(({ now: { place } }) => place.at === 'point' && place.loopId === loopId)

  async function load(): Promise<void> {
    try {
      views.value = await call('electrodes')
      loaded.value = true
    } catch (error) {
      problem.value = (error as ApiProblem).message
    }
  }
  /** Adds to the record; false when it was refused, and why stands in `problem`. The same id may be sent again. */
  async function add(electrodeId: string, entryId: string, body: AddElectrodeEntry): Promise<boolean> {
    problem.value = ''
    busy.value = true
    try {
      const view = await call('addElectrodeEntry', { params: { electrodeId, entryId }, body })
      views.value = [...views.value.filter((v) => v.id !== view.id), view]
      return true
    } catch (error) {
      problem.value = (error as ApiProblem).message
      return false
    } finally {
      busy.value = false
    }
  }
  return { all, problem, busy, loaded, words, grade, replacement, at, load, add }
})
