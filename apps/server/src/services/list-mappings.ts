// How lists of instruments are read at this site, known again by their heads: the next of the kind is read alike, by
// whoever brings it in.
import { canonicalJson, ListMapping, type Person } from '@calm-loop/contract'
import { createHash } from 'node:crypto'
import type { Database, Queries } from '../db/database.ts'
import { record } from './audit.ts'
import { overwriteSetting, readSetting } from './settings.ts'
import { inOneTurn } from './turns.ts'

const keyOf = (heads: readonly string[]) =>
  `list-mapping ${createHash('sha256').update(JSON.stringify(heads)).digest('hex')}`

/** Null where no list with these heads was read. */
export async function readListMapping(db: Queries, heads: readonly string[]): Promise<ListMapping | null> {
  const kept = ListMapping.safeParse(await readSetting(db, keyOf(heads)))
  return kept.success ? kept.data : null
}

/** Keeps it in place of the one before: the newest stands; that it changed is on record. */
export function keepListMapping(
  db: Database,
  heads: readonly string[],
  mapping: ListMapping,
  person: Person,
): Promise<ListMapping> {
  const key = keyOf(heads)
  return inOneTurn(db, `setting ${key}`, async (tx) => {
    const before = await readListMapping(tx, heads)
    if (before && canonicalJson(before) === canonicalJson(mapping)) return before
    await overwriteSetting(tx, key, mapping)
    const details = { heads: heads.filter(Boolean).join(', ').slice(0, 300), mapping }
    await record({ tx, personId: person.id, action: 'list-mapping', loopId: null, details })
    return mapping
  })
}
