// What the site settles: by which rule it judges, and whose papers these are.
import {
  METRIC_UNITS,
  USUAL_PRACTICE,
  NO_HEAD,
  USUAL_JUDGING,
  USUAL_TRIM_LIMITS,
  type FaultPriors,
  type SiteHead,
  type SiteJudging,
  type SitePractice,
  type SiteUnits,
  type TrimLimits,
  type Walking,
  type WeekTerms,
} from '@calm-loop/contract'
import { PRIORS } from '@calm-loop/core/wiring'
import { defineStore } from 'pinia'
import { ref, type Ref } from 'vue'
import { call, type ApiProblem } from '../api/client.ts'

/** A setting as it stands, and set by who sees it so: what another has set since is shown, not overwritten. */
function setting<T>(usual: T, load: () => Promise<T>, save: (body: T, was: T) => Promise<T>) {
  const now = ref(usual) as Ref<T>
  return {
    now,
    /** Without an answer the usual is shown; the server goes by its own. */
    load: async () => void (now.value = await load().catch(() => now.value)),
    /** @throws ApiProblem `setting-changed`: what stands now is shown from then on */
    async save(body: T): Promise<void> {
      try {
        now.value = await save(body, now.value)
      } catch (error) {
        const { code, current } = error as ApiProblem
        if (code === 'setting-changed' && current) now.value = current as T
        throw error
      }
    },
  }
}

export const useSite = defineStore('site', () => {
  const judging = setting<SiteJudging>(
    USUAL_JUDGING,
    () => call('judging'),
    (body, was) => call('saveJudging', { body, was }),
  )
  const head = setting<SiteHead>(
    NO_HEAD,
    () => call('siteHead'),
    (body, was) => call('saveSiteHead', { body, was }),
  )
  const priors = setting<FaultPriors>(
    { ...PRIORS },
    () => call('faultPriors'),
    (body, was) => call('saveFaultPriors', { body, was }),
  )
  const units = setting<SiteUnits>(
    METRIC_UNITS,
    () => call('siteUnits'),
    (body, was) => call('saveSiteUnits', { body, was }),
  )
  const practice = setting<SitePractice>(
    USUAL_PRACTICE,
    () => call('sitePractice'),
    (body, was) => call('saveSitePractice', { body, was }),
  )
  const weeks = setting<WeekTerms>(
    { workingDays: [], minutesADay: 240, early_days: 30, shutdowns: [] },
    () => call('weekTerms'),
    (body, was) => call('saveWeekTerms', { body, was }),
  )
  const walking = setting<Walking>(
    { areas: [] },
    () => call('walking'),
    (body, was) => call('saveWalking', { body, was }),
  )
  const limits = setting<TrimLimits>(
    USUAL_TRIM_LIMITS,
    () => call('trimLimits'),
    (body, was) => call('saveTrimLimits', { body, was }),
  )
  return {
    ...{ limits: limits.now, loadLimits: limits.load, saveLimits: limits.save },
    ...{ units: units.now, loadUnits: units.load, saveUnits: units.save },
    ...{ practice: practice.now, loadPractice: practice.load, savePractice: practice.save },
    ...{ priors: priors.now, loadPriors: priors.load, savePriors: priors.save },
    ...{ judging: judging.now, loadJudging: judging.load, saveJudging: judging.save },
    ...{ head: head.now, loadHead: head.load, saveHead: head.save },
    ...{ walking: walking.now, loadWalking: walking.load, saveWalking: walking.save },
    ...{ weeks: weeks.now, loadWeeks: weeks.load, saveWeeks: weeks.save },
  }
})
