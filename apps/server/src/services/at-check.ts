// What taking a reading needs of its check, and no more: a folder may hold years of work.
import type { Check, CheckTerms, LoopEvent, Reading, Version } from '@calm-loop/contract'
import { and, eq, or } from 'drizzle-orm'
import type { ClientBase } from 'pg'
import type { Queries } from '../db/database.ts'
import { sure } from '@calm-loop/core/sure'
import { readings } from '../db/schema.ts'
import { notFound } from '../http/problems.ts'
import { LOOPS } from './events.ts'
import { readingOf, namesOf } from './folder.ts'

/** A check as a reading meets it. */
export interface AtCheck {
  readonly check: Pick<Check, 'phase' | 'points' | 'range' | 'tolerancePct'> &
    Partial<Pick<Check, 'terms'>> & { readonly practice: boolean; readonly startedAt: string }
  readonly imported: boolean
  readonly signed: boolean
  readonly kind: string
  /** The entries that it is judged by. */
  readonly version: Pick<Version, 'entries' | 'kindVersion'>
  /** Since when the bench is connected; null while nothing is simulated. */
  readonly benchSince: string | null
  /** How many readings it has had. */
  readonly seq: number
  /** A reading stands at this point, or something under this id. */
  readonly known: boolean
}

/** Asked for each reading, so prepared once on each connection, and all in one. */
const AT_CHECK = {
  name: 'at check',
  text: `
    select c.phase, c.points, c.range, c.tolerance_pct, c.terms, c.practice, c.started_at, l.kind, v.entries,
      v.kind_version, b.at bench_since, c.imported is not null imported,
      exists (select from signatures s where s.check_id = c.id) signed,
      coalesce((select max(r.seq) from readings r where r.check_id = c.id), 0) seq,
      exists (select from readings r where r.check_id = c.id and r.point_index = $3)
        or exists (select from readings r where r.id = $4) known
    from checks c join loops l on l.id = c.loop_id join versions v on v.id = c.version_id
      left join bench_links b on b.loop_id = c.loop_id
    where c.id = $1 and c.loop_id = $2`,
}
interface Row {
  phase: Check['phase']
  points: Check['points']
  range: Check['range']
  tolerance_pct: number
  terms: CheckTerms | null
  practice: boolean | null
  started_at: Date
  kind: string
  entries: Version['entries']
  kind_version: number | null
  bench_since: Date | null
  imported: boolean
  signed: boolean
  seq: number
  known: boolean
}
export interface ReadingPlace {
  readonly loopId: string
  readonly checkId: string
  readonly pointIndex: number
  readonly id: string
}

/** @throws HttpProblem 404 */
export async function checkForReading(client: ClientBase, where: ReadingPlace): Promise<AtCheck> {
  const values = [where.checkId, where.loopId, where.pointIndex, where.id]
  const { rows } = await client.query<Row>({ ...AT_CHECK, values })
  const [row] = rows
  if (!row) throw notFound('This check')
  const { phase, points, range, tolerance_pct, terms, practice, started_at, kind, entries, kind_version } = row
  return {
    check: {
      phase,
      points,
      range,
      tolerancePct: tolerance_pct,
      ...(terms ? { terms } : {}),
      practice: practice ?? false,
      startedAt: started_at.toISOString(),
    },
    imported: row.imported,
    signed: row.signed,
    kind,
    version: { entries, ...(kind_version === null ? {} : { kindVersion: kind_version }) },
    benchSince: row.bench_since?.toISOString() ?? null,
    seq: row.seq,
    known: row.known,
  }
}

const PUT = {
  name: 'put reading',
  text: `
    with put as (
      insert into readings (id, check_id, seq, point_index, percent, direction, applied, reads, source, supersedes,
        reason, "by", taken_at, saved_at, sampled_at, origins)
      values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14, $15, $16) returning applied, reads, origins
    ) select applied, reads, origins, pg_notify('${LOOPS}', $17) from put`,
}
type Stored = Pick<typeof readings.$inferSelect, 'applied' | 'reads' | 'origins'>
/** Puts a reading on record and tells everyone; returns it as it stands there. */
export async function putReading(
  client: ClientBase,
  r: typeof readings.$inferSelect,
  event: LoopEvent,
): Promise<typeof readings.$inferSelect> {
  const { id, checkId, seq, pointIndex, percent, direction, applied, reads, source, supersedes, reason } = r
  const [json, when] = [[applied, reads].map((e) => JSON.stringify(e)), [r.takenAt, r.savedAt, r.sampledAt]]
  const head = [id, checkId, seq, pointIndex, percent, direction, ...json, source, supersedes, reason, r.byId]
  const origins = r.origins ? JSON.stringify(r.origins) : null
  const { rows } = await client.query<Stored>({
    ...PUT,
    values: [...head, ...when, origins, JSON.stringify(event)],
  })
  const { applied: a, reads: b, origins: c } = sure(rows[0])
  return { ...r, applied: a, reads: b, origins: c }
}

/** Readings of one point of a check, in their order; and whatever stands anywhere under this id. */
export async function readingsAtPoint(
  tx: Queries,
  { checkId, pointIndex, id }: ReadingPlace,
): Promise<{ readonly here: Reading[]; readonly same: (Reading & { checkId: string }) | undefined }> {
  const rows = await tx
    .select()
    .from(readings)
    .where(or(and(eq(readings.checkId, checkId), eq(readings.pointIndex, pointIndex)), eq(readings.id, id)))
    .orderBy(readings.seq)
  const names = await namesOf(tx)
  const same = rows.find((r) => r.id === id)
  return {
    here: rows.filter((r) => r.checkId === checkId && r.pointIndex === pointIndex).map((r) => readingOf(r, names)),
    same: same && { ...readingOf(same, names), checkId: same.checkId },
  }
}
