// The demo plant: people and kit from plain files, folders through the same import that a user has.
import { Gear, NewPerson } from '@calm-loop/contract'
import { readdirSync, readFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import { join } from 'node:path'
import { z } from 'zod'
import type { Database } from '../db/database.ts'
import { loops, people } from '../db/schema.ts'
import { importBundle } from './bundles.ts'
import { saveGear } from './gear.ts'
import { addPerson } from './people.ts'
import { settleSetting } from './settings.ts'

const DEMO = fileURLToPath(new URL('../../../../demo', import.meta.url))
const DemoPeople = z.strictObject({ password: z.string(), people: z.array(NewPerson.omit({ password: true })) })

/** Loads the demo into an empty database; does nothing in one that has people or loops. */
export async function loadDemo(db: Database): Promise<boolean> {
  const someone = await db.select().from(people).limit(1)
  const something = await db.select().from(loops).limit(1)
  if (someone.length || something.length) return false
  const read = (file: string) => readFileSync(join(DEMO, file), 'utf8')
  const cast = DemoPeople.parse(JSON.parse(read('people.json')))
  for (const person of cast.people) await addPerson(db, { ...person, password: cast.password }, null, true)
  for (const item of z.array(Gear).parse(JSON.parse(read('kit.json')))) await saveGear(db, item, null)
  for (const file of readdirSync(join(DEMO, 'folders')).sort()) await importBundle(db, read(`folders/${file}`), null)
  await settleSetting(db, 'demo', { password: cast.password })
  return true
}
