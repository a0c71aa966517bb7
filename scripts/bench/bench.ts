// All measurements, and the table.
import { study } from '@calm-loop/core/loop'
import { chromium, type Page } from '@playwright/test'
import { endsOf, loadLine, loopBudget, solveCircuit, type Part } from '@calm-loop/core/circuit'
import { clampOnGeometry, runTrials } from '@calm-loop/core/flow'
import { gasProperties, waterProperties } from '@calm-loop/core/fluid'
import { currentKindOf } from '@calm-loop/core/kinds'
import { replay } from '@calm-loop/core/procedure'
import { spread } from '@calm-loop/core/thread'
import { diagnose } from '@calm-loop/core/trim'
import { EARTH, energise, explain, judgeWiring, PLAIN, propose, type Conditions } from '@calm-loop/core/wiring'
import type { Folder, FolderView } from '@calm-loop/contract'
import { readFileSync } from 'node:fs'
import { cpus, hostname } from 'node:os'
import { dataFolder, run, throwAway } from '../../e2e/run-server.ts'
import { migrateDatabase, openDatabase } from '../../apps/server/src/db/database.ts'
import { loops } from '../../apps/server/src/db/schema.ts'
import { certificatePdf } from '../../apps/server/src/documents/certificate.ts'
import pg from 'pg'
import { v7 as uuid } from 'uuid'
import { demoEntries } from '../../packages/core/src/kinds/demo-entries.fixture.ts'
import { TERMS, walk } from '../../packages/core/src/procedure/procedure.fixture.ts'
import { listLoops } from '../../apps/server/src/services/loops.ts'
import { openCluster } from '../lib/postgres.mjs'
import { row, sample, type Row } from './measure.ts'

/** A short form that only shows that each measurement can be made. */
const SMOKE = process.argv.includes('smoke')
const KEYS = SMOKE ? 24 : 110
const DROPS = SMOKE ? 9 : 46

const demo = (
  JSON.parse(readFileSync(new URL('../../demo/folders/LT-112.json', import.meta.url), 'utf8')) as { folder: Folder }
).folder
const entries = demo.versions[0]!.entries

async function core(): Promise<Row[]> {
  const kind = currentKindOf('level-from-above')
  const { thread } = study(kind, entries)
  return [
    row(
      'thread: all knots from one',
      'µs',
      await sample((i) => spread(thread, thread.knots[i % 7]!.id, 12 + (i % 5)), { samples: 200, batch: 2000 }),
      50,
    ),
    row(
      'thread, figures and findings from the entries',
      'µs',
      await sample(() => study(kind, entries), { samples: 200, batch: 50 }),
    ),
    row(
      'budget and load line',
      'µs',
      await sample(
        (i) => [loopBudget({ supplyV: 24 + (i % 3), liftOffV: 12, seriesOhms: [250, 5] }), loadLine(12, 22, 30)],
        { samples: 200, batch: 500 },
      ),
    ),
  ]
}

/** What a fluid state, a beam, and the trials of a flow take. */
async function flow(): Promise<Row[]> {
  const gas = {
    methane: 0.965,
    nitrogen: 0.003,
    carbonDioxide: 0.006,
    ethane: 0.018,
    propane: 0.0045,
    isoButane: 0.001,
    nButane: 0.001,
    isoPentane: 0.0005,
    nPentane: 0.0003,
    nHexane: 0.0007,
  }
  const beam = {
    od_mm: 326,
    wall_mm: 7.4,
    wallSpeed_mps: 3000,
    liner_mm: 4,
    linerSpeed_mps: 2500,
    fluidSpeed_mps: 1480,
    wedgeSpeed_mps: 2480,
    wedgeAngle_deg: 40,
    traverses: 2 as const,
  }
  const kind = currentKindOf('clamp-on')
  const model = study(kind, demoEntries('clamp-on')).doubt!()!
  const trials = () => {
    const steps = runTrials(model, 100_000, 7)
    for (;;) if (steps.next().done) return
  }
  return [
    row(
      'water: density, sound speed, viscosity (20 000/s is 50 µs)',
      'µs',
      await sample((i) => waterProperties(5 + (i % 150), 500 + (i % 700)), { samples: 60, batch: 2000 }),
      50,
    ),
    row(
      'gas of 10 components, AGA8 DETAIL (2 000/s is 500 µs)',
      'µs',
      await sample((i) => gasProperties(gas, 5 + (i % 40), 1000 + (i % 5000)), { samples: 60, batch: 300 }),
      500,
    ),
    row(
      'clamp-on geometry',
      'µs',
      await sample((i) => clampOnGeometry({ ...beam, wall_mm: 7 + (i % 9) / 10 }), { samples: 100, batch: 2000 }),
      50,
    ),
    row(
      'clamp-on point: thread, figures, findings from its entries',
      'µs',
      await sample(() => study(kind, demoEntries('clamp-on')), { samples: 60, batch: 10 }),
    ),
    row('100 000 trials of a clamp-on flow', 'ms', await sample(trials, { samples: 7, warm: 1 }), 1500, 'p95'),
  ]
}

