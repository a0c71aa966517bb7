// The shift: who did what at which loop since a time, what stands open, in which state plant and devices were left; and
// how that is handed to the next.
import { canonicalJson, type Author, type Person } from '@calm-loop/contract'
import { LONGEST_SHIFT_h } from '@calm-loop/contract/limits'
import { MOST_DONE } from '@calm-loop/contract/shift'
import type { HandedOver, HandOver, Shift, ShiftDone, ShiftOpen } from '@calm-loop/contract/shift'
import { sure } from '@calm-loop/core/sure'
import { asc, desc, eq, inArray, sql } from 'drizzle-orm'
import type { Queries } from '../db/database.ts'
import { handoverReads, handovers } from '../db/round-schema.ts'
import { benchLinks, gates, gear, loops, surveysRunning, workLog } from '../db/schema.ts'
import { HttpProblem, idReused, notFound } from '../http/problems.ts'
import type { Workers } from '../workers/pool.ts'
import { record } from './audit.ts'
import { author, namesOf, type Names } from './folder.ts'
import { listJobs } from './jobs.ts'
import { whereKitIs } from './kit-moves.ts'
import { doneWords } from './shift-words.ts'

/** Guided work that nobody touched for so long is not looked at for what it left. */
const WORK_DAYS = 90
/** Runs of guided work that are played through in one piece of work. */
const RUNS_AT_ONCE = 100
/** Shifts that were handed over, as they are listed. */
const LISTED = 20
/** Most loops with something open. */
const MOST_OPEN = 500

interface DoneRow extends Record<string, unknown> {
  loop_id: string | null
  by: string
  what: string
  practice: boolean
  times: number
  first: string
  last: string
}
/** Everything on record since a time, by who did it at which loop; counted where it is on record. */
async function doneBetween(db: Queries, from: Date, to: Date): Promise<DoneRow[]> {
  const { rows } = await db.execute<DoneRow>(sql`
    select loop_id, by, what, coalesce(practice, false) practice, count(*)::int times,
           to_json(min(at)) #>> '{}' first, to_json(max(at)) #>> '{}' last
    from (
      select loop_id, started_by by, started_at at, 'check-begun-' || phase what, practice from checks
        where imported is null
      union all
      select c.loop_id, s.by, s.at, 'check-' || s.role, c.practice from signatures s join checks c on c.id = s.check_id
        where c.imported is null
      union all
      select c.loop_id, g.by, g.at, g.gate, c.practice from gates g join checks c on c.id = g.check_id
        where c.imported is null
      union all
      select c.loop_id, r.by, r.saved_at, 'reading', c.practice from readings r join checks c on c.id = r.check_id
        where c.imported is null
      union all
      select loop_id, by, at,
             case what when 'procedure' then 'work-' || (body->'event'->>'do') else 'entry-' || what end,
             (body->>'practice')::boolean from work_log
      union all
      select loop_id, by, at, 'wiring', (body->>'practice')::boolean from wire_log
      union all
      select loop_id, author_id, saved_at, 'entered', false from versions
      union all
      select loop_id, person_id, at, action, false from audit
        where action in ('loop-created', 'device-told', 'device-tied', 'device-untied') and person_id is not null
      union all
      select loop_id, by, at, 'job-made', false from jobs
      union all
      select j.loop_id, e.by, e.at, 'job-' || (e.body->>'how'), false from job_ends e join jobs j on j.id = e.job_id
      union all
      select null, m.by, m.at, case when m.holder is null then 'laid down ' else 'took ' end || g.name, false
        from kit_moves m join gear g on g.id = m.gear_id
    ) x where at >= ${from.toISOString()}::timestamptz and at <= ${to.toISOString()}::timestamptz
    group by 1, 2, 3, 4 order by min(at), what`)
  return rows
}

type LoopAt = ShiftOpen['loop']
async function loopsNamed(db: Queries, ids: readonly string[]): Promise<Map<string, LoopAt>> {
  const at = { id: loops.id, tag: loops.tag, area: loops.area }
  const rows = await db
    .select(at)
    .from(loops)
    .where(inArray(loops.id, [...new Set(ids)]))
  return new Map(rows.map((r) => [r.id, r]))
}

/** One line for each person at each loop, in the order in which they came there. */
async function doneLines(db: Queries, names: Names, rows: readonly DoneRow[]): Promise<ShiftDone[]> {
  const at = await loopsNamed(
    db,
    rows.flatMap((r) => r.loop_id ?? []),
  )
  const lines = new Map<string, ShiftDone & { what: ShiftDone['what'][number][] }>()
  for (const row of rows) {
    const key = `${row.loop_id ?? ''} ${row.by}`
    const known = lines.get(key)
    const what = { words: doneWords(row.what, row.practice), times: row.times }
    const same = known?.what.find((w) => w.words === what.words)
    if (same) same.times += row.times
    else if (known) known.what.push(what)
    else
      lines.set(key, {
        by: author(names, row.by),
        loop: row.loop_id === null ? null : (at.get(row.loop_id) ?? null),
        ...{ first: utc(row.first), last: utc(row.last), what: [what] },
      })
    if (known && utc(row.last) > known.last) known.last = utc(row.last)
  }
  return [...lines.values()]
}
const utc = (text: string) => new Date(text).toISOString()

