// By which rule the site judges, and how long an interval may be.
import { SiteJudging, USUAL_JUDGING, type Person } from '@calm-loop/contract'
import type { Database, Queries } from '../db/database.ts'
import { record } from './audit.ts'
import { overwriteSetting, readSetting } from './settings.ts'

const SETTING = 'judging'

export async function readJudging(db: Queries): Promise<SiteJudging> {
  const kept = SiteJudging.safeParse(await readSetting(db, SETTING))
  return kept.success ? kept.data : USUAL_JUDGING
}
export async function saveJudging(db: Database, judging: SiteJudging, person: Person): Promise<SiteJudging> {
  await overwriteSetting(db, SETTING, judging)
  await record({ tx: db, personId: person.id, action: 'judging', loopId: null, details: judging })
  return judging
}
