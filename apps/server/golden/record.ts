// Records the golden corpus of a release: `npm run golden -- NAME`. Never over what is there: a corpus is what that
// release's code wrote.
import { Bundle, canonicalJson, runsOf, type FolderView } from '@calm-loop/contract'
import { existsSync, mkdirSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { v7 as uuid } from 'uuid'
import { afterAll, it } from 'vitest'
import { demoEntries } from '../../../packages/core/src/kinds/demo-entries.fixture.ts'
import { at, technicianAt } from '../test/guided.ts'
import { startServer } from '../test/harness.ts'
import { seenOf } from './seen.ts'

const name = process.env['GOLDEN'] ?? ''
const folder = join(import.meta.dirname, '../../../packages/core/golden', name)
if (!/^[a-z0-9.-]+$/.test(name) || existsSync(folder)) throw new Error('Give the corpus a new name, such as 0.2.0.')

const server = await startServer()
const ailsa = await server.as('ailsa')
const magnus = await server.as('magnus')
const limits = { adjustAbovePct: 70, plausiblePct: 3, window_s: 2, driftPct: 0.1, noisePct: 0.07 }
await magnus.call('saveTrimLimits', {}, limits)
const work = technicianAt(server, ailsa)
afterAll(() => server.stop())

/** Where each recorded run was stopped. */
const STOPS: readonly {
  tag: string
  procedure: string
  until: string
  found?: [string, ...string[]]
  choices?: object
  practice?: string
  then?: 'send' | 'cancel' | 'put back'
}[] = [
  { tag: 'PDT-118', procedure: 'zero-trim', until: 'out-2-equalize' },
  { tag: 'LT-208', procedure: 'zero-trim', until: 'zero-left', found: ['mbar', '0', '100'] },
  { tag: 'TT-405', procedure: 'sensor-trim', until: 'write-upper', found: ['degC', '0', '150'] },
  { tag: 'LT-112', procedure: 'current-trim', until: 'verify-drive-20', found: ['mm', '0', '3000'] },
  { tag: 'LT-205', procedure: 'forced-current', until: 'meter-12' },
  {
    tag: 'AT-221',
    procedure: 'ph-calibration',
    until: 'electrode-2',
    found: ['pH', '4', '7'],
    choices: { buffers: ['4.00', '7.00'] },
  },
  { tag: 'FT-210', procedure: 'flow-zero', until: 'write', found: ['kg/h', '0', '9000'] },
  { tag: 'LY-133', procedure: 'range-change', until: 'nowhere', found: ['m', '0', '2'], choices: { high: '2500 mm' } },
  {
    tag: 'FT-402',
    procedure: 'receiver-scale',
    until: 'write',
    found: ['kg/h', '0', '4000'],
    choices: {},
    then: 'cancel',
  },
  { tag: 'FT-410', procedure: 'current-trim', until: 'meter-4', found: ['m3/h', '0', '100'] },
  {
    tag: 'FT-101',
    procedure: 'flow-zero',
    until: 'write',
    found: ['m3/h', '0', '10'],
    practice: 'answer-lost',
    then: 'send',
  },
  { tag: 'FT-214', procedure: 'current-trim', until: 'drive-20', found: ['kg/h', '0', '4000'], then: 'put back' },
]

for (const stop of STOPS)
  it(`${stop.procedure} at ${stop.tag}, to ${stop.until}`, async () => {
    const loopId = await work.idOf(stop.tag)
    if (stop.practice) await work.bench(loopId, { do: 'practice', case: stop.practice })
    if (stop.found) await work.found(loopId, stop.found[0], stop.found.slice(1))
    const { runId, answer } = await work.begin(loopId, stop.procedure, stop.choices)
    if (answer.status !== 200) {
      console.log(`left out: ${stop.procedure} at ${stop.tag}: ${answer.text}`)
      return
    }
    const apply =
      stop.procedure === 'ph-calibration'
        ? (value: number) => work.bench(loopId, { do: 'apply', value })
        : work.applied(loopId)
    await work.runTo(loopId, runId, at(stop.until), apply)
    if (stop.then === 'send') await work.act(loopId, runId, { do: 'send', step: stop.until })
    if (stop.then === 'cancel') await work.act(loopId, runId, { do: 'cancel', reason: 'Called away' })
    if (stop.then === 'put back') await work.putBack(loopId, runId)
  }, 200_000)

it('keeps entries that were typed in unusual ways, as they were understood', async () => {
  const ids = { loopId: uuid(), versionId: uuid() }
  const entries = demoEntries('level-from-above', { tankDepth: `12'-6"`, emptyDistance: '3,600 mm', damping: '2,0 s' })
  const loop = { tag: 'LT-900', service: 'Entries typed in unusual ways', area: 'Test', kind: 'level-from-above' }
  await ailsa.call('createLoop', ids, loop)
  const first = { parentId: null, parentRevision: null, revision: 0, entries, reason: 'first', seal: true }
  const saved = await ailsa.call('saveVersion', ids, first)
  if (saved.status !== 200) throw new Error(saved.text)
})

it('is written', async () => {
  mkdirSync(folder, { recursive: true })
  const page = (await ailsa.raw('GET', '/api/loops?limit=200')).body as { loops: { id: string; tag: string }[] }
  for (const { id, tag } of page.loops) {
    // A month of cycles weighs as much as all the rest, and another switch shows the same.
    if (tag === 'ZS-502') continue
    const bundle = await ailsa.call('bundle', { loopId: id })
    if (bundle.status !== 200) throw new Error(bundle.text)
    writeFileSync(join(folder, `${tag}.bundle.json`), bundle.text)
    const view = (await ailsa.call('folder', { loopId: id })).body as FolderView
    console.log(tag, runsOf(view.workLog).length)
    writeFileSync(
      join(folder, `${tag}.seen.json`),
      `${canonicalJson(seenOf(Bundle.parse(JSON.parse(bundle.text))), 2)}\n`,
    )
  }
}, 120_000)
