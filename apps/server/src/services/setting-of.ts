// Settings of the site that people with a duty change: each with who set it.
import type { Person } from '@calm-loop/contract'
import type { z } from 'zod'
import type { Database, Queries } from '../db/database.ts'
import { record } from './audit.ts'
import { overwriteSetting, readSetting } from './settings.ts'

/** A setting of one key: read as it stands, or the usual one; kept with who set it. */
export function settingOf<T extends z.ZodType<Record<string, unknown>>>(key: string, schema: T, usual: z.output<T>) {
  return {
    async read(db: Queries): Promise<z.output<T>> {
      const kept = schema.safeParse(await readSetting(db, key))
      return kept.success ? kept.data : usual
    },
    async save(db: Database, value: z.output<T>, person: Person): Promise<z.output<T>> {
      await overwriteSetting(db, key, value)
      await record({ tx: db, personId: person.id, action: key, loopId: null, details: value })
      return value
    },
  }
}
