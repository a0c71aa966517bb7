import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { currentKindOf } from '../kinds/index.ts'
import { demoEntries } from '../kinds/demo-entries.fixture.ts'
import { study } from '../loop/index.ts'
import { spread } from '../thread/index.ts'
import { doubtsOf, doubtWords } from './doubts.ts'
import { upAndDown } from './plan.ts'
import { witnessesBehind } from './witness.ts'

const thread = study(currentKindOf('level-from-above'), demoEntries('level-from-above')).thread
const process = thread.knots[0]!.id
const points = upAndDown()
const terms = { standardAt: process, points }
const at = (percent: number) => points.find((p) => p.percent === percent)!
const truth = (applied: number) =>
  Object.fromEntries(
    witnessesBehind(thread, process).flatMap((w) => {
      const v = spread(thread, process, applied)[thread.knots.findIndex((k) => k.id === w.knotId)]!
      return v.known ? [[w.id, v.value]] : []
    }),
  )
// 0 to 3000 mm.
const ask = (percent: number, applied: number, reads: Record<string, number>) =>
  doubtsOf({ applied, reads }, at(percent), thread, terms).join(' ')

describe('a reading is asked about', () => {
  it.each<[string, number, number, Record<string, number>, RegExp]>([
    ['a current no loop carries', 50, 1500, { current: 999 }, /^999 mA is no loop current/],
    ['a decimal mark lost in the current, as volts', 50, 1500, { volts: 30 }, /ten times as much: a decimal mark lost/],
    ['a current at the wrong point', 50, 1500, { current: 16.01 }, /right at 75 %: read at the wrong point/],
    ['ten times the level', 50, 15_000, {}, /True input, level: 15\s?000 mm was typed.*a decimal mark lost/],
    ['a tenth of the level', 75, 225, {}, /ten times too little/],
    ['the level of another point', 25, 2250, {}, /right at 75 %/],
    ['a level where none is expected', 0, 1498, {}, /right at 50 %: read at the wrong point/],
    ['a level of no point', 100, 2500, {}, /True input, level: 2500 mm was typed, 3000 mm is expected\.$/],
    ['a controller scaled in another unit', 50, 1500, { controller: 1.5 }, /a thousand times too little/],
  ])('%s', (_, percent, applied, reads, says) => {
    expect(ask(percent, applied, reads).replaceAll('\u202f', ' ').replaceAll('\u00a0', ' ')).toMatch(says)
  })
  it('never when it errs by no more than a tenth of the span, wherever it is read', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(0, 25, 50, 75, 100),
        fc.double({ min: -0.09, max: 0.09, noNaN: true }),
        fc.double({ min: -0.09, max: 0.09, noNaN: true }),
        (percent, off, error) => {
          const applied = 30 * percent + 3000 * off
          const reads = Object.fromEntries(
            witnessesBehind(thread, process).map((w) => [w.id, (truth(applied)[w.id] ?? 0) + error * (w.high - w.low)]),
          )
          // Beyond the tank nothing is expected; a current may stay within what a loop carries all the same.
          if (Object.keys(truth(applied)).length < 5 || reads['current']! < 0) return
          expect(ask(percent, applied, reads)).toBe('')
        },
      ),
    )
  })
  it('whenever it errs by more than that', () => {
    fc.assert(
      fc.property(
        fc.constantFrom('current', 'volts', 'counts', 'controller', 'digital', 'indicator'),
        fc.double({ min: 0.11, max: 3, noNaN: true }),
        fc.boolean(),
        (id, error, up) => {
          const w = witnessesBehind(thread, process).find((x) => x.id === id)!
          expect(ask(50, 1500, { [id]: truth(1500)[id]! + (up ? 1 : -1) * error * (w.high - w.low) })).not.toBe('')
        },
      ),
    )
  })
  it('in the words of its point', () => {
    expect(doubtWords(at(50), ['Odd.'])).toBe('50 % up: Odd. Say why it is so, or take it again.')
  })
  it('not at all where the thread has a gap', () => {
    const bare = study(currentKindOf('level-from-above'), {}).thread
    expect(doubtsOf({ applied: 1, reads: { current: 12 } }, at(50), bare, terms)).toEqual([])
  })
})
