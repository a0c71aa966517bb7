import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { edgesOf, endOf, type EdgeTrain } from './edge-log.ts'
import { longCycleWatch, newRecording, type SeenState } from './recording.ts'

const T0 = 1_790_000_000_000
/** What a link tells at a moment: the changes since it told before, each at its time. */
const tell = (
  at: number,
  state: boolean | undefined,
  ...edges: readonly (readonly [number, boolean])[]
): SeenState => ({
  ...{ at_ms: T0 + at, state, edges: edges.map(([t, s]) => ({ t_ms: T0 + t, state: s })) },
})
const shown = (trains: readonly (EdgeTrain | undefined)[]) =>
  trains.map((t) => t && [...edgesOf([t])].map((e) => [e.t_ms - T0, e.state]))

describe('a recording', () => {
  it('has every change with its time, in pieces that follow one another', () => {
    const r = newRecording()
    r.see(tell(0, false))
    r.see(tell(100, false, [60, true], [90, false]))
    r.see(tell(200, true, [150, true]))
    const first = r.take()
    r.see(tell(15_200, false, [15_100, false]))
    expect(shown([first, r.lose()])).toEqual([
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
    expect(r.changes).toBe(4)
  })
  it('has nothing of a time in which nothing was seen, nor across a change that went by unseen', () => {
    const r = newRecording()
    r.see(tell(0, false))
    r.see(tell(100, true, [50, true]))
    // The state is another than the last change left it in.
    const ended = r.see(tell(200, false))
    r.see(tell(300, true, [250, true]))
    expect(shown([ended])[0]!.at(-1)).toEqual([50, true])
    expect(shown([r.see(tell(400, undefined))])[0]).toEqual([
      [200, false],
      [250, true],
    ])
    expect(r.take()).toBe(undefined)
    r.see(tell(900, true))
    expect(r.take()).toBe(undefined)
  })
  it('never counts a time twice, whatever is told', () => {
    const told = fc.record({
      wait: fc.integer({ min: 1, max: 400 }),
      state: fc.oneof({ weight: 6, arbitrary: fc.boolean() }, { weight: 1, arbitrary: fc.constant(undefined) }),
      edges: fc.array(fc.record({ gap: fc.integer({ min: 0, max: 200 }), state: fc.boolean() }), { maxLength: 4 }),
      take: fc.boolean(),
    })
    fc.assert(
      fc.property(fc.array(told, { maxLength: 30 }), (all) => {
        const r = newRecording()
        const trains: EdgeTrain[] = []
        let t = 0
        for (const { wait, state, edges, take } of all) {
          const seen = edges.map((e): [number, boolean] => [(t += e.gap), e.state])
          t += wait
          for (const train of [r.see(tell(t, state, ...seen)), take ? r.take() : undefined])
            if (train) trains.push(train)
        }
        const last = r.lose()
        if (last) trains.push(last)
        trains.forEach((train, i) => {
          expect(train.gaps_ms.every((g) => Number.isInteger(g) && g >= 1)).toBe(true)
          if (i) expect(train.start_ms).toBeGreaterThan(endOf(trains[i - 1]!))
        })
        expect(trains.reduce((n, { gaps_ms }) => n + gaps_ms.length, 0)).toBe(r.changes)
      }),
    )
  })
})

describe('a watch for long cycles', () => {
  it('tells of one once, and when it runs again; what cannot be seen is no standstill', () => {
    const watch = longCycleWatch(10)
    expect(watch(tell(0, true, [0, true]))).toBe(undefined)
    expect(watch(tell(9_000, false, [500, false]))).toBe(undefined)
    expect(watch(tell(10_500, false))).toEqual({ what: 'long-cycle', at_ms: T0 + 10_500, seconds: 10.5 })
    expect(watch(tell(20_000, false))).toBe(undefined)
    expect(watch(tell(21_000, true, [20_400, true]))).toEqual({
      ...{ what: 'running-again', at_ms: T0 + 20_400, seconds: 20.4 },
    })
    watch(tell(22_000, undefined))
    expect(watch(tell(90_000, true))).toBe(undefined)
    expect(watch(tell(99_000, true))).toBe(undefined)
    expect(watch(tell(100_500, true))).toMatchObject({ what: 'long-cycle' })
  })
})
