import type { WorkEntry } from '@calm-loop/contract'
import { knotScales } from '@calm-loop/core/thread'
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { demoEntries } from '../../../../packages/core/src/kinds/demo-entries.fixture.ts'
import { TERMS, walk } from '../../../../packages/core/src/procedure/procedure.fixture.ts'
import { useFolder } from './folder.ts'
import { AILSA, answering, DAY, folderOf, handFed, LOOP_ID, noNetwork, refusal } from './server.fixture.ts'
import { useTrim } from './trim.ts'

let log: WorkEntry[]
function opened(kind = 'pressure'): ReturnType<typeof useTrim> {
  const folder = useFolder()
  const entries = demoEntries(kind)
  folder.view = folderOf(kind, entries, { workLog: log })
  folder.entries = entries
  return useTrim()
}
/** Points of a set, each off by so much of its span. */
function points(
  trim: ReturnType<typeof useTrim>,
  phase: 'as-found' | 'as-left',
  offPct: readonly number[],
  set = phase,
) {
  const c = trim.known!
  const { low, high } = knotScales(c.thread)[0]!
  offPct.forEach((off, i) => {
    const share = i / (offPct.length - 1)
    const value = low! + share * (high! - low!)
    const digital = c.lrv + share * (c.urv - c.lrv) + (off / 100) * (c.urv - c.lrv)
    const entry = (v: number, unit: string) => ({ typed: `${v} ${unit}`, value: v, unit })
    log.push({
      what: 'trim-point',
      id: `${phase}-${log.length}`,
      set,
      phase,
      applied: entry(value, c.process.unit),
      digital: entry(digital, c.digital.unit),
      current: null,
      receiver: null,
    } as unknown as WorkEntry)
  })
  useFolder().view = { ...useFolder().view!, workLog: [...log] }
}
const withRun = (events: number) => {
  walkOf()
    .events.slice(0, events)
    .forEach((event, i) => log.push({ what: 'procedure', id: `e${i}`, run: 'run-1', event } as unknown as WorkEntry))
}
const walkOf = () => walk('zero-trim', TERMS)

beforeEach(() => {
  log = []
  setActivePinia(createPinia())
  handFed()
})
afterEach(() => vi.unstubAllGlobals())

describe('what trim says of a loop', () => {
  it('without a point is that as found was not taken', () => {
    const trim = opened()
    expect(trim.line).toEqual({ mark: 'open', words: 'as found not taken' })
    expect([trim.found, trim.left, trim.foundStands, trim.diagnosis]).toEqual([[], [], false, undefined])
    expect(trim.procedures).toContain('zero-trim')
    expect(trim.tolerancePct).toBeGreaterThan(0)
  })
  it.each([
    ['true', [0, 0, 0], 'done', 'leave alone'],
    ['off by the same everywhere', [1.2, 1.2, 1.2], 'look', 'to adjust'],
    ['bent', [0, 6, 0], 'stop', 'no trim helps'],
  ] as const)('found %s', (_, off, mark, words) => {
    const trim = opened()
    points(trim, 'as-found', off)
    expect(trim.line).toEqual({ mark, words })
    expect(trim.foundStands).toBe(true)
  })
  it('after it was left inside is done, until something is found again', () => {
    const trim = opened()
    points(trim, 'as-found', [1.2, 1.2, 1.2])
    points(trim, 'as-left', [0, 0, 0])
    expect(trim.line).toEqual({ mark: 'done', words: 'left inside' })
    expect(trim.left).toHaveLength(3)
    points(trim, 'as-found', [1.2, 1.2, 1.2], 'as-left')
    expect(trim.foundStands).toBe(true)
    expect([trim.line.words, trim.left]).toEqual(['to adjust', []])
  })
  it('leaves a withdrawn point out', () => {
    const trim = opened()
    points(trim, 'as-found', [0, 0, 9])
    expect(trim.line.words).not.toBe('leave alone')
    log.push({ what: 'trim-point-withdrawn', id: 'w', point: log[2]!.id } as unknown as WorkEntry)
    useFolder().view = { ...useFolder().view!, workLog: [...log] }
    expect(trim.found).toHaveLength(2)
    expect(trim.line.words).toBe('leave alone')
  })
  it('of a loop that is not finished is nothing but that', () => {
    const trim = opened()
    const { urv: _, ...rest } = useFolder().entries
    useFolder().entries = rest
    expect(trim.known).toBe(undefined)
    expect(trim.line.words).toBe('as found not taken')
  })
})

