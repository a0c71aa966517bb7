// The tables. What the application's role may do with each is settled by the migrations: records are append-only, and
// people, keys and the audit chain change through functions of the owner only (drizzle/0011_guards.sql).
import type {
  AddCountEntry,
  AddSiteRow,
  AddWireEntry,
  Check,
  CheckTerms,
  Kept,
  LoopRoundView,
  Origins,
  PointEntries,
  ReadEntry,
  Seal,
  Signature,
  WorkBody,
} from '@calm-loop/contract'
import type { TransmitterState } from '@calm-loop/core/device'
import { sql, type SQL } from 'drizzle-orm'
import {
  bigint,
  bigserial,
  boolean,
  date,
  doublePrecision,
  index,
  integer,
  jsonb,
  pgTable,
  text,
  unique,
  uniqueIndex,
  uuid,
  type AnyPgColumn,
  smallint,
} from 'drizzle-orm/pg-core'
import { instant, people } from './people-schema.ts'

const person = (name: string) =>
  uuid(name)
    .notNull()
    .references(() => people.id)

export const loops = pgTable(
  'loops',
  {
    id: uuid('id').primaryKey(),
    tag: text('tag').notNull().unique(),
    service: text('service').notNull(),
    area: text('area').notNull(),
    kind: text('kind').notNull(),
    createdAt: instant('created_at').notNull(),
    headVersionId: uuid('head_version_id').references((): AnyPgColumn => versions.id),
    /** What is searched by words: folded once here, as folding each row at each search costs five times the search. */
    search: text('search')
      .notNull()
      .generatedAlwaysAs((): SQL => sql`lower(${loops.tag} || ' ' || ${loops.service} || ' ' || ${loops.area})`),
    /** What the register shows, kept in step by the services that change it. */
    state: text('state').notNull(),
    nextDue: date('next_due', { mode: 'string' }),
    lastErrorPct: doublePrecision('last_error_pct'),
    tolerancePct: doublePrecision('tolerance_pct'),
    /** What its check takes; null where that was not worked out yet. */
    round: jsonb('round').$type<LoopRoundView>(),
  },
  (t) => [
    index('loops_area_tag').on(t.area, t.tag),
    index('loops_kind_tag').on(t.kind, t.tag),
    index('loops_state_tag').on(t.state, t.tag),
    index('loops_due').on(t.nextDue),
    index('loops_search').using('gin', sql`${t.search} gin_trgm_ops`),
  ],
)

export const versions = pgTable(
  'versions',
  {
    id: uuid('id').primaryKey(),
    loopId: uuid('loop_id')
      .notNull()
      .references((): AnyPgColumn => loops.id),
    number: integer('number').notNull(),
    parentId: uuid('parent_id'),
    revision: integer('revision').notNull(),
    entries: jsonb('entries').$type<PointEntries>().notNull(),
    /** Version of the kind that they were entered under; null: the first. */
    kindVersion: smallint('kind_version'),
    authorId: person('author_id'),
    startedAt: instant('started_at').notNull(),
    savedAt: instant('saved_at').notNull(),
    reason: text('reason').notNull(),
    sealedAt: instant('sealed_at'),
  },
  (t) => [unique('versions_number').on(t.loopId, t.number)],
)

export const gear = pgTable('gear', {
  id: uuid('id').primaryKey(),
  name: text('name').notNull(),
  serial: text('serial').notNull(),
  measures: text('measures').notNull(),
  range: text('range').notNull(),
  uncertainty: text('uncertainty').notNull(),
  due: date('due', { mode: 'string' }).notNull(),
  certificate: text('certificate'),
  calibrated: date('calibrated', { mode: 'string' }),
  ranges: jsonb('ranges').$type<NonNullable<Check['gear'][number]['ranges']>>(),
})

export const checks = pgTable(
  'checks',
  {
    id: uuid('id').primaryKey(),
    loopId: uuid('loop_id')
      .notNull()
      .references(() => loops.id),
    versionId: uuid('version_id')
      .notNull()
      .references(() => versions.id),
    phase: text('phase').$type<Check['phase']>().notNull(),
    /** Rule that it is judged by; null: that of release 0.1. */
    rule: smallint('rule').$type<NonNullable<Check['rule']>>(),
    /** Begun at the bench; null for what is older than that question. */
    practice: boolean('practice'),
    terms: jsonb('terms').$type<CheckTerms>(),
    tolerancePct: doublePrecision('tolerance_pct').notNull(),
    range: jsonb('range').$type<Check['range']>().notNull(),
    points: jsonb('points').$type<Check['points']>().notNull(),
    gear: jsonb('gear').$type<Check['gear']>().notNull(),
    ambient: text('ambient').notNull(),
    startedById: person('started_by'),
    startedAt: instant('started_at').notNull(),
    /** When and by whom it was brought in from elsewhere; null for a check of this installation. */
    imported: jsonb('imported').$type<{ at: string; byId: string | null }>(),
  },
  (t) => [
    index('checks_loop').on(t.loopId, t.startedAt),
    // What a piece of the kit was used for.
    index('checks_gear').using('gin', sql`${t.gear} jsonb_path_ops`),
  ],
)

