// The weeks ahead: what people have settled of them, and the calendars that show them elsewhere.
import type { Person } from '@calm-loop/contract'
import { USUAL_WEEK, WeekTerms, type FeedState, type Pin } from '@calm-loop/contract/weeks'
import { and, eq, sql } from 'drizzle-orm'
import { createHash, randomBytes } from 'node:crypto'
import type { Queries } from '../db/database.ts'
import { calendarFeeds, planPins } from '../db/round-schema.ts'
import { loops, people } from '../db/schema.ts'
import { HttpProblem, notFound } from '../http/problems.ts'
import { record } from './audit.ts'
import { settingOf } from './setting-of.ts'

export const { read: readWeekTerms, save: saveWeekTerms } = settingOf('weeks', WeekTerms, USUAL_WEEK)

/** What is settled of the checks that are due now: of one that was done since, nothing is left. */
export const listPins = (db: Queries): Promise<Pin[]> =>
  db
    .select({ loopId: planPins.loopId, day: planPins.day, personId: planPins.personId })
    .from(planPins)
    .innerJoin(loops, and(eq(loops.id, planPins.loopId), eq(loops.nextDue, planPins.due)))

/** Who does checks, by name. */
export const whoChecks = (db: Queries): Promise<{ id: string; name: string }[]> =>
  db
    .select({ id: people.id, name: people.name })
    .from(people)
    .where(sql`'technician' = any(${people.roles}) and not ${people.disabled} and ${people.signIn} is not null`)
    .orderBy(people.name, people.id)

/** Settles a visit, or leaves it to the plan. @throws HttpProblem `not-found`, `unknown-reference`, `invalid-input` */
export async function pinVisit(tx: Queries, pin: Pin, person: Person): Promise<Pin> {
  const [loop] = await tx.select({ due: loops.nextDue }).from(loops).where(eq(loops.id, pin.loopId))
  if (!loop) throw notFound('This loop')
  if (pin.personId !== null && !(await whoChecks(tx)).some((p) => p.id === pin.personId))
    throw new HttpProblem(422, 'unknown-reference', 'Nobody of that id does checks here.')
  if (pin.day === null && pin.personId === null) await tx.delete(planPins).where(eq(planPins.loopId, pin.loopId))
  else {
    if (loop.due === null)
      throw new HttpProblem(422, 'invalid-input', 'No check of this loop is due: nothing is to settle.')
    const set = { ...pin, due: loop.due, byId: person.id, at: new Date() }
    await tx.insert(planPins).values(set).onConflictDoUpdate({ target: planPins.loopId, set })
  }
  const details = { day: pin.day, personId: pin.personId }
  await record({ tx, personId: person.id, action: 'visit-settled', loopId: pin.loopId, details })
  return pin
}

const hashOf = (token: string) => createHash('sha256').update(token).digest('hex')
/** 32 bytes by chance: nobody guesses one. */
const TOKEN_BYTES = 32

export async function feedState(db: Queries, person: Person): Promise<FeedState> {
  const [row] = await db.select().from(calendarFeeds).where(eq(calendarFeeds.personId, person.id))
  return row ? { of: row.of, since: row.at.toISOString() } : null
}
/** A new address; one that was made before ends. */
export async function makeFeed(tx: Queries, of: 'mine' | 'all', person: Person): Promise<{ path: string }> {
  const token = randomBytes(TOKEN_BYTES).toString('base64url')
  const set = { personId: person.id, of, hash: hashOf(token), at: new Date() }
  await tx.insert(calendarFeeds).values(set).onConflictDoUpdate({ target: calendarFeeds.personId, set })
  await record({ tx, personId: person.id, action: 'calendar-opened', loopId: null, details: { of } })
  return { path: `/api/calendar/feeds/${token}.ics` }
}
export async function endFeed(tx: Queries, person: Person): Promise<void> {
  await tx.delete(calendarFeeds).where(eq(calendarFeeds.personId, person.id))
  await record({ tx, personId: person.id, action: 'calendar-closed', loopId: null, details: {} })
}
/** Whose calendar is read under an address; nobody’s who may no longer sign in. @throws HttpProblem `not-found` */
export async function feedOf(
  db: Queries,
  token: string,
): Promise<{ person: { id: string; name: string }; of: 'mine' | 'all' }> {
  const [row] = await db
    .select({ of: calendarFeeds.of, id: people.id, name: people.name, disabled: people.disabled })
    .from(calendarFeeds)
    .innerJoin(people, eq(people.id, calendarFeeds.personId))
    .where(eq(calendarFeeds.hash, hashOf(token)))
  if (!row || row.disabled) throw notFound('This calendar')
  return { person: { id: row.id, name: row.name }, of: row.of }
}
