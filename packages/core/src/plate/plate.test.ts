// What is made of a picture, what readings agree on, and what a plate proposes for a loop's entries.
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { kindOf } from '../kinds/index.ts'
import { asPgm, blurred, evened, greyOf, hasWaist, inked, prepared, proposals, readingOf, resized } from './index.ts'
import { shines, together, type Grey, type Reading, type ReadLine } from './index.ts'

const grey = (width: number, height: number, at: (x: number, y: number) => number): Grey => ({
  ...{ width, height },
  data: Uint8ClampedArray.from({ length: width * height }, (_, i) => at(i % width, Math.floor(i / width))),
})
/** Ink from a drawing: `#` is ink. */
const drawn = (rows: readonly string[], times = 4) =>
  grey(rows[0]!.length * times, rows.length * times, (x, y) =>
    rows[Math.floor(y / times)]![Math.floor(x / times)] === '#' ? 0 : 255,
  )

describe('a picture', () => {
  it('is grey by how bright its colours are', () => {
    expect([...greyOf([255, 255, 255, 255, 0, 0, 0, 255, 255, 0, 0, 255, 0, 255, 0, 255], 2, 2).data]).toEqual([
      255, 0, 76, 150,
    ])
  })
  it('under even light keeps ink apart from metal, wherever the light falls', () => {
    const sloped = grey(200, 60, (x, y) => (x % 20 < 3 && y > 20 && y < 40 ? 0.35 : 1) * (60 + 0.9 * x))
    const ink = inked(evened(sloped, 15), 12)
    for (const x of [21, 101, 181]) {
      expect(ink.data[30 * 200 + x], `ink at ${x}`).toBe(0)
      expect(ink.data[30 * 200 + x + 10], `metal at ${x + 10}`).toBe(255)
    }
  })
  it('is blurred and resized without growing darker or brighter as a whole', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 255 }), { minLength: 64, maxLength: 64 }), (values) => {
        const of = grey(8, 8, (x, y) => values[y * 8 + x]!)
        const [low, high] = [Math.min(...values), Math.max(...values)]
        for (const made of [blurred(of, 1), resized(of, 2), resized(of, 0.5)])
          for (const each of made.data) {
            expect(each).toBeGreaterThanOrEqual(low - 1)
            expect(each).toBeLessThanOrEqual(high + 1)
          }
      }),
    )
  })
  it('is a greymap file of its size', () => {
    const file = asPgm(grey(3, 2, (x) => x))
    expect(new TextDecoder().decode(file.slice(0, 11))).toBe('P5\n3 2\n255\n')
    expect([...file.slice(11)]).toEqual([0, 1, 2, 0, 1, 2])
  })
  it('is read three times, each as large as letters want', () => {
    const { variants, seen } = prepared(grey(700, 300, () => 200))
    expect(variants.map((v) => v.times)).toEqual([2, 2, 1.6])
    expect(seen.ink.width).toBe(1400)
  })
})

describe('an eight', () => {
  const box = (g: Grey) => ({ x0: 4, y0: 4, x1: g.width - 4, y1: g.height - 4 })
  it('has a waist', () => {
    const eight = drawn([
      ...['.........', '..#####..', '.##...##.', '.##...##.', '.##...##.', '..#####..'],
      ...['..#####..', '.##...##.', '.##...##.', '.##...##.', '..#####..', '.........'],
    ])
    expect(hasWaist(eight, box(eight))).toBe(true)
  })
  it('is none where a zero has a bar in it, nor where its dots do not hang together', () => {
    const barred = drawn([
      ...['.........', '..#####..', '.##...##.', '.##..###.', '.##.####.', '.##.####.'],
      ...['.####.##.', '.####.##.', '.###..##.', '.##...##.', '..#####..', '.........'],
    ])
    expect(hasWaist(barred, box(barred))).toBe(false)
    const dots = drawn(['.......', '.#.#.#.', '.......', '.#...#.', '.......', '.#.#.#.', '.......'])
    expect(hasWaist(dots, box(dots))).toBe(false)
  })
})

const CLEAR = grey(400, 100, () => 180)
/** A reading of words on one line, each sign ten points wide. */
const reading = (words: string, confidence = 98, odd: Record<number, number> = {}): Reading => {
  let x = 0
  return [
    words.split(' ').map((word) => {
      x += 10
      return [...word].map((text) => {
        const at = x
        x += 10
        return { text, confidence: odd[(at - 10) / 10] ?? confidence, box: { x0: at, y0: 20, x1: at + 9, y1: 40 } }
      })
    }),
  ]
}
const said = (lines: readonly ReadLine[]) =>
  lines[0]!.words.map((w) => [...w.text].map((s, i) => s + (w.doubt[i] ? '?' : '')).join('')).join(' ')
