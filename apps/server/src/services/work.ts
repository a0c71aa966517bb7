// Work at a point put on record, step by step and survey by survey; and the site's own rows of the tables.
import {
  canonicalJson,
  inWorld,
  workOf,
  type AddSiteRow,
  type AddWorkEntry,
  type Kept,
  type Person,
  type SiteRow,
  type WorkBody,
  type WorkEntry,
} from '@calm-loop/contract'
import { ownBuffer, ownBuffersOf, type OwnBuffer } from '@calm-loop/core/analysis'
import { chainOf, foundPoint, refuseOutside } from '@calm-loop/core/loop'
import { convertUnit, entryIsTrue } from '@calm-loop/core/quantity'
import { Refusal } from '@calm-loop/core/refusal'
import { mayDo } from '@calm-loop/core/sheet'
import { asc, count, eq, sql } from 'drizzle-orm'
import type { Database, Queries } from '../db/database.ts'
import { siteRows, workLog } from '../db/schema.ts'
import { HttpProblem, idReused, notFound } from '../http/problems.ts'
import { record } from './audit.ts'
import { announce } from './events.ts'
import { author, namesOf, readFolder, workEntryOf } from './folder.ts'
import { refuseBeforeGate, refuseMarks, refuseOffPlan, refuseUnread } from './guards.ts'
import { doneBefore } from './waited.ts'
import { inItsWorld, isSame, refuseOnBench } from './worlds.ts'
import { currentStudyOf } from './studies.ts'
import { inOneTurn, type LogWrite } from './turns.ts'
import { sure } from '@calm-loop/core/sure'

type Folder = Awaited<ReturnType<typeof readFolder>>

const refuseUntrue = (entry: Parameters<typeof entryIsTrue>[0]): void => {
  if (!entryIsTrue(entry)) throw new Refusal('entry-mismatch', 'What was typed and what was understood do not agree.')
}

/** A step that its sheet does not have, that is not next, or that lacks what it asks for. @throws Refusal */
function refuseStep(entry: Extract<AddWorkEntry, { what: 'step' }>, folder: Folder): void {
  const sheet = currentStudyOf(folder.loop.kind, folder.versions.at(-1))
    .sheets?.()
    .find((s) => s.id === entry.sheet)
  const step = sheet?.steps.find((s) => s.id === entry.step)
  if (!sheet || !step) throw new Refusal('no-such-step', 'This point has no such step.')
  if (!mayDo(sheet, workOf(folder.workLog, 'step'), entry.run, entry.step))
    throw new Refusal(
      'step-out-of-order',
      'Another step comes first, or this one is done: somebody may have gone on elsewhere. Look at the sheet again.',
    )
  if (step.ask) {
    if (!entry.value) throw new Refusal('value-missing', `This step gives a figure: ${step.ask.label}.`)
    refuseUntrue(entry.value)
    refuseOffPlan(step, entry.value, entry.words)
  }
  refuseUnread(step, entry.run, folder.workLog)
  refuseMarks(step, entry)
  if (step.askWords && entry.words.trim() === '')
    throw new Refusal('words-missing', `This step asks: ${step.askWords}.`)
}

/** What of an entry does not fit the point or what stands on record. @throws Refusal */
function refuseEntry(entry: AddWorkEntry, folder: Folder): void {
  switch (entry.what) {
    case 'step':
      return refuseStep(entry, folder)
    case 'trim-point':
      return refuseTrimPoint(entry, folder)
    case 'zero':
    case 'health':
      return refuseBeforeGate(folder, entry.what, true)
    case 'trim-point-withdrawn':
      if (!workOf(folder.workLog, 'trim-point').some((p) => p.id === entry.point))
        throw new Refusal('no-such-point', 'This point is not on record.')
      return
    case 'device-range':
      return refuseRange(entry, folder)
    case 'measured-since':
      return refuseAnswer(entry, folder)
    case 'run-aside':
      // What was done out of coverage was no practice.
      return refuseOnBench(folder)
    case 're-entered':
      if (!workOf(folder.workLog, 're-enter').some((e) => e.id === entry.reset && e.keys.includes(entry.key)))
        throw new Refusal('no-such-reset', 'Nothing asked for this to be entered again.')
      return
    default:
  }
}

/** A range that no device of this point could show. @throws Refusal */
function refuseRange(entry: Extract<AddWorkEntry, { what: 'device-range' }>, folder: Folder): void {
  for (const end of [entry.lrv, entry.urv]) refuseUntrue(end)
  const { unit } = chainOf(currentStudyOf(folder.loop.kind, folder.versions.at(-1))).digital
  const [low, high] = [entry.lrv, entry.urv].map((e) => convertUnit(e.value, e.unit, unit))
  if (low === high) throw new Refusal('zero-span', 'The range that the device shows has no span.')
}

/** An answer about a check that is not of this record. @throws Refusal */
function refuseAnswer(entry: Extract<AddWorkEntry, { what: 'measured-since' }>, folder: Folder): void {
  refuseOnBench(folder)
  if (!inWorld(folder.checks, false).some((c) => c.id === entry.check))
    throw new HttpProblem(409, 'nothing-to-decide', 'That check is not on the record of this loop.')
}