/** Something open, at the loop of that id. */
interface OpenAt {
  readonly loopId: string
  readonly line: Omit<ShiftOpen, 'loop'>
}
interface OpenCheck extends Record<string, unknown> {
  id: string
  loop_id: string
  phase: string
  by: string
  at: string
  readings: number
  signed: boolean
}
/** Checks that nobody signed, and loops that were taken in manual for one and not given back. */
async function openChecks(db: Queries, names: Names): Promise<OpenAt[]> {
  const { rows } = await db.execute<OpenCheck>(sql`
    select c.id, c.loop_id, c.phase, c.started_by as "by", to_json(c.started_at) #>> '{}' as "at",
           (select count(*)::int from readings r where r.check_id = c.id) readings,
           exists (select 1 from signatures s where s.check_id = c.id) signed
    from checks c
    where c.practice is not true and c.imported is null and (
      not exists (select 1 from signatures s where s.check_id = c.id)
      or exists (select 1 from gates g where g.check_id = c.id and g.gate = 'loop-in-manual')
         and not exists (select 1 from gates g where g.check_id = c.id and g.gate = 'loop-released'))
    order by c.started_at desc limit ${MOST_OPEN}`)
  const ids = rows.map((r) => r.id)
  const passed = ids.length
    ? await db.select().from(gates).where(inArray(gates.checkId, ids)).orderBy(asc(gates.at))
    : []
  return rows.map((r): OpenAt => {
    const own = passed.filter((g) => g.checkId === r.id)
    const taken = own.find((g) => g.gate === 'loop-in-manual')
    const given = own.some((g) => g.gate === 'loop-released')
    const left = taken && !given ? [`not given back: ${taken.words}${taken.told ? ` Told: ${taken.told}` : ''}`] : []
    const readings = r.readings === 1 ? '1 reading' : `${r.readings} readings`
    const words = `check ${r.phase.replace('-', ' ')}, ${readings}, ${r.signed ? 'signed' : 'not signed'}`
    return { loopId: r.loop_id, line: { sort: 'check', words, by: author(names, r.by), since: utc(r.at), left } }
  })
}

/** Guided work that runs, or was given up and not brought back. */
async function openWork(db: Queries, workers: Workers, names: Names): Promise<OpenAt[]> {
  const since = new Date(Date.now() - WORK_DAYS * 86_400_000)
  const { rows: runs } = await db.execute<{ run: string }>(sql`
    select distinct body->>'run' run from work_log
    where what = 'procedure' and (body->>'practice')::boolean is not true
      and at >= ${since.toISOString()}::timestamptz`)
  const open: OpenAt[] = []
  for (let i = 0; i < runs.length; i += RUNS_AT_ONCE) {
    const some = runs.slice(i, i + RUNS_AT_ONCE).map((r) => r.run)
    const rows = await db
      .select()
      .from(workLog)
      .where(sql`${workLog.what} = 'procedure' and ${inArray(sql`${workLog.body}->>'run'`, some)}`)
      .orderBy(asc(workLog.seq))
    const byRun = some.map((run) => rows.filter((r) => r.body.what === 'procedure' && r.body.run === run))
    const events = byRun.map((entries) => entries.flatMap((e) => (e.body.what === 'procedure' ? [e.body.event] : [])))
    const states = await workers.run('runsOpen', { runs: events })
    byRun.forEach((entries, n) => {
      const state = states[n]
      const first = entries[0]
      if (!state || !first) return
      const line = { sort: 'work' as const, ...state, by: author(names, first.byId), since: first.at.toISOString() }
      open.push({ loopId: first.loopId, line })
    })
  }
  return open
}

async function openElse(db: Queries, names: Names): Promise<OpenAt[]> {
  const links = await db.select().from(benchLinks)
  const surveys = await db
    .select({ loopId: surveysRunning.loopId, byId: workLog.byId, at: workLog.at })
    .from(surveysRunning)
    .innerJoin(workLog, eq(workLog.id, surveysRunning.survey))
  const one = (sort: 'practice' | 'survey', words: string) => (r: { loopId: string; byId: string; at: Date }) => ({
    loopId: r.loopId,
    line: { sort, words, by: author(names, r.byId), since: r.at.toISOString(), left: [] },
  })
  return [
    ...links.map(one('practice', 'the bench is connected: what answers there is simulated')),
    ...surveys.map(one('survey', 'a survey is being logged')),
  ]
}

