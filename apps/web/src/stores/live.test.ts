import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { useFolder } from './folder.ts'
import { useLive } from './live.ts'
import { useSession } from './session.ts'
import { AILSA, answering, DAY, folderOf, HandFed, handFed, refusal, sessionOf } from './server.fixture.ts'
import { until } from '../../test/until.ts'

const BENCH = { by: AILSA, at: DAY }
const LIMITS = { unit: 'mm', lowest: 0, highest: 3000 }
const reading = (t_s: number, current = 12, more: object = {}) => ({
  t_s,
  reference: 1500,
  wanted: 1500,
  moving: false,
  knots: { current },
  ...more,
})
const sample = (t_s: number, current: number | null = 50) => ({ t_s, digital: current, current, electrode: null })
/** Two seconds of readings, twenty each. */
const feed = (from_s: number, seconds: number, at: (t_s: number) => number) => {
  for (let i = 0; i <= seconds * 10; i++) HandFed.last.say('reading', reading(from_s + i / 10, at(from_s + i / 10)))
}

beforeEach(() => {
  vi.useFakeTimers()
  setActivePinia(createPinia())
  handFed()
  answering({ 'GET /api/loops/*/link': () => LIMITS })
  useFolder().view = folderOf('level-from-above', {}, { bench: BENCH })
})
afterEach(() => {
  vi.useRealTimers()
  vi.unstubAllGlobals()
})

describe('without a bench', () => {
  it('nothing is listened to until it is connected, and nothing once it is gone', async () => {
    const folder = useFolder()
    folder.view = { ...folder.view!, bench: null }
    const live = useLive()
    await live.open('l1')
    await live.readHeld('l1')
    expect([HandFed.opened, live.problem, live.held]).toEqual([[], '', undefined])
    folder.view = { ...folder.view, bench: BENCH }
    await until(() => expect(HandFed.opened).toHaveLength(1))
    HandFed.last.say('reading', reading(1))
    expect(live.connected).toBe(true)
    folder.view = { ...folder.view, bench: null }
    await until(() => expect(live.connected).toBe(false))
    expect([live.reading, HandFed.last.closed]).toEqual([undefined, true])
  })
})

describe('the link of a loop', () => {
  it('says what it can, opens its stream, and shows the newest reading', async () => {
    const live = useLive()
    await live.open('l1')
    expect(live.limits).toEqual(LIMITS)
    expect(HandFed.last.address).toBe('/api/loops/l1/link/stream')
    expect(live.connected).toBe(false)
    HandFed.last.say('open')
    expect(live.connected).toBe(true)
    HandFed.last.say('reading', reading(1, 11.9))
    HandFed.last.say('reading', reading(1.1, 12.1))
    expect(live.reading?.knots['current']).toBe(12.1)
    expect(live.samples.map((s) => s.value)).toEqual([11.9, 12.1])
  })
  it('says why it has none, and opens no stream', async () => {
    answering({ 'GET /api/loops/*/link': () => refusal(422, 'loop-incomplete', 'The thread has a gap.') })
    const live = useLive()
    await live.open('l1')
    expect(live.problem).toBe('The thread has a gap.')
    expect(HandFed.opened).toHaveLength(0)
  })
  it('that was closed while it was asked for stays closed', async () => {
    const live = useLive()
    const opening = live.open('l1')
    live.close()
    await opening
    expect(HandFed.opened).toHaveLength(0)
    expect(live.limits).toBe(undefined)
  })
  it('is that of the loop asked for last', async () => {
    const live = useLive()
    await Promise.all([live.open('l1'), live.open('l2')])
    expect(HandFed.opened.map((s) => s.address)).toEqual(['/api/loops/l2/link/stream'])
  })
  it('closed forgets what it showed', async () => {
    const live = useLive()
    await live.open('l1', true)
    HandFed.last.say('reading', reading(1))
    HandFed.last.say('trend', sample(1))
    live.close()
    expect(HandFed.last.closed).toBe(true)
    expect([live.reading, live.samples, live.trend.length, live.connected]).toEqual([undefined, [], 0, false])
  })
  it('does not believe what is no reading', async () => {
    const live = useLive()
    await live.open('l1', true)
    HandFed.last.say('reading', { t_s: 1, knots: { current: 'high' } })
    HandFed.last.say('trend', { t_s: 'soon' })
    expect([live.reading, live.trend.length]).toEqual([undefined, 0])
  })
})

