// Discrete points whose changes are recorded by the server, whether or not a page is open. A recording goes on over a
// server that is lost or started again; over the time between nothing is counted.
import { gapsText, type AddEdges, type Person, type Recorded } from '@calm-loop/contract'
import { newRecording, type EdgeTrain, type Recording, type SeenState } from '@calm-loop/core/discrete'
import { switchKindOf } from '@calm-loop/core/kinds'
import { Refusal } from '@calm-loop/core/refusal'
import { eq } from 'drizzle-orm'
import type { Logger } from 'pino'
import { v7 as uuid } from 'uuid'
import type { Database } from '../db/database.ts'
import { loops, people, recordedPoints } from '../db/schema.ts'
import { HttpProblem, notFound } from '../http/problems.ts'
import type { Links } from '../link/links.ts'
import { errorWords } from '../log.ts'
import type { Workers } from '../workers/pool.ts'
import { record } from './audit.ts'
import { addEdges } from './counting.ts'
import { announce } from './events.ts'
import { inOneTurn } from './turns.ts'

/** Pieces are kept so often, so that little is lost with a server. */
const PIECE_ms = 15_000
const LOOK_EVERY_ms = 5000

type By = Pick<Person, 'id' | 'name'>
/** One that this server records. */
interface Running {
  readonly loopId: string
  readonly by: By
  readonly recording: Recording
  /** Not kept yet, in their order; each keeps its id until it is. */
  readonly pending: { readonly id: string; readonly train: EdgeTrain }[]
  keeping: Promise<void> | undefined
  leave: (() => void) | undefined
  problem: string
}

export interface Recorders {
  set(loopId: string, on: boolean, person: Person): Promise<Recorded>
  now(loopId: string): Promise<Recorded>
  /** Goes on with what is recorded, here and wherever another server was lost. */
  resume(): Promise<void>
  /** Keeps what was seen so far: what it is seen by is about to end. */
  settle(loopId: string): Promise<void>
  /** Called with all that is seen of a recorded point. */
  onSeen(listener: (loopId: string, seen: SeenState) => void): void
  close(): Promise<void>
}