/** How things stand, and what was done since a time. @throws HttpProblem `invalid-input` */
export async function readShift(
  db: Queries,
  workers: Workers,
  of: { readonly from: string; readonly to?: string | undefined },
): Promise<Shift> {
  const [from, to] = [new Date(of.from), of.to === undefined ? new Date() : new Date(of.to)]
  if (!(from < to)) throw new HttpProblem(422, 'invalid-input', 'A shift ends after it began.')
  if (to.getTime() - from.getTime() > LONGEST_SHIFT_h * 3_600_000)
    throw new HttpProblem(422, 'invalid-input', `A shift of more than ${LONGEST_SHIFT_h / 24} days is for the audit.`)
  const names = await namesOf(db)
  const done = await doneLines(db, names, await doneBetween(db, from, to))
  const found = [
    ...(await openChecks(db, names)),
    ...(await openWork(db, workers, names)),
    ...(await openElse(db, names)),
  ]
  const at = await loopsNamed(
    db,
    found.map((o) => o.loopId),
  )
  const open = found
    .map(({ loopId, line }): ShiftOpen => ({ ...line, loop: sure(at.get(loopId)) }))
    // What was left otherwise than it stood first; then the newest.
    .sort((a, b) => Number(b.left.length > 0) - Number(a.left.length > 0) || b.since.localeCompare(a.since))
  return {
    ...{ from: from.toISOString(), to: to.toISOString() },
    ...{ done: done.slice(0, MOST_DONE), more: Math.max(0, done.length - MOST_DONE), open },
    ...{ jobs: await listJobs(db), kit: await kitHeld(db) },
  }
}
async function kitHeld(db: Queries): Promise<Shift['kit']> {
  const where = await whereKitIs(db)
  const pieces = await db
    .select({ id: gear.id, name: gear.name, serial: gear.serial })
    .from(gear)
    .orderBy(asc(gear.name))
  return pieces.flatMap(({ id, name, serial }) => {
    const move = where.get(id)
    return move?.holder
      ? [{ piece: `${name} ${serial}`.trim(), holder: move.holder, since: move.at, place: move.place }]
      : []
  })
}

type Row = typeof handovers.$inferSelect
async function handedOver(db: Queries, rows: readonly Row[]): Promise<HandedOver[]> {
  const names = await namesOf(db)
  const reads = rows.length
    ? await db
        .select()
        .from(handoverReads)
        .where(
          inArray(
            handoverReads.handoverId,
            rows.map((r) => r.id),
          ),
        )
        .orderBy(asc(handoverReads.at))
    : []
  const by = (id: string): Author => author(names, id)
  return rows.map((r) => ({
    ...{ ...r.body, id: r.id, by: by(r.byId), at: r.at.toISOString(), shift: r.shift },
    read: reads.filter((x) => x.handoverId === r.id).map((x) => ({ by: by(x.byId), at: x.at.toISOString() })),
  }))
}
export const listHandovers = async (db: Queries): Promise<HandedOver[]> =>
  handedOver(db, await db.select().from(handovers).orderBy(desc(handovers.at)).limit(LISTED))

/** @throws HttpProblem `not-found` */
export async function oneHandover(db: Queries, id: string): Promise<HandedOver> {
  const rows = await db.select().from(handovers).where(eq(handovers.id, id))
  const [one] = await handedOver(db, rows)
  if (!one) throw notFound('This handing over')
  return one
}

/** Keeps the shift as it stands now; the same again changes nothing. @throws HttpProblem `id-reused` */
export async function handOver(
  tx: Queries,
  workers: Workers,
  id: string,
  of: { readonly body: HandOver; readonly person: Person },
): Promise<HandedOver> {
  const { body, person } = of
  const [known] = await tx.select().from(handovers).where(eq(handovers.id, id))
  if (known) {
    if (known.byId !== person.id || canonicalJson(known.body) !== canonicalJson(body)) throw idReused()
    return oneHandover(tx, id)
  }
  const shift = await readShift(tx, workers, body)
  await tx.insert(handovers).values({ id, body, shift, byId: person.id, at: new Date() })
  const details = { id, from: body.from, words: body.words, open: shift.open.length }
  await record({ tx, personId: person.id, action: 'shift-handed-over', loopId: null, details })
  return oneHandover(tx, id)
}

/** Says who has read it, once. @throws HttpProblem `not-found` */
export async function readHandover(tx: Queries, id: string, person: Person): Promise<HandedOver> {
  const { read } = await oneHandover(tx, id)
  if (read.some((r) => r.by.id === person.id)) return oneHandover(tx, id)
  await tx.insert(handoverReads).values({ handoverId: id, byId: person.id, at: new Date() }).onConflictDoNothing()
  await record({ tx, personId: person.id, action: 'shift-read', loopId: null, details: { id } })
  return oneHandover(tx, id)
}
