import 'fake-indexeddb/auto'
import type { Check, CheckTerms, FolderView, LiveReading, TakeReading } from '@calm-loop/contract'
import { upAndDown } from '@calm-loop/core/check'
import { entryFrom } from '@calm-loop/core/quantity'
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { effectScope, type EffectScope } from 'vue'
import { demoEntries } from '../../../../../packages/core/src/kinds/demo-entries.fixture.ts'
import { useFolder } from '../../stores/folder.ts'
import { useLive } from '../../stores/live.ts'
import { useOutbox } from '../../stores/outbox.ts'
import { useTaking } from './taking.ts'

const DAY = '2027-01-01T10:00:00.000Z'
const ailsa = { id: '01890000-0000-7000-8000-00000000000a', name: 'Ailsa' }
const version = {
  id: 'v1',
  number: 1,
  parentId: null,
  revision: 0,
  entries: demoEntries('pressure'),
  author: ailsa,
  startedAt: DAY,
  savedAt: DAY,
  reason: '',
  sealedAt: DAY,
}
const check: Check = {
  id: 'c1',
  versionId: 'v1',
  phase: 'as-found',
  rule: 2,
  tolerancePct: 0.5,
  range: { lrv: 0, urv: 600, unit: 'mbar' },
  points: upAndDown(),
  gear: [],
  ambient: '',
  startedBy: ailsa,
  startedAt: DAY,
  gates: [],
  readings: [],
  signatures: [],
}
const loop = { id: 'loop', tag: 'PT-1', service: 's', area: 'a', kind: 'pressure', createdAt: DAY }
const live: LiveReading = {
  t_s: 9,
  reference: 151.2,
  wanted: 150,
  moving: false,
  at_ms: Date.parse(DAY),
  token: 'a token',
  knots: { digital: 151.3, current: 8.034, volts: 2.0085, counts: 26323, controller: 151.25 },
}

let scope: EffectScope
let taking: ReturnType<typeof useTaking>
beforeEach(() => {
  vi.useFakeTimers()
  localStorage.clear()
  setActivePinia(createPinia())
  vi.stubGlobal('fetch', () => Promise.reject(new TypeError('no network')))
  useFolder().view = {
    loop,
    versions: [version],
    checks: [check],
    wireLog: [],
    countLog: [],
    workLog: [],
  } as unknown as FolderView
  useLive().connected = true
  useLive().reading = live
  scope = effectScope()
  taking = scope.run(() => useTaking(() => check))!
})
afterEach(() => {
  scope.stop()
  vi.useRealTimers()
  vi.unstubAllGlobals()
})
const sent = (): TakeReading[] => useOutbox().pending.map((p) => p.body as TakeReading)

const words = (key: string, typed: string) => {
  const figure = taking.figures.value.find((f) => f.key === key)!
  taking.put(key, entryFrom(typed, figure))
}
/** The same check with other terms, or begun at the bench. */
function of(more: Partial<Check>): void {
  scope.stop()
  scope = effectScope()
  taking = scope.run(() => useTaking(() => ({ ...check, ...more })))!
}
const terms = (more: Partial<CheckTerms>): CheckTerms => ({
  standardAt: 'process',
  standardGear: null,
  reads: [{ at: 'current', gear: null }],
  rule: 'simple',
  controllerTolerancePct: 0.5,
  ...more,
})

describe('a typed reading', () => {
  it('holds what was typed, and nothing that the link shows meanwhile', () => {
    words('applied', '0')
    words('current', '4.01')
    taking.take()
    expect(sent()).toMatchObject([{ source: 'typed', applied: { typed: '0' }, reads: { current: { value: 4.01 } } }])
    expect(Object.keys(sent()[0]!.reads)).toEqual(['current'])
  })
  it('holds what the controller showed where that was typed too', () => {
    words('applied', '0')
    words('current', '4.01')
    words('controller', '0,6 mbar')
    taking.take()
    expect(sent()[0]!.reads).toMatchObject({ current: { value: 4.01 }, controller: { value: 0.6, unit: 'mbar' } })
  })
  it('is asked for its true input, never given one', () => {
    words('current', '4.01')
    taking.take()
    expect(taking.says.value).toMatch(/^Enter the true input/)
    expect(sent()).toEqual([])
  })
  it('is not sent while something typed cannot be read, and what was typed stays', () => {
    words('applied', '0')
    words('current', 'four')
    taking.take()
    expect(sent()).toEqual([])
    expect(taking.says.value).toContain('cannot be read')
    expect(taking.entryOf('current').typed).toBe('four')
  })
  it('that can hardly be is asked about, and kept with a word', () => {
    of({ terms: terms({}) })
    words('applied', '0')
    words('current', '999')
    taking.take()
    expect(taking.says.value).toContain('no loop current')
    expect(taking.doubts.value).toHaveLength(1)
    taking.reason.value = 'the meter shows it'
    taking.take()
    expect(sent()).toMatchObject([{ reads: { current: { value: 999 } }, reason: 'the meter shows it' }])
  })
})

