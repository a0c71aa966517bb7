import 'fake-indexeddb/auto'
import type { Check, FolderView, LiveReading, TakeReading } from '@calm-loop/contract'
import { CHECK_RULE, upAndDown } from '@calm-loop/core/check'
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
  rule: CHECK_RULE,
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
const mbar = (typed: string) => entryFrom(typed, { quantity: 'pressure', unit: 'mbar' })
const mA = (typed: string) => entryFrom(typed, { quantity: 'current', unit: 'mA' })
const sent = (): TakeReading[] => useOutbox().pending.map((p) => p.body as TakeReading)

describe('a typed reading', () => {
  it('holds what was typed, and nothing that the link shows meanwhile', () => {
    taking.applied.value = mbar('0')
    taking.current.value = mA('4.01')
    taking.take()
    expect(sent()).toMatchObject([{ source: 'typed', applied: { typed: '0' }, reads: { current: { value: 4.01 } } }])
    expect(Object.keys(sent()[0]!.reads)).toEqual(['current'])
  })
  it('holds what the controller showed where that was typed too', () => {
    taking.applied.value = mbar('0')
    taking.current.value = mA('4.01')
    taking.shown.value = mbar('0,6 mbar')
    taking.take()
    expect(sent()[0]!.reads).toMatchObject({ current: { value: 4.01 }, controller: { value: 0.6, unit: 'mbar' } })
  })
  it('is not sent while something typed cannot be read, and what was typed stays', () => {
    taking.applied.value = mbar('0')
    taking.current.value = mA('four')
    taking.take()
    expect(sent()).toEqual([])
    expect(taking.says.value).toContain('cannot be understood')
    expect(taking.current.value.typed).toBe('four')
  })
})

describe('a live reading', () => {
  it('waits for steadiness, and is taken as it is when asked again', () => {
    taking.take()
    expect(taking.says.value).toContain('not steady')
    taking.take()
    expect(sent()).toMatchObject([{ source: 'live', sample: 'a token', reads: { current: { value: 8.034 } } }])
    expect(Object.keys(sent()[0]!.reads).sort()).toEqual(['controller', 'counts', 'current', 'digital', 'volts'])
  })
})

it('expects what the thread expects, for the true input typed', () => {
  taking.applied.value = mbar('151.2')
  expect(taking.expected.value).toBeCloseTo(4 + (16 * 151.2) / 600, 9)
  taking.applied.value = mbar('0.3 bar')
  expect(taking.expected.value).toBeCloseTo(12, 9)
})
it('goes on to the next point, and back', () => {
  taking.applied.value = mbar('0')
  taking.current.value = mA('4')
  taking.take()
  expect(taking.at.value).toBe(1)
  expect(taking.nominal.value).toBe(150)
  taking.back()
  expect(taking.at.value).toBe(0)
})