describe('steadiness', () => {
  it('is judged over the last seconds of the current', async () => {
    const live = useLive()
    await live.open('l1')
    feed(0, 1, () => 12)
    expect(live.steadiness.state).toBe('waiting')
    feed(1.1, 8, () => 12)
    expect(live.steadiness.state).toBe('stable')
    feed(9.2, 4, (t) => 12 + 0.02 * (t - 9))
    expect(live.steadiness.state).toBe('moving')
  })
  it('is not said while the process is on its way, however quiet the current has been', async () => {
    const live = useLive()
    await live.open('l1')
    feed(0, 9, () => 12)
    HandFed.last.say('reading', reading(9.1, 12, { moving: true, wanted: 2000 }))
    expect(live.steadiness.state).toBe('moving')
    HandFed.last.say('reading', reading(9.2, 12))
    expect(live.steadiness.state).toBe('stable')
  })
  it('of a loop without a current has one measure too', async () => {
    const live = useLive()
    await live.open('l1')
    HandFed.last.say('reading', { ...reading(1), knots: { digital: 5 }, signal_mA: 7.5 })
    expect(live.samples.at(-1)?.value).toBe(7.5)
  })
  it('keeps twelve seconds, and begins anew when the link’s clock does', async () => {
    const live = useLive()
    await live.open('l1')
    feed(0, 20, () => 12)
    expect(live.samples[0]!.t_s).toBeGreaterThan(7.9)
    HandFed.last.say('reading', reading(0.5))
    expect(live.samples.map((s) => s.t_s)).toEqual([0.5])
  })
})

describe('the trend', () => {
  it('is asked for, keeps its newest part, and begins anew with the clock', async () => {
    const live = useLive()
    await live.open('l1', true)
    expect(HandFed.last.address).toBe('/api/loops/l1/link/stream?trend=1')
    for (let i = 0; i < 2000; i++) HandFed.last.say('trend', sample(i / 20))
    expect(live.trend.length).toBeLessThanOrEqual(1600)
    expect(live.trend.at(-1)!.t_s).toBe(1999 / 20)
    HandFed.last.say('trend', sample(0))
    expect(live.trend.map((s) => s.t_s)).toEqual([0])
  })
})

describe('what is told through the link', () => {
  it('is sent, and a refusal is said', async () => {
    const asked = answering({
      'POST /api/loops/*/link/process': () => refusal(422, 'out-of-range', 'Beyond what the bench can do.'),
    })
    const live = useLive()
    await live.move('l1', 4000)
    expect(asked.at(-1)!.body).toEqual({ wanted: 4000 })
    await live.run('l1', true)
    expect(asked.at(-1)!.body).toEqual({ running: true })
    expect(live.problem).toBe('Beyond what the bench can do.')
  })
  it('is what the meter holds afterwards', async () => {
    const asked = answering({
      'GET /api/loops/*/link/meter': () => ({ values: { od: '60.3' } }),
      'POST /api/loops/*/link/meter': ({ body }) =>
        (body as { do: string }).do === 'start' ? { values: { od: '88.9' } } : refusal(422, 'busy', 'It is zeroing.'),
    })
    const live = useLive()
    await live.readHeld('l1')
    expect(live.held).toEqual({ values: { od: '60.3' } })
    expect(await live.command('l1', { do: 'start' })).toBe(true)
    expect(live.held).toEqual({ values: { od: '88.9' } })
    expect(await live.command('l1', { do: 'process' })).toBe(false)
    expect([live.problem, live.held]).toEqual(['It is zeroing.', { values: { od: '88.9' } }])
    expect(asked).toHaveLength(3)
    answering({ 'GET /api/loops/*/link/meter': () => refusal(404, 'no-meter', 'There is no meter.') })
    await live.readHeld('l1')
    expect([live.held, live.problem]).toEqual([undefined, 'There is no meter.'])
  })
})

describe('a stream that breaks', () => {
  it('is opened again, and asks whether the session still stands', async () => {
    const asked = answering({
      'GET /api/loops/*/link': () => LIMITS,
      'GET /api/session': () => sessionOf(null),
    })
    const session = useSession()
    session.session = sessionOf(['technician'])
    const live = useLive()
    await live.open('l1')
    HandFed.last.say('open')
    HandFed.last.say('error')
    expect(live.connected).toBe(false)
    await vi.advanceTimersByTimeAsync(1100)
    expect(HandFed.opened).toHaveLength(2)
    expect(asked.some((a) => a.path === '/api/session')).toBe(true)
    expect(session.ended).toBe(true)
  })
  it('tells that the session has ended, and that the database is away', async () => {
    const session = useSession()
    session.session = sessionOf(['technician'])
    const live = useLive()
    await live.open('l1')
    HandFed.last.say('server', { database: 'away' })
    expect(session.databaseAway).toBe(true)
    HandFed.last.say('server', { database: 'here' })
    expect(session.databaseAway).toBe(false)
    HandFed.last.say('session')
    expect(session.ended).toBe(true)
    expect(HandFed.opened[0]!.closed).toBe(true)
    live.close()
    await vi.advanceTimersByTimeAsync(5000)
    expect(HandFed.opened).toHaveLength(1)
  })
})
