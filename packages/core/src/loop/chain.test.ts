import { describe, expect, it } from 'vitest'
import { attempt, Refusal } from '../refusal/index.ts'
import { knotScales, spread } from '../thread/index.ts'
import { demoEntries } from '../kinds/demo-entries.fixture.ts'
import { currentKindOf, KINDS } from '../kinds/index.ts'
import {
  appliedEntry,
  chainOf,
  foundPoint,
  proceduresFor,
  receiverMeans,
  receiverWanted,
  study,
  termsOf,
  transmitterFor,
} from './index.ts'

const SITE = { plausiblePct: 3, window_s: 4, driftPct: 0.1, noisePct: 0.06 }
const chain = (kind: string, changed: Record<string, string> = {}) =>
  chainOf(study(currentKindOf(kind), demoEntries(kind, changed)))
const currents = KINDS.filter((k) => k.family === 'current').map((k) => k.id)

describe.each(currents)('trims of %s', (id) => {
  const kind = currentKindOf(id)
  const known = study(kind, demoEntries(id))
  it('have a chain, a bench device, and procedures whose terms can be made', () => {
    const c = chainOf(known)
    expect(c.lrv).not.toBe(c.urv)
    expect(Object.values(transmitterFor(known)).every((v) => v !== undefined)).toBe(true)
    const procedures = proceduresFor(known)
    expect(procedures).toContain('current-trim')
    for (const p of procedures)
      expect(termsOf(known, { tag: 'X-1', procedure: p, site: SITE, choices: { buffers: ['4.00', '7.00'] } }).tag).toBe(
        'X-1',
      )
  })
  it('read a loop without error as one without error', () => {
    const c = chainOf(known)
    const { low, high } = knotScales(c.thread)[0]!
    for (const f of [0.1, 0.5, 0.9]) {
      const value = low! + f * (high! - low!)
      const at = spread(c.thread, c.process.id, value)
      const of = (role: string) => at[c.thread.knots.findIndex((k) => k.role === role)]!
      const read = (role: string, unit: string) => ({ value: (of(role) as { value: number }).value, unit })
      const point = foundPoint(c, {
        applied: { value, unit: c.process.unit },
        digital: read('digital', c.digital.unit),
        current: read('current', 'mA'),
        receiver: read('controller', c.controller.unit),
      })
      const span = Math.abs(c.urv - c.lrv)
      expect(Math.abs(point.digital! - point.applied)).toBeLessThan(1e-6 * span)
      expect(Math.abs(point.receiver! - point.applied)).toBeLessThan(1e-6 * span)
    }
  })
})

it('a receiver scaled differently on record shows as an error of the receiver', () => {
  const c = chain('pressure', { receiverHigh: '750 mbar' })
  expect(receiverMeans(c, 375)).toBe(375)
  const level = chain('level-dp', { receiverHigh: '3000 mm' })
  // 1500 mm of 2600 mm: −2740 + 1500/2600 · 2678 mmH2O
  expect(receiverMeans(level, 1500)).toBeCloseTo(-2740 + (1500 / 2600) * 2678, 6)
})
it('a receiver is re-scaled to what the transmitter means', () => {
  expect(receiverWanted(chain('pressure', { receiverHigh: '0.75 bar' }))).toEqual({ low: 0, high: 0.6 })
  expect(receiverWanted(chain('level-dp'))).toEqual({ low: 0, high: 2600 })
  const distance = chain('level-from-above', { reports: 'distance', lrv: '3600 mm', urv: '600 mm' })
  expect(receiverWanted(distance)).toEqual({ low: 0, high: 3000 })
})
it('the meter may be read in volts across the shunt', () => {
  const c = chain('pressure')
  const point = foundPoint(c, {
    applied: { value: 300, unit: 'mbar' },
    digital: null,
    current: { value: 3.01, unit: 'V' },
    receiver: null,
  })
  expect(point.mA).toBeCloseTo(12.04, 9)
})
it('refuses an applied value outside the sensor', () => {
  const c = chain('pressure')
  expect(attempt(() => appliedEntry(c, '1300 mbar'))).toMatchObject({ code: 'outside-sensor' })
  expect(attempt(() => appliedEntry(c, 'three'))).toBeInstanceOf(Refusal)
  expect(appliedEntry(c, '0.3 bar')).toMatchObject({ value: 0.3, unit: 'bar' })
})
it('offers a trim only where it belongs', () => {
  const of = (id: string) => proceduresFor(study(currentKindOf(id), demoEntries(id)))
  expect(of('ph')).toContain('ph-calibration')
  expect(of('ph')).not.toContain('zero-trim')
  expect(of('volume-flow')[0]).toBe('flow-zero')
  expect(of('pressure')[0]).toBe('zero-trim')
})

