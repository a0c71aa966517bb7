// How the loop that is open stands by its record: fit for use or not, due again when and why; and what is decided of
// it.
import type { Decide } from '@calm-loop/contract'
import { standingOf, verdictOfCheck } from '@calm-loop/contract/judging'
import { sure } from '@calm-loop/core/sure'
import { defineStore } from 'pinia'
import { v7 as uuid } from 'uuid'
import { computed } from 'vue'
import { call } from '../api/client.ts'
import { useFolder } from './folder.ts'
import { useSite } from './site.ts'

export const useStanding = defineStore('standing', () => {
  const folder = useFolder()
  const site = useSite()
  const entered = computed(() => folder.reader?.text('interval') ?? '')
  const standing = computed(() =>
    folder.view
      ? standingOf(folder.view, entered.value, site.judging, (check) => {
          const made = folder.studyOfCheck(check)
          return made ? verdictOfCheck(made, check) : null
        })
      : undefined,
  )

  let sent: { id: string; for: string } | undefined
  /** Decides with the password given; the same again is the same. @throws ApiProblem */
  async function decide(decision: Decide['decision'], password: string): Promise<void> {
    const key = JSON.stringify(decision)
    if (sent?.for !== key) sent = { id: uuid(), for: key }
    const params = { loopId: sure(folder.view).loop.id, entryId: sent.id }
    await call('decide', { params, body: { decision, password } })
    sent = undefined
    await folder.refresh()
  }
  return { standing, entered, decide }
})
