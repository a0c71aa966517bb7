// The kit: test equipment with its figures and its own due dates.
import type { Gear, GearUsed } from '@calm-loop/contract'
import { Refusal } from '@calm-loop/core/refusal'
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

/** The equipment as it is used; what is past its due date only with a reason. */
export async function gearUsed(
  tx: Queries,
  start: { readonly gearIds: readonly string[]; readonly expiredReason: string },
  today: string,
): Promise<GearUsed[]> {
  const used = start.gearIds.length
    ? await tx
        .select()
        .from(gear)
        .where(inArray(gear.id, [...start.gearIds]))
    : []
  if (used.length !== new Set(start.gearIds).size)
    throw new Refusal('unknown-gear', 'Some of the test equipment named is not in the kit.')
  const expiredReason = start.expiredReason.trim()
  const expired = used.filter((g) => g.due < today)
  if (expired.length && !expiredReason)
    throw new Refusal(
      'gear-expired',
      `Past its due date: ${expired.map((g) => `${g.name} ${g.serial} (${g.due})`).join(', ')}. Choose other ` +
        'equipment, or say why it is used; the certificate carries both.',
    )
  return used.map((row) => {
    const { measures: _, range: _range, ...piece } = gearOf(row)
    return { ...piece, ...(piece.due < today ? { expiredReason } : {}) }
  })
}
