// A long survey, timed: its rows put on record chunk by chunk as they come, and read back as CSV.
import { v7 as uuid } from 'uuid'
import { SURVEY_CHUNK } from '@calm-loop/contract'
import { asOwner, migrateDatabase, openDatabase, type Database } from '../../apps/server/src/db/database.ts'
import { loops } from '../../apps/server/src/db/schema.ts'
import { surveyCsv } from '../../apps/server/src/documents/survey-report.ts'
import { addDemoPerson } from '../../apps/server/src/services/people.ts'
import { keepRows, surveyChunks } from '../../apps/server/src/services/surveys.ts'
import { keepWork } from '../../apps/server/src/services/work.ts'
import { openCluster } from '../lib/postgres.mjs'
import { dataFolder, throwAway } from '../../e2e/run-server.ts'
import { row, sample, type Row } from './measure.ts'

const ROWS = 150_000
const BEGUN_ms = Date.UTC(2026, 0, 5)
const UNIT = 'm3/h'

type Row5 = [number, number, number, number, number]
/** A row a second, as a meter gives them. */
const rowAt = (i: number): Row5 => {
  const flow = 62 + Math.round(800 * Math.sin(i / 900)) / 100
  return [BEGUN_ms + i * 1000, flow, Math.round((i * 62_000) / 3600) / 1000, 1481.2 + (i % 7) / 10, 78 + (i % 3)]
}

async function stored(ownerUrl: string, db: Database): Promise<{ loopId: string; id: string; times_ms: number[] }> {
  const by = { id: uuid(), name: 'Ailsa Fenn' }
  await asOwner(ownerUrl, (owner) =>
    addDemoPerson(owner, { ...by, signIn: 'ailsa', password: uuid(), roles: ['technician'] }),
  )
  const loopId = uuid()
  await db.insert(loops).values({
    id: loopId,
    tag: 'FT-1',
    service: 's',
    area: 'a',
    kind: 'clamp-on',
    createdAt: new Date(),
    state: 'ready',
  })
  let id = ''
  const once = async () => {
    id = uuid()
    const begun = { what: 'survey' as const, interval_s: 1, unit: UNIT, note: '', practice: false }
    const saved = await db.transaction((tx) => keepWork(tx, { loopId, id, body: begun, person: by }))
    if (saved.what !== 'survey') throw new Error('no survey was begun')
    for (let at = 0; at < ROWS; at += SURVEY_CHUNK) {
      const rows = Array.from({ length: Math.min(SURVEY_CHUNK, ROWS - at) }, (_, i) => rowAt(at + i))
      await keepRows(db, { loopId, id, begun: saved, by }, { id: uuid(), rows })
    }
  }
  return { loopId, times_ms: await sample(once, { samples: 3, warm: 0 }), id }
}

export async function survey(): Promise<Row[]> {
  const folder = dataFolder()
  const cluster = await openCluster(folder)
  try {
    await migrateDatabase(cluster.ownerUrl)
    const { db, pool } = openDatabase(cluster.applicationUrl)
    const { loopId, id, times_ms } = await stored(cluster.ownerUrl, db)
    let lines = 0
    const csv = await sample(
      async () => {
        const text = surveyCsv(await surveyChunks(db, loopId, id))
        lines = text.trim().split('\r\n').length
      },
      { samples: 5, warm: 1 },
    )
    await pool.end()
    if (lines !== ROWS + 1) throw new Error(`the CSV has ${lines} lines`)
    return [
      row({ what: 'survey: 150 000 rows put on record', unit: 'ms', times_ms, target: 10_000, judged: 'most' }),
      row({ what: 'survey: 150 000 rows as CSV', unit: 'ms', times_ms: csv, target: 2000, judged: 'most' }),
    ]
  } finally {
    cluster.stop()
    throwAway(folder)
  }
}
