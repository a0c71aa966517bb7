// What the site settles about its papers: by which rule it judges, how long an interval may be, and their head.
import {
  FaultPriors,
  METRIC_UNITS,
  NO_HEAD,
  SiteHead,
  SiteJudging,
  SitePractice,
  SiteUnits,
  USUAL_JUDGING,
  USUAL_PRACTICE,
} from '@calm-loop/contract'
import { PRIORS } from '@calm-loop/core/wiring'
import { settingOf } from './setting-of.ts'

export const { read: readJudging, save: saveJudging } = settingOf('judging', SiteJudging, USUAL_JUDGING)
export const { read: readSiteHead, save: saveSiteHead } = settingOf('site-head', SiteHead, NO_HEAD)
export const { read: readSiteUnits, save: saveSiteUnits } = settingOf('site-units', SiteUnits, METRIC_UNITS)
export const { read: readFaultPriors, save: saveFaultPriors } = settingOf('fault-priors', FaultPriors, { ...PRIORS })
export const { read: readPractice, save: savePractice } = settingOf('practice', SitePractice, USUAL_PRACTICE)
