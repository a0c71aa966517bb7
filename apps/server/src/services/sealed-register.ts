// Seals as the register shows them: held against the record every few seconds and after each change, but worked out
// anew only where something has changed.
import { asc, gt, sql } from 'drizzle-orm'
import type { LoopRow } from '@calm-loop/contract'
import type { Queries } from '../db/database.ts'
import { sure } from '@calm-loop/core/sure'
import { loops } from '../db/schema.ts'
import { loopsWithBrokenSeal, rowOf } from './folder.ts'

const MOST_KNOWN = 50_000
/** So long a loop’s seals are believed where no word of a change comes. */
const BELIEVED_ms = 3000

/** Of a loop: the hash of all that its seals vouch for, when it was last looked at, and how that came out. */
interface Known {
  /** Undefined where nothing is signed. */
  readonly hash: string | undefined
  readonly broken: boolean
  readonly until: number
}
export interface SealedRegister {
  /** Rows of the register; where a seal is broken that is what the row says, whatever was noted before. */
  withSeals(rows: readonly LoopRow[]): Promise<LoopRow[]>
  /** Something of this loop has changed: it is looked at anew. */
  forget(loopId: string): void
}

/** SHA-256 of everything that the signatures of each loop rest on; loops without a signature are left out. */
async function hashes(db: Queries, ids: readonly string[]): Promise<{ id: string; hash: string }[]> {
  const list = sql.param([...ids])
  const { rows } = await db.execute<{ id: string; hash: string }>(sql`
    with w as (
      select id, loop_id, (body->>'version')::uuid as version from work_log
      where loop_id = any(${list}::uuid[]) and what = 'run-signed'
    ),
    -- Of a loop without a signature nothing is read.
    signed as (
      select c.loop_id from checks c join signatures s on s.check_id = c.id where c.loop_id = any(${list}::uuid[])
      union select loop_id from w
    ),
    c as (select * from checks where loop_id in (select loop_id from signed)),
    parts as (
      select loop_id, 'c' || c::text part from c
      union all select c.loop_id, 'r' || r::text from c join readings r on r.check_id = c.id
      union all select c.loop_id, 'g' || g::text from c join gates g on g.check_id = c.id
      union all select c.loop_id, 's' || s::text from c join signatures s on s.check_id = c.id
      union all select c.loop_id, 'z' || z::text from c
        join signatures s on s.check_id = c.id join seals z on z.signature_id = s.id
      union all select c.loop_id, 'y' || y.hash from c
        join signatures s on s.check_id = c.id join seals z on z.signature_id = s.id and z.own
        join seals y on y.own and y.seq = z.seq - 1
      union all select distinct v.loop_id, 'v' || v::text from versions v
        where v.id in (select version_id from c union all select w.version from w)
      union all select l.loop_id, 'w' || l::text from work_log l
        where l.loop_id in (select loop_id from w) and l.what in ('step', 'health', 'run-signed')
      union all select w.loop_id, 'x' || z::text from w join seals z on z.signature_id = w.id
      union all select w.loop_id, 'y' || y.hash from w
        join seals z on z.signature_id = w.id and z.own join seals y on y.own and y.seq = z.seq - 1
    )
    select l.id, encode(sha256(convert_to(concat_ws('~',
      l.tag, l.service, l.area, l.kind, string_agg(part, '~' order by part),
      (select string_agg(k::text, '~' order by k.id) from seal_keys k)), 'UTF8')), 'hex') hash
    from parts join loops l on l.id = parts.loop_id
    group by l.id`)
  return rows
}

/** Loops whose seals are looked at together by the round. */
const ROUND = 50

/**
 * Looks at the seals of the next few loops, so that what is changed behind the record is found although nobody opens
 * it: a register of 100 000 is through in some hours.
 * @returns one step of it
 */
export function roundOf(db: Queries, seals: Pick<SealedRegister, 'withSeals'>): () => Promise<void> {
  let [after, busy] = ['', false]
  async function next(): Promise<void> {
    const page = await db.select().from(loops).where(gt(loops.tag, after)).orderBy(asc(loops.tag)).limit(ROUND)
    after = page.length < ROUND ? '' : sure(page.at(-1)).tag
    await seals.withSeals(page.map(rowOf))
  }
  // A slow database is not asked for more.
  return async () => {
    if (busy) return
    busy = true
    await next().finally(() => (busy = false))
  }
}

export function sealedRegister(db: Queries): SealedRegister {
  const known = new Map<string, Known>()
  /** Of each look that is under way, what was forgotten meanwhile: that alone is not believed. */
  const meanwhile = new Set<Set<string>>()

  let underWay: Promise<void> | undefined

  async function look(ids: readonly string[]): Promise<void> {
    const changedSince = new Set<string>()
    meanwhile.add(changedSince)
    try {
      await lookAt(ids, changedSince)
    } finally {
      meanwhile.delete(changedSince)
    }
  }
  async function lookAt(ids: readonly string[], changedSince: ReadonlySet<string>): Promise<void> {
    const now = new Map((await hashes(db, ids)).map(({ id, hash }) => [id, hash]))
    const changed = [...now].flatMap(([id, hash]) => (known.get(id)?.hash === hash ? [] : [id]))
    const broken = await loopsWithBrokenSeal(db, changed)
    if (known.size > MOST_KNOWN) known.clear()
    const until = performance.now() + BELIEVED_ms
    for (const id of ids) {
      const hash = now.get(id)
      const was = known.get(id)
      const isBroken = hash !== undefined && (hash === was?.hash ? was.broken : broken.has(id))
      known.set(id, { hash, broken: isBroken, until: changedSince.has(id) ? 0 : until })
    }
  }
  return {
    async withSeals(rows) {
      const doubted = () => rows.filter((r) => !((known.get(r.id)?.until ?? 0) > performance.now())).map((r) => r.id)
      // Of many who ask at a time one looks.
      if (doubted().length) await underWay?.catch(() => undefined)
      const left = doubted()
      if (left.length) await (underWay = look(left))
      const bad = rows.filter((r) => known.get(r.id)?.broken)
      const unnoted = bad.filter((r) => r.state !== 'seal-broken').map((r) => r.id)
      // So that the filter finds it too.
      if (unnoted.length)
        await db.execute(sql`update loops set state = 'seal-broken' where id = any(${sql.param(unnoted)}::uuid[])`)
      const ids = new Set(bad.map((r) => r.id))
      return rows.map((r) => (ids.has(r.id) ? { ...r, state: 'seal-broken' } : r))
    },
    forget(loopId) {
      meanwhile.forEach((look) => look.add(loopId))
      const was = known.get(loopId)
      if (was) known.set(loopId, { ...was, until: 0 })
    },
  }
}