/** Diagnosis, and a long run replayed. */
async function trim(): Promise<Row[]> {
  const points = Array.from({ length: 11 }, (_, i) => {
    const applied = 60 * i
    const mA = 4 + (16 * (applied + 7)) / 600
    return { applied, digital: applied + 7 + (i % 3) / 10, mA, receiver: ((mA - 4) / 16) * 600 }
  })
  const found = { lrv: 0, urv: 600, points, tolerancePct: 0.5, adjustAbovePct: 70, hasCurrent: true }
  const { events } = walk('current-trim', TERMS)
  // Two hundred events: the longest procedure, with the same reading refused its read-back again and again.
  const long = [
    ...events.slice(
      0,
      events.findIndex((e) => e.do === 'sent' && e.command.do === 'drive'),
    ),
  ]
  const drive = { do: 'drive', mA: 4 } as const
  while (long.length < 198)
    long.push(
      { do: 'sent', step: 'drive-4', command: drive, changesBefore: 0 },
      { do: 'answered', step: 'drive-4', taken: false, says: 'busy' },
    )
  long.push(
    { do: 'sent', step: 'drive-4', command: drive, changesBefore: 0 },
    { do: 'answered', step: 'drive-4', taken: true, says: '' },
  )
  return [
    row('diagnosis of 11 points', 'µs', await sample(() => diagnose(found), { samples: 100, batch: 200 }), 1000, 'p95'),
    row(
      `a procedure of ${long.length} events replayed`,
      'ms',
      await sample(() => replay(long), { samples: 100, batch: 5 }),
      5,
      'p95',
    ),
  ]
}

/** Frames of the guided page while its trend is drawn twenty times a second. */
async function trend(page: Page, base: string): Promise<Row> {
  await page.goto(`${base}/loops?`)
  await page.getByRole('link', { name: 'PDT-118' }).click()
  await page.waitForURL(/loops\/[0-9a-f-]{36}/)
  const loopId = page.url().split('/')[4]!.split('?')[0]!
  const runId = uuid()
  const act = (body: object) => callAs(page, 'PUT', `/api/loops/${loopId}/procedures/${runId}/events/${uuid()}`, body)
  const steps = [
    { do: 'begin', procedure: 'zero-trim', choices: {} },
    { do: 'pass', step: 'told', words: 'bench' },
    { do: 'pass', step: 'manual' },
    { do: 'pass', step: 'trips', words: 'none fed' },
    { do: 'pass', step: 'as-found' },
    { do: 'pass', step: 'warning' },
    { do: 'valve', step: 'out-1-low', move: { valve: 'low', to: 'shut' } },
    { do: 'valve', step: 'out-2-equalize', move: { valve: 'equalize', to: 'open' } },
    { do: 'valve', step: 'out-3-high', move: { valve: 'high', to: 'shut' } },
    { do: 'pass', step: 'off-process' },
  ]
  for (const body of steps) if ((await act(body)) !== 200) throw new Error(`refused: ${JSON.stringify(body)}`)
  await page.goto(`${base}/loops/${loopId}/trim?do=guided`)
  await page.locator('.trend').waitFor()
  await page.waitForTimeout(3000)
  await page.evaluate(readFileSync(new URL('./watch-frames.js', import.meta.url), 'utf8'))
  const watched = () => page.evaluate(() => (window as unknown as { frames_ms: number[] }).frames_ms)
  while ((await watched()).length < 905) await page.waitForTimeout(500)
  return row('frame with a live trend at 20 Hz (900 frames)', 'ms', (await watched()).slice(5), 32, 'p95')
}

