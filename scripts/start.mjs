// `npm start`: everything from a bare clone to a printed address, kept running. `-- --empty` starts without the demo
// plant.
import { spawn } from 'node:child_process'
import { mkdirSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import { keepBackups } from './lib/daily-backup.mjs'
import { backupFolder, dataFolder, passphraseFile, runningNote, sealKeyFile } from './lib/data-folder.mjs'
import { holdLock, readObject, writeWhole } from './lib/files.mjs'
import { startBench } from './lib/bench-of-five.mjs'
import { ensurePackages, ensureSocat, isRoot, ROOT } from './lib/install.mjs'
import { findPrograms, freePort, openCluster } from './lib/postgres.mjs'
import { giveUp, say } from './lib/say.mjs'
import { ensureWebBuilt } from './lib/web.mjs'

/** Exit code with which the server says that only a person can mend it. */
const FOR_A_PERSON = 2
const LOOK_EVERY_ms = 250
const FIRST_WAIT_ms = 250
const LONGEST_WAIT_ms = 15_000
const OTHER_START_ms = 180_000

const empty = process.argv.includes('--empty')
const unknown = process.argv.slice(2).filter((a) => a !== '--empty')
if (unknown.length) giveUp(`Unknown: ${unknown.join(' ')}. The only option is --empty (start without the demo plant).`)

const sleep = (ms) => new Promise((resolve) => setTimeout(resolve, ms))

/** Address of what runs from this folder and answers. */
async function addressHere(note) {
  const address = readObject(note)?.address
  if (typeof address !== 'string') return undefined
  return fetch(`${address}/healthz`, { signal: AbortSignal.timeout(2000) }).then(
    (r) => (r.ok ? address : undefined),
    () => undefined,
  )
}

/** The right to run from this folder; where another start has it, its address is told instead. */
async function takeTurn(folder, note) {
  mkdirSync(folder, { recursive: true, mode: 0o711 })
  let told = false
  for (const until = Date.now() + OTHER_START_ms; Date.now() < until; await sleep(500)) {
    const lock = await holdLock(join(folder, 'start.lock'))
    if (lock) return lock
    const address = await addressHere(note)
    if (address) {
      say(`Calm Loop is already running from this clone: ${address}`)
      process.exit(0)
    }
    if (!told) say('Another start from this clone is under way; waiting for it')
    told = true
  }
  return giveUp('Another start from this clone has been under way for three minutes. End it, then try again.')
}

/** Waits longer after each start that came to nothing; one that came to be ready begins anew. */
function backOff() {
  let wait = FIRST_WAIT_ms
  return (wasReady) => {
    wait = wasReady ? FIRST_WAIT_ms : Math.min(LONGEST_WAIT_ms, wait * 2)
    return wait
  }
}

async function choosePort() {
  if (process.env.PORT) return Number(process.env.PORT)
  return freePort(8420).catch(() => freePort())
}

ensurePackages()
const folder = dataFolder(empty)
const note = runningNote(folder)
await takeTurn(folder, note)
const webRoot = ensureWebBuilt()

// Without socat the bench does with TCP alone.
if (!empty && isRoot) ensureSocat()
const benchStarting = empty ? undefined : startBench()

let cluster
if (process.env.DATABASE_URL) say('Using the database of DATABASE_URL')
else {
  say(`Starting PostgreSQL; records are kept in ${folder}`)
  cluster = await openCluster(folder).catch((error) => giveUp(error.message))
}

const bench = await benchStarting
let stopping = false
let server
let port = await choosePort()
let announced = false
/** The server was ended so that it begins anew. */
let onWish = false
/** The server that was started last has come to be ready. */
let isReady = false

/** The code for the first user, when there is none yet. */
const setupWords = (code) => (code ? `  Code for the first user:  ${code}\n\n` : '')

/** What the server makes backups with that are asked for on a page. */
function backupEnv() {
  const [into, programs] = [backupFolder(folder), findPrograms()]
  if (into === undefined || !programs) return {}
  const days = process.env.CALM_LOOP_BACKUP_DAYS
  return {
    BACKUP_INTO: into,
    BACKUP_PROGRAMS: programs,
    BACKUP_PASSPHRASE_FILE: passphraseFile(folder),
    ...(days ? { BACKUP_DAYS: days } : {}),
  }
}

function startServer() {
  let setupCode = ''
  isReady = false
  server = spawn(process.execPath, ['--import', 'tsx', 'apps/server/src/main.ts'], {
    cwd: ROOT,
    stdio: ['ignore', 'pipe', 'inherit', 'ipc'],
    env: {
      ...process.env,
      NODE_ENV: 'production',
      DATABASE_URL: process.env.DATABASE_URL ?? cluster.applicationUrl,
      ...(process.env.DATABASE_URL ? {} : { MIGRATION_DATABASE_URL: cluster.ownerUrl }),
      SEAL_KEY_FILE: sealKeyFile(folder),
      PORT: String(port),
      DEMO: empty ? '0' : '1',
      WEB_ROOT: webRoot,
      ...backupEnv(),
      STAND_INS: JSON.stringify(bench?.standIns ?? []),
    },
  })
  server.stdout.on('data', (text) => {
    for (const line of String(text).trim().split('\n')) if (!line.startsWith('listening ')) say(line)
  })
  server.on('message', (message) => {
    if (message.setupCode) setupCode = message.setupCode
    if (message.port) ready(message.port, setupCode)
  })
  return new Promise((resolve) => server.once('exit', (code, signal) => resolve({ code, signal })))
}

function ready(now, setupCode) {
  port = now
  const host = process.env.HOST && process.env.HOST !== '0.0.0.0' ? process.env.HOST : '127.0.0.1'
  const address = `http://${host}:${port}`
  writeWhole(note, JSON.stringify({ pid: process.pid, serverPid: server.pid, databasePid: cluster?.pid(), address }))
  if (announced) say('The server is back.')
  else console.log(`\n${setupWords(setupCode)}  Calm Loop is ready:  ${address}\n\n  Ctrl-C stops it.\n`)
  announced = isReady = true
}

/** Runs the server, and again when it ends by itself. */
async function keepServer() {
  const wait = backOff()
  for (;;) {
    const { code, signal } = await startServer()
    if (stopping) return
    if (onWish && code === 0) {
      onWish = false
      continue
    }
    const how = signal ?? `code ${code}`
    if (!announced) fail('The server could not start; the reason stands above.')
    if (code === FOR_A_PERSON)
      fail(
        `The server ended (${how}) for a reason that only a person can mend; it stands above. All that was ` +
          'shown as saved is kept.',
      )
    const ms = wait(isReady)
    say(
      `The server ended by itself (${how}). All that was shown as saved is kept; starting it ` +
        `again${ms >= 1000 ? ` in ${Math.round(ms / 1000)} s` : ''}.`,
    )
    await sleep(ms)
    if (stopping) return
  }
}

/** Looks whether the private database lives, and starts it again when it has died. */
async function keepDatabase() {
  const wait = backOff()
  let came = true
  for (;;) {
    await sleep(LOOK_EVERY_ms)
    if (stopping) return
    if (cluster.lives()) continue
    const ms = wait(came)
    say('PostgreSQL has ended by itself; starting it again. What was shown as saved is kept.')
    await sleep(ms)
    if (stopping) return
    await cluster.revive().then(
      () => {
        came = true
        say('PostgreSQL is back.')
        const now = readObject(note)
        if (now) writeWhole(note, JSON.stringify({ ...now, databasePid: cluster.pid() }))
      },
      (error) => {
        came = false
        say(`PostgreSQL does not start yet: ${error.message}`)
      },
    )
  }
}

function end(code) {
  stopping = true
  bench?.stop()
  cluster?.stop()
  rmSync(note, { force: true })
  process.exit(code)
}
function fail(words) {
  console.error(`\n${words}\n`)
  end(1)
}

for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'])
  process.on(signal, () => {
    stopping = true
    server?.kill('SIGTERM')
  })
// After the key was rotated: the server is started anew.
process.on('SIGUSR2', () => {
  onWish = true
  server?.kill('SIGTERM')
})

if (cluster) void keepDatabase()
keepBackups(folder, empty)
await keepServer()
say('Stopped.')
end(0)
