// What the site settles: by which rule it judges, and whose papers these are.
import {
  METRIC_UNITS,
  NO_HEAD,
  USUAL_JUDGING,
  type FaultPriors,
  type SiteHead,
  type SiteJudging,
  type SiteUnits,
} from '@calm-loop/contract'
import { PRIORS } from '@calm-loop/core/wiring'
import { defineStore } from 'pinia'
import { ref } from 'vue'
import { call } from '../api/client.ts'

export const useSite = defineStore('site', () => {
  const judging = ref<SiteJudging>(USUAL_JUDGING)
  const head = ref<SiteHead>(NO_HEAD)

  /** Without an answer the usual rules are shown; the server judges by its own. */
  const loadJudging = async () => void (judging.value = await call('judging').catch(() => judging.value))
  const loadHead = async () => void (head.value = await call('siteHead').catch(() => head.value))
  const saveJudging = async (body: SiteJudging) => void (judging.value = await call('saveJudging', { body }))
  const saveHead = async (body: SiteHead) => void (head.value = await call('saveSiteHead', { body }))
  const priors = ref<FaultPriors>({ ...PRIORS })
  const loadPriors = async () => void (priors.value = await call('faultPriors').catch(() => priors.value))
  const savePriors = async (body: FaultPriors) => void (priors.value = await call('saveFaultPriors', { body }))
  const units = ref<SiteUnits>(METRIC_UNITS)
  const loadUnits = async () => void (units.value = await call('siteUnits').catch(() => units.value))
  const saveUnits = async (body: SiteUnits) => void (units.value = await call('saveSiteUnits', { body }))
  return {
    units,
    loadUnits,
    saveUnits,
    priors,
    loadPriors,
    savePriors,
    judging,
    head,
    loadJudging,
    loadHead,
    saveJudging,
    saveHead,
  }
})
