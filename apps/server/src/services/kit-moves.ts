// Where each piece of the kit is: taken by a person, or laid down at a place.
import type { KitMove, MoveKit, Person } from '@calm-loop/contract'
import { desc, eq } from 'drizzle-orm'
import type { Queries } from '../db/database.ts'
import { kitMoves } from '../db/round-schema.ts'
import { gear } from '../db/schema.ts'
import { HttpProblem, notFound } from '../http/problems.ts'
import { record } from './audit.ts'
import { namesOf } from './folder.ts'
import { sure } from '@calm-loop/core/sure'

type Row = typeof kitMoves.$inferSelect
function moveOf({ id, holderId, place, byId, at }: Row, names: Awaited<ReturnType<typeof namesOf>>): KitMove {
  const author = (who: string) => ({ id: who, name: names.get(who) ?? '' })
  return { id, holder: holderId === null ? null : author(holderId), place, by: author(byId), at: at.toISOString() }
}

/** The last move of each piece that was ever moved. */
export async function whereKitIs(db: Queries): Promise<Map<string, KitMove>> {
  const rows = await db.selectDistinctOn([kitMoves.gearId]).from(kitMoves).orderBy(kitMoves.gearId, desc(kitMoves.seq))
  const names = await namesOf(db)
  return new Map(rows.map((row) => [row.gearId, moveOf(row, names)]))
}

/** Each move of a piece, the last first. */
export async function movesOf(db: Queries, gearId: string): Promise<KitMove[]> {
  const rows = await db.select().from(kitMoves).where(eq(kitMoves.gearId, gearId)).orderBy(desc(kitMoves.seq))
  const names = await namesOf(db)
  return rows.map((row) => moveOf(row, names))
}

const wordsOf = ({ holder, place, at }: KitMove) => {
  const when = at.slice(0, 16).replace('T', ' ')
  return holder
    ? `${holder.name} took it at ${when} UTC${place ? `, to ${place}` : ''}`
    : `it was laid down at ${when} UTC${place ? `: ${place}` : ''}`
}

/**
 * Takes a piece, or lays it down; the same again changes nothing.
 * @throws HttpProblem `kit-moved` where another moved it since
 */
export async function moveKit(
  tx: Queries,
  ids: { readonly gearId: string; readonly moveId: string },
  { taken, place, after }: MoveKit,
  person: Person,
): Promise<KitMove> {
  const [piece] = await tx.select().from(gear).where(eq(gear.id, ids.gearId))
  if (!piece) throw notFound('This piece of kit')
  const rows = await tx.select().from(kitMoves).where(eq(kitMoves.gearId, ids.gearId)).orderBy(desc(kitMoves.seq))
  const names = await namesOf(tx)
  const known = rows.find((r) => r.id === ids.moveId)
  if (known) return moveOf(known, names)
  const last = rows[0]
  if ((last?.id ?? null) !== after) {
    const current = last ? moveOf(last, names) : null
    throw new HttpProblem(
      409,
      'kit-moved',
      `${piece.name} ${piece.serial}: ${current ? wordsOf(current) : 'it was not moved before'}.`,
      { current },
    )
  }
  const values = {
    ...{ id: ids.moveId, gearId: ids.gearId, seq: (last?.seq ?? 0) + 1, place },
    ...{ holderId: taken ? person.id : null, byId: person.id, at: new Date() },
  }
  const [row] = await tx.insert(kitMoves).values(values).returning()
  const action = taken ? 'kit-taken' : 'kit-laid-down'
  await record({ tx, personId: person.id, action, loopId: null, details: { gear: piece.name, ...ids, place } })
  return moveOf(sure(row), names)
}