export const gates = pgTable(
  'gates',
  {
    id: uuid('id').primaryKey(),
    checkId: uuid('check_id')
      .notNull()
      .references(() => checks.id),
    gate: text('gate').$type<Check['gates'][number]['gate']>().notNull(),
    words: text('words').notNull(),
    told: text('told').notNull(),
    byId: person('by'),
    at: instant('at').notNull(),
  },
  (t) => [unique('gates_once').on(t.checkId, t.gate)],
)

export const readings = pgTable(
  'readings',
  {
    id: uuid('id').primaryKey(),
    checkId: uuid('check_id')
      .notNull()
      .references(() => checks.id),
    seq: integer('seq').notNull(),
    pointIndex: integer('point_index').notNull(),
    percent: doublePrecision('percent').notNull(),
    direction: text('direction').$type<'up' | 'down'>().notNull(),
    applied: jsonb('applied').$type<ReadEntry>().notNull(),
    reads: jsonb('reads').$type<Record<string, ReadEntry>>().notNull(),
    source: text('source').$type<'live' | 'typed'>().notNull(),
    supersedes: uuid('supersedes'),
    reason: text('reason').notNull(),
    byId: person('by'),
    takenAt: instant('taken_at').notNull(),
    savedAt: instant('saved_at').notNull(),
    /** When the server's link gave the live figures; null for a typed reading. */
    sampledAt: instant('sampled_at'),
    /** Where each figure came from; null where that was not recorded. */
    origins: jsonb('origins').$type<Origins>(),
  },
  // In the order in which they come: what was done since a time is found without going through all.
  (t) => [unique('readings_seq').on(t.checkId, t.seq), index('readings_saved').using('brin', t.savedAt)],
)

export const signatures = pgTable(
  'signatures',
  {
    id: uuid('id').primaryKey(),
    checkId: uuid('check_id')
      .notNull()
      .references(() => checks.id),
    role: text('role').$type<Signature['role']>().notNull(),
    byId: person('by'),
    /** The name as it stood when it was signed. */
    name: text('name').notNull(),
    at: instant('at').notNull(),
    statement: text('statement').notNull(),
    digest: text('digest').notNull(),
  },
  (t) => [
    // A check is taken over by as many installations as it travels through; all else is signed once.
    uniqueIndex('signatures_once')
      .on(t.checkId, t.role)
      .where(sql`role <> 'accepted'`),
    index('signatures_digest').on(t.digest),
  ],
)

/** What vouches for a signature: signed with an installation's key, and chained to the seal before it. */
export const seals = pgTable(
  'seals',
  {
    /** Under a check, or an entry of the log of work that signs a run. */
    signatureId: uuid('signature_id').primaryKey(),
    /** Of this installation's chain; false for one that came with an import. */
    own: boolean('own').notNull(),
    body: jsonb('body').$type<Seal>().notNull(),
    seq: integer('seq').notNull(),
    hash: text('hash').notNull(),
  },
  (t) => [
    uniqueIndex('seals_chain')
      .on(t.seq)
      .where(sql`own`),
    index('seals_hash').on(t.hash),
  ],
)

/** Public keys: this installation's own, and those of others that an administrator trusts. */
export const sealKeys = pgTable('seal_keys', {
  id: text('id').primaryKey(),
  name: text('name').notNull(),
  publicKey: text('public_key').notNull(),
  own: boolean('own').notNull(),
  trusted: boolean('trusted').notNull(),
  since: instant('since').notNull(),
})

/** Gates and readings of the wiring work. */
export const wireLog = pgTable(
  'wire_log',
  {
    id: uuid('id').primaryKey(),
    loopId: uuid('loop_id')
      .notNull()
      .references(() => loops.id),
    seq: integer('seq').notNull(),
    body: jsonb('body').$type<Kept<AddWireEntry>>().notNull(),
    byId: person('by'),
    at: instant('at').notNull(),
  },
  (t) => [unique('wire_log_seq').on(t.loopId, t.seq)],
)

