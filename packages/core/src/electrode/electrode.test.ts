import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { bufferPh, idealSlope_mV } from '../analysis/index.ts'
import { attempt, Refusal } from '../refusal/index.ts'
import {
  calibrated,
  electrodeOf,
  replacementOf,
  shelfGrade,
  shelfWords,
  type Dated,
  type ElectrodeEvent,
  type MemoryPoint,
} from './index.ts'

const entered = (more: object = {}): Dated<ElectrodeEvent> => ({
  what: 'entered',
  sort: 'ph',
  serial: 'G-1',
  model: 'glass electrode',
  memory: true,
  at: '2025-01-10T08:00:00.000Z',
  ...more,
})
/** An electrode of this share of the ideal and offset, read in buffers. */
const points = (share: number, offset: number, names = ['4.00', '7.00'], temp_C = 25): MemoryPoint[] =>
  names.map((buffer) => {
    const is = bufferPh(buffer, temp_C).ph
    return { buffer, temp_C, is, mV: share * idealSlope_mV(temp_C) * (is - 7) + offset }
  })
const calibration = (day: string, share: number, offset = 0, more: object = {}): Dated<ElectrodeEvent> => ({
  what: 'calibrated',
  points: points(share, offset),
  at: `${day}T08:00:00.000Z`,
  ...more,
})
const plugged = (loopId: string, day = '2025-02-01'): Dated<ElectrodeEvent> => ({
  what: 'plugged-in',
  loopId,
  tag: `AT-${loopId}`,
  at: `${day}T08:00:00.000Z`,
})
const out = (day: string): Dated<ElectrodeEvent> => ({
  what: 'taken-out',
  words: 'changed',
  at: `${day}T08:00:00.000Z`,
})
const code = (run: () => unknown) => {
  const refused = attempt(run)
  return refused instanceof Refusal ? refused.code : undefined
}

describe('what an electrode keeps', () => {
  it('is the slope and offset that its buffers give, whatever they are', () => {
    const share = fc.double({ min: 0.9, max: 1.02, noNaN: true })
    const offset = fc.double({ min: -25, max: 25, noNaN: true })
    const names = fc.shuffledSubarray(['4.00', '7.00', '10.01', '1.68'], { minLength: 2 })
    fc.assert(
      fc.property(share, offset, names, fc.integer({ min: 5, max: 50 }), (s, o, chosen, t) => {
        const found = calibrated('ph', points(s, o, chosen, t))
        expect(found.slopePercent).toBeCloseTo(100 * s, 6)
        expect(found.offset_mV).toBeCloseTo(o, 6)
      }),
    )
  })
  it('in one buffer is the offset alone: the slope of before stays', () => {
    const e = electrodeOf([
      entered(),
      calibration('2025-01-11', 0.97),
      { ...calibration('2025-03-11', 0.97, 8), points: points(0.97, 8, ['7.00']) } as Dated<ElectrodeEvent>,
    ])
    expect(e.last).toMatchObject({
      slopePercent: expect.closeTo(97, 6) as number,
      offset_mV: expect.closeTo(8, 6) as number,
    })
  })
  it('of a redox electrode is an offset, judged by its size', () => {
    const at = (mV: number) => calibrated('orp', [{ buffer: 'solution', temp_C: 25, is: 220, mV }])
    expect(at(226)).toEqual({ slopePercent: undefined, slopeRead: false, offset_mV: 6, verdict: 'good' })
    expect([at(200).verdict, at(255).verdict]).toEqual(['worn', 'replace'])
  })
  it('in one buffer is refused where no slope was ever read', () => {
    const one = { ...calibration('2025-01-11', 1), points: points(1, 4, ['7.00']) } as Dated<ElectrodeEvent>
    expect(code(() => electrodeOf([entered(), one]))).toBe('buffers-missing')
  })
  it('says which slopes were read, and which only stayed', () => {
    const one = { ...calibration('2025-03-11', 1), points: points(0.97, 8, ['7.00']) } as Dated<ElectrodeEvent>
    const { calibrations } = electrodeOf([entered(), calibration('2025-01-11', 0.97), one])
    expect(calibrations.map((c) => c.slopeRead)).toEqual([true, false])
  })
  it('of a redox electrode has no temperature that nobody read', () => {
    const redox: Dated<ElectrodeEvent> = {
      what: 'calibrated',
      points: [{ buffer: 'redox solution', is: 220, mV: 226, reckoned: true }],
      at: '2025-02-01T08:00:00.000Z',
    }
    expect(electrodeOf([entered({ sort: 'orp' }), redox]).last!.temp_C).toBeUndefined()
  })
  it('is nothing without a buffer, or with one twice', () => {
    expect(code(() => calibrated('ph', []))).toBe('buffers-missing')
    expect(code(() => calibrated('ph', [...points(1, 0), ...points(1, 0)]))).toBe('same-buffer')
  })
})

