// Calibrations of the kit, and their certificates as they came; added to, never changed.
import type { NewCalibration } from '@calm-loop/contract'
import { index, jsonb, pgTable, text, uuid } from 'drizzle-orm/pg-core'
import { bytes } from './errand-schema.ts'
import { instant, people } from './people-schema.ts'
import { gear } from './schema.ts'

const person = (name: string) =>
  uuid(name)
    .notNull()
    .references(() => people.id)

export const kitCalibrations = pgTable(
  'kit_calibrations',
  {
    id: uuid('id').primaryKey(),
    gearId: uuid('gear_id')
      .notNull()
      .references(() => gear.id),
    body: jsonb('body').$type<NewCalibration>().notNull(),
    byId: person('by'),
    at: instant('at').notNull(),
  },
  (t) => [index('kit_calibrations_gear').on(t.gearId)],
)
export const kitCertificates = pgTable('kit_certificates', {
  calibrationId: uuid('calibration_id')
    .primaryKey()
    .references(() => kitCalibrations.id),
  name: text('name').notNull(),
  /** SHA-256 of it. */
  digest: text('digest').notNull(),
  file: bytes('file').notNull(),
  byId: person('by'),
  at: instant('at').notNull(),
})
