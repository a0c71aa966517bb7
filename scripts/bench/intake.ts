// An instrument list of ten thousand lines: read from its file and tried, as a worker of the page does, and brought in
// by a server with its threads.
import { guessMapping, isRefused, readRows, type Line } from '@calm-loop/core/intake'
import Excel from 'exceljs'
import { v7 as uuid } from 'uuid'
import { readSheets } from '../../apps/web/src/places/intake/read-sheets.ts'
import { asOwner, migrateDatabase, openDatabase } from '../../apps/server/src/db/database.ts'
import { people } from '../../apps/server/src/db/schema.ts'
import { bringPlantIn } from '../../apps/server/src/services/plant.ts'
import { openWorkers } from '../../apps/server/src/workers/pool.ts'
import { dataFolder, throwAway } from '../../e2e/run-server.ts'
import { openCluster } from '../lib/postgres.mjs'
import { row, type Row } from './measure.ts'

const LINES = 10_000
const HEADS = [
  'Tag',
  'Service',
  'Area',
  'Type',
  'LRV [bar]',
  'URV [bar]',
  'Model',
  'Serial',
  'Supply (V)',
  'Shunt (Ohm)',
]

async function list(): Promise<Blob> {
  const book = new Excel.Workbook()
  const sheet = book.addWorksheet('Instruments')
  sheet.addRow(HEADS)
  for (let i = 0; i < LINES; i++)
    sheet.addRow([
      `PT-${100_000 + i}`,
      `Line pressure ${i}`,
      `Area ${i % 40}`,
      'Pressure',
      0,
      16,
      'P4',
      `P4-${i}`,
      24,
      250,
    ])
  return new Blob([(await book.xlsx.writeBuffer()) as ArrayBuffer])
}

export async function intake(): Promise<Row[]> {
  const file = await list()
  const begun = performance.now()
  const [sheet] = await readSheets(file, 'list')
  const read = [...readRows(sheet!, guessMapping(sheet!))]
  const tried_ms = performance.now() - begun
  const good = read.filter((r): r is Line => !isRefused(r))
  if (good.length !== LINES) throw new Error(`${good.length} lines were good`)
  const loops = good.map(({ loop }) => ({ ...loop, id: uuid(), versionId: uuid() }))
  const bytes = new TextEncoder().encode(JSON.stringify({ loops }))
  const folder = dataFolder()
  const cluster = await openCluster(folder)
  const workers = openWorkers()
  try {
    await migrateDatabase(cluster.ownerUrl)
    const { db, pool } = openDatabase(cluster.applicationUrl)
    const by = { id: uuid(), name: 'Bench' }
    await asOwner(cluster.ownerUrl, (own) =>
      own.insert(people).values({ ...by, signIn: 'bench', roles: ['technician'], passwordHash: '' }),
    )
    const sent = performance.now()
    await bringPlantIn({ db, workers, bytes, by, name: 'list', tell: () => Promise.resolve() })
    const brought_ms = performance.now() - sent
    await pool.end()
    return [
      row({ what: `list of ${LINES} lines, XLSX: read and tried`, unit: 'ms', times_ms: [tried_ms] }),
      row({ what: `list of ${LINES} lines: brought in by a server`, unit: 'ms', times_ms: [brought_ms] }),
      row({
        ...{ what: `list of ${LINES} lines, from file to register`, unit: 'ms', target: 30_000 },
        times_ms: [tried_ms + brought_ms],
      }),
    ]
  } finally {
    await workers.close()
    cluster.stop()
    throwAway(folder)
  }
}
