// Starts the server: configuration, migrations, demo, listening; and stops it cleanly.
import { pino } from 'pino'
import { makeApp } from './app.ts'
import { readConfig } from './config.ts'
import { migrateDatabase, openDatabase } from './db/database.ts'
import { renderPdf, runs } from './documents/pdf.ts'
import { openEventHub } from './services/events.ts'
import { loadDemo } from './services/demo.ts'

const config = readConfig(process.env)
const log = pino({ level: config.LOG_LEVEL })
await migrateDatabase(config.MIGRATION_DATABASE_URL ?? config.DATABASE_URL)
const { db, pool } = openDatabase(config.DATABASE_URL)
if (config.DEMO === '1' && (await loadDemo(db))) console.log('Loaded the demo plant, Holmsay Kelp Works.')
const hub = await openEventHub(config.DATABASE_URL)
const { app, links } = await makeApp({ db, pool, hub, log, webRoot: config.WEB_ROOT })

const server = app.listen(config.PORT, config.HOST, (error?: Error) => {
  if (error) {
    console.error(`Cannot listen on port ${config.PORT}: ${error.message}`)
    process.exit(1)
  }
  const address = server.address()
  const port = typeof address === 'object' && address ? address.port : config.PORT
  process.send?.({ port })
  console.log(`listening ${port}`)
  // The first document loads fonts and code; do that before someone waits for it.
  setTimeout(() => void renderPdf({ content: [{ text: runs('Ω 0'), font: 'figures' }] }), 1500).unref()
})

let stopping = false
async function stop(): Promise<void> {
  if (stopping) return
  stopping = true
  links.closeAll()
  server.close()
  server.closeAllConnections()
  await hub.close().catch(() => undefined)
  await pool.end().catch(() => undefined)
  process.exit(0)
}
process.on('SIGTERM', () => void stop())
process.on('SIGINT', () => void stop())
process.on('disconnect', () => void stop())
