// Surveys: the server takes a row at every interval and keeps it, whether or not a page is open. One that is under way
// when the server stops is gone on with when it starts again; the time between is not counted.
import {
  SURVEY_CHUNK,
  SURVEY_HOURS,
  SURVEY_ROWS,
  SURVEY_SHOWN,
  workOf,
  type BeginSurvey,
  type Kept,
  type Person,
  type SurveyNow,
  type SurveyRow,
  type WorkBody,
  type WorkEntry,
} from '@calm-loop/contract'
import { gapOf, surveyPlan } from '@calm-loop/core/flow'
import { totalOf } from '@calm-loop/core/quantity'
import { Refusal } from '@calm-loop/core/refusal'
import { and, asc, desc, eq, sql } from 'drizzle-orm'
import type { Logger } from 'pino'
import { v7 as uuid } from 'uuid'
import type { Database, Queries } from '../db/database.ts'
import { people, surveysRunning, workLog } from '../db/schema.ts'
import { errorWords } from '../log.ts'
import type { Device, Links } from '../link/links.ts'
import { HttpProblem, notFound } from '../http/problems.ts'
import { namesOf, readFolder, workEntryOf } from './folder.ts'
import { keepWork, saidBefore } from './work.ts'
import { inOneTurn } from './turns.ts'
import { sure } from '@calm-loop/core/sure'

const KEEP_EVERY_ms = 10_000
/** A device that does not answer is asked for again no sooner. */
const ASK_AGAIN_ms = 5000
const LOOK_EVERY_ms = 30_000
const DIGITAL = 'digital'
const BENCH_CHANGED = 'The bench was connected or disconnected.'

type Begun = Extract<Kept<WorkBody>, { what: 'survey' }>
type By = Pick<Person, 'id' | 'name'>
/** One that this server logs. */
interface Running {
  readonly loopId: string
  readonly id: string
  readonly by: By
  readonly begun: Begun
  readonly at_ms: number
  readonly unit: string
  rows: number
  total: number
  last_ms: number | undefined
  /** Taken and not yet kept; a chunk keeps its id until it is. */
  pending: SurveyRow[]
  keeping: Promise<void> | undefined
  sending: { readonly id: string; readonly rows: SurveyRow[] } | undefined
  recent: SurveyRow[]
  device: Device | undefined
  asked_ms: number
  problem: string
  leave: () => void
  timer: NodeJS.Timeout
  ending: Promise<WorkEntry> | undefined
}

export interface Surveys {
  begin(loopId: string, id: string, wish: BeginSurvey, person: Person): Promise<WorkEntry>
  end(loopId: string, id: string, person: Person): Promise<WorkEntry>
  now(loopId: string, id: string): Promise<SurveyNow>
  /** Goes on with what was under way, here and wherever another server was lost. */
  resume(): Promise<void>
  close(): Promise<void>
}

export interface SurveyText {
  readonly begun: Extract<WorkEntry, { what: 'survey' }>
  /** Rows of each chunk as they are kept, in their order: JSON, for whoever has the time to read it. */
  readonly chunks: readonly string[]
}

const rowsOf = (loopId: string, survey: string) =>
  and(eq(workLog.loopId, loopId), eq(workLog.what, 'survey-rows'), sql`${workLog.body}->>'survey' = ${survey}`)

/** @throws HttpProblem 404 */
async function surveyBegun(db: Queries, loopId: string, id: string): Promise<SurveyText['begun']> {
  const [row] = await db
    .select()
    .from(workLog)
    .where(and(eq(workLog.loopId, loopId), eq(workLog.id, id)))
  const begun = row && workEntryOf(row, await namesOf(db))
  if (begun?.what !== 'survey') throw notFound('This survey')
  return begun
}

/** What is on record of a survey. @throws HttpProblem 404 */
export async function surveyChunks(db: Queries, loopId: string, id: string): Promise<SurveyText> {
  const begun = await surveyBegun(db, loopId, id)
  const chunks = await db
    .select({ rows: sql<string>`${workLog.body}->>'rows'` })
    .from(workLog)
    .where(rowsOf(loopId, id))
    .orderBy(asc(workLog.seq))
  return { begun, chunks: chunks.map((c) => c.rows) }
}

/** Puts rows on record: a chunk once, however often it is tried. */
export function keepRows(
  db: Database,
  { loopId, id: survey, begun, by }: Pick<Running, 'loopId' | 'id' | 'begun' | 'by'>,
  chunk: { readonly id: string; readonly rows: readonly SurveyRow[] },
): Promise<unknown> {
  return inOneTurn(db, `loop ${loopId}`, async (tx) => {
    const body = { what: 'survey-rows' as const, survey, rows: [...chunk.rows] }
    if (await saidBefore(tx, { loopId, id: chunk.id, body })) return
    await keepWork(tx, { loopId, id: chunk.id, body: { ...body, practice: begun.practice ?? false }, person: by })
  })
}

