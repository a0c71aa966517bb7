import { study } from '../loop/index.ts'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { demoEntries } from '../kinds/demo-entries.fixture.ts'
import { currentKindOf } from '../kinds/index.ts'
import { departures, knotScales, spread } from './index.ts'

const KINDS = ['level-from-above', 'rtd-head'] as const

describe.each(KINDS)('the thread of %s', (id) => {
  const { thread } = study(currentKindOf(id), demoEntries(id))
  const scales = knotScales(thread)
  /** As far as an output drives its current: 3.8 to 20.5 mA (NAMUR NE 43). */
  const inRange = fc.double({ min: -0.0125, max: 1.03125, noNaN: true })

  it('runs from the process to the controller through the current', () => {
    expect(thread.knots.map((k) => k.role)).toEqual([
      'process',
      'sensor',
      'digital',
      'current',
      'input',
      'counts',
      'controller',
    ])
    expect(thread.stages).toHaveLength(thread.knots.length - 1)
  })
  it('says the same whichever knot is typed at', () => {
    fc.assert(
      fc.property(inRange, fc.nat(thread.knots.length - 1), (f, k) => {
        const scale = scales[0]!
        const all = spread(thread, thread.knots[0]!.id, scale.low! + f * (scale.high! - scale.low!))
        const from = all[k]!
        if (!from.known) throw new Error('not known')
        spread(thread, thread.knots[k]!.id, from.value).forEach((v, i) => {
          const first = all[i]!
          if (!v.known || !first.known) throw new Error('not known')
          expect(Math.abs(v.value - first.value)).toBeLessThan(
            1e-6 * Math.max(1, Math.abs(scales[i]!.high! - scales[i]!.low!)),
          )
        })
      }),
    )
  })
  it('keeps the order of values at every knot', () => {
    fc.assert(
      fc.property(inRange, inRange, (a, b) => {
        fc.pre(Math.abs(a - b) > 1e-6)
        const at = (f: number) => spread(thread, 'current', 4 + 16 * f)
        const [x, y] = [at(a), at(b)]
        thread.knots.forEach((_, i) => {
          const [p, q, { low, high }] = [x[i]!, y[i]!, scales[i]!]
          if (p.known && q.known) expect(Math.sign(p.value - q.value)).toBe(Math.sign(a - b) * Math.sign(high! - low!))
        })
      }),
    )
  })
  it('gives the typed value back exactly', () => {
    fc.assert(
      fc.property(inRange, (f) => {
        expect(spread(thread, 'current', 4 + 16 * f)[3]).toEqual({ known: true, value: 4 + 16 * f })
      }),
    )
  })
})

it('takes LT-112 through its knots as by hand', () => {
  const { thread } = study(currentKindOf('level-from-above'), demoEntries('level-from-above'))
  const values = spread(thread, 'level', 1836).map((v) => (v.known ? v.value : v.says))
  // 3600 − 1836 = 1764 mm; 1836/3000 = 61.2 %; 4 + 16 · 0.612 = 13.792 mA; · 250 Ω = 3.448 V
  expect(values.map((v) => Math.round(Number(v) * 1000) / 1000)).toEqual([
    1836, 1764, 1836, 13.792, 3.448, 45192.936, 1836,
  ])
})

it('names what is missing and still knows what it can', () => {
  const { shunt: _, receiverHigh: __, ...rest } = demoEntries('level-from-above')
  const { thread } = study(currentKindOf('level-from-above'), rest)
  const values = spread(thread, 'level', 1500)
  expect(values.slice(0, 4).every((v) => v.known)).toBe(true)
  expect(values[4]).toMatchObject({ known: false, why: 'needs', says: 'needs receiver shunt' })
  expect(spread(thread, 'counts', 20_000)[0]).toMatchObject({ known: false })
})

it('says when a value lies outside what a sensor can give', () => {
  const { thread } = study(currentKindOf('rtd-head'), demoEntries('rtd-head'))
  expect(spread(thread, 'temperature', 2000)[1]).toMatchObject({ known: false, why: 'outside' })
})

it('finds the first stage at which read parts from expected', () => {
  const { thread } = study(currentKindOf('level-from-above'), demoEntries('level-from-above'))
  const found = departures(thread, { level: 1500, digital: 1500, current: 12.08, controller: 1515 })
  expect(found.map((d) => [d.from, d.to, Math.round(d.errorPct * 100) / 100])).toEqual([
    ['level', 'digital', 0],
    ['digital', 'current', 0.5],
    ['current', 'controller', 0],
  ])
  expect(found[1]!.causes).toContain('current trim off')
})
