// The simulated bench of a loop: whether it is connected, and how its transmitter stands, kept so that it outlasts a
// restart as a real one would.
import type { BenchConnected, Person } from '@calm-loop/contract'
import { Refusal } from '@calm-loop/core/refusal'
import { eq } from 'drizzle-orm'
import type { TransmitterState } from '@calm-loop/core/device'
import type { Database, Queries } from '../db/database.ts'
import { benches, benchLinks, loops, people } from '../db/schema.ts'
import { notFound } from '../http/problems.ts'
import { record } from './audit.ts'
import { announce } from './events.ts'
import { inOneTurn } from './turns.ts'

export async function readBench(db: Database, loopId: string): Promise<TransmitterState | undefined> {
  const [row] = await db.select().from(benches).where(eq(benches.loopId, loopId))
  return row?.state
}

export async function saveBench(db: Database, loopId: string, state: TransmitterState): Promise<void> {
  await db.insert(benches).values({ loopId, state }).onConflictDoUpdate({ target: benches.loopId, set: { state } })
}

/** By whom and since when the bench is connected; null while nothing is simulated. */
export async function benchOf(db: Queries, loopId: string): Promise<BenchConnected | null> {
  const [row] = await db
    .select({ id: people.id, name: people.name, at: benchLinks.at })
    .from(benchLinks)
    .innerJoin(people, eq(people.id, benchLinks.byId))
    .where(eq(benchLinks.loopId, loopId))
  return row ? { by: { id: row.id, name: row.name }, at: row.at.toISOString() } : null
}

/** Why nothing answers in a loop. */
export const noDeviceHere = () =>
  new Refusal(
    'bench-not-connected',
    'No device answers here: type what the real one shows, say under Link which device is this loop’s, or connect ' +
      'the bench to practise.',
  )

/** Connects the bench or disconnects it; the same again changes nothing. */
export function connectBench(
  db: Database,
  loopId: string,
  connected: boolean,
  person: Person,
): Promise<BenchConnected | null> {
  return inOneTurn(db, `loop ${loopId}`, async (tx) => {
    const [loop] = await tx.select().from(loops).where(eq(loops.id, loopId))
    if (!loop) throw notFound('This loop')
    const now = await benchOf(tx, loopId)
    if (!!now === connected) return now
    if (connected) await tx.insert(benchLinks).values({ loopId, byId: person.id, at: new Date() })
    else await tx.delete(benchLinks).where(eq(benchLinks.loopId, loopId))
    const action = connected ? 'bench-connected' : 'bench-disconnected'
    await record({ tx, personId: person.id, action, loopId, details: {} })
    await announce(tx, { loopId, what: 'bench', id: loopId, by: person.name })
    return benchOf(tx, loopId)
  })
}
