// Growth: a works of many loops and readings, made in the tables; what each of them costs on disk, and what the pages
// then cost. `npm run bench -- scale`; `SCALE_LOOPS` and `SCALE_READINGS` make it smaller.
import { readFileSync } from 'node:fs'
import { asOwner, migrateDatabase } from '../../apps/server/src/db/database.ts'
import { dataFolder, run, throwAway } from '../../e2e/run-server.ts'
import { demoEntries } from '../../packages/core/src/kinds/demo-entries.fixture.ts'
import { openCluster } from '../lib/postgres.mjs'
import { perSecond, rate, signedIn, streams, takenInRounds } from './http.ts'
import { row, type Row } from './measure.ts'

const LOOPS = Number(process.env['SCALE_LOOPS'] ?? 100_000)
const READINGS = Number(process.env['SCALE_READINGS'] ?? 10_000_000)
/** Readings of a check, and how many are put in at once. */
const [EACH, BATCH] = [50, 1_000_000]
const ROUNDS = 5

type Client = Parameters<Parameters<typeof asOwner>[1]>[1]
const say = (words: string) => process.stderr.write(`${words}\n`)
const seconds = (from: number) => (performance.now() - from) / 1000

/** Ids in the order of time, as the pages make them. */
const ID = (n: string, of: string) => `(lpad(to_hex(${n}), 12, '0') || '7000800000000000000${of}')::uuid`

/** Loops with a version each, and checks with their readings. @returns seconds for loops, and for readings */
async function fill(client: Client): Promise<{ loops_s: number; readings_s: number }> {
  const entries = JSON.stringify(demoEntries('level-from-above')).replaceAll("'", "''")
  const begun = performance.now()
  await client.query(`
    insert into loops (id, tag, service, area, kind, created_at, state, next_due, last_error_pct, tolerance_pct)
    select ${ID('i', '1')}, 'SC-' || (100000 + i), 'Tank ' || i || ' level', 'Area ' || i % 40, 'level-from-above',
      now(), (array['half-entered', 'ready', 'passed', 'failed'])[1 + i % 4], date '2026-12-01' + i % 700,
      (i % 100) / 100.0, 0.5
    from generate_series(1, ${LOOPS}) i`)
  await client.query(`
    insert into versions (id, loop_id, number, revision, entries, kind_version, author_id, started_at, saved_at,
      reason, sealed_at)
    select ${ID('i', '2')}, ${ID('i', '1')}, 1, 0, '${entries}'::jsonb, 2, (select id from people limit 1),
      now(), now(), '', now()
    from generate_series(1, ${LOOPS}) i`)
  await client.query(`update loops set head_version_id = v.id from versions v where v.loop_id = loops.id
    and head_version_id is null`)
  const loops_s = seconds(begun)
  say(`${LOOPS} loops in ${loops_s.toFixed(0)} s`)
  const from = performance.now()
  const checks = READINGS / EACH
  await client.query(`
    insert into checks (id, loop_id, version_id, phase, rule, practice, terms, tolerance_pct, range, points, gear,
      ambient, started_by, started_at)
    select ${ID('i', '3')}, ${ID(`1 + i % ${LOOPS}`, '1')}, ${ID(`1 + i % ${LOOPS}`, '2')},
      (array['as-found', 'as-left'])[1 + i % 2], 2, false, null, 0.5, '{"lrv": 0, "urv": 3000, "unit": "mm"}',
      (select jsonb_agg(jsonb_build_object('percent', p, 'direction', 'up')) from generate_series(0, 98, 2) p),
      '[]', '',
      (select id from people limit 1), now() - (i || ' minutes')::interval
    from generate_series(1, ${checks}) i`)
  for (let at = 0; at < READINGS; at += BATCH) {
    await client.query(`
      insert into readings (id, check_id, seq, point_index, percent, direction, applied, reads, source, reason, by,
        taken_at, saved_at)
      select ${ID('i', '4')}, ${ID(`1 + (i - 1) / ${EACH}`, '3')}, 1 + (i - 1) % ${EACH}, (i - 1) % ${EACH},
        2 * ((i - 1) % ${EACH}), 'up',
        jsonb_build_object('typed', (i % 3000) || ' mm', 'value', i % 3000, 'unit', 'mm'),
        jsonb_build_object('current', jsonb_build_object('typed', '12.003 mA', 'value', 12.003, 'unit', 'mA')),
        'typed', '', (select id from people limit 1), now(), now()
      from generate_series(${at + 1}, ${Math.min(READINGS, at + BATCH)}) i`)
    say(`${Math.min(READINGS, at + BATCH)} readings in ${seconds(from).toFixed(0)} s`)
  }
  await client.query('vacuum analyze')
  return { loops_s, readings_s: seconds(from) }
}

