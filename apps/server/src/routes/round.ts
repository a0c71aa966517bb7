// The round: what it is planned from, jobs, the walking order; and the kit: its record, who has which piece.
import type { Response } from 'express'
import type { Database } from '../db/database.ts'
import type { Mount } from '../http/mount.ts'
import { endJob, listJobs, makeJob } from '../services/jobs.ts'
import { readPaperHead } from '../services/paper-head.ts'
import { kitBehind } from '../services/kit-behind.ts'
import { addCalibration, certificateOf, keepCertificate, kitRecord } from '../services/kit-record.ts'
import { moveKit } from '../services/kit-moves.ts'
import { readWalking, roundsOf, saveState, saveWalking, type Rounds } from '../services/round.ts'
import { handOver, listHandovers, oneHandover, readHandover, readShift } from '../services/shift.ts'
import { setterOf } from '../services/setting-of.ts'
import { inOneTurn } from '../services/turns.ts'
import { endFeed, feedOf, feedState, makeFeed, pinVisit, readWeekTerms, saveWeekTerms } from '../services/weeks.ts'
import type { Workers } from '../workers/pool.ts'

export function mountRound(mount: Mount, db: Database, workers: Workers): void {
  const rounds = roundsOf(db, workers)
  mount('round', ({ query, person }) => rounds.read(query.day, query.until, person))
  mount('roundPdf', async ({ query, person, res }) => {
    const round = await rounds.read(query.day, query.until, person)
    const site = await readPaperHead(db)
    const pdf = await workers.run('roundPdf', { round, until: query.until, name: person.name, site })
    res.type('application/pdf').attachment(`round ${query.day}.pdf`).send(Buffer.from(pdf))
  })
  mount('saveRound', ({ params, body, person }) => saveState(db, person, params.day, body))
  mount('jobs', ({ query }) => listJobs(db, query.loopId))
  mount('makeJob', ({ params, body, person }) => inOneTurn(db, 'jobs', (tx) => makeJob(tx, params.jobId, body, person)))
  mount('endJob', ({ params, body, person }) => inOneTurn(db, 'jobs', (tx) => endJob(tx, params.jobId, body, person)))
  mount('moveKit', ({ params, body, person }) => inOneTurn(db, 'kit', (tx) => moveKit(tx, params, body, person)))
  mount('kitRecord', ({ params, query }) => kitRecord(db, workers, params.gearId, query.off))
  mount('addCalibration', ({ params, body, person }) =>
    inOneTurn(db, 'gear', (tx) => addCalibration(tx, params, body, person)),
  )
  mount('keepCertificate', ({ params, query, body, person }) =>
    inOneTurn(db, 'gear', (tx) => keepCertificate(tx, params, { bytes: body, name: query.name ?? '' }, person)),
  )
  mount('kitBehind', ({ params }) => kitBehind(db, params.loopId))
  mount('kitCertificate', async ({ params, res }) => {
    const { name, bytes } = await certificateOf(db, params)
    res.type('application/pdf').attachment(name).send(bytes)
  })
  mount('shift', ({ query }) => readShift(db, workers, query))
  mount('handovers', () => listHandovers(db))
  mount('handOver', ({ params, body, person }) =>
    inOneTurn(db, 'handovers', (tx) => handOver(tx, workers, params.handoverId, { body, person })),
  )
  mount('readHandover', ({ params, person }) =>
    inOneTurn(db, 'handovers', (tx) => readHandover(tx, params.handoverId, person)),
  )
  mount('shiftPdf', async ({ params, res }) => {
    const handed = await oneHandover(db, params.handoverId)
    const pdf = await workers.run('shiftPdf', { handed, site: await readPaperHead(db) })
    res
      .type('application/pdf')
      .attachment(`shift ${handed.at.slice(0, 10)}.pdf`)
      .send(Buffer.from(pdf))
  })
  mountWeeks(mount, db, { workers, rounds })
  mount('walking', () => readWalking(db))
  mount('saveWalking', (call) => saveWalking(db, call.body, setterOf(call)))
}

function mountWeeks(mount: Mount, db: Database, of: { workers: Workers; rounds: Rounds }): void {
  const { workers, rounds } = of
  const calendar = async (res: Response, person: { id: string; name: string } | undefined): Promise<void> => {
    const text = await workers.run('weekCalendar', { weeks: await rounds.weeks(), person })
    res.type('text/calendar; charset=utf-8').attachment('checks.ics').send(text)
  }
  mount('weeks', ({ query }) => rounds.weeks(query.until))
  mount('pinVisit', ({ params, body, person }) =>
    inOneTurn(db, 'pins', (tx) => pinVisit(tx, { ...params, ...body }, person)),
  )
  mount('weekTerms', () => readWeekTerms(db))
  mount('saveWeekTerms', (call) => saveWeekTerms(db, call.body, setterOf(call)))
  mount('calendarFile', ({ query, person, res }) => calendar(res, query.of === 'all' ? undefined : person))
  mount('feedState', ({ person }) => feedState(db, person))
  mount('makeFeed', ({ body, person }) => inOneTurn(db, 'feeds', (tx) => makeFeed(tx, body.of, person)))
  mount('endFeed', ({ person }) => inOneTurn(db, 'feeds', (tx) => endFeed(tx, person)))
  mount('calendarFeed', async ({ params, res }) => {
    const { person, of: whose } = await feedOf(db, params.token)
    await calendar(res, whose === 'all' ? undefined : person)
  })
}
