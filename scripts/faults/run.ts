// `npm run test:faults [-- KILLS [SEED]]`: writes while server, database and start command are killed by chance,
// connections are cut and
// clocks jump. At the end every write that was acknowledged is on record exactly once, in its order, and nothing else
// is.
import type { AuditPage, FolderView } from '@calm-loop/contract'
import { v7 as uuid } from 'uuid'
import { gateWording } from '@calm-loop/core/check'
import { dataFolder, run, throwAway, type Running } from '../../e2e/run-server.ts'
import { demoEntries } from '../../packages/core/src/kinds/demo-entries.fixture.ts'
import { dice, pick } from '../hostile/shapes.ts'

const [kills = 300, seed = 20_261_127] = process.argv.slice(2).map(Number)
const roll = dice(seed)
const WRITERS = 4
const sleep = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms))
const folder = dataFolder()
let app: Running = await run(folder)
let over = false
const failures: string[] = []
const counts: Record<string, number> = {}
const count = (what: string) => (counts[what] = (counts[what] ?? 0) + 1)

/** Someone who writes and, whatever happens, asks again with the same id until there is an answer. */
class Writer {
  private cookie = ''
  private token = ''
  private readonly name: string
  constructor(name: string) {
    this.name = name
  }
  async fetch(
    method: string,
    path: string,
    body?: unknown,
    signal?: AbortSignal,
  ): Promise<{ status: number; body: never }> {
    const answer = await fetch(app.base + path, {
      method,
      headers: { cookie: this.cookie, 'x-csrf-token': this.token, 'content-type': 'application/json' },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
      ...(signal ? { signal } : {}),
    })
    const set = answer.headers.get('set-cookie')
    if (set) this.cookie = set.split(';')[0]!
    const text = await answer.text()
    return { status: answer.status, body: (text ? JSON.parse(text) : undefined) as never }
  }
  async signIn(): Promise<void> {
    for (;;) {
      const answer = await this.fetch('POST', '/api/session', { signIn: this.name, password: 'kelp and salt' }).catch(
        () => undefined,
      )
      if (answer?.status === 200) return void (this.token = (answer.body as { csrfToken: string }).csrfToken)
      await sleep(200)
    }
  }
  /** Until it is answered: the answer that counts. A part of the tries is cut off on the way. */
  async write(path: string, body: unknown): Promise<{ status: number; body: never }> {
    for (let tries = 0; ; tries++) {
      const abort = new AbortController()
      const cut = roll() < 0.15 ? setTimeout(() => abort.abort(), roll() * 40) : undefined
      const late = setTimeout(() => abort.abort(), 20_000)
      const answer = await this.fetch('PUT', path, body, abort.signal).catch(() => undefined)
      clearTimeout(cut)
      clearTimeout(late)
      if (answer && answer.status < 500 && answer.status !== 401 && answer.status !== 429) return answer
      if (answer?.status === 500) failures.push(`500 for ${path}: ${JSON.stringify(answer.body)}`)
      if (answer?.status === 401) await this.signIn()
      count(answer ? `answer ${answer.status}` : 'no answer')
      if (over && tries > 300) throw new Error(`never answered: ${path}`)
      await sleep(100)
    }
  }
}

interface Ledger {
  loopId: string
  checkId: string
  wires: string[]
  readings: string[]
  clockRefused: number
}

async function writer(index: number): Promise<Ledger> {
  const who = new Writer(index % 2 ? 'ailsa' : 'rona')
  await who.signIn()
  const ids = { loopId: uuid(), versionId: uuid(), checkId: uuid(), gateId: uuid() }
  const must = async (path: string, body: unknown) => {
    const { status, body: said } = await who.write(path, body)
    if (status !== 200) failures.push(`${status} for ${path}: ${JSON.stringify(said)}`)
  }
  const at = `/api/loops/${ids.loopId}`
  await must(at, { tag: `LT-${7000 + index}`, service: 'Fault tank', area: 'Faults', kind: 'level-from-above' })
  const version = {
    parentId: null,
    parentRevision: null,
    revision: 0,
    entries: demoEntries('level-from-above'),
    reason: 'Entered',
    seal: true,
  }
  await must(`${at}/versions/${ids.versionId}`, version)
  const start = {
    phase: 'as-found',
    percents: [0, 50, 100],
    gearIds: [],
    ambient: '',
    told: 'Bree',
    gateId: ids.gateId,
    words: gateWording('loop-in-manual', 'current'),
  }
  await must(`${at}/checks/${ids.checkId}`, start)
  const ledger: Ledger = { loopId: ids.loopId, checkId: ids.checkId, wires: [], readings: [], clockRefused: 0 }
  while (!over) {
    const id = uuid()
    if (roll() < 0.5) {
      await must(`${at}/wire-log/${id}`, { what: 'afresh', reason: `Writer ${index}, ${ledger.wires.length}` })
      ledger.wires.push(id)
    } else {
      // A clock that jumps is told so, and the reading is taken again when it is right.
      const jump = roll() < 0.2 ? pick(roll, [-86_400_000, 86_400_000, 600_000]) : 0
      const mA = (4 + (ledger.readings.length % 100) / 100).toFixed(3)
      const reading = (takenAt: number) => ({
        pointIndex: 0,
        applied: { typed: '3 mm', value: 3, unit: 'mm' },
        reads: { current: { typed: `${mA} mA`, value: Number(mA), unit: 'mA' } },
        source: 'typed',
        supersedes: ledger.readings.at(-1) ?? null,
        reason: ledger.readings.length ? 'Again' : '',
        takenAt: new Date(takenAt).toISOString(),
      })
      const path = `${at}/checks/${ids.checkId}/readings/${id}`
      if (jump) {
        const { status } = await who.write(path, reading(Date.now() + jump))
        if (status === 422) ledger.clockRefused++
        else failures.push(`a clock that jumped by ${jump} ms was answered ${status}`)
      }
      await must(path, reading(Date.now()))
      ledger.readings.push(id)
    }
    count('acknowledged')
    await sleep(roll() * 20)
  }
  return ledger
}