/** Changes of a discrete point, packed; trains of one loop never overlap. */
export const edgeTrains = pgTable(
  'edge_trains',
  {
    id: uuid('id').primaryKey(),
    loopId: uuid('loop_id')
      .notNull()
      .references(() => loops.id),
    startMs: bigint('start_ms', { mode: 'number' }).notNull(),
    endMs: bigint('end_ms', { mode: 'number' }).notNull(),
    startState: boolean('start_state').notNull(),
    changes: integer('changes').notNull(),
    gaps: text('gaps').notNull(),
    origin: text('origin').$type<'live' | 'file'>().notNull(),
    practice: boolean('practice'),
    note: text('note').notNull(),
    byId: person('by'),
    at: instant('at').notNull(),
  },
  (t) => [index('edge_trains_loop').on(t.loopId, t.startMs)],
)

/** Stops and rejected pieces of a discrete point. */
export const countLog = pgTable(
  'count_log',
  {
    id: uuid('id').primaryKey(),
    loopId: uuid('loop_id')
      .notNull()
      .references(() => loops.id),
    seq: integer('seq').notNull(),
    body: jsonb('body').$type<Kept<AddCountEntry>>().notNull(),
    byId: person('by'),
    at: instant('at').notNull(),
  },
  (t) => [unique('count_log_seq').on(t.loopId, t.seq)],
)

/** Work at a point: steps, zeroes, health checks, surveys. */
export const workLog = pgTable(
  'work_log',
  {
    id: uuid('id').primaryKey(),
    loopId: uuid('loop_id')
      .notNull()
      .references(() => loops.id),
    seq: integer('seq').notNull(),
    what: text('what').$type<WorkBody['what']>().notNull(),
    body: jsonb('body').$type<Kept<WorkBody>>().notNull(),
    byId: person('by'),
    at: instant('at').notNull(),
  },
  (t) => [
    unique('work_log_seq').on(t.loopId, t.seq),
    index('work_log_what').on(t.loopId, t.what),
    index('work_log_at').using('brin', t.at),
    // Fingerprints of verifications, for whoever verifies one.
    index('work_log_digest')
      .on(sql`(${t.body}->>'digest')`)
      .where(sql`what = 'run-signed'`),
  ],
)

/**
 * Simulated transmitters at the bench, each as it stood when it was last told something. Not a record: it plays the
 * device.
 */
export const benches = pgTable('benches', {
  loopId: uuid('loop_id')
    .primaryKey()
    .references(() => loops.id),
  state: jsonb('state').$type<TransmitterState>().notNull(),
})

/** Loops whose bench is connected: by whom, since when. Not a record; the audit trail has both ends. */
export const benchLinks = pgTable('bench_links', {
  loopId: uuid('loop_id')
    .primaryKey()
    .references(() => loops.id),
  byId: person('by'),
  at: instant('at').notNull(),
})

/** Surveys that this installation logs. Not a record: once started again, the server knows what to go on with. */
export const surveysRunning = pgTable('surveys_running', {
  survey: uuid('survey')
    .primaryKey()
    .references(() => workLog.id),
  loopId: uuid('loop_id')
    .notNull()
    .references(() => loops.id),
})

/** The site's own rows of the tables. */
export const siteRows = pgTable('site_rows', {
  id: uuid('id').primaryKey(),
  body: jsonb('body').$type<AddSiteRow>().notNull(),
  byId: person('by'),
  at: instant('at').notNull(),
})

export const audit = pgTable(
  'audit',
  {
    id: bigserial('id', { mode: 'number' }).primaryKey(),
    at: instant('at').notNull().defaultNow(),
    personId: uuid('person_id'),
    action: text('action').notNull(),
    loopId: uuid('loop_id'),
    details: jsonb('details').notNull(),
    /** Place in the chain, the hash of the entry before, and this one's: set when the transaction commits. */
    chain: integer('chain'),
    previous: text('previous'),
    hash: text('hash'),
  },
  (t) => [index('audit_loop').on(t.loopId, t.id), uniqueIndex('audit_chain').on(t.chain)],
)

/** Which server holds the link to a loop's device, until when, and where that server is reached by the others. */
export const linkLeases = pgTable('link_leases', {
  loopId: uuid('loop_id')
    .primaryKey()
    .references(() => loops.id),
  holder: text('holder').notNull(),
  address: text('address').notNull(),
  until: instant('until').notNull(),
})

export * from './electrode-schema.ts'
export { guesses, people, sessions, settings } from './people-schema.ts'
export * from './port-schema.ts'
export * from './errand-schema.ts'
