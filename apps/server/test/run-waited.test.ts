// A guided run led by hand out of coverage: it comes in order, as it was done; of two people on one run the first to
// arrive stands.
import { answerIdOf, endpoints, runsOf, type FolderView, type TrimLimits } from '@calm-loop/contract'
import { replay } from '@calm-loop/core/procedure'
import { v7 as uuid } from 'uuid'
import { describe, expect, it } from 'vitest'
import { demoEntries, firstVersion } from '../../../packages/core/src/kinds/demo-entries.fixture.ts'
import { good, served, type Visitor } from './harness.ts'

const { ailsa, rona } = await served({ empty: false })
const HOUR = 3_600_000
const hand = { byHand: true }

async function loop(tag: string) {
  const ids = { loopId: uuid(), versionId: uuid(), runId: uuid() }
  good(await ailsa.call('createLoop', ids, { tag, service: 'Tank', area: 'Test', kind: 'level-from-above' }))
  const entries = demoEntries('level-from-above')
  const version = firstVersion(entries)
  good(await ailsa.call('saveVersion', ids, version))
  const limits = (await ailsa.call('trimLimits', {})).body as TrimLimits
  const on = { version: ids.versionId, revision: 0, limits }
  const does = (who: Visitor, body: object, { eventId = uuid(), ms = HOUR } = {}) => {
    const params: Record<string, string> = { ...ids, eventId }
    const path = endpoints.doProcedure.path.replace(/:(\w+)/g, (_, k: string) => params[k]!)
    const headers = { 'content-type': 'application/json', 'x-waited-ms': String(ms) }
    return who.raw('PUT', path, JSON.stringify({ ...body, ...hand }), headers)
  }
  const folder = async () => (await ailsa.call('folder', ids)).body as FolderView
  const entriesOf = async () => runsOf((await folder()).workLog).find((r) => r.run === ids.runId)?.entries ?? []
  return { ...ids, on, does, folder, entriesOf }
}
const begin = (more: object = {}) => ({
  do: 'begin',
  procedure: 'damping-change',
  choices: { damping: '2 s' },
  ...more,
})

describe('a run that was led out of coverage', () => {
  it('says when each gate was passed, and sent twice it is one', async () => {
    const l = await loop('LT-970')
    const [first, second] = [uuid(), uuid()]
    for (let i = 0; i < 2; i++) {
      good(await l.does(ailsa, begin({ on: l.on }), { eventId: first }))
      const told = { do: 'pass', step: 'told', words: 'Bree', after: first }
      good(await l.does(ailsa, told, { eventId: second, ms: HOUR / 2 }))
    }
    const entries = await l.entriesOf()
    expect(entries.map((e) => [e.id, e.practice])).toEqual([
      [first, false],
      [second, false],
    ])
    const ago = entries.map((e) => Date.now() - Date.parse(e.doneAt!))
    expect(Math.abs(ago[0]! - HOUR)).toBeLessThan(60_000)
    expect(Math.abs(ago[1]! - HOUR / 2)).toBeLessThan(60_000)
  })
  it('begun by other entries or other limits than stand is refused', async () => {
    const l = await loop('LT-971')
    const other = await l.does(ailsa, begin({ on: { ...l.on, revision: 4 } }))
    expect([other.status, other.problem.code]).toEqual([409, 'version-conflict'])
    const limits = await l.does(ailsa, begin({ on: { ...l.on, limits: { ...l.on.limits, plausiblePct: 9 } } }))
    expect([limits.status, limits.problem.code]).toEqual([409, 'version-conflict'])
    expect(await l.entriesOf()).toEqual([])
  })
  it('is told to no device, and becomes no practice, whatever answers by then', async () => {
    const l = await loop('LT-972')
    await ailsa.connectBench(l.loopId)
    const answer = await l.does(ailsa, begin({ on: l.on }))
    expect([answer.status, answer.problem.code]).toEqual([409, 'bench-connected'])
    const aside = { what: 'run-aside', run: l.runId, steps: ['Begun'], putRight: [], words: 'Nothing was moved.' }
    const said = await ailsa.call('addWork', { loopId: l.loopId, entryId: uuid() }, aside)
    expect(said.problem.code).toBe('bench-connected')
    await ailsa.connectBench(l.loopId, false)
    good(await l.does(ailsa, begin({ on: l.on })))
  })
})

describe('two people on one run', () => {
  it('the first to arrive stands; of the other nothing does, not even what would fit', async () => {
    const l = await loop('LT-973')
    const start = uuid()
    good(await l.does(ailsa, begin({ on: l.on }), { eventId: start }))
    const { steps } = replay((await l.entriesOf()).map((e) => e.event))
    const pass = (i: number, after: string) => ({
      ...{ do: 'pass', step: steps[i]!.id, after },
      ...(steps[i]!.kind === 'words' ? { words: 'Bree' } : {}),
    })
    // Rona has passed two gates, Ailsa three; Rona arrives first.
    const [r1, r2] = [uuid(), uuid()]
    good(await l.does(rona, pass(0, start), { eventId: r1 }))
    good(await l.does(rona, pass(1, r1), { eventId: r2 }))
    const [a1, a2] = [uuid(), uuid()]
    const [one, two, three] = [
      await l.does(ailsa, pass(0, start), { eventId: a1 }),
      await l.does(ailsa, pass(1, a1), { eventId: a2 }),
      await l.does(ailsa, pass(2, a2)),
    ]
    expect([one.status, one.problem.code]).toEqual([422, 'step-out-of-order'])
    expect(two.problem.code).toBe('step-out-of-order')
    // It would fit, as the run stands there; but it followed other steps.
    expect([three.status, three.problem.code]).toEqual([409, 'run-went-on'])
    expect((await l.entriesOf()).map((e) => e.by.name)).toEqual(['Ailsa Fenn', 'Rona Teague', 'Rona Teague'])
    const aside = {
      ...{ what: 'run-aside', run: l.runId, steps: ['Tell operations: Bree'] },
      ...{ putRight: ['Tell whoever went on, and operations'], words: 'Spoke with Rona; she goes on.' },
    }
    good(await ailsa.call('addWork', { loopId: l.loopId, entryId: uuid() }, aside))
    expect((await l.folder()).workLog.at(-1)).toMatchObject(aside)
  })
  it('a command given by hand has its answer under the same id wherever it is made', () => {
    const id = '01890000-0000-7000-8000-00000000000a'
    expect(answerIdOf(id)).toBe('01890000-0000-7000-8000-000000000002')
    expect(answerIdOf(answerIdOf(id))).toBe(id)
  })
})
