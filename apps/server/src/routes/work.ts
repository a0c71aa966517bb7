// Work at a point: its log, its surveys, its set-up sheet; and the site's own rows.
import type { Database } from '../db/database.ts'
import type { Mount } from '../http/mount.ts'
import type { Links } from '../link/links.ts'
import { atTheDevice } from '../link/relay.ts'
import { addElectrodeEntry, listElectrodes } from '../services/electrodes.ts'
import { readFolder } from '../services/folder.ts'
import {
  readFaultPriors,
  readJudging,
  readPractice,
  readSiteHead,
  readSiteUnits,
  saveFaultPriors,
  saveJudging,
  savePractice,
  saveSiteHead,
  saveSiteUnits,
} from '../services/judging.ts'
import { picturesOnPaper } from '../services/attachments.ts'
import { readLogo, readPaperHead, saveLogo } from '../services/paper-head.ts'
import { setterOf } from '../services/setting-of.ts'
import { doProcedure, saveTrimLimits, trimLimits } from '../services/procedures.ts'
import type { Workers } from '../workers/pool.ts'
import { surveyChunks, type Surveys } from '../services/surveys.ts'
import { tableUses } from '../services/table-uses.ts'
import { addSiteRow, addWork, readSiteRows } from '../services/work.ts'

export function mountWork(
  mount: Mount,
  { db, links, workers, surveys }: { db: Database; links: Links; workers: Workers; surveys: Surveys },
): void {
  mount(
    'doProcedure',
    ({ params: p, body, person, waited_ms }) =>
      doProcedure({ db, workers, links, loopId: p.loopId, run: p.runId, id: p.eventId, wish: body, person, waited_ms }),
    atTheDevice(links),
  )
  mount('trimLimits', () => trimLimits(db))
  mount('judging', () => readJudging(db))
  mount('saveJudging', (call) => saveJudging(db, call.body, setterOf(call)))
  mount('faultPriors', () => readFaultPriors(db))
  mount('saveFaultPriors', (call) => saveFaultPriors(db, call.body, setterOf(call)))
  mount('siteUnits', () => readSiteUnits(db))
  mount('saveSiteUnits', (call) => saveSiteUnits(db, call.body, setterOf(call)))
  mount('siteHead', () => readSiteHead(db))
  mount('saveSiteHead', (call) => saveSiteHead(db, call.body, setterOf(call)))
  mount('siteLogo', () => readLogo(db))
  mount('saveSiteLogo', ({ body, person }) => saveLogo(db, body, person))
  mount('sitePractice', () => readPractice(db))
  mount('saveSitePractice', (call) => savePractice(db, call.body, setterOf(call)))
  mount('saveTrimLimits', (call) => saveTrimLimits(db, call.body, setterOf(call)))
  mount('addWork', ({ params: p, body, person, waited_ms }) =>
    addWork({ db, loopId: p.loopId, id: p.entryId, entry: body, person, waited_ms }),
  )
  mount(
    'beginSurvey',
    ({ params: p, body, person }) => surveys.begin(p.loopId, p.surveyId, body, person),
    atTheDevice(links),
  )
  mount('endSurvey', ({ params: p, person }) => surveys.end(p.loopId, p.surveyId, person), atTheDevice(links))
  mount('surveyNow', ({ params: p }) => surveys.now(p.loopId, p.surveyId), atTheDevice(links))
  mount('surveyCsv', async ({ params, res, signal }) => {
    const { loop } = await readFolder(db, params.loopId)
    const { begun, chunks } = await surveyChunks(db, params.loopId, params.surveyId)
    res
      .type('text/csv; charset=utf-8')
      .attachment(`${loop.tag} survey ${begun.at.slice(0, 10)}${begun.practice ? ' PRACTICE' : ''}.csv`)
      .send(await workers.run('surveyCsv', { begun, chunks }, signal))
  })
  mount('surveyPdf', async ({ params, res, signal }) => {
    const [folder, survey] = [
      await readFolder(db, params.loopId),
      await surveyChunks(db, params.loopId, params.surveyId),
    ]
    const pdf = await workers.run('surveyPdf', { folder, ...survey, site: await readPaperHead(db) }, signal)
    res.type('application/pdf').set('content-disposition', `inline; filename="${folder.loop.tag} survey.pdf"`).send(pdf)
  })
  mount('setupPdf', async ({ params, res, signal }) => {
    const folder = await readFolder(db, params.loopId)
    res
      .type('application/pdf')
      .set('content-disposition', `inline; filename="${folder.loop.tag} set-up sheet.pdf"`)
      .send(await workers.run('setupPdf', { folder, site: await readPaperHead(db) }, signal))
  })
  mount('visitPdf', async ({ params, query, res, signal }) => {
    const folder = await readFolder(db, params.loopId)
    const [judging, site] = [await readJudging(db), await readPaperHead(db)]
    const pictures = await picturesOnPaper(db, params.loopId)
    const pdf = await workers.run('visitPdf', { folder, at: query.at, judging, site, pictures }, signal)
    res.type('application/pdf').set('content-disposition', `inline; filename="${folder.loop.tag} visit.pdf"`).send(pdf)
  })
  mount('electrodes', () => listElectrodes(db))
  mount('addElectrodeEntry', ({ params: p, body, person }) =>
    addElectrodeEntry({ db, workers, electrodeId: p.electrodeId, id: p.entryId, entry: body, person }),
  )
  mount('siteRows', () => readSiteRows(db))
  mount('tableUses', ({ body }) => tableUses(db, workers, body))
  mount('addSiteRow', ({ params, body, person }) => addSiteRow(db, params.rowId, body, person))
}
