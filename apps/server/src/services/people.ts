// People who may sign in. Roles, passwords and who is disabled change through functions of the database's owner only.
import type { Duties, FirstPerson, ListedPerson, NewPerson, Person, PersonAccess } from '@calm-loop/contract'
import { asc, eq, isNotNull, sql } from 'drizzle-orm'
import { createHash, randomInt, timingSafeEqual } from 'node:crypto'
import { foldName } from '../auth/guessing.ts'
import { hashPassword, passwordMatches } from '../auth/passwords.ts'
import { endSessions, personOf } from '../auth/sessions.ts'
import type { Database, Queries } from '../db/database.ts'
import { people } from '../db/schema.ts'
import { HttpProblem, idReused, notFound } from '../http/problems.ts'
import { refuseUnseen, type Setter } from './setting-of.ts'
import { readDuties, readSetting } from './settings.ts'
import { inOneTurn } from './turns.ts'
import { sure } from '@calm-loop/core/sure'

const RESET_GOOD_ms = 24 * 3600 * 1000
/** Letters and digits that are not taken for one another when a code is read out. */
const CODE_LETTERS = 'ABCDEFGHJKMNPQRSTVWXYZ23456789'

/** A code of four times four characters, some 78 bits. */
export function makeCode(): string {
  const four = () => Array.from({ length: 4 }, () => CODE_LETTERS[randomInt(CODE_LETTERS.length)]).join('')
  return [four(), four(), four(), four()].join('-')
}
const foldCode = (code: string) => code.toUpperCase().replace(/[^A-Z0-9]/g, '')
export const hashCode = (code: string): string => createHash('sha256').update(foldCode(code)).digest('hex')
const sameHash = (a: string, b: string) => a.length === b.length && timingSafeEqual(Buffer.from(a), Buffer.from(b))

const find = async (db: Queries, id: string) => (await db.select().from(people).where(eq(people.id, id)))[0]

export async function listPeople(db: Queries): Promise<ListedPerson[]> {
  const rows = await db.select().from(people).where(isNotNull(people.signIn)).orderBy(asc(people.name))
  const now = new Date()
  return rows.map((row) => ({
    ...personOf(row),
    disabled: row.disabled,
    resetUntil: row.resetHash && row.resetUntil && row.resetUntil > now ? row.resetUntil.toISOString() : null,
  }))
}

/** The person with this sign-in and password, or a refusal that does not tell which of the two was wrong. */
export async function authenticate(db: Queries, signIn: string, password: string): Promise<Person> {
  const [row] = await db
    .select()
    .from(people)
    .where(eq(people.signIn, foldName(signIn)))
  const right = await passwordMatches(row?.passwordHash, password)
  if (!right || !row || row.disabled) throw new HttpProblem(401, 'wrong-sign-in', 'Sign-in name or password is wrong.')
  return personOf(row)
}

export async function confirmPassword(db: Queries, personId: string, password: string): Promise<void> {
  if (!(await passwordMatches((await find(db, personId))?.passwordHash, password)))
    throw new HttpProblem(401, 'wrong-password', 'That is not your password. Nothing was signed.')
}

/** Adds a person; saying the same again changes nothing. */
export async function addPerson(db: Queries, person: NewPerson, byId: string): Promise<Person> {
  const known = await find(db, person.id)
  if (known) {
    const same = known.signIn === person.signIn && known.name === person.name
    if (same && (await passwordMatches(known.passwordHash, person.password))) return personOf(known)
    throw idReused('Another person was entered under this id.')
  }
  const [taken] = await db.select().from(people).where(eq(people.signIn, person.signIn))
  if (taken)
    throw new HttpProblem(409, 'sign-in-taken', `The sign-in name “${person.signIn}” is taken. Choose another.`)
  const hash = await hashPassword(person.password)
  await db.execute(
    sql`select person_add(
      ${byId}::uuid, ${person.id}::uuid, ${person.name}, ${person.signIn}, ${hash},
      ${sql.param(person.roles)}::text[])`,
  )
  return personOf(sure(await find(db, person.id)))
}

/** Adds a person of the demo plant. Only the owner of the tables can: nobody is administrator yet. */
export async function addDemoPerson(owner: Queries, person: NewPerson): Promise<void> {
  const { password, ...rest } = person
  await owner.insert(people).values({ ...rest, passwordHash: await hashPassword(password), demo: true })
}

/** Whether a first user is still to be made. */
export async function isEmpty(db: Queries): Promise<boolean> {
  return !(await db.select({ id: people.id }).from(people).where(isNotNull(people.passwordHash)).limit(1)).length
}

/** Codes with which the first user may be made: one for each server that was started on the empty database. */
const SETUP_CODES = 'setup-codes'
const FIRST = 'first-person'