describe('the threads of this range', () => {
  it('a wet leg elevates the zero, and the controller shows the level again', () => {
    const { thread } = study(currentKindOf('level-dp'), demoEntries('level-dp'))
    const at = spread(thread, 'level', 1300).map((v) => (v.known ? v.value : NaN))
    expect(at.slice(0, 4).map((v) => Math.round(v * 1000) / 1000)).toEqual([1300, -1401, -1401, 12])
    expect(at.at(-1)).toBeCloseTo(1300, 6)
  })
  it('an electrode stands between pH and the reported value', () => {
    const { thread } = study(currentKindOf('ph'), demoEntries('ph', { slopePercent: '95 %', electrodeOffset: '10 mV' }))
    const mV = spread(thread, 'process', 4)[1]!
    expect(mV).toMatchObject({ known: true })
    expect((mV as { value: number }).value).toBeCloseTo(10 + 3 * 0.95 * 59.15934, 3)
  })
  it('a converter has a scale of its own, and its display another', () => {
    const { thread, findings } = study(
      currentKindOf('pressure'),
      demoEntries('pressure', { receiver: 'converter, channel 1', channelLow: '0 mbar', channelHigh: '500 mbar' }),
    )
    const at = spread(thread, 'current', 12).slice(-2)
    expect(at.map((v) => (v.known ? Math.round(v.value * 1e6) / 1e6 : v.says))).toEqual([250, 300])
    expect(findings.map((f) => f.code)).toContain('channel-disagrees')
  })
  it('a bus carries the value itself, without a current', () => {
    const { thread, missing } = study(
      currentKindOf('pressure'),
      demoEntries('pressure', { output: 'digital bus', shunt: '', faultAction: '', faultCurrent: '' }),
    )
    expect(thread.knots.map((k) => k.role)).toEqual(['process', 'digital', 'controller'])
    expect(knotScales(thread).at(-1)).toEqual({ low: 0, high: 600 })
    expect(Object.values(missing).flat()).toEqual([])
  })
  it('a tank’s volume is shown from its level, and traced back', () => {
    const changed = { shape: 'horizontal, dished ends', diameter: '3.2 m', tankLength: '6 m', shownAs: 'volume' }
    const { thread } = study(currentKindOf('level-from-above'), demoEntries('level-from-above', changed))
    const shown = spread(thread, 'level', 1600).at(-1)!
    // Half full: half of the cylinder and half of both 2:1 heads, π·d³/24 each.
    expect((shown as { value: number }).value).toBeCloseTo((Math.PI * 2.56 * 6 + (2 * Math.PI * 3.2 ** 3) / 24) / 2, 6)
    expect(
      (spread(thread, 'controller', (shown as { value: number }).value)[0] as { value: number }).value,
    ).toBeCloseTo(1600, 5)
    expect(spread(thread, 'controller', 999)[0]).toMatchObject({ known: false })
  })
  it('a loop indicator set otherwise is named with what it would show', () => {
    const { findings } = study(
      currentKindOf('pressure'),
      demoEntries('pressure', { second: 'loop indicator', indicatorLow: '0 mbar', indicatorHigh: '100 mbar' }),
    )
    expect(findings.find((f) => f.code === 'indicator-disagrees')?.why).toContain(
      'shows 50 mbar where 300 mbar is meant',
    )
  })
})
