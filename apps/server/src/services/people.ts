// People who may sign in.
import type { NewPerson, Person } from '@calm-loop/contract'
import { asc, eq, isNotNull } from 'drizzle-orm'
import { hashPassword, passwordMatches } from '../auth/passwords.ts'
import { personOf } from '../auth/sessions.ts'
import type { Database, Queries } from '../db/database.ts'
import { people } from '../db/schema.ts'
import { HttpProblem } from '../http/problems.ts'
import { record } from './audit.ts'
import { inOneTurn } from './turns.ts'

export async function listPeople(db: Queries): Promise<Person[]> {
  return (await db.select().from(people).where(isNotNull(people.signIn)).orderBy(asc(people.name))).map(personOf)
}

/** The person with this sign-in and password, or a refusal that does not tell which of the two was wrong. */
export async function authenticate(db: Queries, signIn: string, password: string): Promise<Person> {
  const [row] = await db.select().from(people).where(eq(people.signIn, signIn.trim().toLowerCase()))
  if (!(await passwordMatches(row?.passwordHash, password)))
    throw new HttpProblem(401, 'wrong-sign-in', 'Sign-in name or password is wrong.')
  return personOf(row!)
}

export async function confirmPassword(db: Queries, personId: string, password: string): Promise<void> {
  const [row] = await db.select().from(people).where(eq(people.id, personId))
  if (!(await passwordMatches(row?.passwordHash, password)))
    throw new HttpProblem(401, 'wrong-password', 'That is not your password. Nothing was signed.')
}

/** Adds a person; saying the same again changes nothing. */
export async function addPerson(db: Queries, person: NewPerson, byId: string | null, demo = false): Promise<Person> {
  const [known] = await db.select().from(people).where(eq(people.id, person.id))
  if (known) {
    if (known.signIn === person.signIn && known.name === person.name) return personOf(known)
    throw new HttpProblem(409, 'id-reused', 'Another person was entered under this id.')
  }
  const [taken] = await db.select().from(people).where(eq(people.signIn, person.signIn))
  if (taken)
    throw new HttpProblem(409, 'sign-in-taken', `The sign-in name “${person.signIn}” is taken. Choose another.`)
  const { password, ...rest } = person
  const [row] = await db
    .insert(people)
    .values({ ...rest, passwordHash: await hashPassword(password), demo })
    .returning()
  await record(db, byId, 'person-added', null, { personId: person.id, roles: person.roles })
  return personOf(row!)
}

/** Makes the first user, once. */
export function addFirstPerson(db: Database, person: NewPerson): Promise<Person> {
  return inOneTurn(db, 'first-person', async (tx) => {
    const [known] = await tx.select().from(people).where(isNotNull(people.passwordHash)).limit(1)
    if (known && known.id !== person.id)
      throw new HttpProblem(409, 'not-empty', 'This installation has users already. Sign in instead.')
    return addPerson(tx, person, person.id)
  })
}