/** Makes a code for the first user and keeps its hash. */
export async function issueSetupCode(db: Database): Promise<string> {
  const code = makeCode()
  const known = (await readSetting<string[]>(db, SETUP_CODES)) ?? []
  const value = JSON.stringify([...known.slice(-9), hashCode(code)])
  await db.execute(
    sql`insert into settings (key, value) values (${SETUP_CODES}, ${value}::jsonb)
      on conflict (key) do update set value = excluded.value`,
  )
  return code
}

/**
 * Makes the first user, once, with the code that the start command printed; the same request with the same code again
 * changes nothing.
 */
export function addFirstPerson(db: Database, { code, ...person }: FirstPerson): Promise<Person> {
  return inOneTurn(db, 'first-person', async (tx) => {
    const given = hashCode(code)
    if (!(await isEmpty(tx))) {
      const first = await readSetting<{ personId: string; code: string }>(tx, FIRST)
      const known =
        first && first.personId === person.id && sameHash(first.code, given) ? await find(tx, person.id) : undefined
      const same =
        known && known.name === person.name && known.signIn === person.signIn && !known.disabled && known.stamp === 0
      if (same && (await passwordMatches(known.passwordHash, person.password))) return personOf(known)
      throw new HttpProblem(409, 'not-empty', 'This installation has users already. Sign in instead.')
    }
    const codes = (await readSetting<string[]>(tx, SETUP_CODES)) ?? []
    if (!codes.some((known) => sameHash(known, given)))
      throw new HttpProblem(401, 'wrong-code', 'That is not the set-up code that the start command printed.')
    if (await find(tx, person.id)) throw idReused('Another person was entered under this id.')
    await tx.execute(
      sql`select person_first(
        ${person.id}::uuid, ${person.name}, ${person.signIn}, ${await hashPassword(person.password)})`,
    )
    await tx.execute(
      sql`insert into settings (key, value)
        values (${FIRST}, ${JSON.stringify({ personId: person.id, code: given })}::jsonb)`,
    )
    return personOf(sure(await find(tx, person.id)))
  })
}

/** Changes roles, or disables; every session of that person ends at once. */
export async function setAccess(
  db: Database,
  personId: string,
  { roles, disabled }: PersonAccess,
  byId: string,
): Promise<void> {
  const known = await find(db, personId)
  if (!known?.signIn) throw notFound('This person')
  // The same again: nobody is signed out for it.
  if (known.disabled === disabled && [...known.roles].sort().join() === [...roles].sort().join()) return
  await inOneTurn(db, 'people', async (tx) => {
    await tx.execute(
      sql`select person_access(${byId}::uuid, ${personId}::uuid, ${sql.param(roles)}::text[], ${disabled})`,
    )
    await endSessions(tx, personId)
  })
}

export async function changePassword(db: Database, personId: string, current: string, next: string): Promise<void> {
  const known = await find(db, personId)
  if (!known?.passwordHash || !(await passwordMatches(known.passwordHash, current)))
    throw new HttpProblem(401, 'wrong-password', 'That is not your present password. Nothing was changed.')
  await db.execute(sql`select person_password(${personId}::uuid, ${known.passwordHash}, ${await hashPassword(next)})`)
  await endSessions(db, personId)
}

/** A one-time code for someone who has forgotten their password. */
export async function issueReset(
  db: Database,
  personId: string,
  byId: string,
): Promise<{ code: string; until: string }> {
  const code = makeCode()
  const until = new Date(Date.now() + RESET_GOOD_ms).toISOString()
  await db.execute(
    sql`select person_reset_code(${byId}::uuid, ${personId}::uuid, ${hashCode(code)}, ${until}::timestamptz)`,
  )
  return { code, until }
}

export async function useReset(db: Database, signIn: string, code: string, password: string): Promise<Person> {
  const [row] = await db
    .select()
    .from(people)
    .where(eq(people.signIn, foldName(signIn)))
  const hash = await hashPassword(password)
  await db.execute(sql`select person_reset(${row?.id ?? null}::uuid, ${hashCode(code)}, ${hash})`)
  await endSessions(db, sure(row).id)
  return personOf(sure(row))
}

/** @throws HttpProblem `setting-changed` where another set them since they were seen */
export const saveDuties = (db: Database, duties: Duties, { person, was }: Setter): Promise<Duties> =>
  inOneTurn(db, 'setting duties', async (tx) => {
    refuseUnseen({ was, current: await readDuties(tx), wanted: duties })
    await tx.execute(sql`select duties_set(${person.id}::uuid, ${JSON.stringify(duties)}::jsonb)`)
    return readDuties(tx)
  })