const usual: Conditions = {
  mA: 12,
  figures: { supply: 24, liftOff: 12, shunt: 250, maxV: 18, otherSeries: 0 },
  coreOhm: 2.6,
  coreOhmPerM: 0.018,
}

/** Forty-odd loops side by side in one cabinet, on one supply. */
function cabinet(): { parts: readonly Part[]; nodes: number } {
  const one = energise(propose({ ...PLAIN, receiver: 'passive card' }), usual).parts
  const parts: Part[] = one.filter((p) => p.id.startsWith('PS/')) as Part[]
  for (let i = 0; i < 30; i++)
    for (const part of one) {
      if (part.id.startsWith('PS/')) continue
      const own = (node: string) => (node.startsWith('PS:') || node === EARTH ? node : `${i}.${node}`)
      parts.push(
        Object.fromEntries(
          Object.entries({ ...part, id: `${i}.${part.id}` }).map(([k, v]) =>
            ['a', 'b', 'plus', 'minus', 'anode', 'cathode'].includes(k) ? [k, own(v as string)] : [k, v],
          ),
        ) as unknown as Part,
      )
    }
  return { parts, nodes: new Set(parts.flatMap((p) => endsOf(p))).size }
}

async function wiring(): Promise<Row[]> {
  const drawn = propose(PLAIN)
  const base = energise(drawn, usual)
  const many = cabinet()
  const readings = [
    { of: 'volts' as const, red: 'TX:+', black: 'TX:−', value: 20 },
    { of: 'volts' as const, red: 'RX:IN', black: 'RX:0V', value: 2 },
    { of: 'volts' as const, red: 'JB:1', black: 'JB:2', value: 20 },
  ]
  return [
    row(
      `solver, loop of ${base.parts.length} parts`,
      'ms',
      await sample(() => solveCircuit({ ground: EARTH, parts: base.parts }), { samples: 200, batch: 20 }),
      0.2,
    ),
    row(
      `solver, cabinet of ${many.nodes} nodes`,
      'ms',
      await sample(() => solveCircuit({ ground: EARTH, parts: many.parts }), { samples: 40, warm: 5 }),
      50,
    ),
    row(
      'all findings and faults of a loop, three readings',
      'ms',
      await sample(() => [judgeWiring(drawn, usual, 22), explain(drawn, usual, readings)], { samples: 80, warm: 60 }),
      16,
    ),
  ]
}

/** From letting go of a conductor's end on a terminal until the frame with the new figures has been painted. */
async function dragging(page: Page, base: string): Promise<Row> {
  await page.goto(`${base}/loops?`)
  await page.getByRole('link', { name: 'LT-112' }).click()
  await page.locator('[data-stage="wire"]').click()
  await page.locator('.canvas[data-ready=yes]').waitFor()
  await page.waitForTimeout(800)
  const pin = async (ref: string) => {
    const box = (await page.locator(`.vue-flow__handle[data-handleid="${ref}|right"]`).boundingBox())!
    return { x: box.x + box.width / 2, y: box.y + box.height / 2 }
  }
  await page.evaluate(readFileSync(new URL('./watch-dropping.js', import.meta.url), 'utf8'))
  for (let i = 0; i < DROPS; i++) {
    const [a, b] = [await pin('RX:IN'), await pin('RX:0V')]
    await page.mouse.move(a.x, a.y)
    await page.mouse.down()
    await page.mouse.move(b.x, b.y, { steps: 4 })
    await page.waitForTimeout(60)
    await page.mouse.up()
    await page.waitForTimeout(250)
    await page.getByRole('button', { name: 'Undo' }).click()
    await page.waitForTimeout(350)
  }
  const times = (await page.evaluate(() => (window as unknown as { dropped: number[] }).dropped)).slice(6)
  // A drop that did not land is no measurement, and no reason to give up the others.
  if (!times.length) throw new Error('no drop changed a figure')
  return row(`drag to updated figures (${times.length} drops)`, 'ms', times, 32, 'p95')
}

