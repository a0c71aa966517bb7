// What is on record of each electrode; added to, never changed.
import type { ElectrodeBody } from '@calm-loop/contract'
import { sql } from 'drizzle-orm'
import { index, integer, jsonb, pgTable, text, timestamp, unique, uniqueIndex, uuid } from 'drizzle-orm/pg-core'

export const electrodeLog = pgTable(
  'electrode_log',
  {
    id: uuid('id').primaryKey(),
    electrodeId: uuid('electrode_id').notNull(),
    seq: integer('seq').notNull(),
    what: text('what').$type<ElectrodeBody['what']>().notNull(),
    body: jsonb('body').$type<ElectrodeBody>().notNull(),
    byId: uuid('by').notNull(),
    at: timestamp('at', { withTimezone: true, precision: 3, mode: 'date' }).notNull(),
  },
  (t) => [
    unique('electrode_log_seq').on(t.electrodeId, t.seq),
    uniqueIndex('electrode_log_serial')
      .on(sql`lower(${t.body}->>'serial')`)
      .where(sql`what = 'entered'`),
    index('electrode_log_what').on(t.what),
  ],
)