describe('a run under way', () => {
  it('is at one of its gates; finished it is the last', () => {
    const { events } = walkOf()
    expect(events.length).toBeGreaterThan(10)
    withRun(3)
    const trim = opened()
    expect(trim.open?.id).toBe('run-1')
    expect(trim.line.words).toMatch(/^gate 3 of \d+$/)
    log = []
    setActivePinia(createPinia())
    withRun(events.length)
    const after = opened()
    expect(after.open).toBe(undefined)
    expect(after.last?.state.status).toBe('done')
  })
  it('that can no longer be followed stays out of the way', () => {
    log.push({ what: 'procedure', id: 'e', run: 'run-1', event: { do: 'pass', step: 'told' } } as unknown as WorkEntry)
    expect(opened().runs).toEqual([])
  })
})

describe('what is asked of the device', () => {
  const view = { held: { lrv: 0, urv: 600 } }
  it('is read, moved and adjusted through the server', async () => {
    const asked = answering({
      'GET /api/settings/trim-limits': () => ({ adjustAbovePct: 40 }),
      'GET /api/loops/*/link/transmitter': () => view,
      'POST /api/loops/*/link/bench': () => ({ ...view, bench: 1 }),
      [`GET /api/loops/${LOOP_ID}`]: () => useFolder().view,
      'PUT /api/loops/*/procedures/*/events/*': () => ({}),
    })
    const trim = opened()
    await trim.load()
    expect(trim.limits.adjustAbovePct).toBe(40)
    expect(trim.device).toBe(undefined)
    useFolder().view = { ...useFolder().view!, bench: { by: AILSA, at: DAY } }
    await trim.load()
    expect(trim.device).toEqual(view)
    await trim.bench({ do: 'apply', value: 300 })
    expect(trim.device).toEqual({ ...view, bench: 1 })
    expect(await trim.act('run-1', { do: 'pass', step: 'told', words: 'Rolf' }, 'event-1')).toBe(true)
    expect(asked.find((a) => a.method === 'PUT')!.path).toBe(`/api/loops/${LOOP_ID}/procedures/run-1/events/event-1`)
    expect(trim.busy).toBe(false)
  })
  it('and refused is said, and where the run stands is looked up again', async () => {
    const asked = answering({
      [`GET /api/loops/${LOOP_ID}`]: () => useFolder().view,
      'PUT /api/loops/*/procedures/*/events/*': () => refusal(409, 'out-of-order', 'Somebody has gone on.'),
    })
    const trim = opened()
    expect(await trim.act('run-1', { do: 'pass', step: 'told' })).toBe(false)
    expect(trim.problem).toBe('Somebody has gone on.')
    expect(asked.at(-1)!.path).toContain(`/api/loops/${LOOP_ID}`)
    expect(trim.busy).toBe(false)
  })
  it('out of coverage keeps the limits it had, and shows no device', async () => {
    answering({})
    const trim = opened()
    const before = trim.limits
    vi.stubGlobal('fetch', noNetwork)
    await trim.load()
    expect(trim.limits).toEqual(before)
    expect(trim.device).toBe(undefined)
    expect(await trim.bench({ do: 'apply', value: 1 })).toBe(undefined)
    expect(trim.problem).toContain('cannot be reached')
  })
})

describe.each(['ph', 'level-from-above', 'coriolis', 'orifice-dp', 'thermocouple', 'rtd-head'])(
  'trim of %s',
  (kind) => {
    it('judges its points in the digital value’s unit, whatever is applied', () => {
      const trim = opened(kind)
      expect(trim.known).toBeDefined()
      points(trim, 'as-found', [0, 0, 0])
      expect(trim.line).toEqual({ mark: 'done', words: 'leave alone' })
      points(trim, 'as-found', [1.5, 1.5, 1.5], 'as-left')
      expect(trim.line.mark).not.toBe('done')
    })
  },
)
