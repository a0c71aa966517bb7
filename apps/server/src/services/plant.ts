// Loops of an instrument list brought in: all of them, or none and why not.
import { canonicalJson, type LoopIdentity, type PlantLoop } from '@calm-loop/contract'
import { inArray, sql } from 'drizzle-orm'
import type { Database, Queries } from '../db/database.ts'
import { loops, versions } from '../db/schema.ts'
import type { Workers } from '../workers/pool.ts'
import { refused } from './plant-file.ts'

/** Loops that are worked out, and written, at once. */
const TOGETHER = 250
/** Those of these tags that loops have. */
export async function tagsTaken(db: Queries, tags: readonly string[]): Promise<string[]> {
  const found = await db.execute<{ tag: string }>(
    sql`select tag from loops where tag in (select jsonb_array_elements_text(${JSON.stringify(tags)}::jsonb))`,
  )
  return found.rows.map((r) => r.tag).sort()
}

const identity = ({ tag, service, area, kind }: LoopIdentity) => canonicalJson({ tag, service, area, kind })
/** Those that are not here yet. @throws HttpProblem where one is here under another name, or another has its tag */
async function newOnes(db: Queries, all: readonly PlantLoop[]): Promise<readonly PlantLoop[]> {
  const known = await db.execute<LoopIdentity & { id: string }>(
    sql`select id, tag, service, area, kind from loops
        where id in (select jsonb_array_elements_text(${JSON.stringify(all.map((l) => l.id))}::jsonb)::uuid)`,
  )
  const here = new Map(known.rows.map((r) => [r.id, identity(r)]))
  const other = all.filter((l) => here.has(l.id) && here.get(l.id) !== identity(l))
  if (other.length)
    throw refused(
      'id-reused',
      'Other loops were made under these ids',
      other.map((l) => l.tag),
    )
  const wanted = all.filter((l) => !here.has(l.id))
  const taken = await tagsTaken(
    db,
    wanted.map((l) => l.tag),
  )
  if (taken.length) throw refused('tag-taken', 'There are loops with these tags already', taken)
  return wanted
}

const chunks = <T>(all: readonly T[], n: number): T[][] =>
  Array.from({ length: Math.ceil(all.length / n) }, (_, i) => all.slice(i * n, (i + 1) * n))

interface Bringing {
  readonly db: Database
  readonly workers: Workers
  readonly bytes: Uint8Array
  readonly by: { readonly id: string; readonly name: string }
  /** Of the list, as its person knows it. */
  readonly name: string
  /** Told how far it is; throws where it is to end. */
  readonly tell: (share: number, says: string) => Promise<void>
}
/** Share of the work that is done once all are worked out. */
const WORKED_OUT = 0.7

/**
 * Brings all loops of a file in; the same again adds nothing.
 * @throws HttpProblem with every reason, and nothing stored
 */
export async function bringPlantIn({ db, workers, bytes, by, name, tell }: Bringing) {
  const all = await workers.run('plantIn', bytes)
  await tell(0.05, `${all.length} loops`)
  const wanted = await newOnes(db, all)
  const parts = chunks(wanted, TOGETHER)
  let done = 0
  // Two at once: there is more than one thread to work them out.
  const states = new Map<string, string>()
  const next = parts.values()
  const work = async () => {
    for (const part of next) {
      const found = await workers.run(
        'plantStates',
        part.map(({ kind, entries }) => ({ kind, entries })),
      )
      part.forEach((l, i) => states.set(l.id, found[i] ?? 'half-entered'))
      done += part.length
      await tell(0.05 + (WORKED_OUT - 0.05) * (done / wanted.length), `${done} of ${wanted.length} looked at`)
    }
  }
  await Promise.all([work(), work()])
  const writeAll = async (tx: Queries) => {
    const now = new Date()
    for (const [i, part] of parts.entries()) {
      await writePart(tx, part, { states, now, by: by.id, name })
      const share = WORKED_OUT + (1 - WORKED_OUT) * ((i + 1) / parts.length)
      await tell(share, `${Math.min(wanted.length, (i + 1) * TOGETHER)} of ${wanted.length} written`)
    }
  }
  await db.transaction(writeAll).catch(async (error: unknown) => {
    // Somebody made a loop with one of the tags meanwhile: that is said, rather than what the table says of it.
    await newOnes(db, wanted)
    throw error
  })
  return { added: wanted.length, already: all.length - wanted.length }
}

interface Writing {
  readonly states: ReadonlyMap<string, string>
  readonly now: Date
  readonly by: string
  readonly name: string
}
async function writePart(tx: Queries, part: readonly PlantLoop[], { states, now, by, name }: Writing): Promise<void> {
  await tx.insert(loops).values(
    part.map(({ id, tag, service, area, kind }) => ({
      ...{ id, tag, service, area, kind, createdAt: now },
      state: states.get(id) ?? 'half-entered',
    })),
  )
  const filled = part.filter((l) => Object.keys(l.entries).length)
  if (filled.length) {
    await tx.insert(versions).values(
      filled.map(({ id, versionId, kindVersion, entries }) => ({
        ...{ id: versionId, loopId: id, number: 1, parentId: null, revision: 0, entries, authorId: by },
        ...{ startedAt: now, savedAt: now, sealedAt: now, reason: `From the list ${name}` },
        kindVersion: kindVersion > 1 ? kindVersion : null,
      })),
    )
    await tx
      .update(loops)
      .set({ headVersionId: sql`(select v.id from versions v where v.loop_id = ${loops.id})` })
      .where(
        inArray(
          loops.id,
          filled.map((l) => l.id),
        ),
      )
  }
  const trail = part.map(({ id, tag, service, area, kind }) => ({
    id,
    details: { tag, service, area, kind, list: name },
  }))
  await tx.execute(
    sql`select audit_append(${by}::uuid, 'loop-created', (e->>'id')::uuid, e->'details')
        from jsonb_array_elements(${JSON.stringify(trail)}::jsonb) e`,
  )
}
