// What is asked for at loops, who has which piece of the kit, how people have put their days, and how they end.
import type { EndJob, HandOver, NewJob, RoundState, Shift } from '@calm-loop/contract'
import { date, index, integer, jsonb, pgTable, primaryKey, text, unique, uuid } from 'drizzle-orm/pg-core'
import { instant, people } from './people-schema.ts'
import { gear, loops } from './schema.ts'

const person = (name: string) =>
  uuid(name)
    .notNull()
    .references(() => people.id)

/** Append-only: what ends a job stands beside it. */
export const jobs = pgTable(
  'jobs',
  {
    id: uuid('id').primaryKey(),
    loopId: uuid('loop_id')
      .notNull()
      .references(() => loops.id),
    body: jsonb('body').$type<Omit<NewJob, 'loopId'>>().notNull(),
    byId: person('by'),
    at: instant('at').notNull(),
  },
  (t) => [index('jobs_loop').on(t.loopId)],
)
export const jobEnds = pgTable('job_ends', {
  jobId: uuid('job_id')
    .primaryKey()
    .references(() => jobs.id),
  body: jsonb('body').$type<EndJob>().notNull(),
  byId: person('by'),
  at: instant('at').notNull(),
})

/** Append-only: where each piece of the kit went; the last says where it is. */
export const kitMoves = pgTable(
  'kit_moves',
  {
    id: uuid('id').primaryKey(),
    gearId: uuid('gear_id')
      .notNull()
      .references(() => gear.id),
    seq: integer('seq').notNull(),
    /** Who has it; null where it was laid down. */
    holderId: uuid('holder').references(() => people.id),
    place: text('place').notNull(),
    byId: person('by'),
    at: instant('at').notNull(),
  },
  (t) => [unique('kit_moves_seq').on(t.gearId, t.seq)],
)

/** Not a record: how a person has put a day. */
export const rounds = pgTable(
  'rounds',
  {
    personId: person('person_id'),
    day: date('day', { mode: 'string' }).notNull(),
    body: jsonb('body').$type<RoundState>().notNull(),
    at: instant('at').notNull(),
  },
  (t) => [primaryKey({ columns: [t.personId, t.day] })],
)

/** Append-only: a shift as it was handed over, and who has read it. */
export const handovers = pgTable(
  'handovers',
  {
    id: uuid('id').primaryKey(),
    body: jsonb('body').$type<HandOver>().notNull(),
    shift: jsonb('shift').$type<Shift>().notNull(),
    byId: person('by'),
    at: instant('at').notNull(),
  },
  (t) => [index('handovers_at').on(t.at)],
)
export const handoverReads = pgTable(
  'handover_reads',
  {
    handoverId: uuid('handover_id')
      .notNull()
      .references(() => handovers.id),
    byId: person('by'),
    at: instant('at').notNull(),
  },
  (t) => [primaryKey({ columns: [t.handoverId, t.byId] })],
)

/** Not a record: on which day the check that is due then is to be done, or by whom. */
export const planPins = pgTable('plan_pins', {
  loopId: uuid('loop_id')
    .primaryKey()
    .references(() => loops.id),
  due: date('due', { mode: 'string' }).notNull(),
  day: date('day', { mode: 'string' }),
  personId: uuid('person_id').references(() => people.id),
  byId: person('by'),
  at: instant('at').notNull(),
})
/** Addresses under which calendars are read; of each only its SHA-256. */
export const calendarFeeds = pgTable('calendar_feeds', {
  personId: uuid('person_id')
    .primaryKey()
    .references(() => people.id),
  of: text('of').$type<'mine' | 'all'>().notNull(),
  hash: text('hash').notNull().unique(),
  at: instant('at').notNull(),
})
