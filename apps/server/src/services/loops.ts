// The register and the entries of a loop.
import type { LoopIdentity, LoopPage, LoopQuery, LoopRow, Person, SaveVersion, Version } from '@calm-loop/contract'
import { canonicalJson } from '@calm-loop/contract'
import { entriesNow, falseEntries, kindOf, type Entries, type PointKind } from '@calm-loop/core/kinds'
import { and, eq, isNull, sql } from 'drizzle-orm'
import type { Pool } from 'pg'
import type { z } from 'zod'
import type { Database, Queries } from '../db/database.ts'
import { loops, versions } from '../db/schema.ts'
import { HttpProblem, idReused, notFound } from '../http/problems.ts'
import { record } from './audit.ts'
import { announce } from './events.ts'
import { namesOf, rowOf, versionOf } from './folder.ts'
import type { Workers } from '../workers/pool.ts'
import { keptFor } from './kept-for.ts'
import { sealedRegister, type SealedRegister } from './sealed-register.ts'
import { refreshSummary } from './summary.ts'
import { inOneTurn } from './turns.ts'
import { sure } from '@calm-loop/core/sure'

const PAGE = 50
const today = () => new Date().toISOString().slice(0, 10)

/** Which loops, as SQL with the values that go with it; of few forms, so that each is understood once. */
function wanted(query: z.output<typeof LoopQuery>): { text: string; values: unknown[] } {
  const values: unknown[] = []
  const found: string[] = []
  const add = (condition: string, value: unknown) => {
    values.push(value)
    found.push(`${condition} $${values.length}`)
  }
  if (query.q?.trim())
    add(
      'search like',
      `%${query.q
        .trim()
        .toLowerCase()
        .replace(/[\\%_]/g, (c) => `\\${c}`)}%`,
    )
  if (query.area) add('area =', query.area)
  if (query.kind) add('kind =', query.kind)
  if (query.state === 'overdue') add('next_due <', today())
  else if (query.state) add('state =', query.state)
  if (query.after) add('tag >', query.after)
  return { text: found.length ? `where ${found.join(' and ')}` : '', values }
}

/** Every area once, walking the index from one to the next rather than reading all loops. */
async function listAreas(db: Queries): Promise<string[]> {
  const result = await db.execute<{ area: string }>(sql`
    with recursive t as (
      (select area from loops order by area limit 1)
      union all
      select (select area from loops where area > t.area order by area limit 1) from t where t.area is not null
    ) select area from t where area is not null`)
  return result.rows.map((row) => row.area)
}

/** A new area is seen by everyone within this time. */
const AREAS_ms = 2000

export interface Register extends SealedRegister {
  /** A page of the register, by tag. */
  list(query: z.output<typeof LoopQuery>): Promise<LoopPage>
  /** A loop has come: its area may be new. */
  grown(): void
}
export function registerOf(db: Queries, pool: Pool): Register {
  const seals = sealedRegister(db)
  const areas = keptFor(AREAS_ms, () => listAreas(db))
  return {
    ...seals,
    grown: () => areas.drop(),
    async list(query) {
      const limit = query.limit ?? PAGE
      const { text, values } = wanted(query)
      // Asked as it is, and prepared: building it and mapping its rows would take half of the time of a page.
      const { rows } = await pool.query<LoopRow>({
        // PostgreSQL takes names of 63 characters.
        name: `register ${text.replace(/\W| (and|where)/g, '')}`.slice(0, 63),
        text:
          'select id, tag, service, area, kind, state, to_char(next_due, $$YYYY-MM-DD$$) "nextDue", ' +
          'last_error_pct "lastErrorPct", tolerance_pct "tolerancePct" ' +
          `from loops ${text} order by tag limit $${values.length + 1}`,
        values: [...values, limit + 1],
      })
      const page = await seals.withSeals(rows.slice(0, limit))
      const next = rows.length > limit ? sure(page.at(-1)).tag : null
      return { loops: page, next, areas: await areas.get('') }
    },
  }
}

