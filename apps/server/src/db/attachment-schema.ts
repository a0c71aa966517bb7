// Photographs and papers of loops as they came, and what was said of each; added to, never changed.
import type { AttachmentNote } from '@calm-loop/contract'
import { index, integer, jsonb, pgTable, text, uuid } from 'drizzle-orm/pg-core'
import { bytes } from './errand-schema.ts'
import { instant, people } from './people-schema.ts'
import { loops } from './schema.ts'

const person = (name: string) =>
  uuid(name)
    .notNull()
    .references(() => people.id)

export const attachments = pgTable(
  'attachments',
  {
    id: uuid('id').primaryKey(),
    loopId: uuid('loop_id')
      .notNull()
      .references(() => loops.id),
    name: text('name').notNull(),
    media: text('media').notNull(),
    /** SHA-256 of it. */
    digest: text('digest').notNull(),
    size: integer('size').notNull(),
    width: integer('width'),
    height: integer('height'),
    file: bytes('file').notNull(),
    small: bytes('small'),
    note: jsonb('note').$type<AttachmentNote>().notNull(),
    byId: person('by'),
    at: instant('at').notNull(),
  },
  (t) => [index('attachments_loop').on(t.loopId)],
)
export const attachmentNotes = pgTable(
  'attachment_notes',
  {
    id: uuid('id').primaryKey(),
    attachmentId: uuid('attachment_id')
      .notNull()
      .references(() => attachments.id),
    note: jsonb('note').$type<AttachmentNote>().notNull(),
    byId: person('by'),
    at: instant('at').notNull(),
  },
  (t) => [index('attachment_notes_of').on(t.attachmentId, t.at)],
)
