// The kit: test equipment with its own due dates.
import type { Gear } from '@calm-loop/contract'
import { asc } from 'drizzle-orm'
import type { Queries } from '../db/database.ts'
import { gear } from '../db/schema.ts'
import { record } from './audit.ts'

export async function listGear(db: Queries): Promise<Gear[]> {
  return db.select().from(gear).orderBy(asc(gear.name), asc(gear.serial))
}

/** Adds or changes a piece of gear; checks keep a copy of what they were done with. */
export async function saveGear(db: Queries, item: Gear, byId: string | null): Promise<Gear> {
  await db.insert(gear).values(item).onConflictDoUpdate({ target: gear.id, set: item })
  await record({ tx: db, personId: byId, action: 'gear-saved', loopId: null, details: { ...item } })
  return item
}
