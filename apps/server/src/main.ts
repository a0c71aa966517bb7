// Starts the server: configuration, migrations, demo, listening; and stops it cleanly.
import { pino } from 'pino'
import { makeApp } from './app.ts'
import { readConfig } from './config.ts'
import { migrateDatabase, openDatabase } from './db/database.ts'
import { renderPdf, runs } from './documents/pdf.ts'
import { openEventHub } from './services/events.ts'
import { loadDemo } from './services/demo.ts'

/** Why the server cannot start, in words; the database's address without its password. */
function explain(error: unknown): string {
  const { code, message } = error as { code?: string; message: string }
  const at = (process.env['DATABASE_URL'] ?? '').replace(/\/\/([^:@/]*):[^@]*@/, '//$1:…@')
  if (code === 'ECONNREFUSED' || code === 'ENOTFOUND')
    return `No PostgreSQL answers at ${at}. Start it, or correct DATABASE_URL.`
  if (code === '28P01' || code === '28000')
    return `PostgreSQL refuses the user or password of ${at}. Correct DATABASE_URL.`
  if (code === '3D000') return `The database of ${at} does not exist. Create it, or correct DATABASE_URL.`
  if (code === '42501')
    return `The user of ${at} may not prepare the tables (${message}). Give MIGRATION_DATABASE_URL with the owner’s sign-in.`
  return message
}

async function prepare() {
  const config = readConfig(process.env)
  const log = pino({ level: config.LOG_LEVEL })
  await migrateDatabase(config.MIGRATION_DATABASE_URL ?? config.DATABASE_URL)
  const { db, pool } = openDatabase(config.DATABASE_URL)
  if (config.DEMO === '1' && (await loadDemo(db))) console.log('Loaded the demo plant, Holmsay Kelp Works.')
  const hub = await openEventHub(config.DATABASE_URL)
  const made = await makeApp({ db, pool, hub, log, webRoot: config.WEB_ROOT })
  return { config, pool, hub, ...made }
}

const { config, pool, hub, app, links } = await prepare().catch((error: unknown) => {
  const inner = (error as { cause?: unknown }).cause ?? error
  console.error(explain(inner))
  process.exit(2)
})

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