/** @param log where what cannot be told to anybody goes */
export function surveysFor(db: Database, links: Links, log: Logger): Surveys {
  const running = new Map<string, Running>()

  /** The device, where it may be asked for now. */
  async function deviceOf(s: Running): Promise<Device | undefined> {
    if (s.device || Date.now() - s.asked_ms < ASK_AGAIN_ms) return s.device
    s.asked_ms = Date.now()
    const device = await links.of(s.loopId).catch((error: unknown) => {
      // Whoever holds the device now goes on with it.
      if (error instanceof HttpProblem && error.code === 'device-elsewhere')
        void keep(s)
          .catch(unsaid(s))
          .finally(() => rest(s))
      // A bench that is gone does not come back as it was.
      const gone = s.begun.practice && error instanceof Refusal && error.code === 'bench-not-connected'
      if (gone) void finish(s, s.by, BENCH_CHANGED).catch(unsaid(s))
      s.problem = error instanceof Error ? error.message : String(error)
      return undefined
    })
    if (!device) return undefined
    if (device.simulated !== !!s.begun.practice) {
      // What is simulated is never logged among what is real, nor the other way round.
      void finish(s, s.by, BENCH_CHANGED).catch(unsaid(s))
      return undefined
    }
    if (device.driver.units[DIGITAL] !== s.unit) {
      // Figures of another unit are no rows of this survey.
      void finish(s, s.by, 'The unit of the flow was changed.').catch(unsaid(s))
      return undefined
    }
    s.leave = device.driver.subscribe({ closed: () => (s.device = undefined) })
    s.device = device
    s.problem = ''
    return device
  }

  async function take(s: Running): Promise<void> {
    if (s.ending) return
    const now = Date.now()
    if (s.begun.hours !== undefined && now > s.at_ms + s.begun.hours * 3_600_000)
      return void finish(s, s.by, 'Its hours were over.').catch(unsaid(s))
    const device = await deviceOf(s)
    if (s.ending) return
    const reading = device?.driver.latest()
    const flow = (reading?.meter ? reading.meter.digital : reading?.knots[DIGITAL]) ?? null
    const tell = (id: string) => reading?.meter?.tells.find((t) => t.id === id)?.value ?? null
    const gap_s = s.last_ms === undefined ? Infinity : (now - s.last_ms) / 1000
    // Over a gap nobody knows what flowed.
    if (flow !== null && gap_s <= gapOf(s.begun.interval_s)) s.total += flow * totalOf(s.unit).perSecond * gap_s
    s.last_ms = now
    const row: SurveyRow = [now, flow, s.total, tell('sound-speed'), tell('signal')]
    s.rows++
    s.pending.push(row)
    s.recent = [...s.recent.slice(1 - SURVEY_SHOWN), row]
    const oldest = s.sending?.rows[0] ?? s.pending[0]
    if (s.pending.length >= SURVEY_CHUNK || (oldest && now - oldest[0] >= KEEP_EVERY_ms)) await keep(s)
  }

  /** Keeps what was taken; what cannot be kept now is tried again with the next. */
  function keep(s: Running): Promise<void> {
    s.keeping ??= keepAll(s).finally(() => (s.keeping = undefined))
    return s.keeping
  }
  async function keepAll(s: Running): Promise<void> {
    while (s.sending ?? s.pending.length) {
      s.sending ??= { id: uuid(), rows: s.pending.splice(0, SURVEY_CHUNK) }
      await keepRows(db, s, s.sending)
      s.sending = undefined
    }
  }
  const unsaid = (s: Running) => (error: unknown) =>
    log.warn({ err: errorWords(error), survey: s.id }, 'rows of a survey wait to be kept')

  function run(from: Pick<Running, 'loopId' | 'id' | 'by' | 'begun' | 'at_ms' | 'rows' | 'total' | 'recent'>): Running {
    const s: Running = {
      ...from,
      unit: from.begun.unit,
      last_ms: undefined,
      pending: [],
      keeping: undefined,
      sending: undefined,
      device: undefined,
      asked_ms: 0,
      problem: '',
      leave: () => undefined,
      ending: undefined,
      timer: setInterval(() => void take(s).catch(unsaid(s)), from.begun.interval_s * 1000),
    }
    s.timer.unref()
    running.set(s.id, s)
    void take(s).catch(unsaid(s))
    return s
  }
  function rest(s: Running): void {
    clearInterval(s.timer)
    s.leave()
    running.delete(s.id)
  }

  /** Ends one that runs here. Where that cannot be kept it goes on, and is ended again. */
  function finish(s: Running, by: By, why?: string): Promise<WorkEntry> {
    s.ending ??= (async () => {
      await keep(s)
      const saved = await keepEnd(s.loopId, s.id, { by, total: s.total, rows: s.rows, why })
      rest(s)
      return saved
    })()
    return s.ending.catch((error: unknown) => {
      s.ending = undefined
      throw error
    })
  }
  function keepEnd(
    loopId: string,
    survey: string,
    { by, total, rows, why }: { by: By; total: number; rows: number; why?: string | undefined },
  ): Promise<WorkEntry> {
    return inOneTurn(db, `loop ${loopId}`, async (tx) => {
      const begun = await surveyBegun(tx, loopId, survey)
      await tx.delete(surveysRunning).where(eq(surveysRunning.survey, survey))
      const ended = await endOf(tx, loopId, survey)
      if (ended) return ended
      const practice = begun.practice ?? false
      const body = { what: 'survey-end' as const, survey, total, rows, practice, ...(why ? { why } : {}) }
      return keepWork(tx, { loopId, id: uuid(), body, person: by })
    })
  }
  /** Its end on record; undefined while it has none. */
  async function endOf(tx: Queries, loopId: string, survey: string): Promise<WorkEntry | undefined> {
    return workOf((await readFolder(tx, loopId)).workLog, 'survey-end').find((e) => e.survey === survey)
  }
  /** What is on record of one, whoever logged it: how many rows, and the newest of them. */
  async function stored(loopId: string, id: string) {
    await surveyBegun(db, loopId, id)
    const counted = await db
      .select({ n: sql<number>`coalesce(sum(jsonb_array_length(${workLog.body}->'rows')), 0)::int` })
      .from(workLog)
      .where(rowsOf(loopId, id))
    const newest = await db
      .select({ body: workLog.body })
      .from(workLog)
      .where(rowsOf(loopId, id))
      .orderBy(desc(workLog.seq))
      .limit(SURVEY_SHOWN)
    const recent = newest.reverse().flatMap(({ body }) => (body.what === 'survey-rows' ? body.rows : []))
    return { rows: sure(counted[0]).n, total: recent.at(-1)?.[2] ?? 0, recent: recent.slice(-SURVEY_SHOWN) }
  }

  async function resume(): Promise<void> {
    const open = await db
      .select({ work: workLog, name: people.name })
      .from(surveysRunning)
      .innerJoin(workLog, eq(workLog.id, surveysRunning.survey))
      .innerJoin(people, eq(people.id, workLog.byId))
    for (const { work, name } of open) {
      const { id, loopId, body, at, byId } = work
      if (running.has(id) || body.what !== 'survey') continue
      if ((await links.elsewhere(loopId)) !== undefined) continue
      const { rows, total, recent } = await stored(loopId, id)
      if (running.has(id)) continue
      const by = { id: byId, name }
      run({
        id,
        loopId,
        by,
        begun: body,
        at_ms: at.getTime(),
        rows,
        total,
        recent,
      })
    }
  }
  const look = setInterval(
    () => void resume().catch((error: unknown) => log.warn({ err: errorWords(error) }, 'surveys are not looked for')),
    LOOK_EVERY_ms,
  )
  look.unref()

  return {
    async begin(loopId, id, wish, person) {
      const { rows } = surveyPlan(wish.hours, wish.interval_s)
      if (rows > SURVEY_ROWS)
        throw new Refusal(
          'survey-too-long',
          `That would be ${rows} rows; at most ${SURVEY_ROWS}. Take a longer interval, or fewer hours ` +
            `(at most ${SURVEY_HOURS}).`,
        )
      const device = await links.of(loopId)
      const unit = sure(device.driver.units[DIGITAL])
      // Nothing adds up of what does not flow.
      totalOf(unit)
      const body = { what: 'survey' as const, ...wish, unit }
      const saved = await inOneTurn(db, `loop ${loopId}`, async (tx) => {
        const known = await saidBefore(tx, { loopId, id, body })
        if (known) return { entry: known, fresh: false }
        const under = [...running.values()].find((s) => s.loopId === loopId)
        if (under) throw new Refusal('survey-running', 'A survey of this point is under way: end it first.')
        const practice = (await readFolder(tx, loopId)).bench !== null
        const entry = await keepWork(tx, { loopId, id, body: { ...body, practice }, person })
        await tx.insert(surveysRunning).values({ survey: id, loopId })
        return { entry, fresh: true }
      })
      const { entry, fresh } = saved
      if (fresh && entry.what === 'survey') {
        const begun = { ...body, practice: entry.practice ?? false }
        run({ loopId, id, by: person, begun, at_ms: Date.parse(entry.at), rows: 0, total: 0, recent: [] })
      }
      return entry
    },
    async end(loopId, id, person) {
      const s = running.get(id)
      if (s && s.loopId === loopId) return finish(s, person)
      const known = await endOf(db, loopId, id)
      if (known) return known
      const { rows, total } = await stored(loopId, id)
      return keepEnd(loopId, id, { by: person, total, rows })
    },
    async now(loopId, id) {
      const s = running.get(id)
      if (s && s.loopId === loopId)
        return { running: true, rows: s.rows, total: s.total, recent: s.recent, problem: s.problem }
      return { running: false, ...(await stored(loopId, id)), problem: '' }
    },
    resume,
    async close() {
      clearInterval(look)
      for (const s of [...running.values()]) {
        rest(s)
        await keep(s).catch(unsaid(s))
      }
    },
  }
}