describe('where an electrode is', () => {
  it('follows it over the points that it served', () => {
    const e = electrodeOf([entered(), plugged('1', '2025-02-01'), out('2025-06-01'), plugged('2', '2025-07-01')])
    expect(e.place).toMatchObject({ at: 'point', tag: 'AT-2' })
    expect(e.served.map((s) => [s.tag, s.from.slice(0, 10), s.to?.slice(0, 10)])).toEqual([
      ['AT-1', '2025-02-01', '2025-06-01'],
      ['AT-2', '2025-07-01', undefined],
    ])
    // Read up again where it stands, nothing begins anew.
    expect(electrodeOf([entered(), plugged('1'), plugged('1', '2025-03-01')]).served).toHaveLength(1)
  })
  it('is one place only, and none once it is out of use', () => {
    const retired: Dated<ElectrodeEvent> = { what: 'retired', words: 'broken', at: '2025-03-01T08:00:00.000Z' }
    expect(code(() => electrodeOf([entered(), plugged('1'), plugged('2')]))).toBe('electrode-elsewhere')
    expect(code(() => electrodeOf([entered(), out('2025-03-01')]))).toBe('electrode-not-there')
    expect(code(() => electrodeOf([entered(), retired, plugged('1')]))).toBe('electrode-retired')
    expect(code(() => electrodeOf([entered(), entered()]))).toBe('electrode-known')
    expect(code(() => electrodeOf([plugged('1')]))).toBe('electrode-unknown')
    expect(code(() => electrodeOf([]))).toBe('electrode-unknown')
  })
  it('is said with each calibration', () => {
    const e = electrodeOf([entered(), calibration('2025-01-11', 1), plugged('1'), calibration('2025-05-11', 0.99)])
    expect(e.calibrations.map((c) => c.tag)).toEqual([undefined, 'AT-1'])
  })
})

describe('whether it may be plugged in', () => {
  const on = '2025-09-01'
  it.each([
    ['ready', [calibration('2025-08-01', 0.98, 3)], 'Ready.'],
    ['stop', [], 'Never calibrated here.'],
    ['stop', [calibration('2025-08-01', 0.85)], 'Worn out at its last calibration.'],
    ['look', [calibration('2025-08-01', 0.92)], 'Worn: order a spare.'],
    ['stop', [calibration('2025-08-01', 0.98, 0, { bestBefore: '2025-08-31' })], 'Past its best: 2025-08-31.'],
    ['ready', [calibration('2025-08-01', 0.98, 0, { bestBefore: on })], 'Ready.'],
    ['stop', [calibration('2025-08-01', 0.98, 0, { glass_MOhm: 1 })], 'Glass of 1 MΩ: cracked.'],
    ['look', [calibration('2025-08-01', 0.98, 0, { glass_MOhm: 1400 })], 'Glass of 1400 MΩ: dry or old.'],
    ['look', [calibration('2025-08-01', 0.98, 0, { response_s: 75 })], 'Slow: 75 s.'],
  ] as const)('%s: %#', (grade, events, says) => {
    const e = electrodeOf([entered(), ...events])
    expect(shelfGrade(e, on)).toBe(grade)
    expect(shelfWords(e, on)[0]!.says).toBe(says)
    expect(shelfWords(e, on).every((w) => w.rule !== '')).toBe(true)
  })
})

describe('the day it will want replacing', () => {
  const of = (list: readonly (readonly [string, number, number])[]) =>
    replacementOf(electrodeOf([entered(), ...list.map(([day, s, o]) => calibration(day, s, o))]).calibrations)
  it('is where the line through its slopes meets 90 %', () => {
    // 1 % of slope in 100 days: 90 % 700 days after 97 %.
    const found = of([
      ['2025-01-01', 0.99, 0],
      ['2025-04-11', 0.98, 0],
      ['2025-07-20', 0.97, 0],
    ])
    expect(found).toMatchObject({ by: 'slope', perYear: expect.closeTo(-3.65, 1) as number })
    expect(Math.abs(Date.parse(found!.day) - Date.parse('2027-06-20')) / 86_400_000).toBeLessThan(3)
    expect(found!.earliest <= found!.day).toBe(true)
  })
  it('is where the offset runs away, if that comes first', () => {
    const found = of([
      ['2025-01-01', 0.99, 0],
      ['2025-04-11', 0.989, 10],
      ['2025-07-20', 0.988, 20],
    ])
    expect(found).toMatchObject({ by: 'offset' })
    expect(Math.abs(Date.parse(found!.day) - Date.parse('2025-10-28')) / 86_400_000).toBeLessThan(3)
  })
  it('is said no earlier, the more its figures scatter the less sure', () => {
    const at = (scatter: number) =>
      of([
        ['2025-01-01', 0.99 + scatter, 0],
        ['2025-03-01', 0.985 - scatter, 0],
        ['2025-05-01', 0.98 + scatter, 0],
        ['2025-07-01', 0.975 - scatter, 0],
      ])!
    expect(at(0.004).earliest < at(0.001).earliest).toBe(true)
    expect(at(0.001).sure).toContain('95 of 100')
  })
  it('does not take a slope that only stayed for one that was read', () => {
    const kept = (day: string) =>
      ({ ...calibration(day, 1), points: points(0.99, 0, ['7.00']) }) as Dated<ElectrodeEvent>
    const events = [entered(), calibration('2025-01-01', 0.99), kept('2025-04-11'), calibration('2025-07-20', 0.97)]
    expect(replacementOf(electrodeOf(events).calibrations)).toBeUndefined()
  })
  it('is not guessed from two calibrations, nor of one that does not wear', () => {
    expect(
      of([
        ['2025-01-01', 0.99, 0],
        ['2025-04-11', 0.98, 0],
      ]),
    ).toBeUndefined()
    expect(
      of([
        ['2025-01-01', 0.99, 0],
        ['2025-04-11', 0.99, 0],
        ['2025-07-11', 0.99, 0],
      ]),
    ).toBeUndefined()
  })
})
