// A whole server on a database of its own, and people who talk to it over HTTP.
import { endpoints, type EndpointName, type Problem } from '@calm-loop/contract'
import { randomUUID } from 'node:crypto'
import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { AddressInfo } from 'node:net'
import pg from 'pg'
import { v7 as uuid } from 'uuid'
import { afterAll, inject } from 'vitest'
import { demoEntries, firstVersion } from '../../../packages/core/src/kinds/demo-entries.fixture.ts'
import { makeApp, serverOf } from '../src/app.ts'
import { gateWording } from '@calm-loop/core/check'
import { asOwner, migrateDatabase, openDatabase, type Database } from '../src/db/database.ts'
import type { BackupsInto } from '../src/errands/doers.ts'
import { openQueue } from '../src/errands/queue.ts'
import { makeLog } from '../src/log.ts'
import { openSealer, type Sealer } from '../src/seals/sealer.ts'
import { registerKeys, sealOlder } from '../src/services/seal-keys.ts'
import { openWorkers } from '../src/workers/pool.ts'
import { loadDemo } from '../src/services/demo.ts'
import { openEventHub } from '../src/services/events.ts'
import { isEmpty, issueSetupCode } from '../src/services/people.ts'

export interface Answer {
  status: number
  body: never
  problem: Problem
  text: string
  headers: Headers
}

/** Someone with a browser: keeps the cookie and sends the token. */
export class Visitor {
  cookie = ''
  token = ''
  private readonly base: string
  constructor(base: string) {
    this.base = base
  }
  async raw(
    method: string,
    path: string,
    body?: string | Buffer,
    headers: Record<string, string> = {},
  ): Promise<Answer> {
    const response = await fetch(this.base + path, {
      method,
      headers: { cookie: this.cookie, 'x-csrf-token': this.token, ...headers },
      ...(body === undefined ? {} : { body }),
    })
    const set = response.headers.get('set-cookie')
    if (set) this.cookie = set.split(';')[0]!
    const text = await response.text()
    const json = /json/.test(response.headers.get('content-type') ?? '')
      ? (JSON.parse(text) as never)
      : (undefined as never)
    return { status: response.status, body: json, problem: json, text, headers: response.headers }
  }
  call(name: EndpointName, params: object = {}, body?: unknown): Promise<Answer> {
    const e = endpoints[name]
    const path = e.path.replace(/:(\w+)/g, (_, k: string) => String((params as Record<string, unknown>)[k]))
    return body === undefined
      ? this.raw(e.method.toUpperCase(), path)
      : this.raw(e.method.toUpperCase(), path, JSON.stringify(body), { 'content-type': 'application/json' })
  }
  /** Connects the simulated bench of a loop, or ends it. */
  connectBench(loopId: string, connected = true): Promise<Answer> {
    return this.call('connectBench', { loopId }, { connected })
  }
  async look(): Promise<void> {
    this.token = ((await this.raw('GET', '/api/session')).body as { csrfToken: string }).csrfToken
  }
  async signIn(signIn: string, password = PASSWORD): Promise<this> {
    await this.look()
    const answer = await this.call('signIn', {}, { signIn, password })
    if (answer.status !== 200) throw new Error(`${signIn}: ${answer.text}`)
    this.token = (answer.body as { csrfToken: string }).csrfToken
    return this
  }
}

/** One pool for all servers of a test file: its threads take a second to start. */
const workers = openWorkers()

export interface TestServer {
  base: string
  /** Code for the first user; empty where there are users. */
  setupCode: string
  ownerUrl: string
  sealer: Sealer
  sealKeyFile: string
  db: Database
  pool: pg.Pool
  applicationUrl: string
  visitor(): Visitor
  as(signIn: 'ailsa' | 'rona' | 'magnus'): Promise<Visitor>
  /** Makes the first user of an empty server and returns them signed in. */
  founder(): Promise<Visitor>
  stop(): Promise<void>
  /** Ends as by kill -9: nothing is given back. */
  die(): Promise<void>
}

