// A photograph of twelve megabytes: known by its content, made small, and kept.
import { randomFillSync } from 'node:crypto'
import sharp from 'sharp'
import { v7 as uuid } from 'uuid'
import { asOwner, migrateDatabase, openDatabase } from '../../apps/server/src/db/database.ts'
import { loops, people } from '../../apps/server/src/db/schema.ts'
import { attach } from '../../apps/server/src/services/attachments.ts'
import { dataFolder, throwAway } from '../../e2e/run-server.ts'
import { openCluster } from '../lib/postgres.mjs'
import { row, sample, type Row } from './measure.ts'

/** Points of a telephone's camera, with the grain that makes such a file. */
const [WIDE, HIGH] = [4000, 3000]
const LEAST_B = 11e6

async function photograph(): Promise<Buffer> {
  const grain = randomFillSync(Buffer.alloc((WIDE / 2) * (HIGH / 2) * 3))
  const raw = { width: WIDE / 2, height: HIGH / 2, channels: 3 } as const
  const bytes = await sharp(grain, { raw }).resize(WIDE, HIGH).jpeg({ quality: 96 }).toBuffer()
  if (bytes.length < LEAST_B) throw new Error(`only ${bytes.length} bytes`)
  return bytes
}

export async function picture(): Promise<Row> {
  const bytes = await photograph()
  const folder = dataFolder()
  const cluster = await openCluster(folder)
  try {
    await migrateDatabase(cluster.ownerUrl)
    const [personId, loopId] = [uuid(), uuid()]
    await asOwner(cluster.ownerUrl, async (own) => {
      await own.insert(people).values({
        ...{ id: personId, name: 'Bench', signIn: 'bench', roles: ['technician'], passwordHash: '' },
      })
      await own.insert(loops).values({
        ...{ id: loopId, tag: 'LT-1', service: 'x', area: 'y', kind: 'pressure', createdAt: new Date() },
        state: 'half-entered',
      })
    })
    const { db, pool } = openDatabase(cluster.applicationUrl)
    const note = { shows: 'plate', words: '', marks: [], hidden: null } as const
    const person = { id: personId, name: 'Bench', signIn: 'bench', roles: ['technician'] } as const
    const times_ms = await sample(
      () =>
        attach(
          db,
          { loopId, attachmentId: uuid() },
          { bytes, name: 'plate.jpg', note: { ...note, marks: [] } },
          { ...person, roles: [...person.roles] },
        ),
      { samples: 6, warm: 1 },
    )
    await pool.end()
    const what = `photograph of ${(bytes.length / 1e6).toFixed(0)} MB: kept, and made small`
    return row({ what, unit: 'ms', times_ms, target: 2000, judged: 'p95' })
  } finally {
    cluster.stop()
    throwAway(folder)
  }
}
