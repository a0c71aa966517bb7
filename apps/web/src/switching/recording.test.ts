import 'fake-indexeddb/auto'
import { AddEdges, coreTrain, type LiveReading } from '@calm-loop/contract'
import { edgesOf } from '@calm-loop/core/discrete'
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { effectScope, type EffectScope } from 'vue'
import { useFolder } from '../stores/folder.ts'
import { useLive } from '../stores/live.ts'
import { useOutbox } from '../stores/outbox.ts'
import { useRecording } from './recording.ts'

const T0 = 1_790_000_000_000
let scope: EffectScope
let recording: ReturnType<typeof useRecording>
let now: boolean
beforeEach(() => {
  vi.useFakeTimers()
  localStorage.clear()
  setActivePinia(createPinia())
  vi.stubGlobal('fetch', () => Promise.reject(new TypeError('no network')))
  useFolder().view = { loop: { id: 'loop', kind: 'discrete-sensor' }, checks: [], versions: [] } as never
  useLive().connected = true
  now = false
  scope = effectScope()
  recording = scope.run(useRecording)!
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
    t_s: at,
    reference: 0,
    wanted: 0,
    moving: false,
    knots: { controller: now ? 1 : 0 },
    at_ms: T0 + at,
    edges: edges.map(([t, state]) => ({ t_ms: T0 + t, state, at: 8 })),
  }
  useLive().reading = reading
}
/** Every change that would be put on record, and that the contract takes. */
const onRecord = () => {
  const trains = useOutbox().pending.map((p) => AddEdges.parse(p.body))
  trains.forEach((t, i) => i && expect(t.startMs).toBeGreaterThan(trains[i - 1]!.startMs))
  return trains.map((t) => [...edgesOf([coreTrain(t)])].map((e) => [e.t_ms - T0, e.state]))
}

describe('recording live edges', () => {
  it('puts every edge on record with its time, in pieces that follow one another', () => {
    tell(0)
    recording.record(true)
    tell(100, [60, true], [90, false])
    tell(200, [150, true])
    vi.advanceTimersByTime(15_000)
    tell(15_200, [15_100, false])
    recording.record(false)
    expect(onRecord()).toEqual([
      [
        [0, false],
        [60, true],
        [90, false],
        [150, true],
      ],
      [
        [151, true],
        [15_100, false],
      ],
    ])
    expect([recording.count.value, recording.recorded.value]).toEqual([2, 4])
  })
  it('records nothing before it is begun and after it is ended, and counts all the same', () => {
    tell(0)
    tell(50, [10, true])
    recording.record(true)
    tell(100)
    recording.record(false)
    tell(200, [150, false], [160, true])
    expect(onRecord()).toEqual([])
    expect(recording.count.value).toBe(2)
  })
  it('ends the piece when the link is lost, and begins another with what is seen then', () => {
    tell(0)
    recording.record(true)
    tell(100, [60, true])
    useLive().connected = false
    useLive().connected = true
    now = false
    tell(5000)
    tell(5100, [5080, true])
    recording.record(false)
    expect(onRecord()).toEqual([
      [
        [0, false],
        [60, true],
      ],
      [
        [5000, false],
        [5080, true],
      ],
    ])
  })
  it('begins another piece when the state turns out to be one that no seen edge explains', () => {
    tell(0)
    recording.record(true)
    tell(100, [60, true])
    now = false
    tell(300)
    tell(400, [380, true])
    recording.record(false)
    expect(onRecord()).toEqual([
      [
        [0, false],
        [60, true],
      ],
      [
        [300, false],
        [380, true],
      ],
    ])
  })
  it('sends what it has when the page is left', () => {
    tell(0)
    recording.record(true)
    tell(100, [60, true])
    window.dispatchEvent(new Event('pagehide'))
    expect(onRecord()).toHaveLength(1)
  })
})
