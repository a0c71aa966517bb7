// `npm start`: everything from a bare clone to a printed address. `-- --empty` starts without the demo plant.
import { spawn } from 'node:child_process'
import { createHash } from 'node:crypto'
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { homedir } from 'node:os'
import { basename, join } from 'node:path'
import { ensurePackages, isRoot, ROOT } from './lib/install.mjs'
import { freePort, openCluster } from './lib/postgres.mjs'
import { giveUp, say } from './lib/say.mjs'
import { ensureWebBuilt } from './lib/web.mjs'

const empty = process.argv.includes('--empty')
const unknown = process.argv.slice(2).filter((a) => a !== '--empty')
if (unknown.length) giveUp(`Unknown: ${unknown.join(' ')}. The only option is --empty (start without the demo plant).`)

/** A lasting place for this clone's records, reachable for the database's user. */
function dataFolder() {
  if (process.env.CALM_LOOP_DATA) return process.env.CALM_LOOP_DATA
  const base = isRoot ? '/var/lib' : (process.env.XDG_DATA_HOME ?? join(homedir(), '.local', 'share'))
  const clone = `${basename(ROOT)}-${createHash('sha256').update(ROOT).digest('hex').slice(0, 8)}`
  return join(base, 'calm-loop', empty ? `${clone}-empty` : clone)
}

async function alreadyRunning(note) {
  if (!existsSync(note)) return undefined
  const { pid, address } = JSON.parse(readFileSync(note, 'utf8'))
  try {
    process.kill(pid, 0)
    return (await fetch(`${address}/healthz`)).ok ? address : undefined
  } catch {
    return undefined
  }
}

async function choosePort() {
  if (process.env.PORT) return Number(process.env.PORT)
  return freePort(8420).catch(() => freePort())
}

ensurePackages()
const folder = dataFolder()
const note = join(folder, 'running.json')
const elsewhere = await alreadyRunning(note)
if (elsewhere) {
  say(`Calm Loop is already running from this clone: ${elsewhere}`)
  process.exit(0)
}
const webRoot = ensureWebBuilt()

let cluster
if (process.env.DATABASE_URL) say('Using the database of DATABASE_URL')
else {
  say(`Starting PostgreSQL; records are kept in ${folder}`)
  cluster = await openCluster(folder).catch((error) => giveUp(error.message))
}

const server = spawn(process.execPath, ['--import', 'tsx', 'apps/server/src/main.ts'], {
  cwd: ROOT,
  stdio: ['ignore', 'pipe', 'inherit', 'ipc'],
  env: {
    ...process.env,
    NODE_ENV: 'production',
    DATABASE_URL: process.env.DATABASE_URL ?? cluster.applicationUrl,
    ...(process.env.DATABASE_URL ? {} : { MIGRATION_DATABASE_URL: cluster.ownerUrl }),
    PORT: String(await choosePort()),
    DEMO: empty ? '0' : '1',
    WEB_ROOT: webRoot,
  },
})
server.stdout.on('data', (text) => {
  for (const line of String(text).trim().split('\n')) if (!line.startsWith('listening ')) say(line)
})
let ready = false
server.on('message', ({ port }) => {
  ready = true
  const address = `http://127.0.0.1:${port}`
  mkdirSync(folder, { recursive: true })
  writeFileSync(note, JSON.stringify({ pid: process.pid, serverPid: server.pid, address }))
  console.log(`\n  Calm Loop is ready:  ${address}\n\n  Ctrl-C stops it.\n`)
})

let stopping = false
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'])
  process.on(signal, () => {
    stopping = true
    server.kill('SIGTERM')
  })
server.on('exit', (code, signal) => {
  cluster?.stop()
  rmSync(note, { force: true })
  if (stopping) {
    say('Stopped.')
    process.exit(0)
  }
  if (!ready) giveUp('The server could not start; the reason stands above.')
  giveUp(
    `The server ended by itself (${signal ?? `code ${code}`}). All that was shown as saved is kept; run npm start again.`,
  )
})
