// Errands: asked for by a person, done by whichever server is free. One whose server is lost is taken up by another.
import { ERRAND_DAYS, MOST_PARTS, PART_BYTES, type Errand, type ErrandWish, type Person } from '@calm-loop/contract'
import { Refusal } from '@calm-loop/core/refusal'
import { and, asc, desc, eq, lt, sql } from 'drizzle-orm'
import type { Logger } from 'pino'
import { v7 as uuid } from 'uuid'
import { BackupProblem } from '../backup/manifest.ts'
import type { Database } from '../db/database.ts'
import { errandParts, errands, people } from '../db/schema.ts'
import { HttpProblem, isDatabaseAway, notFound } from '../http/problems.ts'
import { errorWords } from '../log.ts'
import { inOneTurn } from '../services/turns.ts'
import { isSame } from '../services/worlds.ts'
import type { Queue, QueueName } from './queue.ts'

/** One that is not heard of for so long is taken up by another server. */
const LOST_s = 15
const [BEAT_ms, SWEEP_ms] = [3000, 5000]
const MOST_TRIES = 3
const SHOWN = 50

/** By the database’s clock: those of several servers may differ. */
const NOW = sql`now()`

type Row = typeof errands.$inferSelect

/** What doing one goes through; `tell` throws where it was cancelled or another server has it. */
export interface Doing {
  readonly errand: Row
  readonly person: Pick<Person, 'id' | 'name'>
  readonly tell: (share: number, says: string) => Promise<void>
  readonly leaveOut: (why: string) => void
  /** Adds to the file that it makes. */
  readonly write: (bytes: Uint8Array) => Promise<void>
  readonly read: () => Promise<Buffer>
}
/** Does it, and says what it came to. */
export type Doer = (doing: Doing) => Promise<string>

class NotMine extends Error {}

/** Why it failed. What is not in our words, as of the database, holds what is nobody’s business here. */
export const wordsOf = (error: unknown): string =>
  error instanceof Refusal || error instanceof HttpProblem || error instanceof BackupProblem
    ? error.message
    : 'Something broke on the server; its log says what, under the number of this piece of work.'

export interface Errands {
  list(person: Person): Promise<Errand[]>
  begin(id: string, wish: ErrandWish, by: { person: Person; address: string }): Promise<Errand>
  takePart(id: string, part: number, bytes: Uint8Array, person: Person): Promise<void>
  cancel(id: string, person: Person): Promise<Errand>
  /** Parts of its file. @throws HttpProblem 404 */
  file(id: string, person: Person): Promise<{ name: string; parts: AsyncIterable<Buffer> }>
  close(): Promise<void>
}

const PART = 1_000_000
const queueOf = ({ what }: ErrandWish): QueueName => (what === 'backup' ? 'backups' : 'errands')