/**
 * All loops of a filter, by tag.
 * @throws HttpProblem `too-much-work` where they are more than `most`
 */
export async function listWhole(
  register: Pick<Register, 'list'>,
  of: z.output<typeof LoopQuery>,
  most: number,
): Promise<LoopRow[]> {
  const found: LoopRow[] = []
  for (let after: string | null | undefined; after !== null;) {
    const page: LoopPage = await register.list({ ...of, limit: 200, ...(after ? { after } : {}) })
    found.push(...page.loops)
    if (found.length > most)
      throw new HttpProblem(422, 'too-much-work', `These are more than ${most} loops: narrow them down.`)
    after = page.next
  }
  return found
}

/** Creates a loop; the same again changes nothing. */
export async function createLoop(tx: Queries, id: string, identity: LoopIdentity, byId: string): Promise<LoopRow> {
  kindOf(identity.kind)
  const [known] = await tx.select().from(loops).where(eq(loops.id, id))
  if (known) {
    const { tag, service, area, kind } = rowOf(known)
    if (canonicalJson({ tag, service, area, kind }) === canonicalJson(identity)) return rowOf(known)
    throw idReused('Another loop was created under this id.')
  }
  const [row] = await tx
    .insert(loops)
    .values({ ...identity, id, createdAt: new Date(), state: 'half-entered' })
    .onConflictDoNothing({ target: loops.tag })
    .returning()
  if (!row)
    throw new HttpProblem(409, 'tag-taken', `There is already a loop ${identity.tag}. Open it, or choose another tag.`)
  await record({ tx, personId: byId, action: 'loop-created', loopId: id, details: identity })
  return rowOf(row)
}

type VersionRow = typeof versions.$inferSelect
interface Saving {
  readonly tx: Queries
  readonly loopId: string
  readonly versionId: string
  readonly save: SaveVersion
  readonly person: Person
  /** The newest version of the loop. */
  readonly head: VersionRow | undefined
  readonly names: Awaited<ReturnType<typeof namesOf>>
}

/** Whether the same was saved before: sent again, as its answer was lost. */
const isSent = (known: VersionRow, save: SaveVersion): boolean =>
  canonicalJson(save.entries) === canonicalJson(known.entries) && (!save.seal || known.sealedAt !== null)

const writtenNow = (save: SaveVersion, now: Date) => ({
  entries: save.entries,
  kindVersion: save.kindVersion ?? null,
  revision: save.revision,
  reason: save.reason,
  savedAt: now,
  ...(save.seal ? { sealedAt: now } : {}),
})

/** The next revision of a version that is still open. @throws HttpProblem `version-conflict` */
async function goneOn({ tx, save, person, head, names }: Saving, known: VersionRow): Promise<VersionRow> {
  const mayGoOn = known.id === head?.id && known.sealedAt === null && known.authorId === person.id
  if (!mayGoOn || save.revision !== known.revision + 1) throw conflict(head, names)
  const written = writtenNow(save, new Date())
  return sure((await tx.update(versions).set(written).where(eq(versions.id, known.id)).returning())[0])
}

/** A version that follows the newest, which is closed by it. @throws HttpProblem `version-conflict` */
async function begun({ tx, loopId, versionId, save, person, head, names }: Saving): Promise<VersionRow> {
  if ((head?.id ?? null) !== save.parentId || (head?.revision ?? null) !== save.parentRevision)
    throw conflict(head, names)
  const now = new Date()
  if (head)
    await tx
      .update(versions)
      .set({ sealedAt: now, reason: head.reason || `Closed when ${person.name} went on from it` })
      .where(and(eq(versions.id, head.id), isNull(versions.sealedAt)))
  const values = {
    ...writtenNow(save, now),
    id: versionId,
    loopId,
    number: (head?.number ?? 0) + 1,
    parentId: save.parentId,
    authorId: person.id,
    startedAt: now,
  }
  const row = sure((await tx.insert(versions).values(values).returning())[0])
  await tx.update(loops).set({ headVersionId: versionId }).where(eq(loops.id, loopId))
  await record({
    tx,
    personId: person.id,
    action: 'version-started',
    loopId,
    details: { versionId, number: row.number },
  })
  return row
}