async function certificate(): Promise<Row> {
  const view = { ...demo, row: undefined } as unknown as FolderView
  return row(
    'certificate PDF',
    'ms',
    await sample(() => certificatePdf(view, demo.checks.at(-1)!, { address: 'http://127.0.0.1' }), {
      samples: 25,
      warm: 5,
    }),
    300,
    'p95',
  )
}

async function register(): Promise<Row[]> {
  const folder = dataFolder()
  const cluster = await openCluster(folder)
  try {
    await migrateDatabase(cluster.ownerUrl)
    const { db, pool } = openDatabase(cluster.applicationUrl)
    const states = ['half-entered', 'ready', 'passed', 'failed']
    const rows = Array.from({ length: 10_000 }, (_, i) => ({
      id: `01890000-0000-7000-8000-${i.toString(16).padStart(12, '0')}`,
      tag: `LT-${10_000 + i}`,
      service: `Tank ${i} level`,
      area: `Area ${i % 40}`,
      kind: 'level-from-above',
      createdAt: new Date(),
      state: states[i % 4]!,
      nextDue: `20${26 + (i % 3)}-0${1 + (i % 9)}-15`,
      lastErrorPct: (i % 100) / 100,
      tolerancePct: 0.5,
    }))
    for (let i = 0; i < rows.length; i += 2000) await db.insert(loops).values(rows.slice(i, i + 2000))
    const owner = new pg.Client({ connectionString: cluster.ownerUrl })
    await owner.connect()
    await owner.query('analyze loops')
    await owner.end()
    const result = [
      row(
        'register: page of 50 out of 10 000',
        'ms',
        await sample((i) => listLoops(db, { after: `LT-${10_000 + ((i * 997) % 9000)}` }), { samples: 200, warm: 20 }),
        20,
        'p95',
      ),
      row(
        'register: found by words',
        'ms',
        await sample((i) => listLoops(db, { q: `tank ${(i * 37) % 9999}` }), { samples: 100, warm: 20 }),
        20,
        'p95',
      ),
      row(
        'register: one area, one state',
        'ms',
        await sample((i) => listLoops(db, { area: `Area ${i % 40}`, state: 'passed' }), { samples: 100, warm: 20 }),
        20,
        'p95',
      ),
    ]
    await pool.end()
    return result
  } finally {
    cluster.stop()
    throwAway(folder)
  }
}

/** What is measured in the browser. */
async function pages(wanted: (name: string) => boolean): Promise<void> {
  const folder = dataFolder()
  const server = await run(folder)
  const browser = await chromium.launch({ executablePath: process.env['CHROMIUM'] ?? '/usr/bin/chromium' })
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
    await page.goto(server.base)
    await page.getByRole('button', { name: 'Ailsa Fenn' }).click()
    await page.getByRole('heading', { name: 'Loops' }).waitFor()
    if (wanted('switches')) await part('switches', () => switches(page, server.base))
    if (wanted('trend')) await part('trend', async () => [await trend(page, server.base)])
    if (wanted('section')) await part('section', async () => [await section(page, server.base)])
    if (wanted('typing')) await part('typing', async () => [await typing(page, server.base)])
    if (wanted('drag')) await part('drag', async () => [await dragging(page, server.base)])
  } finally {
    await browser.close()
    await server.stop()
    throwAway(folder)
  }
}