const kill = (pid: number | undefined) => {
  try {
    if (pid) process.kill(pid, 'SIGKILL')
  } catch {
    // It had just gone.
  }
}
async function ready(): Promise<void> {
  for (let i = 0; i < 600; i++) {
    if (
      await fetch(`${app.base}/readyz`, { signal: AbortSignal.timeout(3000) }).then(
        (r) => r.ok,
        () => false,
      )
    )
      return
    await sleep(50)
  }
  failures.push('not ready again within half a minute')
}

/** Until some more writes have come through: a kill between two writes that never were proves nothing. */
async function underLoad(): Promise<void> {
  const wanted = (counts['acknowledged'] ?? 0) + 1 + Math.floor(roll() * 8)
  for (let i = 0; i < 3000; i++) {
    if ((counts['acknowledged'] ?? 0) >= wanted) return
    await sleep(10)
  }
  failures.push('no write came through within half a minute')
}

async function killer(): Promise<void> {
  const slowest = { what: '', ms: 0 }
  for (let i = 0; i < kills; i++) {
    await underLoad()
    await sleep(roll() * 200)
    const what = pick(roll, ['server', 'database', 'both', 'start'] as const)
    const pids = app.pids()
    if (what === 'start') {
      kill(pids.start)
      await app.ended
      app = await run(folder)
    }
    if (what === 'server' || what === 'both') kill(pids.server)
    if (what === 'database' || what === 'both') kill(pids.database)
    count(`killed ${what}`)
    const since = Date.now()
    await sleep(20)
    await ready()
    if (Date.now() - since > slowest.ms) Object.assign(slowest, { what, ms: Date.now() - since })
    if ((i + 1) % 20 === 0)
      console.log(
        `${i + 1} kills, ${counts['acknowledged'] ?? 0} writes acknowledged, slowest back after ${slowest.ms} ` +
          `ms (${slowest.what})`,
      )
  }
}

/** Every acknowledged write once and in order; the same of what the chain of the audit trail says. */
async function verify(ledgers: readonly Ledger[]): Promise<void> {
  const who = new Writer('rona')
  await who.signIn()
  for (const { loopId, checkId, wires, readings } of ledgers) {
    const view = (await who.fetch('GET', `/api/loops/${loopId}`)).body as FolderView
    const check = view.checks.find((c) => c.id === checkId)!
    const same = (a: readonly string[], b: readonly string[]) => JSON.stringify(a) === JSON.stringify(b)
    if (
      !same(
        view.wireLog.map((w) => w.id),
        wires,
      )
    )
      failures.push(`wire log of ${view.loop.tag}: ${view.wireLog.length} on record, ${wires.length} acknowledged`)
    if (
      !same(
        check.readings.map((r) => r.id),
        readings,
      )
    )
      failures.push(`readings of ${view.loop.tag}: ${check.readings.length} on record, ${readings.length} acknowledged`)
    if (check.readings.some((r, i) => r.seq !== i + 1))
      failures.push(`readings of ${view.loop.tag} are not numbered one after another`)
  }
  const page = (await who.fetch('GET', '/api/audit')).body as AuditPage
  if (page.chain.brokenAt !== null) failures.push(`the audit trail is broken at ${page.chain.brokenAt}`)
}

try {
  const writers = Promise.all(Array.from({ length: WRITERS }, (_, i) => writer(i)))
  writers.catch((error: Error) => failures.push(error.message))
  await killer()
  over = true
  await verify(await writers)
} catch (error) {
  failures.push((error as Error).message)
} finally {
  over = true
  await app.stop()
  throwAway(folder)
}
console.log(`Seed ${seed}: ${JSON.stringify(counts)}`)
for (const line of failures.slice(0, 40)) console.log(`BAD ${line}`)
console.log(`\n${failures.length ? 0 : 1} passed, ${failures.length} failed`)
process.exitCode = failures.length ? 1 : 0