export async function errandsFor({
  db,
  queue,
  doers,
  log,
}: {
  readonly db: Database
  readonly queue: Queue
  readonly doers: Readonly<Partial<Record<ErrandWish['what'], Doer>>>
  readonly log: Logger
}): Promise<Errands> {
  const me = uuid()
  const mine = (id: string) => and(eq(errands.id, id), eq(errands.doer, me), eq(errands.state, 'running'))

  async function seen(where: ReturnType<typeof eq> | undefined): Promise<Errand[]> {
    const rows = await db
      .select({ errand: errands, name: people.name })
      .from(errands)
      .innerJoin(people, eq(people.id, errands.byId))
      .where(where)
      .orderBy(desc(errands.at))
      .limit(SHOWN)
    return rows.map(({ errand: e, name }) => ({
      ...{ id: e.id, wish: e.wish, by: { id: e.byId, name }, at: e.at.toISOString(), state: e.state },
      ...{ share: e.share, says: e.says, left: e.left, file: e.file, endedAt: e.endedAt?.toISOString() ?? null },
    }))
  }
  /** One that this person may see. @throws HttpProblem 404 */
  async function oneOf(id: string, person: Person): Promise<Errand> {
    const [found] = await seen(eq(errands.id, id))
    if (!found || (found.by.id !== person.id && !person.roles.includes('administrator')))
      throw notFound('This piece of work')
    return found
  }

  const end = (id: string, state: 'done' | 'failed', change: Partial<Row>) =>
    db
      .update(errands)
      .set({ ...change, state, endedAt: new Date() })
      .where(mine(id))
  function doing(errand: Row, name: string): { parts: Doing; written: () => Promise<number> } {
    const left: string[] = []
    let [held, bytes, part]: [Buffer[], number, number] = [[], 0, 0]
    const size = () => held.reduce((n, b) => n + b.length, 0)
    /** @throws NotMine where it was cancelled, or another server has it: that writes the file now */
    async function beatWith(change: Partial<Row>): Promise<void> {
      const still = await db
        .update(errands)
        .set({ ...change, beatAt: NOW })
        .where(mine(errand.id))
        .returning({ id: errands.id })
      if (!still.length) throw new NotMine()
    }
    async function flush(): Promise<void> {
      const data = Buffer.concat(held)
      held = []
      if (!data.length) return
      await beatWith({})
      bytes += data.length
      await db
        .insert(errandParts)
        .values({ errandId: errand.id, way: 'out', part: part++, byId: errand.byId, at: new Date(), data })
    }
    return {
      parts: {
        errand,
        person: { id: errand.byId, name },
        tell: (share, says) => beatWith({ share, says, left }),
        leaveOut: (why) => void left.push(why),
        async write(more) {
          held.push(Buffer.from(more))
          if (size() >= PART) await flush()
        },
        async read() {
          const rows = await db
            .select({ data: errandParts.data })
            .from(errandParts)
            .where(and(eq(errandParts.errandId, errand.id), eq(errandParts.way, 'in')))
            .orderBy(asc(errandParts.part))
          return Buffer.concat(rows.map((r) => r.data))
        },
      },
      async written() {
        await flush()
        return bytes
      },
    }
  }

  async function run({ id }: { id: string }): Promise<void> {
    const [errand] = await db
      .update(errands)
      .set({ state: 'running', doer: me, beatAt: NOW, tries: sql`${errands.tries} + 1`, left: [] })
      .where(and(eq(errands.id, id), eq(errands.state, 'waiting')))
      .returning()
    if (!errand) return
    const does = doers[errand.wish.what]
    if (!does || errand.tries > MOST_TRIES) {
      const says = does ? 'Tried three times, and never finished.' : 'No server can do this here.'
      await end(id, 'failed', { says })
      return
    }
    const beat = setInterval(
      () =>
        void db
          .update(errands)
          .set({ beatAt: NOW })
          .where(mine(id))
          .catch(() => undefined),
      BEAT_ms,
    )
    try {
      // What another server had begun to write is made anew.
      await db.delete(errandParts).where(and(eq(errandParts.errandId, id), eq(errandParts.way, 'out')))
      const [by] = await db.select({ name: people.name }).from(people).where(eq(people.id, errand.byId))
      const { parts, written } = doing(errand, by?.name ?? '')
      const says = await does(parts)
      await parts.tell(1, says)
      await end(id, 'done', { file: (await written()) || null })
      await db.delete(errandParts).where(and(eq(errandParts.errandId, id), eq(errandParts.way, 'in')))
    } catch (error) {
      if (error instanceof NotMine) return
      // Nothing can be said now: whoever sees that nobody beats takes it up.
      if (isDatabaseAway(error)) throw error
      log.warn({ err: errorWords(error), errand: id }, 'an errand failed')
      await end(id, 'failed', { says: wordsOf(error) })
    } finally {
      clearInterval(beat)
    }
  }

  /** Those of a server that is lost wait again; old ones go with their files. */
  async function sweep(): Promise<void> {
    await inOneTurn(db, 'lost errands', async (tx, client) => {
      const lost = await tx
        .update(errands)
        .set({ state: 'waiting', doer: null })
        .where(and(eq(errands.state, 'running'), lt(errands.beatAt, sql`now() - make_interval(secs => ${LOST_s})`)))
        .returning({ id: errands.id, wish: errands.wish })
      for (const { id, wish } of lost) await queue.send(queueOf(wish), { id }, client)
    })
    const before = new Date(Date.now() - ERRAND_DAYS * 86_400_000)
    await db.delete(errandParts).where(lt(errandParts.at, before))
    await db.update(errands).set({ file: null }).where(lt(errands.endedAt, before))
  }
  const sweeping = setInterval(
    () => void sweep().catch((error: unknown) => log.warn({ err: errorWords(error) }, 'errands are not looked for')),
    SWEEP_ms,
  )
  sweeping.unref()
  const ways: QueueName[] = doers.backup ? ['errands', 'backups'] : ['errands']
  const rests = await Promise.all(ways.map((way) => queue.work<{ id: string }>(way, run)))

  return {
    list: (person) => seen(person.roles.includes('administrator') ? undefined : eq(errands.byId, person.id)),
    async begin(id, wish, { person, address }) {
      const [known] = await db.select().from(errands).where(eq(errands.id, id))
      if (known) {
        if (known.byId === person.id && isSame(known.wish, wish)) return oneOf(id, person)
        throw new HttpProblem(409, 'id-reused', 'Something else was asked for under this id.')
      }
      if ('parts' in wish) await refuseHalf(id, wish.parts, person)
      // On record and in the queue, or neither.
      await inOneTurn(db, `errand ${id}`, async (tx, client) => {
        await tx.insert(errands).values({ id, wish, byId: person.id, at: new Date(), state: 'waiting', address })
        await queue.send(queueOf(wish), { id }, client)
      })
      return oneOf(id, person)
    },
    async takePart(errandId, part, bytes, person) {
      if (!bytes.length || bytes.length > PART_BYTES || part >= MOST_PARTS)
        throw new HttpProblem(422, 'invalid-input', `A part has 1 to ${PART_BYTES} bytes.`)
      await db
        .insert(errandParts)
        .values({ errandId, way: 'in', part, byId: person.id, at: new Date(), data: Buffer.from(bytes) })
        .onConflictDoNothing()
    },
    async cancel(id, person) {
      await oneOf(id, person)
      await db
        .update(errands)
        .set({ state: 'cancelled', endedAt: new Date(), says: `Ended by ${person.name}.` })
        .where(and(eq(errands.id, id), sql`${errands.state} in ('waiting', 'running')`))
      return oneOf(id, person)
    },
    async file(id, person) {
      const errand = await oneOf(id, person)
      if (errand.state !== 'done' || !errand.file) throw notFound('This file')
      const of = and(eq(errandParts.errandId, id), eq(errandParts.way, 'out'))
      async function* parts(): AsyncGenerator<Buffer> {
        for (let part = 0; ; part++) {
          const [row] = await db
            .select({ data: errandParts.data })
            .from(errandParts)
            .where(and(of, eq(errandParts.part, part)))
          if (!row) return
          yield row.data
        }
      }
      const what = errand.wish.what === 'papers' ? errand.wish.papers : errand.wish.what
      return { name: `${what} ${errand.at.slice(0, 10)}.zip`, parts: parts() }
    },
    async close() {
      clearInterval(sweeping)
      await Promise.all(rests.map((rest) => rest()))
    },
  }

  /** @throws HttpProblem where a part is missing, or is somebody else’s */
  async function refuseHalf(id: string, wanted: number, person: Person): Promise<void> {
    const there = await db
      .select({ part: errandParts.part, byId: errandParts.byId })
      .from(errandParts)
      .where(and(eq(errandParts.errandId, id), eq(errandParts.way, 'in')))
    const whole = there.length === wanted && there.every((p) => p.byId === person.id && p.part < wanted)
    if (!whole) throw new HttpProblem(409, 'file-incomplete', 'Not all parts of this file have arrived: send it again.')
  }
}
