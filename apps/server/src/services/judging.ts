// What the site settles about its papers: by which rule it judges, how long an interval may be, and their head.
import { NO_HEAD, SiteHead, SiteJudging, USUAL_JUDGING } from '@calm-loop/contract'
import { settingOf } from './setting-of.ts'

export const { read: readJudging, save: saveJudging } = settingOf('judging', SiteJudging, USUAL_JUDGING)
export const { read: readSiteHead, save: saveSiteHead } = settingOf('site-head', SiteHead, NO_HEAD)
