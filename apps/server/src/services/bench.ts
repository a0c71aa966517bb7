// How the simulated transmitter of a loop stands, kept so that it outlasts a restart as a real one would.
import { eq } from 'drizzle-orm'
import type { TransmitterState } from '@calm-loop/core/device'
import type { Database } from '../db/database.ts'
import { benches } from '../db/schema.ts'

export async function readBench(db: Database, loopId: string): Promise<TransmitterState | undefined> {
  const [row] = await db.select().from(benches).where(eq(benches.loopId, loopId))
  return row?.state
}

export async function saveBench(db: Database, loopId: string, state: TransmitterState): Promise<void> {
  await db.insert(benches).values({ loopId, state }).onConflictDoUpdate({ target: benches.loopId, set: { state } })
}