const seen = { raw: CLEAR, ink: CLEAR }

describe('readings together', () => {
  it('are sure of what all see well, and mark the rest sign by sign', () => {
    expect(said(together([reading('Kf 2.3175'), reading('Kf 2.3175'), reading('Kf 2.3175')], seen))).toBe('Kf 2.3175')
    expect(said(together([reading('Kf 2.3175'), reading('Kf 2.3176', 97), reading('Kf 2.3175')], seen))).toBe(
      'Kf 2.3175?',
    )
    expect(said(together([reading('12', 98), reading('12', 97, { 1: 60 }), reading('12', 98)], seen))).toBe('12?')
  })
  it('mark a whole word where one sees more or fewer signs, a comma, and a digit within a unit', () => {
    expect(said(together([reading('836'), reading('83', 97), reading('836')], seen))).toBe('8?3?6?')
    expect(said(together([reading('5,2'), reading('5,2')], seen))).toBe('5,?2')
    expect(said(together([reading('k3'), reading('k3')], seen))).toBe('k3?')
  })
  it('mark letters and digits that are alike, where a word holds both', () => {
    expect(said(together([reading('C2-5-47'), reading('C2-5-47')], seen))).toBe('C2?-5?-47')
    expect(said(together([reading('2-5-47'), reading('2-5-47')], seen))).toBe('2-5-47')
  })
  it('mark what a shine may have taken, also just beside it', () => {
    const shining = grey(400, 100, (x) => (x < 12 ? 255 : 180))
    expect(shines(shining, { x0: 0, y0: 20, x1: 20, y1: 40 })).toBe(true)
    const two = [reading('36'), reading('36')]
    expect(said(together(two, { raw: shining, ink: shining }))).toBe('3?6?')
  })
  it('mark an eight that is not drawn like one', () => {
    expect(said(together([reading('28'), reading('28')], seen))).toBe('28?')
  })
  it('of nothing are nothing', () => {
    expect(together([], seen)).toEqual([])
    expect(readingOf(null, 2)).toEqual([])
  })
  it('lie in the points of the picture that was given', () => {
    const symbols = [{ text: '7', confidence: 90, bbox: { x0: 20, y0: 40, x1: 30, y1: 60 } }]
    expect(readingOf([{ paragraphs: [{ lines: [{ words: [{ symbols }] }] }] }], 2)[0]![0]![0]!.box).toEqual({
      ...{ x0: 10, y0: 20, x1: 15, y1: 30 },
    })
  })
})

const lines = (...texts: string[]): ReadLine[] =>
  texts.flatMap((text) => together([reading(text.replace(/\s+/g, ' ')), reading(text.replace(/\s+/g, ' '))], seen))
const brief = (kind: string, entries: Record<string, { typed: string }>, ...texts: string[]) =>
  proposals(kindOf(kind), entries, lines(...texts)).map((p) => [p.key, p.typed])

describe('a plate', () => {
  it('proposes serial, device, and the constants by the letters that this loop has for them', () => {
    const letters = { flowCalLetters: { typed: 'Kf' }, highPeriodLetters: { typed: 'T-hi' } }
    expect(
      brief('coriolis', letters, 'MODEL CM-70', 'SERIAL NO 96296194', 'Kf 4.92900', 'T-hi 9690.444', 'HOLM WORKS'),
    ).toEqual([
      ['device', 'CM-70'],
      ['sensorSerial', '96296194'],
      ['flowCalTag', '4.92900'],
      ['highPeriodTag', '9690.444'],
    ])
  })
  it('gives the first serial of a pair to the upstream one, the next to the other', () => {
    expect(brief('clamp-on', {}, 'S/N 4471A', 'S/N 4471B').map(([key]) => key)).toEqual(['serialA', 'serialB'])
  })
  it('takes both ends of a range, each with its unit; of a supply the least', () => {
    expect(brief('pressure', {}, 'RANGE 0-16 bar')).toEqual([
      ['sensorLow', '0 bar'],
      ['sensorHigh', '16 bar'],
    ])
    expect(brief('discrete-sensor', {}, 'SUPPLY 10-30 V DC')).toEqual([
      ['supplyLeast', '10 V'],
      ['supplyMost', '30 V'],
    ])
  })
  it('keeps a mark with its digit, wherever the value is taken apart', () => {
    const line = together([reading('RANGE 0-16 bar'), reading('RANGE 0-17 bar', 97)], seen)
    const [, high] = proposals(kindOf('pressure'), {}, line)
    expect(high).toMatchObject({ typed: '16 bar', doubt: [false, true, false, false, false, false] })
  })
  it('offers a figure that it has no entry for without one, and words without figures not at all', () => {
    expect(brief('pressure', {}, 'IP 67', 'MADE HERE')).toEqual([[undefined, '67']])
  })
})