describe('Enter', () => {
  it('goes on to what is still to be typed, and takes the reading when nothing is', () => {
    words('applied', '0')
    taking.enter('applied')
    expect(sent()).toEqual([])
    words('current', '4')
    taking.enter('current')
    expect(sent()).toEqual([])
    taking.enter('controller')
    expect(sent()).toHaveLength(1)
  })
  it('twice for each of ten readings is all the number pad needs besides figures', () => {
    of({ terms: terms({}) })
    let presses = 0
    const enter = (key: string) => {
      presses++
      taking.enter(key)
    }
    for (const point of check.points) {
      words('applied', String(6 * point.percent))
      enter('applied')
      words('current', String(4 + 0.16 * point.percent))
      enter('current')
    }
    expect([sent().length, presses, taking.at.value]).toEqual([10, 20, -1])
  })
})

describe('a live reading', () => {
  it('is there in practice only', () => {
    expect(taking.liveEntry('current')).toBe(undefined)
    of({ practice: true })
    expect(taking.liveEntry('current')?.typed).toBe('8.034 mA')
  })
  it('waits for steadiness, and is taken as it is when asked again', () => {
    of({ practice: true, terms: terms({ reads: ['current', 'digital'].map((at) => ({ at, gear: null })) }) })
    taking.go(1)
    taking.take()
    expect(taking.says.value).toContain('not steady')
    taking.take()
    expect(sent()).toMatchObject([{ source: 'live', sample: 'a token', reads: { current: { value: 8.034 } } }])
    expect(Object.keys(sent()[0]!.reads).sort()).toEqual(['current', 'digital'])
  })
})

describe('what is asked for', () => {
  it('is what the check reads, each with what is expected for the true input typed', () => {
    words('applied', '151.2')
    expect(taking.figures.value.map((f) => f.key)).toEqual(['applied', 'current', 'controller'])
    expect(taking.expectedAt(taking.figures.value[1]!)).toBeCloseTo(4 + (16 * 151.2) / 600, 9)
    words('applied', '0.3 bar')
    expect(taking.expectedAt(taking.figures.value[1]!)).toBeCloseTo(12, 9)
  })
  it('may be volts across a resistor, per cent of a display, or the card with its current given', () => {
    const ohm = { typed: '250 Ω', value: 250, unit: 'Ohm' }
    of({
      terms: terms({
        reads: [
          { at: 'current', gear: null, stand: 'across-shunt' },
          { at: 'indicator', gear: null, shows: '%' },
        ],
        resistor: { ohm, tolerancePct: 0.1 },
      }),
    })
    words('applied', '300')
    const shown = () => taking.figures.value.map((f) => [f.unit, taking.expectedAt(f)])
    expect(shown()).toEqual([
      ['mbar', undefined],
      ['V', 3],
      ['%', 50],
    ])
    of({ terms: terms({ standardAt: 'current', reads: [{ at: 'controller', gear: null }] }) })
    taking.go(2)
    expect(taking.nominalAtStandard.value).toBeCloseTo(12, 9)
    words('applied', '12 mA')
    expect(shown().at(-1)).toEqual(['mbar', 300])
  })
})
it('goes on to the next point, and back', () => {
  words('applied', '0')
  words('current', '4')
  taking.take()
  expect(taking.at.value).toBe(1)
  expect(taking.nominal.value).toBe(150)
  taking.back()
  expect(taking.at.value).toBe(0)
})