interface Size {
  readonly table: string
  readonly rows: number
  readonly data: number
  readonly index: number
}
const sizes = async (client: Client): Promise<Size[]> =>
  (
    await client.query<Size>(`
      select relname as "table", reltuples::float8 as rows, pg_table_size(oid)::float8 as data,
        pg_indexes_size(oid)::float8 as "index"
      from pg_class where relkind = 'r' and relnamespace = 'public'::regnamespace
        and relname in ('loops', 'versions', 'checks', 'readings') order by relname`)
  ).rows

/** Memory that a process holds, MB. */
const held_MB = (pid: number) => Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))![1]) / 1024

export async function scale(): Promise<Row[]> {
  const folder = dataFolder()
  const cluster = await openCluster(folder)
  try {
    await migrateDatabase(cluster.ownerUrl)
    const started = () =>
      run(folder, [], { DATABASE_URL: cluster.applicationUrl, MIGRATION_DATABASE_URL: cluster.ownerUrl })
    // Once for its people, which records are by.
    await (await started()).stop()
    const { loops_s, readings_s } = await asOwner(cluster.ownerUrl, (_db, client) => fill(client))
    const from = performance.now()
    const ours = await started()
    const start_s = seconds(from)
    try {
      const someone = await signedIn(ours.base)
      const pages: [string, string][] = [
        ['first page of the register', '/api/loops'],
        ['found by a part of the tag', '/api/loops?q=SC-15432'],
        ['found by a word of the service', '/api/loops?q=tank%20432'],
        ['of one area, failed', '/api/loops?area=Area%207&state=failed'],
        ['a folder with two checks of 50 readings', `/api/loops/${idOf(Math.ceil(LOOPS / 2))}`],
      ]
      const rates: Row[] = []
      for (const [what, path] of pages) {
        await rate(ours.base + path, someone.headers)
        rates.push(perSecond(what, [await rate(ours.base + path, someone.headers)]))
      }
      const csv: number[] = []
      for (let i = 0; i < ROUNDS; i++) {
        const asked = performance.now()
        await (await fetch(`${ours.base}/api/loops.csv`, { headers: someone.headers })).text()
        csv.push(performance.now() - asked)
      }
      const { rows: taken, watched } = await takenInRounds(someone)
      const idle_MB = held_MB(ours.pids().server)
      const open = await streams(ours, someone, watched)
      const open_MB = held_MB(ours.pids().server)
      const found = await asOwner(cluster.ownerUrl, (_db, client) => sizes(client))
      say(`\nloops made in ${loops_s.toFixed(0)} s, ${READINGS} readings in ${readings_s.toFixed(0)} s`)
      say(
        `server ready after ${start_s.toFixed(1)} s; ${idle_MB.toFixed(0)} MB, ${open_MB.toFixed(0)} MB after streams`,
      )
      say('\n| Table | Rows | Data, MB | Indexes, MB | Bytes a row |\n| --- | --- | --- | --- | --- |')
      for (const { table, rows, data, index } of found)
        say(
          `| ${table} | ${rows} | ${(data / 1e6).toFixed(0)} | ${(index / 1e6).toFixed(0)} | ` +
            `${((data + index) / rows).toFixed(0)} |`,
        )
      return [...rates, row({ what: `register of ${LOOPS} loops as CSV`, unit: 'ms', times_ms: csv }), ...taken, open]
    } finally {
      await ours.stop()
    }
  } finally {
    cluster.stop()
    throwAway(folder)
  }
}
const idOf = (n: number) =>
  `${n
    .toString(16)
    .padStart(12, '0')
    .replace(/^(.{8})(.{4})$/, '$1-$2')}-7000-8000-000000000001`