/** A point of the chain that no loop could have shown. @throws Refusal */
function refuseTrimPoint(entry: Extract<AddWorkEntry, { what: 'trim-point' }>, folder: Folder): void {
  if (entry.source === 'bench' && !folder.bench)
    throw new Refusal('not-of-the-bench', 'The bench is not connected: type what was read at this point.')
  const witnesses = [entry.digital, entry.current, entry.receiver]
  if (witnesses.every((w) => w === null))
    throw new Refusal('no-witness', 'At least one of digital value, meter and receiver is read at a point.')
  for (const w of [entry.applied, ...witnesses]) if (w) refuseUntrue(w)
  const chain = chainOf(currentStudyOf(folder.loop.kind, folder.versions.at(-1)))
  const point = foundPoint(chain, entry)
  refuseOutside(chain, point.applied)
  if (point.mA !== undefined && !(point.mA >= 0 && point.mA <= 25))
    throw new Refusal('not-a-loop-current', 'The meter’s reading is not a loop current: 0 to 25 mA.')
}

/** Adds an entry; the same again changes nothing. */
export function addWork(write: LogWrite<AddWorkEntry>): Promise<WorkEntry> {
  const { db, loopId, id, entry, person, waited_ms = 0 } = write
  return inOneTurn(db, `loop ${loopId}`, async (tx) => {
    const known = await saidBefore(tx, { loopId, id, body: entry })
    if (known) return known
    const folder = await readFolder(tx, loopId)
    // Done out of coverage it was no practice, whoever has connected the bench since.
    const waited = doneBefore(waited_ms)
    if (waited) refuseOnBench(folder)
    refuseEntry(entry, inItsWorld(folder))
    const body = { ...entry, practice: !!folder.bench, ...(waited ? { doneAt: waited.toISOString() } : {}) }
    const saved = await keepWork(tx, { loopId, id, body, person })
    if (!body.practice && (entry.what === 'zero' || entry.what === 'read-back'))
      await record({ tx, personId: person.id, action: entry.what, loopId, details: { id } })
    return saved
  })
}

/** Puts an entry at the end of the loop's log and tells everyone who has it open. */
export async function keepWork(
  tx: Queries,
  {
    loopId,
    id,
    body,
    person,
  }: { loopId: string; id: string; body: Kept<WorkBody>; person: Pick<Person, 'id' | 'name'> },
): Promise<WorkEntry> {
  const [stand] = await tx.select({ n: count() }).from(workLog).where(eq(workLog.loopId, loopId))
  const [row] = await tx
    .insert(workLog)
    .values({ id, loopId, seq: sure(stand).n + 1, what: body.what, body, byId: person.id, at: new Date() })
    .returning()
  if (body.what !== 'survey-rows') await announce(tx, { loopId, what: 'work', id, by: person.name })
  return workEntryOf(sure(row), await namesOf(tx))
}

/** What stands under an id, if it is what is sent again; undefined where nothing does. @throws HttpProblem */
export async function saidBefore(
  tx: Queries,
  { loopId, id, body }: { loopId: string; id: string; body: WorkBody },
): Promise<WorkEntry | undefined> {
  const [known] = await tx.select().from(workLog).where(eq(workLog.id, id))
  if (!known) return undefined
  if (known.loopId === loopId && isSame<WorkBody>(known.body, body)) return workEntryOf(known, await namesOf(tx))
  throw idReused()
}

const siteRowOf = (row: typeof siteRows.$inferSelect, names: Awaited<ReturnType<typeof namesOf>>): SiteRow => ({
  ...row.body,
  id: row.id,
  by: author(names, row.byId),
  at: row.at.toISOString(),
})

export async function readSiteRows(db: Queries): Promise<SiteRow[]> {
  const names = await namesOf(db)
  return (await db.select().from(siteRows).orderBy(asc(siteRows.at), asc(siteRows.id))).map((row) =>
    siteRowOf(row, names),
  )
}

/** Buffers of the site's own, with their tables. */
export async function ownBuffers(db: Queries): Promise<OwnBuffer[]> {
  const rows = await db
    .select()
    .from(siteRows)
    .where(eq(sql`${siteRows.body}->>'table'`, 'buffer'))
    .orderBy(asc(siteRows.at), asc(siteRows.id))
  return ownBuffersOf(rows.map(({ body }) => body))
}

/** @throws HttpProblem where the row that is to be replaced is none of the table, or another stands there already */
async function refuseOvertaken(tx: Queries, follows: string, table: AddSiteRow['table']): Promise<void> {
  const [before] = await tx.select().from(siteRows).where(eq(siteRows.id, follows))
  if (before?.body.table !== table) throw notFound('The row that this one replaces')
  const [other] = await tx
    .select()
    .from(siteRows)
    .where(eq(sql`${siteRows.body}->>'follows'`, follows))
  if (other)
    throw new HttpProblem(409, 'setting-changed', 'Somebody else changed this row meanwhile. Look at it again.')
}

/** Adds a row; the same again changes nothing. @throws Refusal `not-a-buffer` */
export function addSiteRow(db: Database, id: string, body: AddSiteRow, person: Person): Promise<SiteRow> {
  if (body.table === 'buffer') ownBuffer(body.name, body.fills['table'] ?? '')
  return inOneTurn(db, 'site rows', async (tx) => {
    const names = await namesOf(tx)
    const [known] = await tx.select().from(siteRows).where(eq(siteRows.id, id))
    if (known) {
      if (canonicalJson(known.body) === canonicalJson(body)) return siteRowOf(known, names)
      throw idReused()
    }
    if (body.follows !== undefined) await refuseOvertaken(tx, body.follows, body.table)
    const [row] = await tx.insert(siteRows).values({ id, body, byId: person.id, at: new Date() }).returning()
    await record({
      tx,
      personId: person.id,
      action: 'site-row-added',
      loopId: null,
      details: { id, table: body.table, name: body.name },
    })
    return siteRowOf(sure(row), names)
  })
}
