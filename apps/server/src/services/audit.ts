// The audit trail: who did what, when. Append-only, and a chain: each entry holds the hash of the one before.
import type { AuditEntry, AuditPage, AuditQuery } from '@calm-loop/contract'
import { and, desc, eq, gte, like, lt, sql, type SQL } from 'drizzle-orm'
import type { Queries } from '../db/database.ts'
import { audit, loops, people } from '../db/schema.ts'
import { sure } from '@calm-loop/core/sure'

const PAGE = 100
const EXPORTED = 20_000

export async function record({
  tx,
  personId,
  action,
  loopId,
  details = {},
}: {
  readonly tx: Queries
  readonly personId: string | null
  readonly action: string
  readonly loopId: string | null
  readonly details?: Record<string, unknown>
}): Promise<void> {
  await tx.execute(
    sql`select audit_append(${personId}::uuid, ${action}, ${loopId}::uuid, ${JSON.stringify(details)}::jsonb)`,
  )
}

function conditions(query: AuditQuery): SQL[] {
  const found: SQL[] = []
  if (query.person) found.push(eq(audit.personId, query.person))
  if (query.action) found.push(eq(audit.action, query.action))
  if (query.tag) found.push(like(loops.search, `%${query.tag.toLowerCase().replace(/[\\%_]/g, (c) => `\\${c}`)}%`))
  if (query.from) found.push(gte(audit.at, new Date(query.from)))
  if (query.to) found.push(lt(audit.at, new Date(Date.parse(query.to) + 86_400_000)))
  if (query.before) found.push(lt(audit.id, query.before))
  return found
}

/** Whether an entry's hash is its own, and it follows the one before it in the chain. */
const WHOLE = sql<boolean>`
  audit.hash = audit_hash(audit.*)
  and audit.previous is not distinct from (select b.hash from audit b where b.chain = audit.chain - 1)
  and (audit.chain = 1) = (audit.previous is null)`

/** Entries that a query asks for, newest first. */
export async function readAudit(db: Queries, query: AuditQuery, limit = PAGE): Promise<AuditEntry[]> {
  const rows = await db
    .select({ entry: audit, tag: loops.tag, name: people.name, whole: WHOLE })
    .from(audit)
    .leftJoin(loops, eq(loops.id, audit.loopId))
    .leftJoin(people, eq(people.id, audit.personId))
    .where(and(...conditions(query)))
    .orderBy(desc(audit.id))
    .limit(limit)
  return rows.map(({ entry, tag, name, whole }) => ({
    id: entry.id,
    at: entry.at.toISOString(),
    by: entry.personId ? { id: entry.personId, name: name ?? 'unknown' } : null,
    action: entry.action,
    loop: entry.loopId ? { id: entry.loopId, tag: tag ?? 'unknown' } : null,
    details: JSON.stringify(entry.details),
    place: entry.chain ?? 0,
    hash: entry.hash ?? '',
    whole: whole === true,
  }))
}
export const exportAudit = (db: Queries, query: AuditQuery): Promise<AuditEntry[]> => readAudit(db, query, EXPORTED)

/** Length of the chain and the first entry that does not fit into it. */
async function chainState(db: Queries): Promise<AuditPage['chain']> {
  const { rows } = await db.execute<{ n: number; broken: number | null }>(sql`
    select count(*)::int n, min(id) filter (where not (
      chain is not null and hash = audit_hash(a) and previous is not distinct from before
      and (chain = 1) = (previous is null)))::int broken
    from (select audit.*, lag(hash) over (order by chain) before, audit as a from audit) x`)
  return { length: sure(rows[0]).n, brokenAt: sure(rows[0]).broken }
}

export async function auditPage(db: Queries, query: AuditQuery): Promise<AuditPage> {
  const entries = await readAudit(db, query)
  const actions = await db.selectDistinct({ action: audit.action }).from(audit).orderBy(audit.action)
  return {
    entries,
    next: entries.length === PAGE ? sure(entries.at(-1)).id : null,
    actions: actions.map((a) => a.action),
    chain: await chainState(db),
  }
}