/** Closes a version that is still open: what was done by it stays judged by it. */
export async function closeVersion(tx: Queries, { id, reason }: Version, why: string): Promise<void> {
  await tx
    .update(versions)
    .set({ sealedAt: new Date(), reason: reason || why })
    .where(and(eq(versions.id, id), isNull(versions.sealedAt)))
}

/**
 * Saves what has been entered. While a version is open, newest and its author's, it is saved in place; otherwise a
 * new one follows the newest.
 * @throws HttpProblem `version-conflict` with the newest version, when someone else saved in between
 */
export function saveVersion({ db, ...save }: SaveWish & { readonly db: Database }): Promise<Version> {
  return inOneTurn(db, `loop ${save.loopId}`, (tx) => saveInTurn(tx, save))
}

interface SaveWish {
  readonly workers: Workers
  readonly loopId: string
  readonly versionId: string
  readonly save: SaveVersion
  readonly person: Person
}

/** Saves within a turn of the loop that is held already. @throws HttpProblem `version-conflict` */
export async function saveInTurn(
  tx: Queries,
  { workers, loopId, versionId, save, person }: SaveWish,
): Promise<Version> {
  const [loop] = await tx.select().from(loops).where(eq(loops.id, loopId))
  if (!loop) throw notFound('This loop')
  const names = await namesOf(tx)
  const [head] = loop.headVersionId ? await tx.select().from(versions).where(eq(versions.id, loop.headVersionId)) : []
  refuseFalse(kindOf(loop.kind), head && recorded(head), save)
  const [known] = await tx.select().from(versions).where(eq(versions.id, versionId))
  if (known && known.loopId !== loopId) throw idReused('This version belongs to another loop.')
  if (known && isSent(known, save)) return versionOf(known, names)
  const saving: Saving = { tx, loopId, versionId, save, person, head, names }
  const row = known ? await goneOn(saving, known) : await begun(saving)
  if (save.seal)
    await record({
      tx,
      personId: person.id,
      action: 'version-recorded',
      loopId,
      details: { versionId, reason: save.reason },
    })
  await refreshSummary(tx, workers, loopId)
  await announce(tx, { loopId, what: 'version', id: versionId, by: person.name })
  return versionOf(row, names)
}

interface Recorded {
  readonly entries: Entries
  readonly kindVersion?: number | undefined
}
const recorded = ({ entries, kindVersion }: typeof versions.$inferSelect): Recorded => ({
  entries,
  kindVersion: kindVersion ?? undefined,
})

/**
 * What stands is not judged again: only what is saved anew must be what its text says. @throws HttpProblem
 * `entry-mismatch`
 */
function refuseFalse(kind: PointKind, head: Recorded | undefined, save: Recorded): void {
  const [standing, saved] = [entriesNow(kind, head), entriesNow(kind, save)]
  const anew = Object.entries(saved).filter(([key, e]) => canonicalJson(e) !== canonicalJson(standing[key] ?? null))
  const untrue = falseEntries(kind.fields, Object.fromEntries(anew))
  if (untrue.length)
    throw new HttpProblem(
      422,
      'entry-mismatch',
      `What was typed and what was understood do not agree: ${untrue.join(', ')}.`,
    )
}

function conflict(head: typeof versions.$inferSelect | undefined, names: Map<string, string>): HttpProblem {
  const who = head ? (names.get(head.authorId) ?? 'someone') : 'someone'
  return new HttpProblem(
    409,
    'version-conflict',
    `${who} saved a change to this loop meanwhile. Yours is still on your page; compare and save again.`,
    {
      current: head ? versionOf(head, names) : null,
    },
  )
}
