import type { AddWorkEntry, SurveyRow } from '@calm-loop/contract'
import { flushPromises, mount } from '@vue/test-utils'
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { defineComponent, ref } from 'vue'
import { useWork } from '../stores/work.ts'
import type { useMeter } from './useMeter.ts'
import { useSurvey } from './useSurvey.ts'

const LOOP = '01a20000-0000-7000-8000-000000000001'
interface Sent {
  readonly entry: AddWorkEntry
  readonly id: string
  readonly loopId: string
}
let sent: Sent[]
let reached: boolean
let flow: number | null
let survey: ReturnType<typeof useSurvey>
let leave: () => void

beforeEach(() => {
  vi.useFakeTimers({ now: Date.parse('2027-02-01T08:00:00Z') })
  setActivePinia(createPinia())
  vi.stubGlobal('fetch', () => Promise.reject(new TypeError('no network')))
  ;[sent, reached, flow] = [[], true, 60]
  const meter = ref({
    get digital() {
      return flow
    },
  })
  const bench = {
    meter,
    tell: (id: string) => ({ 'sound-speed': 1482, signal: 91 })[id],
    loopId: ref(LOOP),
  } as unknown as ReturnType<typeof useMeter>
  // The server's answer to everything that is added; undefined while it cannot be reached.
  vi.spyOn(useWork(), 'add').mockImplementation((entry, id = '', loopId = LOOP) => {
    sent.push({ entry, id, loopId })
    return Promise.resolve(reached ? ({ ...entry, id } as never) : undefined)
  })
  const Host = defineComponent({
    setup() {
      survey = useSurvey(bench)
      return () => null
    },
  })
  const page = mount(Host)
  leave = () => page.unmount()
})
afterEach(() => {
  leave()
  vi.restoreAllMocks()
  vi.unstubAllGlobals()
  vi.useRealTimers()
})
const pass = async (seconds: number) => {
  await vi.advanceTimersByTimeAsync(seconds * 1000)
  await flushPromises()
}
const of = <W extends AddWorkEntry['what']>(what: W) =>
  sent.flatMap(({ entry, id }) =>
    entry.what === what ? [{ ...(entry as Extract<AddWorkEntry, { what: W }>), id }] : [],
  )
const rowsSent = (): SurveyRow[] => of('survey-rows').flatMap((chunk) => chunk.rows)

describe('a survey', () => {
  it('takes a row at once and at every interval, with what the meter tells of itself', async () => {
    await survey.begin(2, 'm3/h', 'night rate')
    expect(of('survey')).toMatchObject([{ interval_s: 2, unit: 'm3/h', note: 'night rate' }])
    await pass(6)
    expect(survey.rows.value.map((r) => [r[0] - Date.parse('2027-02-01T08:00:00Z'), r[1], r[3], r[4]])).toEqual([
      [0, 60, 1482, 91],
      [2000, 60, 1482, 91],
      [4000, 60, 1482, 91],
      [6000, 60, 1482, 91],
    ])
    expect(survey.running.value).toBe(true)
  })
  it.each([
    ['m3/h', 1],
    ['gpm', 60],
    ['l/s', 3600],
    ['Nm3/h@0C', 1],
  ])('adds up what flows in %s over a minute', async (unit, ofAnHour) => {
    await survey.begin(1, unit, '')
    await pass(60)
    expect(survey.total.value).toBeCloseTo(ofAnHour, 9)
  })
  it('adds up nothing while the meter shows no flow', async () => {
    await survey.begin(1, 'm3/h', '')
    await pass(30)
    flow = null
    await pass(30)
    expect(survey.total.value).toBeCloseTo(0.5, 9)
    expect(survey.rows.value.at(-1)?.[1]).toBeNull()
  })
  it('sends what it has every ten seconds, each row once and in order', async () => {
    await survey.begin(1, 'm3/h', '')
    await pass(25)
    expect(of('survey-rows')).toHaveLength(2)
    await survey.end()
    expect(rowsSent()).toEqual(survey.rows.value)
    expect(new Set(rowsSent().map((r) => r[0])).size).toBe(26)
    expect(of('survey-end')).toMatchObject([{ rows: 26, total: expect.closeTo(25 / 60, 9) }])
    expect(survey.running.value).toBe(false)
  })
  it('asks for a lost answer under the same id, and goes on', async () => {
    await survey.begin(1, 'm3/h', '')
    reached = false
    await pass(20)
    expect(new Set(of('survey-rows').map((c) => c.id)).size).toBe(1)
    expect(survey.unsent()).toBe(survey.rows.value.length)
    await survey.end()
    expect(survey.running.value).toBe(true)
    reached = true
    await survey.end()
    const taken = new Map(of('survey-rows').map((chunk) => [chunk.id, chunk.rows]))
    expect([...taken.values()].flat()).toEqual(survey.rows.value)
    expect(survey.unsent()).toBe(0)
    expect(survey.running.value).toBe(false)
  })
  it('is not begun where the server refuses it', async () => {
    reached = false
    await survey.begin(1, 'm3/h', '')
    expect(survey.running.value).toBe(false)
    await pass(20)
    expect(survey.rows.value).toEqual([])
  })
  it('ends with all its rows when its page is left', async () => {
    await survey.begin(1, 'm3/h', '')
    await pass(3)
    leave()
    await flushPromises()
    expect(rowsSent()).toHaveLength(4)
    expect(of('survey-end')).toMatchObject([{ rows: 4 }])
    expect(sent.every((s) => s.loopId === LOOP)).toBe(true)
  })
})
