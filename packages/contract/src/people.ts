// People, sessions and who may do what.
import { z } from 'zod'
import { PASSWORD_LENGTH } from './limits.ts'
import { filledLine, Id, Instant, line } from './primitives.ts'

export const Role = z.enum(['technician', 'reviewer', 'administrator'])
export type Role = z.infer<typeof Role>
export const ROLES = Role.options

/** What the site gives to a role of its own choice. */
export const Duty = z.enum(['kit', 'limits', 'rows', 'fitness'])
export type Duty = z.infer<typeof Duty>
export const Duties = z.strictObject({
  kit: Role,
  limits: Role,
  rows: Role,
  /** To accept another interval, and to say that a loop left out of tolerance may be used. */
  fitness: Role.default('reviewer'),
})
export type Duties = z.infer<typeof Duties>

export const Person = z.strictObject({
  id: Id,
  name: filledLine(120),
  signIn: z.string().nullable(),
  roles: z.array(Role),
})
export type Person = z.infer<typeof Person>

/** A person as the list of people shows them. */
export const ListedPerson = Person.extend({
  /** May not sign in any more; what was signed stays. */
  disabled: z.boolean(),
  /** A one-time code is out with which a new password may be set. */
  resetUntil: Instant.nullable(),
})
export type ListedPerson = z.infer<typeof ListedPerson>

export const signInName = z
  .string()
  .trim()
  .toLowerCase()
  .regex(/^[a-z0-9][a-z0-9._-]{1,39}$/, '2 to 40 small letters, digits, points, dashes')
const password = z
  .string()
  .min(PASSWORD_LENGTH.least, `at least ${PASSWORD_LENGTH.least} characters`)
  .max(PASSWORD_LENGTH.most)

export const SignIn = z.strictObject({ signIn: z.string().max(80), password: z.string().max(200) })

const roles = z
  .array(Role)
  .min(1)
  .refine((list) => new Set(list).size === list.length, 'each role once')

/** A further person, added by an administrator. */
export const NewPerson = z.strictObject({ id: Id, name: filledLine(120), signIn: signInName, password, roles })
export type NewPerson = z.infer<typeof NewPerson>

/** The first user of an empty installation; the code is printed by the start command. */
export const FirstPerson = NewPerson.omit({ roles: true }).extend({ code: filledLine(80) })
export type FirstPerson = z.infer<typeof FirstPerson>

export const PersonAccess = z.strictObject({ roles, disabled: z.boolean() })
export type PersonAccess = z.infer<typeof PersonAccess>
export const ChangePassword = z.strictObject({ current: z.string().max(200), next: password })
export type ChangePassword = z.infer<typeof ChangePassword>
/** A one-time code for a new password; told once. */
export const ResetCode = z.strictObject({ code: z.string(), until: Instant })
export const UseResetCode = z.strictObject({ signIn: z.string().max(80), code: z.string().max(80), password })
export type UseResetCode = z.infer<typeof UseResetCode>

/** A session that is open, without what opens it. */
export const OpenSession = z.strictObject({
  id: z.string().max(64),
  since: Instant.nullable(),
  until: Instant,
  address: line(80),
  browser: line(300),
  /** The one that asks. */
  here: z.boolean(),
})
export type OpenSession = z.infer<typeof OpenSession>

export const Session = z.strictObject({
  person: Person.nullable(),
  /** Sent back in the header `x-csrf-token` with every write; empty while nobody is signed in. */
  csrfToken: z.string(),
  /** Nobody has been entered yet: the first visit makes the first user. */
  empty: z.boolean(),
  /** Who has which of the site's duties. */
  duties: Duties,
  /** What the page shows decimals with, where a person has chosen none; the point where it is not said. */
  decimalMark: z.enum(['.', ',']).exactOptional(),
  /** Id of this installation, as labels carry it; absent where nobody is signed in. */
  installation: z.uuid().exactOptional(),
  /** People of the demo plant, with the demo's published password; absent elsewhere. */
  demo: z.strictObject({ people: z.array(Person), password: z.string() }).nullable(),
})
export type Session = z.infer<typeof Session>

/** An entry of the audit trail. */
export const AuditEntry = z.strictObject({
  id: z.number().int(),
  at: Instant,
  by: z.strictObject({ id: Id, name: z.string() }).nullable(),
  action: z.string(),
  loop: z.strictObject({ id: Id, tag: z.string() }).nullable(),
  details: z.string(),
  /** Place in the chain. */
  place: z.number().int(),
  /** SHA-256 over the entry and the hash of the one before. */
  hash: z.string(),
  /** The hash is that of the entry as it stands, and follows from the one before. */
  whole: z.boolean(),
})
export type AuditEntry = z.infer<typeof AuditEntry>
export const AuditQuery = z.object({
  person: Id.optional(),
  action: z.string().max(60).optional(),
  /** Part of a tag. */
  tag: z.string().max(40).optional(),
  from: z.iso.date().optional(),
  to: z.iso.date().optional(),
  /** Entry before which the page ends. */
  before: z.coerce.number().int().min(1).max(2_000_000_000).optional(),
})
export type AuditQuery = z.infer<typeof AuditQuery>
export const AuditPage = z.strictObject({
  entries: z.array(AuditEntry),
  next: z.number().int().nullable(),
  actions: z.array(z.string()),
  /** How many entries the chain has, and the first that does not fit into it; null when all do. */
  chain: z.strictObject({ length: z.number().int(), brokenAt: z.number().int().nullable() }),
})
export type AuditPage = z.infer<typeof AuditPage>