/** A database without anything in it, beside the others. */
export async function emptyDatabase(): Promise<{ ownerUrl: string; applicationUrl: string }> {
  const name = `t_${randomUUID().replace(/-/g, '')}`
  const owner = new pg.Client({ connectionString: inject('ownerUrl') })
  await owner.connect()
  await owner.query(`create database ${name}`)
  await owner.end()
  const at = (url: string) => url.replace(/\/calm_loop$/, `/${name}`)
  return { ownerUrl: at(inject('ownerUrl')), applicationUrl: at(inject('applicationUrl')) }
}

/** A new database with everything that a server needs, and the demo plant unless `empty`. */
async function newDatabase(empty: boolean) {
  const { ownerUrl, applicationUrl } = await emptyDatabase()
  const sealKeyFile = join(mkdtempSync(join(tmpdir(), 'calm-loop-key-')), 'seal-key.json')
  const sealer = openSealer(sealKeyFile)
  await migrateDatabase(ownerUrl)
  await asOwner(ownerUrl, async (owner) => {
    await registerKeys(owner, sealer)
    await sealOlder(owner, sealer)
    if (!empty) await loadDemo(owner, workers, sealer)
  })
  return { ownerUrl, applicationUrl, sealer, sealKeyFile }
}

/** Starts a server on a new database, with the demo plant unless `empty`. */
export async function startServer({
  empty = false,
  on,
  log,
  trustProxy,
  benchPace,
  standIns,
  webRoot,
  backups,
}: {
  empty?: boolean
  /** Another server, whose database this one shares. */
  on?: TestServer
  log?: (line: string) => void
  trustProxy?: string
  benchPace?: number
  webRoot?: string
  backups?: BackupsInto
  standIns?: { name: string; protocol: 'hart' | 'modbus'; reached: string; control: number }[]
} = {}): Promise<TestServer> {
  const { ownerUrl, applicationUrl, sealer, sealKeyFile } = on ?? (await newDatabase(empty))
  const { db, pool } = openDatabase(applicationUrl)
  const hub = await openEventHub(applicationUrl)
  const logger = log ? makeLog('info', { write: log }) : makeLog(process.env['LOG_LEVEL'] ?? 'silent')
  const queue = await openQueue(pool, logger)
  const { app, links, surveys, errands, recorders, outgoing } = await makeApp({
    db,
    pool,
    hub,
    workers,
    sealer,
    trustProxy,
    benchPace,
    standIns,
    webRoot,
    queue,
    backups,
    proveAnswers: true,
    log: logger,
  })
  const server = serverOf(app, logger).listen(0, '127.0.0.1')
  await new Promise((resolve) => server.once('listening', resolve))
  const base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`
  links.reachedAt(base)
  await surveys.resume()
  const end = async () => {
    await outgoing.close()
    await errands.close()
    await queue.close()
    server.closeAllConnections()
    await new Promise((resolve) => server.close(resolve))
    await hub.close()
    await pool.end()
  }
  const setupCode = (await isEmpty(db)) ? await issueSetupCode(db) : ''
  return {
    base,
    setupCode,
    async founder() {
      const who = new Visitor(base)
      const body = { id: uuid(), name: 'Una Marsh', signIn: 'una', password: 'quite long enough', code: setupCode }
      const answer = await who.call('firstPerson', {}, body)
      if (answer.status !== 200) throw new Error(answer.text)
      who.token = (answer.body as { csrfToken: string }).csrfToken
      return who
    },
    ownerUrl,
    sealer,
    sealKeyFile,
    db,
    pool,
    applicationUrl,
    visitor: () => new Visitor(base),
    as: (signIn) => new Visitor(base).signIn(signIn),
    async stop() {
      await surveys.close()
      await recorders.close()
      await links.closeAll()
      await end()
    },
    die: end,
  }
}

/** A server for a file of tests, with the three people of the demo plant signed in; it ends with the file. */
export async function served(options: Parameters<typeof startServer>[0] = {}) {
  const server = await startServer(options)
  afterAll(() => server.stop())
  return { server, ailsa: await server.as('ailsa'), rona: await server.as('rona'), magnus: await server.as('magnus') }
}

/** Password of everyone in the demo plant. */
export const PASSWORD = 'kelp and salt'

/** An answer that must not be a refusal. */
export function good<T extends { status: number; text: string }>(answer: T): T {
  if (answer.status >= 300) throw new Error(answer.text)
  return answer
}

/** Waits until something holds: for as long as a busy machine needs. */
export async function until(holds: () => boolean | Promise<boolean>, tries = 400): Promise<void> {
  for (let i = 0; i < tries; i++) {
    if (await holds()) return
    await new Promise((resolve) => setTimeout(resolve, 100))
  }
  throw new Error('it never came to that')
}

/** Events of a stream until `enough`. */
export async function listenTo(
  server: TestServer,
  who: Visitor,
  path: string,
  enough: (events: { event: string; data: never }[]) => boolean,
  meanwhile?: () => Promise<unknown>,
) {
  const abort = new AbortController()
  const response = await fetch(server.base + path, { headers: { cookie: who.cookie }, signal: abort.signal })
  const events: { event: string; data: never }[] = []
  const started = meanwhile?.()
  let text = ''
  for await (const chunk of response.body!.pipeThrough(new TextDecoderStream())) {
    text += chunk
    const parts = text.split('\n\n')
    text = parts.pop()!
    for (const part of parts) {
      const match = /^event: (.*)\ndata: (.*)$/m.exec(part)
      if (match) events.push({ event: match[1]!, data: JSON.parse(match[2]!) as never })
    }
    if (enough(events)) break
  }
  abort.abort()
  await started
  return events
}

export const mm = (value: number) => ({ typed: `${value} mm`, value, unit: 'mm' })
export const mA = (value: number) => ({ typed: `${value} mA`, value, unit: 'mA' })

/** A new, complete loop with a check begun; what the tests go on from. */
export async function checkBegun(who: Visitor, tag: string, changed: Record<string, string> = {}, practice = false) {
  const ids = { loopId: uuid(), versionId: uuid(), checkId: uuid(), gateId: uuid() }
  const create = { tag, service: 'Test tank', area: 'Test', kind: 'level-from-above' }
  const version = firstVersion(demoEntries('level-from-above', changed))
  const start = {
    phase: 'as-found',
    percents: [0, 50, 100],
    gearIds: [],
    ambient: '',
    told: 'Bree',
    gateId: ids.gateId,
    words: gateWording('loop-in-manual', 'current'),
  }
  begunAt = Date.now()
  const answers = [
    await who.call('createLoop', ids, create),
    await who.call('saveVersion', ids, version),
    ...(practice ? [await who.connectBench(ids.loopId)] : []),
    await who.call('startCheck', ids, start),
  ]
  const bad = answers.find((a) => a.status !== 200)
  if (bad) throw new Error(bad.text)
  return { ...ids, create, version, start }
}

/** When the newest check was begun: its readings are of after that. */
let begunAt = Date.now()
/** The loop given back, in the words of its gate. */
export const givenBack = (family: 'current' | 'switch' = 'current') => ({
  gate: 'loop-released',
  words: gateWording('loop-released', family),
  told: 'Bree',
})

/** One reading of the check at a planned point of 0, 50, 100 % up and down. */
export function readingAt(pointIndex: number, error_mA = 0.02) {
  const level = [0, 1500, 3000, 3000, 1500, 0][pointIndex]! + 3
  const current = Math.round((4 + (16 * level) / 3000 + error_mA) * 1000) / 1000
  return {
    pointIndex,
    applied: mm(level),
    reads: { current: mA(current) },
    source: 'typed',
    supersedes: null as string | null,
    reason: '',
    takenAt: new Date(begunAt + pointIndex).toISOString(),
  }
}