/** From a key going down in a quantity field until the frame that shows the thread changed has been painted. */
async function typing(page: Page, base: string): Promise<Row> {
  await page.goto(`${base}/loops?`)
  await page.getByRole('link', { name: 'LT-112' }).click()
  await page.locator('[data-knot="level"] input').fill('1500')
  const field = page.locator('[data-entry="emptyDistance"] input')
  await field.click()
  await page.evaluate(readFileSync(new URL('./watch-typing.js', import.meta.url), 'utf8'))
  await field.fill('')
  for (let i = 0; i < KEYS; i++) {
    await page.waitForTimeout(90)
    await page.keyboard.press(i % 3 === 2 ? 'Backspace' : String(1 + (i % 8)))
    if (i % 12 === 11) await field.fill('36')
  }
  await page.waitForTimeout(300)
  // The first keys warm the page up, as the first runs do above.
  const times = (await page.evaluate(() => (window as unknown as { times: number[] }).times)).slice(10)
  if (times.length < (KEYS - 10) * 0.7) throw new Error(`only ${times.length} keys changed the thread`)
  return row(`typing to repainted thread (${times.length} keys)`, 'ms', times, 24, 'p95')
}

/** From a key going down in the wall of a clamp-on pipe until the frame with the redrawn section has been painted. */
async function section(page: Page, base: string): Promise<Row> {
  await page.goto(`${base}/loops?`)
  await page.getByRole('link', { name: 'FT-101' }).click()
  const field = page.locator('[data-entry="wall"] input')
  await field.click()
  await page.evaluate(() => ((window as unknown as { watched: string }).watched = '[data-test="spacing"]'))
  await page.evaluate(readFileSync(new URL('./watch-typing.js', import.meta.url), 'utf8'))
  // Every key changes the wall: a digit after the point comes, and goes.
  await field.fill('7.')
  for (let i = 0; i < 120; i++) {
    await page.waitForTimeout(90)
    await page.keyboard.press(i % 2 ? 'Backspace' : String(1 + (i % 8)))
  }
  await page.waitForTimeout(300)
  const times = (await page.evaluate(() => (window as unknown as { times: number[] }).times)).slice(8)
  if (times.length < 40) throw new Error(`only ${times.length} keys changed the section`)
  return row(`typing to redrawn section (${times.length} keys)`, 'ms', times, 24, 'p95')
}

const discrete = (changed: Record<string, string> = {}) => demoEntries('discrete-sensor', changed)

/** Calls the interface as the signed-in page does. */
function callAs(page: Page, method: string, path: string, body: unknown): Promise<number> {
  return page.evaluate(
    async ([m, p, b]) => {
      const session = (await (await fetch('/api/session')).json()) as { csrfToken: string }
      const headers = { 'content-type': 'application/json', 'x-csrf-token': session.csrfToken }
      return (await fetch(p as string, { method: m as string, headers, body: JSON.stringify(b) })).status
    },
    [method, path, body] as const,
  )
}
async function addPoint(page: Page, tag: string, changed: Record<string, string> = {}): Promise<string> {
  const [loopId, versionId] = [uuid(), uuid()]
  const version = {
    parentId: null,
    parentRevision: null,
    revision: 0,
    entries: discrete(changed),
    reason: '',
    seal: false,
  }
  const answers = [
    await callAs(page, 'PUT', `/api/loops/${loopId}`, {
      tag,
      service: 'Bench',
      area: 'Bench',
      kind: 'discrete-sensor',
    }),
    await callAs(page, 'PUT', `/api/loops/${loopId}/versions/${versionId}`, version),
  ]
  if (answers.some((status) => status !== 200)) throw new Error(`${tag}: ${answers.join()}`)
  return loopId
}

