// The kit: test equipment with its figures and its own due dates.
import type { Gear, GearUsed } from '@calm-loop/contract'
import { gearTaken } from '@calm-loop/contract/judging'
import { asc, inArray } from 'drizzle-orm'
import type { Queries } from '../db/database.ts'
import { gear } from '../db/schema.ts'
import { record } from './audit.ts'

/** A piece as the contract has it: what is not known is left out. */
export const gearOf = ({ certificate, calibrated, ranges, ...row }: typeof gear.$inferSelect): Gear => ({
  ...row,
  ...(certificate === null ? {} : { certificate }),
  ...(calibrated === null ? {} : { calibrated }),
  ...(ranges === null ? {} : { ranges }),
})

export async function listGear(db: Queries): Promise<Gear[]> {
  return (await db.select().from(gear).orderBy(asc(gear.name), asc(gear.serial))).map(gearOf)
}

/** Adds or changes a piece of gear; checks keep a copy of what they were done with. */
export async function saveGear(db: Queries, item: Gear, byId: string | null): Promise<Gear> {
  const { certificate = null, calibrated = null, ranges = null } = item
  const set = { ...item, certificate, calibrated, ranges }
  await db.insert(gear).values(set).onConflictDoUpdate({ target: gear.id, set })
  await record({ tx: db, personId: byId, action: 'gear-saved', loopId: null, details: { ...item } })
  return item
}

/** The equipment as it is used; what is past its due date only with a reason. @throws Refusal */
export async function gearUsed(
  tx: Queries,
  start: { readonly gearIds: readonly string[]; readonly expiredReason: string },
  today: string,
): Promise<GearUsed[]> {
  return gearTaken(await gearNamed(tx, start.gearIds), start, today)
}
/** Those of the kit that are named. */
export async function gearNamed(tx: Queries, ids: readonly string[]): Promise<Gear[]> {
  if (!ids.length) return []
  const rows = await tx
    .select()
    .from(gear)
    .where(inArray(gear.id, [...ids]))
  return rows.map(gearOf)
}
