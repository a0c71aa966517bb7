// People, sessions and who may do what.
import { z } from 'zod'
import { filledLine, Id } from './primitives.ts'

export const Role = z.enum(['technician', 'reviewer'])
export type Role = z.infer<typeof Role>

export const Person = z.strictObject({
  id: Id,
  name: filledLine(120),
  signIn: z.string().nullable(),
  roles: z.array(Role),
})
export type Person = z.infer<typeof Person>

const signInName = z
  .string()
  .trim()
  .toLowerCase()
  .regex(/^[a-z0-9][a-z0-9._-]{1,39}$/, '2 to 40 small letters, digits, points, dashes')
const password = z.string().min(10, 'at least 10 characters').max(200)

export const SignIn = z.strictObject({ signIn: z.string().max(80), password: z.string().max(200) })

/** First user of an empty installation, or a further one added by a reviewer. */
export const NewPerson = z.strictObject({
  id: Id,
  name: filledLine(120),
  signIn: signInName,
  password,
  roles: z.array(Role).min(1),
})
export type NewPerson = z.infer<typeof NewPerson>

export const Session = z.strictObject({
  person: Person.nullable(),
  /** Sent back in the header `x-csrf-token` with every write. */
  csrfToken: z.string(),
  /** Nobody has been entered yet: the first visit makes the first user. */
  empty: z.boolean(),
  /** People of the demo plant, with the demo's published password; absent elsewhere. */
  demo: z.strictObject({ people: z.array(Person), password: z.string() }).nullable(),
})
export type Session = z.infer<typeof Session>
