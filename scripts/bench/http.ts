// Throughput: pages of the register a second, side by side with a bare Express that asks the same; readings taken a
// second; the register as CSV.
import autocannon from 'autocannon'
import { spawn } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { Agent, request } from 'node:http'
import { createInterface } from 'node:readline'
import { fileURLToPath } from 'node:url'
import { v7 as uuid } from 'uuid'
import { gateWording } from '@calm-loop/core/check'
import { asOwner, migrateDatabase } from '../../apps/server/src/db/database.ts'
import { dataFolder, run, throwAway } from '../../e2e/run-server.ts'
import { demoEntries, firstVersion } from '../../packages/core/src/kinds/demo-entries.fixture.ts'
import { openCluster } from '../lib/postgres.mjs'
import { quantile, row, type Row } from './measure.ts'

const [SECONDS, ROUNDS, CONNECTIONS] = [4, 5, 16]
/** Points of a check, and per cent between them. */
const [POINTS, STEP] = [30, 3]
const LOOPS = 10_000
const [LOOPS_READ, READINGS] = [20, 1200]

/** Somebody signed in, with what each request carries. */
export async function signedIn(base: string) {
  const looked = await fetch(`${base}/api/session`)
  const { csrfToken } = (await looked.json()) as { csrfToken: string }
  const answer = await fetch(`${base}/api/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', 'x-csrf-token': csrfToken },
    body: JSON.stringify({ signIn: 'ailsa', password: 'kelp and salt' }),
  })
  if (!answer.ok) throw new Error(await answer.text())
  const headers = {
    cookie: answer.headers.get('set-cookie')!.split(';')[0]!,
    'x-csrf-token': ((await answer.json()) as { csrfToken: string }).csrfToken,
    'content-type': 'application/json',
  }
  // Not by fetch, which costs the machine as much as what is measured.
  const agent = new Agent({ keepAlive: true })
  const put = (path: string, body: unknown) =>
    new Promise<void>((resolve, reject) => {
      const asked = request(base + path, { method: 'PUT', headers, agent }, (said) => {
        let text = ''
        said.on('data', (chunk: Buffer) => (text += String(chunk)))
        said.on('end', () => (said.statusCode === 200 ? resolve() : reject(new Error(`${path}: ${text}`))))
      })
      asked.on('error', reject)
      asked.end(JSON.stringify(body))
    })
  return { headers, put }
}

/** Requests a second, with everything answered well. */
export async function rate(url: string, headers: Record<string, string>): Promise<number> {
  const once = await fetch(url, { headers })
  if (!once.ok) throw new Error(`${url}: ${once.status} ${await once.text()}`)
  const { requests, non2xx, errors } = await autocannon({ url, headers, connections: CONNECTIONS, duration: SECONDS })
  if (non2xx || errors) throw new Error(`${url}: ${non2xx} refused, ${errors} broken`)
  return requests.average
}
export const perSecond = (what: string, rates: readonly number[]): Row => ({
  what,
  unit: '/s',
  median: quantile(rates, 0.5),
  p95: Math.min(...rates),
  most: Math.max(...rates),
})

/** Loops as a works has them, made in the tables. */
const manyLoops = (ownerUrl: string) =>
  asOwner(ownerUrl, async (_db, client) => {
    await client.query(`
      insert into loops (id, tag, service, area, kind, created_at, state, next_due, last_error_pct, tolerance_pct)
      select gen_random_uuid(), 'BE-' || (10000 + i), 'Tank ' || i || ' level', 'Area ' || i % 40, 'level-from-above',
        now(), (array['half-entered', 'ready', 'passed', 'failed'])[1 + i % 4], date '2026-12-01' + i % 700,
        (i % 100) / 100.0, 0.5
      from generate_series(1, ${LOOPS}) i`)
    await client.query('analyze loops')
  })

interface Begun {
  readonly path: string
  readonly at: number
}
/** Loops with a check begun, of so many points; `round` keeps their tags apart. */
async function checksBegun({ put }: Awaited<ReturnType<typeof signedIn>>, round: number): Promise<Begun[]> {
  const percents = Array.from({ length: POINTS }, (_, i) => i * STEP)
  const begun: Begun[] = []
  for (let i = 0; i <= LOOPS_READ; i++) {
    const [loopId, checkId] = [uuid(), uuid()]
    const place = { service: 'Bench', area: 'Bench', kind: 'level-from-above' }
    await put(`/api/loops/${loopId}`, { tag: `BR-${round * 100 + i}`, ...place })
    await put(`/api/loops/${loopId}/versions/${uuid()}`, firstVersion(demoEntries('level-from-above')))
    await put(`/api/loops/${loopId}/checks/${checkId}`, {
      ...{ phase: 'as-found', percents, gearIds: [], ambient: '', told: 'Bree', gateId: uuid() },
      words: gateWording('loop-in-manual', 'current'),
    })
    begun.push({ path: `/api/loops/${loopId}/checks/${checkId}/readings/`, at: Date.now() })
  }
  return begun
}
const entry = (value: number, unit: string) => ({ typed: `${value} ${unit}`, value, unit })
/** Reading n of a check that goes up and down. */
function readingOf(n: number, at: number) {
  const percent = n < POINTS ? n * STEP : (2 * POINTS - 1 - n) * STEP
  const level = percent * 30
  return {
    ...{ pointIndex: n, source: 'typed', supersedes: null, reason: '' },
    takenAt: new Date(at + n).toISOString(),
    applied: entry(level, 'mm'),
    reads: { current: entry(Math.round((4 + (16 * level) / 3000) * 1000) / 1000, 'mA') },
  }
}
/** Takes readings on all loops at once, one after the other on each: how many a second, and the time of each. */
async function readings(
  { put }: Awaited<ReturnType<typeof signedIn>>,
  begun: readonly Begun[],
): Promise<{ readonly perSecond: number; readonly times: readonly number[] }> {
  const each = READINGS / begun.length
  // The first of a loop has its study made.
  for (const { path, at } of begun) await put(path + uuid(), readingOf(0, at))
  const times: number[] = []
  const from = performance.now()
  await Promise.all(
    begun.map(async ({ path, at }) => {
      for (let n = 1; n < each; n++) {
        const asked = performance.now()
        await put(path + uuid(), readingOf(n, at))
        times.push(performance.now() - asked)
      }
    }),
  )
  return { perSecond: (times.length * 1000) / (performance.now() - from), times }
}
/** Rounds of readings, each on loops of its own; and one check more, to be watched. */
export async function takenInRounds(
  someone: Awaited<ReturnType<typeof signedIn>>,
): Promise<{ readonly rows: Row[]; readonly watched: Begun }> {
  const [watched] = (await checksBegun(someone, 0)) as [Begun]
  const [rates, p99]: [number[], number[]] = [[], []]
  for (let i = 0; i <= ROUNDS; i++) {
    const { perSecond: one, times } = await readings(someone, (await checksBegun(someone, i + 1)).slice(1))
    // The first warms the server.
    if (i > 0) [rates, p99].forEach((list, k) => list.push(k ? quantile(times, 0.99) : one))
  }
  const rows = [
    { ...perSecond(`readings taken on ${LOOPS_READ} loops`, rates), floor: 300 },
    row({ what: 'a reading taken, p99 of each round', unit: 'ms', times_ms: p99, target: 150, judged: 'median' }),
  ]
  return { rows, watched }
}

const STREAMS = 500
/** Share of one core that a server takes for so many open pages while one thing changes a second. */
export async function streams(
  { base, pids }: Awaited<ReturnType<typeof run>>,
  someone: Awaited<ReturnType<typeof signedIn>>,
  begun: Begun,
): Promise<Row> {
  const loopId = begun.path.split('/')[3]!
  const agent = new Agent({ keepAlive: true, maxSockets: STREAMS })
  let heard = 0
  const open = await Promise.all(
    Array.from(
      { length: STREAMS },
      () =>
        new Promise<() => void>((resolve, reject) => {
          const asked = request(`${base}/api/loops/${loopId}/events`, { headers: someone.headers, agent }, (said) => {
            said.on('data', (text: Buffer) => void (heard += String(text).includes('event: change') ? 1 : 0))
            said.on('error', () => undefined)
            resolve(() => void asked.destroy())
          })
          asked.on('error', reject)
          asked.end()
        }),
    ),
  )
  const used_ms = () => {
    const [user, system] = readFileSync(`/proc/${pids().server}/stat`, 'utf8').split(') ')[1]!.split(' ').slice(11, 13)
    // A hundred ticks a second, as Linux tells it to programs.
    return (Number(user) + Number(system)) * 10
  }
  const shares: number[] = []
  for (let n = 0; n < 12; n++) {
    const before = used_ms()
    await someone.put(begun.path + uuid(), readingOf(n, begun.at))
    await new Promise((resolve) => setTimeout(resolve, 1000))
    if (n > 1) shares.push((used_ms() - before) / 10)
  }
  open.forEach((close) => close())
  if (heard < STREAMS * 11) throw new Error(`only ${heard} of ${STREAMS * 12} changes were heard`)
  const mean = shares.reduce((sum, s) => sum + s, 0) / shares.length
  return {
    what: `${STREAMS} live streams, of one core`,
    unit: '%',
    median: mean,
    p95: quantile(shares, 0.95),
    most: Math.max(...shares),
    target: 30,
    judged: 'median',
  }
}
async function bare(ownerUrl: string) {
  const path = fileURLToPath(new URL('bare.ts', import.meta.url))
  const child = spawn(process.execPath, ['--import', 'tsx', path, ownerUrl], {
    stdio: ['ignore', 'pipe', 'inherit', 'ipc'],
    env: { ...process.env, NODE_ENV: 'production' },
  })
  const { value } = (await createInterface(child.stdout!)[Symbol.asyncIterator]().next()) as { value: string }
  return { base: `http://127.0.0.1:${value}`, stop: () => void child.kill() }
}

export async function http(): Promise<Row[]> {
  const folder = dataFolder()
  const cluster = await openCluster(folder)
  try {
    await migrateDatabase(cluster.ownerUrl)
    const ours = await run(folder, [], {
      DATABASE_URL: cluster.applicationUrl,
      MIGRATION_DATABASE_URL: cluster.ownerUrl,
    })
    const plain = await bare(cluster.ownerUrl)
    try {
      await manyLoops(cluster.ownerUrl)
      const someone = await signedIn(ours.base)
      const [theirs, mine]: [number[], number[]] = [[], []]
      for (let i = 0; i <= ROUNDS; i++) {
        const pair = [
          await rate(`${plain.base}/api/loops`, {}),
          await rate(`${ours.base}/api/loops`, someone.headers),
        ] as const
        // The first warms both.
        if (i > 0) [theirs, mine].forEach((rates, k) => rates.push(pair[k]!))
      }
      const share = mine.map((m, i) => m / theirs[i]!)
      const csv: number[] = []
      for (let i = 0; i < ROUNDS; i++) {
        const asked = performance.now()
        await (await fetch(`${ours.base}/api/loops.csv`, { headers: someone.headers })).text()
        csv.push(performance.now() - asked)
      }
      const { rows, watched } = await takenInRounds(someone)
      return [
        perSecond('register pages, bare Express and pg', theirs),
        perSecond('register pages, ours', mine),
        { ...perSecond('ours of bare', share), unit: '×', floor: 0.7 },
        ...rows,
        await streams(ours, someone, watched),
        row({ what: `register of ${LOOPS} loops as CSV`, unit: 'ms', times_ms: csv, target: 2000, judged: 'most' }),
      ]
    } finally {
      plain.stop()
      await ours.stop()
    }
  } finally {
    cluster.stop()
    throwAway(folder)
  }
}
