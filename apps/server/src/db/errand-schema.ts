// Long work and its files, and what is told to others. None of it is a record.
import type { ErrandState, ErrandWish, OutMessage } from '@calm-loop/contract'
import {
  bigserial,
  customType,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  real,
  text,
  timestamp,
  uuid,
} from 'drizzle-orm/pg-core'
import { people } from './people-schema.ts'

const instant = (name: string) => timestamp(name, { withTimezone: true, precision: 3, mode: 'date' })
export const bytes = customType<{ data: Buffer }>({ dataType: () => 'bytea' })

export const errands = pgTable(
  'errands',
  {
    id: uuid('id').primaryKey(),
    wish: jsonb('wish').$type<ErrandWish>().notNull(),
    byId: uuid('by')
      .notNull()
      .references(() => people.id),
    at: instant('at').notNull(),
    state: text('state').$type<ErrandState>().notNull(),
    share: real('share').notNull().default(0),
    says: text('says').notNull().default(''),
    left: jsonb('left_out').$type<string[]>().notNull().default([]),
    file: integer('file'),
    /** Under which the application is reached, printed on papers. */
    address: text('address').notNull(),
    /** Which server does it, and when that was last heard of. */
    doer: text('doer'),
    beatAt: instant('beat_at'),
    tries: integer('tries').notNull().default(0),
    endedAt: instant('ended_at'),
  },
  (t) => [index('errands_by').on(t.byId, t.at), index('errands_state').on(t.state)],
)

/** Files as they are sent or made, in parts; `way` is `in` or `out`. */
export const errandParts = pgTable(
  'errand_parts',
  {
    /** Parts come before their errand is asked for. */
    errandId: uuid('errand_id').notNull(),
    way: text('way').$type<'in' | 'out'>().notNull(),
    part: integer('part').notNull(),
    byId: uuid('by').notNull(),
    at: instant('at').notNull(),
    data: bytes('data').notNull(),
  },
  (t) => [primaryKey({ columns: [t.errandId, t.way, t.part] })],
)

/** Discrete points whose changes the server records while no page is open: by whom, since when. */
export const recordedPoints = pgTable('recorded_points', {
  loopId: uuid('loop_id').primaryKey(),
  byId: uuid('by')
    .notNull()
    .references(() => people.id),
  at: instant('at').notNull(),
})

/** What others are told, until it is in the queue of each of them. */
export const outMessages = pgTable('out_messages', {
  seq: bigserial('seq', { mode: 'number' }).primaryKey(),
  body: jsonb('body').$type<OutMessage>().notNull(),
})
