// Starts the server: configuration, migrations, keys, demo, listening; and stops it cleanly.
import { makeApp, serverOf } from './app.ts'
import { readConfig, type Config } from './config.ts'
import { asOwner, migrateDatabase, NewerDatabase, openDatabase } from './db/database.ts'
import type { BackupsInto } from './errands/doers.ts'
import { openQueue } from './errands/queue.ts'
import { isDatabaseAway } from './http/problems.ts'
import { errorWords, makeLog } from './log.ts'
import { openSealer } from './seals/sealer.ts'
import { loadDemo } from './services/demo.ts'
import { openEventHub } from './services/events.ts'
import { isEmpty, issueSetupCode } from './services/people.ts'
import { registerKeys, sealOlder } from './services/seal-keys.ts'
import { openWorkers } from './workers/pool.ts'

/** Ended with this, the start command does not try again: only a person can mend it. */
const FOR_A_PERSON = 2
const TRY_AGAIN = 3

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
    return (
      `The user of ${at} may not prepare the tables (${message}). Give MIGRATION_DATABASE_URL with the owner’s ` +
      'sign-in.'
    )
  // Of a failed query only its code: its parameters are nobody's business here.
  return code && /^[0-9A-Z]{5}$/.test(code) ? `PostgreSQL refused while the tables were prepared (${code}).` : message
}

function backupsOf(config: Config, ownerUrl: string): BackupsInto | undefined {
  const { BACKUP_INTO: folder, BACKUP_PROGRAMS: programs, BACKUP_PASSPHRASE_FILE: passphraseFile } = config
  if (!folder || !programs || !passphraseFile) return undefined
  return {
    of: { ownerUrl, sealKeyFile: config.SEAL_KEY_FILE, programs },
    folder,
    passphraseFile,
    days: config.BACKUP_DAYS,
  }
}

async function prepare() {
  const config = readConfig(process.env)
  const log = makeLog(config.LOG_LEVEL)
  const owner = config.MIGRATION_DATABASE_URL ?? config.DATABASE_URL
  const sealer = openSealer(config.SEAL_KEY_FILE)
  await migrateDatabase(owner)
  const workers = openWorkers(config.WORK_PATIENCE)
  await asOwner(owner, async (db) => {
    await registerKeys(db, sealer)
    await sealOlder(db, sealer)
    if (config.DEMO === '1' && (await loadDemo(db, workers, sealer)))
      console.log('Loaded the demo plant, Holmsay Kelp Works.')
  })
  const { db, pool } = openDatabase(config.DATABASE_URL)
  const hub = await openEventHub(config.DATABASE_URL)
  const queue = await openQueue(pool, log)
  if (await isEmpty(db)) process.send?.({ setupCode: await issueSetupCode(db) })
  const { WEB_ROOT: webRoot, TRUST_PROXY: trustProxy, PUBLIC_URL: publicUrl } = config
  const made = await makeApp({
    db,
    pool,
    hub,
    log,
    workers,
    sealer,
    webRoot,
    trustProxy,
    publicUrl,
    benchPace: config.PRACTICE_PACE,
    standIns: config.STAND_INS,
    proveAnswers: config.PROVE_ANSWERS === '1',
    queue,
    backups: backupsOf(config, owner),
  })
  return { config, log, pool, hub, workers, queue, ...made }
}

const { config, log, pool, hub, app, links, workers, surveys, errands, recorders, outgoing, queue } =
  await prepare().catch((error: unknown) => {
    const inner = (error as { cause?: unknown }).cause ?? error
    console.error(explain(inner))
    const away = isDatabaseAway(error) && !(error instanceof NewerDatabase)
    process.exit(away ? TRY_AGAIN : FOR_A_PERSON)
  })

// What nobody waited for any more may fail; it is told, and the server goes on.
process.on('unhandledRejection', (reason) => log.error({ err: errorWords(reason) }, 'unhandled rejection'))

const server = serverOf(app, log)
server.once('error', (error) => {
  console.error(`Cannot listen on port ${config.PORT}: ${error.message}`)
  process.exit(FOR_A_PERSON)
})
server.listen(config.PORT, config.HOST, () => {
  const address = server.address()
  const port = typeof address === 'object' && address ? address.port : config.PORT
  process.send?.({ port })
  links.reachedAt(config.PEER_URL ?? `http://127.0.0.1:${port}`)
  void surveys.resume().catch((error: unknown) => log.error({ err: errorWords(error) }, 'surveys are not gone on with'))
  console.log(`listening ${port}`)
  // The first document loads fonts and code; do that before someone waits for it.
  setTimeout(() => void workers.run('warm', undefined).catch(() => undefined), 500).unref()
})
// Headers that trickle in hold no connection for long.
server.headersTimeout = 20_000
server.requestTimeout = 120_000

let stopping = false
async function stop(): Promise<void> {
  if (stopping) return
  stopping = true
  await surveys.close().catch(() => undefined)
  await recorders.close().catch(() => undefined)
  await links.closeAll().catch(() => undefined)
  await outgoing.close().catch(() => undefined)
  await errands.close().catch(() => undefined)
  await queue.close().catch(() => undefined)
  server.close()
  server.closeAllConnections()
  await hub.close().catch(() => undefined)
  await pool.end().catch(() => undefined)
  await workers.close().catch(() => undefined)
  process.exit(0)
}
process.on('SIGTERM', () => void stop())
process.on('SIGINT', () => void stop())
process.on('disconnect', () => void stop())
