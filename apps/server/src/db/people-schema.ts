// Tables of people and their sessions, and what the site has set.
import type { Role } from '@calm-loop/contract'
import { boolean, index, integer, jsonb, pgTable, text, timestamp, uuid } from 'drizzle-orm/pg-core'

export const instant = (name: string) => timestamp(name, { precision: 3, withTimezone: true, mode: 'date' })

export const settings = pgTable('settings', { key: text('key').primaryKey(), value: jsonb('value').notNull() })

export const people = pgTable('people', {
  id: uuid('id').primaryKey(),
  name: text('name').notNull(),
  /** Null for people known only from an imported folder. */
  signIn: text('sign_in').unique(),
  passwordHash: text('password_hash'),
  roles: text('roles').array().$type<Role[]>().notNull(),
  demo: boolean('demo').notNull().default(false),
  disabled: boolean('disabled').notNull().default(false),
  /** Counts what ends a person's sessions: a new password, other roles, being disabled. */
  stamp: integer('stamp').notNull().default(0),
  /** SHA-256 of a one-time code with which a new password may be set, and until when. */
  resetHash: text('reset_hash'),
  resetUntil: instant('reset_until'),
})

/** Shape of connect-pg-simple. */
export const sessions = pgTable(
  'sessions',
  {
    sid: text('sid').primaryKey(),
    sess: jsonb('sess').notNull(),
    expire: timestamp('expire', { precision: 6 }).notNull(),
  },
  (t) => [index('sessions_expire').on(t.expire)],
)

/** Wrong passwords of late, by what was guessed at. */
export const guesses = pgTable('guesses', {
  key: text('key').primaryKey(),
  wrong: integer('wrong').notNull(),
  at: instant('at').notNull(),
})
