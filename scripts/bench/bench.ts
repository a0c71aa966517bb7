// All measurements, and the table.
import { chromium } from '@playwright/test'
import { USUAL_JUDGING, type FolderView } from '@calm-loop/contract'
import { cpus, hostname } from 'node:os'
import { dataFolder, run, throwAway } from '../../e2e/run-server.ts'
import { migrateDatabase, openDatabase } from '../../apps/server/src/db/database.ts'
import { loops } from '../../apps/server/src/db/schema.ts'
import { certificatePdf } from '../../apps/server/src/documents/certificate.ts'
import { visitPdf } from '../../apps/server/src/documents/visit-report.ts'
import pg from 'pg'
import { registerOf } from '../../apps/server/src/services/loops.ts'
import { openCluster } from '../lib/postgres.mjs'
import { http } from './http.ts'
import { intake } from './intake.ts'
import { link } from './link.ts'
import { row, sample, type Row } from './measure.ts'
import { core, flow, folderOf, levels, trim, verdict, wiring } from './figures.ts'
import { picture } from './picture.ts'
import { plate } from './plate.ts'
import { round } from './round.ts'
import { scale } from './scale.ts'
import { survey } from './survey.ts'
import { outbox } from './outbox.ts'
import { SMOKE, dragging, section, switches, trend, typing } from './pages.ts'

/** A folder of the demo plant as the server reads it. */
const viewOf = (tag: string) => ({ trains: [], bench: null, ...folderOf(tag) }) as unknown as FolderView

async function certificate(): Promise<Row> {
  const view = viewOf('LT-112')
  return row({
    what: 'certificate PDF',
    unit: 'ms',
    times_ms: await sample(() => certificatePdf(view, view.checks.at(-1)!, { address: 'http://127.0.0.1' }), {
      samples: 25,
      warm: 5,
    }),
    target: 300,
    judged: 'p95',
  })
}

/** A visit of six parts: two checks, points found and left, a change, an answer. */
const visit = async (): Promise<Row> =>
  row({
    what: 'report of a visit of six parts, PDF',
    unit: 'ms',
    times_ms: await sample(() => visitPdf({ folder: viewOf('LT-208'), judging: USUAL_JUDGING }), {
      samples: 25,
      warm: 5,
    }),
    target: 800,
    judged: 'p95',
  })

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
    const listed = registerOf(db, pool)
    const result = [
      row({
        what: 'register: page of 50 out of 10 000',
        unit: 'ms',
        times_ms: await sample((i) => listed.list({ after: `LT-${10_000 + ((i * 997) % 9000)}` }), {
          samples: 200,
          warm: 20,
        }),
        target: 20,
        judged: 'p95',
      }),
      row({
        what: 'register: found by words',
        unit: 'ms',
        times_ms: await sample((i) => listed.list({ q: `tank ${(i * 37) % 9999}` }), { samples: 100, warm: 20 }),
        target: 20,
        judged: 'p95',
      }),
      row({
        what: 'register: one area, one state',
        unit: 'ms',
        times_ms: await sample((i) => listed.list({ area: `Area ${i % 40}`, state: 'passed' }), {
          samples: 100,
          warm: 20,
        }),
        target: 20,
        judged: 'p95',
      }),
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
    await page.getByRole('heading', { name: 'Round' }).waitFor()
    if (wanted('switches')) await part('switches', () => switches(page, server.base))
    if (wanted('trend')) await part('trend', async () => [await trend(page, server.base)])
    if (wanted('section')) await part('section', async () => [await section(page, server.base)])
    if (wanted('typing')) await part('typing', async () => [await typing(page, server.base)])
    if (wanted('outbox')) await part('outbox', () => outbox(page, server.base))
    if (wanted('drag')) await part('drag', async () => [await dragging(page, server.base)])
  } finally {
    await browser.close()
    await server.stop()
    throwAway(folder)
  }
}

// `npm run bench -- switches` measures one part alone; `smoke` runs a few of them once, to see that it works.
const wanted = process.argv
  .slice(2)
  .flatMap((w) =>
    w === 'smoke' ? ['core', 'verdict', 'levels', 'wiring', 'trim', 'round', 'link', 'drag', 'typing'] : [w],
  )
const only = (name: string) => !wanted.length || wanted.includes(name)
const rows: Row[] = []
const failed: string[] = []
/** One part of the measurements; whatever goes wrong in it, the others are made and the table is printed. */
export async function part(name: string, measure: () => Promise<Row[]>): Promise<void> {
  try {
    rows.push(...(await measure()))
  } catch (error) {
    failed.push(`${name}: ${(error as Error).message.split('\n')[0]}`)
  }
}
if (only('core')) await part('core', core)
if (only('verdict')) await part('verdict', verdict)
if (only('levels')) await part('levels', levels)
if (only('wiring')) await part('wiring', wiring)
if (only('certificate')) await part('certificate', async () => [await certificate(), await visit()])
if (only('register')) await part('register', register)
if (only('flow')) await part('flow', flow)
if (only('round')) await part('round', async () => [await round()])
if (only('intake')) await part('intake', intake)
if (only('picture')) await part('picture', async () => [await picture()])
if (only('plate')) await part('plate', async () => [await plate()])
if (only('trim')) await part('trim', trim)
if (only('survey')) await part('survey', survey)
if (only('link')) await part('link', link)
if (only('http')) await part('http', http)
// Some minutes and gigabytes: only when it is named.
if (process.argv.includes('scale')) await part('scale', scale)
if (['typing', 'switches', 'section', 'trend', 'drag', 'outbox'].some(only)) await pages(only)
console.log(
  `\n${hostname()}, ${cpus().length} × ${cpus()[0]?.model ?? 'unknown processor'}, Node ${process.versions.node}\n`,
)
/** Undefined of what has no target. */
const isMissed = (r: Row): boolean | undefined =>
  r.target !== undefined ? r[r.judged!] >= r.target : r.floor !== undefined ? r.median < r.floor : undefined
const text = (r: Row) => [
  r.what,
  `${r.median.toFixed(2)} ${r.unit}`,
  `${r.p95.toFixed(2)} ${r.unit}`,
  `${r.most.toFixed(2)} ${r.unit}`,
  r.target !== undefined
    ? `${r.judged} < ${r.target} ${r.unit}`
    : r.floor !== undefined
      ? `median ≥ ${r.floor} ${r.unit}`
      : '',
  isMissed(r) === undefined ? '' : isMissed(r) ? 'MISSED' : 'met',
]
const table = [['', 'median', 'p95', 'most', 'target', ''], ...rows.map(text)]
const widths = table[0]!.map((_, c) => Math.max(...table.map((line) => line[c]!.length)))
for (const line of table)
  console.log(line.map((cell, c) => (c === 0 ? cell.padEnd(widths[c]!) : cell.padStart(widths[c]!))).join('   '))
for (const line of failed) console.log(`NOT MEASURED  ${line}`)
// How fast it is on a busy machine is no test: the smoke only shows that there is a figure for everything.
process.exitCode = failed.length || (!SMOKE && rows.some(isMissed)) ? 1 : 0