/** A month of 500 000 changes counted by the worker, and fifty points told twenty times a second. */
async function switches(page: Page, base: string): Promise<Row[]> {
  const counted = await addPoint(page, 'ZS-9000', {
    shifts: 'Early 06:00–14:00, Late 14:00–22:00, Night 22:00–06:00',
    days: 'every day',
  })
  const gaps = Array.from({ length: 500_000 }, (_, i) => 4000 + ((i * 7919) % 2400)).join(' ')
  const train = { startMs: Date.UTC(2026, 9, 1), startState: false, gaps, origin: 'file', note: 'bench' }
  const put = await callAs(page, 'PUT', `/api/loops/${counted}/edges/${uuid()}`, train)
  if (put !== 200) throw new Error(`edges: ${put}`)
  await page.goto(`${base}/loops/${counted}/count?do=cycles`)
  await page.locator('[data-factor="OEE"]').waitFor()
  const times = await page.evaluate(async () => {
    const app = document.querySelector('#app') as unknown as {
      __vue_app__: { config: { globalProperties: { $pinia: { _s: Map<string, { recount(): Promise<void> }> } } } }
    }
    const store = app.__vue_app__.config.globalProperties.$pinia._s.get('count')!
    const found: number[] = []
    for (let i = 0; i < 18; i++) {
      const begun = performance.now()
      await store.recount()
      found.push(performance.now() - begun)
    }
    return found.slice(3)
  })
  const ids = []
  for (let i = 0; i < 45; i++) ids.push(await addPoint(page, `ZS-${9001 + i}`, { idealCycle: `${2 + (i % 5)} s` }))
  for (const id of ids) await callAs(page, 'POST', `/api/loops/${id}/link/process`, { running: true })
  await page.goto(`${base}/watch`)
  await page.locator('.lamp[data-on="1"]').first().waitFor()
  await page.waitForTimeout(3000)
  const points = await page.locator('[data-point]').count()
  await page.evaluate(readFileSync(new URL('./watch-frames.js', import.meta.url), 'utf8'))
  const watched = () => page.evaluate(() => (window as unknown as { frames_ms: number[] }).frames_ms)
  while ((await watched()).length < 905) await page.waitForTimeout(500)
  const frames = (await watched()).slice(5)
  return [
    row('500 000 changes to metrics, in the worker and back', 'ms', times, 300, 'p95'),
    row(`frame with ${points} points told at 20 Hz (900 frames)`, 'ms', frames, 32, 'most'),
  ]
}

// `npm run bench -- switches` measures one part alone; `smoke` runs a few of them once, to see that it works.
const wanted = process.argv
  .slice(2)
  .flatMap((w) => (w === 'smoke' ? ['core', 'wiring', 'trim', 'drag', 'typing'] : [w]))
const only = (name: string) => !wanted.length || wanted.includes(name)
const rows: Row[] = []
const failed: string[] = []
/** One part of the measurements; whatever goes wrong in it, the others are made and the table is printed. */
async function part(name: string, measure: () => Promise<Row[]>): Promise<void> {
  try {
    rows.push(...(await measure()))
  } catch (error) {
    failed.push(`${name}: ${(error as Error).message.split('\n')[0]}`)
  }
}
if (only('core')) await part('core', core)
if (only('wiring')) await part('wiring', wiring)
if (only('certificate')) await part('certificate', async () => [await certificate()])
if (only('register')) await part('register', register)
if (only('flow')) await part('flow', flow)
if (only('trim')) await part('trim', trim)
if (['typing', 'switches', 'section', 'trend', 'drag'].some(only)) await pages(only)
console.log(
  `\n${hostname()}, ${cpus().length} × ${cpus()[0]?.model ?? 'unknown processor'}, Node ${process.versions.node}\n`,
)
const text = (r: Row) => [
  r.what,
  `${r.median.toFixed(2)} ${r.unit}`,
  `${r.p95.toFixed(2)} ${r.unit}`,
  `${r.most.toFixed(2)} ${r.unit}`,
  r.target === undefined ? '' : `${r.judged} < ${r.target} ${r.unit}`,
  r.target === undefined ? '' : r[r.judged!] < r.target ? 'met' : 'MISSED',
]
const table = [['', 'median', 'p95', 'most', 'target', ''], ...rows.map(text)]
const widths = table[0]!.map((_, c) => Math.max(...table.map((line) => line[c]!.length)))
for (const line of table)
  console.log(line.map((cell, c) => (c === 0 ? cell.padEnd(widths[c]!) : cell.padStart(widths[c]!))).join('   '))
for (const line of failed) console.log(`NOT MEASURED  ${line}`)
// How fast it is on a busy machine is no test: the smoke only shows that there is a figure for everything.
process.exitCode =
  failed.length || (!SMOKE && rows.some((r) => r.target !== undefined && r[r.judged!] >= r.target)) ? 1 : 0
