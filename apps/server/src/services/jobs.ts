// Jobs: what is asked for at loops. They are put on record once, and what ends one is put beside it.
import type { EndJob, Job, NewJob, Person } from '@calm-loop/contract'
import { canonicalJson } from '@calm-loop/contract'
import { asc, eq, isNull } from 'drizzle-orm'
import type { Queries } from '../db/database.ts'
import { jobEnds, jobs } from '../db/round-schema.ts'
import { loops } from '../db/schema.ts'
import { HttpProblem, idReused, notFound } from '../http/problems.ts'
import { record } from './audit.ts'
import { namesOf } from './folder.ts'
import { sure } from '@calm-loop/core/sure'

interface Row {
  readonly jobs: typeof jobs.$inferSelect
  readonly job_ends: typeof jobEnds.$inferSelect | null
  readonly loops: Pick<typeof loops.$inferSelect, 'tag'>
}
function jobOf(row: Row, names: Awaited<ReturnType<typeof namesOf>>): Job {
  const { id, loopId, body, byId, at } = row.jobs
  const author = (who: string) => ({ id: who, name: names.get(who) ?? '' })
  const end = row.job_ends
  return {
    ...body,
    id,
    loopId,
    tag: row.loops.tag,
    made: at.toISOString(),
    madeBy: author(byId),
    ended: end && { ...end.body, by: author(end.byId), at: end.at.toISOString() },
  }
}
const rowsOf = (db: Queries) =>
  db
    .select({ jobs, job_ends: jobEnds, loops: { tag: loops.tag } })
    .from(jobs)
    .innerJoin(loops, eq(loops.id, jobs.loopId))
    .leftJoin(jobEnds, eq(jobEnds.jobId, jobs.id))
    .$dynamic()

/** By the day they are due, those without one last; then as they were made. */
const firstDue = (a: Job, b: Job): number =>
  (a.by ?? '9999').localeCompare(b.by ?? '9999') || a.made.localeCompare(b.made) || a.id.localeCompare(b.id)

/** Open jobs; with a loop, all of it. */
export async function listJobs(db: Queries, loopId?: string): Promise<Job[]> {
  const of = loopId === undefined ? isNull(jobEnds.jobId) : eq(jobs.loopId, loopId)
  const [rows, names] = [await rowsOf(db).where(of).orderBy(asc(jobs.at)), await namesOf(db)]
  return rows.map((row) => jobOf(row, names)).sort(firstDue)
}

async function oneJob(db: Queries, id: string): Promise<Job | undefined> {
  const [row] = await rowsOf(db).where(eq(jobs.id, id))
  return row && jobOf(row, await namesOf(db))
}

/** The same again changes nothing. @throws HttpProblem `id-reused`, `not-found` */
export async function makeJob(tx: Queries, id: string, job: NewJob, person: Person): Promise<Job> {
  const { loopId, ...body } = job
  const [loop] = await tx.select({ id: loops.id }).from(loops).where(eq(loops.id, loopId))
  if (!loop) throw notFound('This loop')
  const made = await tx
    .insert(jobs)
    .values({ id, loopId, body, byId: person.id, at: new Date() })
    .onConflictDoNothing()
    .returning()
  const known = sure(await oneJob(tx, id))
  if (made.length) await record({ tx, personId: person.id, action: 'job-made', loopId, details: { id, ...body } })
  else if (known.loopId !== loopId || canonicalJson(body) !== canonicalJson(bodyOf(known)))
    throw idReused('Another job was made under this id.')
  return known
}
const bodyOf = ({ what, why, by, from, origin, works }: Job) => ({ what, why, by, from, origin, works })

/** @throws HttpProblem `job-ended` where somebody ended it otherwise */
export async function endJob(tx: Queries, id: string, end: EndJob, person: Person): Promise<Job> {
  const job = await oneJob(tx, id)
  if (!job) throw notFound('This job')
  if (job.ended) {
    const { by, how, words } = job.ended
    if (by.id === person.id && how === end.how && words === end.words) return job
    const was = how === 'done' ? 'said that it is done' : 'withdrew it'
    throw new HttpProblem(409, 'job-ended', `${by.name} ${was} before: ${words || 'without a word more'}.`, {
      current: job,
    })
  }
  await tx.insert(jobEnds).values({ jobId: id, body: end, byId: person.id, at: new Date() })
  await record({ tx, personId: person.id, action: 'job-ended', loopId: job.loopId, details: { id, ...end } })
  return sure(await oneJob(tx, id))
}
