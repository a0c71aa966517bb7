// The demo plant: people and kit from plain files, folders through the same import that a user has.
import { Gear, Id, Instant, NewPerson } from '@calm-loop/contract'
import { ElectrodeBody } from '@calm-loop/contract/electrodes'
import { sure } from '@calm-loop/core/sure'
import { readdirSync, readFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import { join } from 'node:path'
import { v7 as uuid } from 'uuid'
import { z } from 'zod'
import { personOf } from '../auth/sessions.ts'
import type { Database } from '../db/database.ts'
import { loops, people } from '../db/schema.ts'
import type { Sealer } from '../seals/sealer.ts'
import type { Workers } from '../workers/pool.ts'
import { attach } from './attachments.ts'
import { importBundle } from './bundles.ts'
import { loadDay } from './demo-day.ts'
import { keepElectrode } from './electrodes.ts'
import { saveGear } from './gear.ts'
import { addDemoPerson } from './people.ts'
import { settleSetting } from './settings.ts'

const DEMO = fileURLToPath(new URL('../../../../demo', import.meta.url))
const DemoPeople = z.strictObject({ password: z.string(), people: z.array(NewPerson.omit({ password: true })) })

const DemoElectrodes = z.array(
  z.strictObject({
    id: Id,
    log: z.array(z.strictObject({ id: Id, by: z.string(), at: Instant, body: z.looseObject({ what: z.string() }) })),
  }),
)
/** Electrodes with their records; where one is plugged in, its loop is known by its tag. */
async function loadElectrodes(db: Database, text: string): Promise<void> {
  const [everyone, every] = [await db.select().from(people), await db.select().from(loops)]
  for (const { id: electrodeId, log } of DemoElectrodes.parse(JSON.parse(text)))
    for (const [i, { id, by, at, body: said }] of log.entries()) {
      const loopId = every.find((l) => l.tag === said['tag'])?.id
      const body = ElectrodeBody.parse(loopId ? { ...said, loopId } : said)
      const byId = sure(everyone.find((p) => p.signIn === by)).id
      await keepElectrode(db, { id, electrodeId, seq: i + 1, body, byId, at: new Date(at) })
    }
}

const DemoPlates = z.array(z.strictObject({ tag: z.string(), words: z.string(), by: z.string(), name: z.string() }))
/** Photographs of plates, each with its loop. */
async function loadPlates(db: Database): Promise<void> {
  const folder = join(DEMO, 'plates')
  const [everyone, every] = [await db.select().from(people), await db.select().from(loops)]
  for (const { tag, words, by, name } of DemoPlates.parse(
    JSON.parse(readFileSync(join(folder, 'plates.json'), 'utf8')),
  )) {
    const bytes = readFileSync(join(folder, `${tag}.jpg`))
    const person = personOf(sure(everyone.find((p) => p.signIn === by)))
    const loopId = sure(every.find((l) => l.tag === tag)).id
    await attach(
      db,
      { loopId, attachmentId: uuid() },
      { bytes, name, note: { shows: 'plate', words, marks: [], hidden: null } },
      person,
    )
  }
}

/** Loads the demo into an empty database, as the owner of its tables; does nothing in one that has people or loops. */
export function loadDemo(owner: Database, workers: Workers, sealer: Sealer): Promise<boolean> {
  return owner.transaction(async (tx) => {
    // All of it or nothing: a start that is cut short begins anew.
    const db = tx as unknown as Database
    const someone = await db.select().from(people).limit(1)
    const something = await db.select().from(loops).limit(1)
    if (someone.length || something.length) return false
    const read = (file: string) => readFileSync(join(DEMO, file), 'utf8')
    const cast = DemoPeople.parse(JSON.parse(read('people.json')))
    for (const person of cast.people) await addDemoPerson(db, { ...person, password: cast.password })
    for (const item of z.array(Gear).parse(JSON.parse(read('kit.json')))) await saveGear(db, item, null)
    for (const file of readdirSync(join(DEMO, 'folders')).sort())
      await importBundle(db, workers, readFileSync(join(DEMO, 'folders', file)), { byId: null, own: sealer })
    await loadElectrodes(db, read('electrodes.json'))
    await loadDay(db, read('day.json'), join(DEMO, 'certificates'))
    await loadPlates(db)
    await settleSetting(db, 'demo', { password: cast.password })
    return true
  })
}
