import type { LiveReading, Recorded } from '@calm-loop/contract'
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { effectScope, type EffectScope } from 'vue'
import { useFolder } from '../stores/folder.ts'
import { useLive } from '../stores/live.ts'
import { AILSA, answering, DAY, folderOf, LOOP_ID, refusal } from '../stores/server.fixture.ts'
import { useRecording } from './recording.ts'

const T0 = 1_790_000_000_000
const AT = `/api/loops/${LOOP_ID}/recorded`
let scope: EffectScope
let now: boolean
let server: Recorded
let asked: ReturnType<typeof answering>
const begin = (): ReturnType<typeof useRecording> => scope.run(useRecording)!
beforeEach(() => {
  setActivePinia(createPinia())
  server = { recorded: null }
  asked = answering({
    [`GET ${AT}`]: () => server,
    [`PUT ${AT}`]: ({ body }) => {
      const { on } = body as { on: boolean }
      server = { recorded: on ? { by: AILSA, at: DAY, changes: 0, problem: '' } : null }
      return server
    },
    [`GET /api/loops/${LOOP_ID}`]: () => folderOf('discrete-sensor', {}),
  })
  useFolder().view = folderOf('discrete-sensor', {})
  useLive().connected = true
  now = false
  scope = effectScope()
})
afterEach(() => {
  scope.stop()
  vi.useRealTimers()
  vi.unstubAllGlobals()
})
/** The link tells its state at a moment, with the edges since it told before. */
function tell(at: number, ...edges: readonly (readonly [number, boolean])[]): void {
  now = edges.at(-1)?.[1] ?? now
  const reading: LiveReading = {
    ...{ t_s: at, reference: 0, wanted: 0, moving: false, knots: { controller: now ? 1 : 0 }, at_ms: T0 + at },
    edges: edges.map(([t, state]) => ({ t_ms: T0 + t, state, at: 8 })),
  }
  useLive().reading = reading
}

describe('what is seen live', () => {
  it('is every edge with its time, and rises are counted, whether recorded or not', () => {
    const seen = begin()
    tell(0)
    tell(100, [60, true], [90, false])
    tell(200, [150, true])
    expect(seen.edges.value.map((e) => [e.t_ms - T0, e.state])).toEqual([
      [60, true],
      [90, false],
      [150, true],
    ])
    expect([seen.count.value, seen.state.value]).toEqual([2, true])
    seen.forget()
    expect([seen.count.value, seen.edges.value]).toEqual([0, []])
    useLive().connected = false
    expect(seen.state.value).toBe(undefined)
  })
})

describe('recording', () => {
  it('is done by the server, shown as it stands there, and ended there', async () => {
    server = { recorded: { by: AILSA, at: DAY, changes: 12, problem: '' } }
    const seen = begin()
    await vi.waitFor(() => expect(seen.recorded.value?.changes).toBe(12))
    await seen.record(false)
    expect(seen.recorded.value).toBe(null)
    await seen.record(true)
    expect(seen.recorded.value).toMatchObject({ by: AILSA, changes: 0 })
    expect(asked.filter((a) => a.method === 'PUT').map((a) => a.body)).toEqual([{ on: false }, { on: true }])
  })
  it('that is refused says why, and what stood stays', async () => {
    const seen = begin()
    await vi.waitFor(() => expect(asked.length).toBeGreaterThan(0))
    answering({ [`PUT ${AT}`]: () => refusal(409, 'bench-not-connected', 'Connect the bench first.') })
    await seen.record(true)
    expect([seen.problem.value, seen.recorded.value]).toEqual(['Connect the bench first.', null])
  })
  it('looks again every few seconds, and at the folder where there is more', async () => {
    vi.useFakeTimers()
    const seen = begin()
    await vi.advanceTimersByTimeAsync(10)
    server = { recorded: { by: AILSA, at: DAY, changes: 3, problem: '' } }
    await vi.advanceTimersByTimeAsync(3000)
    expect(seen.recorded.value?.changes).toBe(3)
    expect(asked.some((a) => a.path === `/api/loops/${LOOP_ID}`)).toBe(true)
    scope.stop()
    const before = asked.length
    await vi.advanceTimersByTimeAsync(9000)
    expect(asked).toHaveLength(before)
  })
})