export function recordersFor({
  db,
  links,
  workers,
  log,
}: {
  readonly db: Database
  readonly links: Links
  readonly workers: Workers
  readonly log: Logger
}): Recorders {
  const running = new Map<string, Running>()
  const listeners: ((loopId: string, seen: SeenState) => void)[] = []

  function take(r: Running, train: EdgeTrain | undefined): void {
    if (train) r.pending.push({ id: uuid(), train })
  }
  /** Keeps what was taken; what cannot be kept now is tried again with the next. */
  function keep(r: Running): Promise<void> {
    r.keeping ??= (async () => {
      for (let next = r.pending[0]; next; next = r.pending[0]) {
        const { start_ms: startMs, startState, gaps_ms } = next.train
        const train: AddEdges = { startMs, startState, gaps: gapsText(gaps_ms), origin: 'live', note: 'recorded' }
        await addEdges({ db, workers, loopId: r.loopId, id: next.id, train, person: r.by }).catch((error: unknown) => {
          // What the record will not take is told, and does not hold up what follows.
          if (!(error instanceof Refusal || (error instanceof HttpProblem && error.status < 500))) throw error
          r.problem = error.message
        })
        r.pending.shift()
      }
    })().finally(() => (r.keeping = undefined))
    return r.keeping
  }
  const unsaid = (r: Running) => (error: unknown) =>
    log.warn({ err: errorWords(error), loop: r.loopId }, 'changes wait to be kept')
  /** Nothing is seen of it any more: nobody is left to believe that it stands as it stood. */
  function lose(r: Running): void {
    take(r, r.recording.lose())
    listeners.forEach((hear) => hear(r.loopId, { at_ms: Date.now(), state: undefined, edges: [] }))
  }
  function rest(r: Running): void {
    r.leave?.()
    lose(r)
    running.delete(r.loopId)
  }

  /** Listens where nobody does yet. @throws what `links.of` throws */
  async function listen(r: Running): Promise<void> {
    if (r.leave) return
    const { driver } = await links.of(r.loopId)
    if (r.leave || running.get(r.loopId) !== r) return
    r.problem = ''
    r.leave = driver.subscribe({
      reading({ at_ms = Date.now(), knots, edges = [] }) {
        const value = knots['controller']
        const seen: SeenState = { at_ms, state: value === undefined ? undefined : value >= 0.5, edges }
        take(r, r.recording.see(seen))
        listeners.forEach((hear) => hear(r.loopId, seen))
      },
      closed() {
        r.leave = undefined
        lose(r)
      },
    })
  }
  /** What has become of one whose device does not come to hand. */
  async function away(r: Running, error: unknown): Promise<void> {
    r.problem = error instanceof Error ? error.message : String(error)
    if (error instanceof HttpProblem && error.code === 'device-elsewhere') return rest(r)
    // A bench that is gone does not come back as it was.
    if (error instanceof Refusal && error.code === 'bench-not-connected') {
      rest(r)
      await keep(r)
      await db.delete(recordedPoints).where(eq(recordedPoints.loopId, r.loopId))
    }
  }
  async function goOn(loopId: string, by: By): Promise<Running> {
    const known = running.get(loopId)
    const r: Running = known ?? {
      ...{ loopId, by, recording: newRecording(), pending: [] },
      ...{ keeping: undefined, leave: undefined, problem: '' },
    }
    running.set(loopId, r)
    await listen(r).catch((error: unknown) => away(r, error))
    return r
  }

  const stands = async (loopId: string) => {
    const [row] = await db
      .select({ id: people.id, name: people.name, at: recordedPoints.at })
      .from(recordedPoints)
      .innerJoin(people, eq(people.id, recordedPoints.byId))
      .where(eq(recordedPoints.loopId, loopId))
    return row
  }
  async function now(loopId: string): Promise<Recorded> {
    const row = await stands(loopId)
    if (!row) return { recorded: null }
    const r = running.get(loopId)
    const [changes, problem] = [r?.recording.changes ?? 0, r?.problem ?? '']
    return { recorded: { by: { id: row.id, name: row.name }, at: row.at.toISOString(), changes, problem } }
  }

  async function resume(): Promise<void> {
    const rows = await db
      .select({ loopId: recordedPoints.loopId, id: people.id, name: people.name })
      .from(recordedPoints)
      .innerJoin(people, eq(people.id, recordedPoints.byId))
    for (const r of [...running.values()])
      if (!rows.some((row) => row.loopId === r.loopId)) {
        rest(r)
        await keep(r)
      }
    for (const { loopId, id, name } of rows)
      if ((await links.elsewhere(loopId)) === undefined) await goOn(loopId, { id, name })
  }
  const failed = (error: unknown) => log.warn({ err: errorWords(error) }, 'recorded points are not looked for')
  const looking = setInterval(() => void resume().catch(failed), LOOK_EVERY_ms)
  looking.unref()
  const keeping = setInterval(() => {
    for (const r of running.values()) {
      take(r, r.recording.take())
      void keep(r).catch(unsaid(r))
    }
  }, PIECE_ms)
  keeping.unref()

  return {
    async set(loopId, on, person) {
      const [loop] = await db.select({ kind: loops.kind }).from(loops).where(eq(loops.id, loopId))
      if (!loop) throw notFound('This loop')
      switchKindOf(loop.kind)
      // Before it is on record that it is recorded: something must be there to be seen.
      if (on) await links.of(loopId)
      const changed = await inOneTurn(db, `loop ${loopId}`, async (tx) => {
        const rows = on
          ? await tx
              .insert(recordedPoints)
              .values({ loopId, byId: person.id, at: new Date() })
              .onConflictDoNothing()
              .returning()
          : await tx.delete(recordedPoints).where(eq(recordedPoints.loopId, loopId)).returning()
        if (!rows.length) return false
        const action = on ? 'recording-begun' : 'recording-ended'
        await record({ tx, personId: person.id, action, loopId, details: {} })
        await announce(tx, { loopId, what: 'count', id: loopId, by: person.name })
        return true
      })
      if (changed && on) await goOn(loopId, person)
      const r = running.get(loopId)
      if (!on && r) {
        rest(r)
        await keep(r)
      }
      return now(loopId)
    },
    now,
    async settle(loopId) {
      const r = running.get(loopId)
      if (!r) return
      take(r, r.recording.take())
      await keep(r).catch(unsaid(r))
    },
    resume,
    onSeen: (listener) => void listeners.push(listener),
    async close() {
      clearInterval(looking)
      clearInterval(keeping)
      for (const r of [...running.values()]) {
        rest(r)
        await keep(r).catch(unsaid(r))
      }
    },
  }
}
