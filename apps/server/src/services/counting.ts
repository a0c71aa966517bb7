// What a discrete point counted: changes in trains that never overlap, and the log of stops and rejected pieces.
import { type AddCountEntry, type AddEdges, type CountEntry, type Person, type TrainHead } from '@calm-loop/contract'
import { switchKindOf } from '@calm-loop/core/kinds'
import { Refusal } from '@calm-loop/core/refusal'
import { and, asc, eq, gte, isNull, lte, or } from 'drizzle-orm'
import type { Database, Queries } from '../db/database.ts'
import { countLog, edgeTrains, loops } from '../db/schema.ts'
import { HttpProblem, idReused, notFound } from '../http/problems.ts'
import { record } from './audit.ts'
import { announce } from './events.ts'
import { countEntryOf, namesOf, TRAIN_HEAD, trainHeadOf } from './folder.ts'
import type { Workers } from '../workers/pool.ts'
import { inOneTurn, type LogWrite } from './turns.ts'
import { benchOf } from './bench.ts'
import { isSame } from './worlds.ts'
import { sure } from '@calm-loop/core/sure'

async function refuseOtherKind(tx: Queries, loopId: string): Promise<void> {
  const [loop] = await tx.select().from(loops).where(eq(loops.id, loopId))
  if (!loop) throw notFound('This loop')
  switchKindOf(loop.kind)
}

/** Puts changes on record; the same again changes nothing. @throws HttpProblem `edges-overlap` */
export async function addEdges({
  db,
  workers,
  loopId,
  id,
  train,
  person,
}: {
  readonly db: Database
  readonly workers: Workers
  readonly loopId: string
  readonly id: string
  readonly train: AddEdges
  readonly person: Pick<Person, 'id' | 'name'>
}): Promise<TrainHead> {
  const row = await workers.run('trainRow', train)
  return inOneTurn(db, `loop ${loopId}`, async (tx) => {
    await refuseOtherKind(tx, loopId)
    const names = await namesOf(tx)
    const [known] = await tx.select().from(edgeTrains).where(eq(edgeTrains.id, id))
    if (known) {
      const { startMs, startState, gaps } = known
      const same =
        known.loopId === loopId && startMs === train.startMs && startState === train.startState && gaps === train.gaps
      if (same) return trainHeadOf(known, names)
      throw idReused()
    }
    const practice = !!(await benchOf(tx, loopId))
    if (train.origin === 'live' && !practice)
      throw new Refusal('not-of-the-bench', 'The bench is not connected: nothing was counted live here.')
    const [across] = await tx
      .select(TRAIN_HEAD)
      .from(edgeTrains)
      .where(
        and(
          eq(edgeTrains.loopId, loopId),
          practice ? eq(edgeTrains.practice, true) : or(isNull(edgeTrains.practice), eq(edgeTrains.practice, false)),
          lte(edgeTrains.startMs, row.endMs),
          gte(edgeTrains.endMs, row.startMs),
        ),
      )
      .limit(1)
    if (across)
      throw new HttpProblem(
        409,
        'edges-overlap',
        `Changes from ${new Date(across.startMs).toISOString()} to ${new Date(across.endMs).toISOString()} ` +
          'are already on record; a time is not counted twice. Nothing was stored.',
      )
    const [added] = await tx
      .insert(edgeTrains)
      .values({ ...row, practice, id, loopId, byId: person.id, at: new Date() })
      .returning()
    await record({
      tx,
      personId: person.id,
      action: 'edges-added',
      loopId,
      details: { id, changes: row.changes, origin: train.origin },
    })
    await announce(tx, { loopId, what: 'count', id, by: person.name })
    return trainHeadOf(sure(added), names)
  })
}

/** Adds to the count log; the same again changes nothing. */
export function addCountEntry({ db, loopId, id, entry, person }: LogWrite<AddCountEntry>): Promise<CountEntry> {
  return inOneTurn(db, `loop ${loopId}`, async (tx) => {
    await refuseOtherKind(tx, loopId)
    const names = await namesOf(tx)
    const [known] = await tx.select().from(countLog).where(eq(countLog.id, id))
    if (known) {
      if (known.loopId === loopId && isSame(known.body, entry)) return countEntryOf(known, names)
      throw idReused()
    }
    const log = await tx.select().from(countLog).where(eq(countLog.loopId, loopId)).orderBy(asc(countLog.seq))
    if (entry.what === 'withdrawn' && !log.some((e) => e.id === entry.entry && e.body.what !== 'withdrawn'))
      throw new Refusal('no-such-entry', 'What is to be withdrawn is not in this log.')
    const [row] = await tx
      .insert(countLog)
      .values({
        id,
        loopId,
        seq: log.length + 1,
        body: { ...entry, practice: !!(await benchOf(tx, loopId)) },
        byId: person.id,
        at: new Date(),
      })
      .returning()
    await announce(tx, { loopId, what: 'count', id, by: person.name })
    return countEntryOf(sure(row), names)
  })
}
