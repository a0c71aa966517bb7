import type { WorkEntry } from '@calm-loop/contract'
import { flushPromises, mount } from '@vue/test-utils'
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { defineComponent } from 'vue'
import { useFolder } from '../stores/folder.ts'
import { useSurvey } from './useSurvey.ts'

const LOOP = '01a20000-0000-7000-8000-000000000001'
const WISH = { interval_s: 1, hours: 8, note: 'night rate' }
interface Asked {
  readonly method: string
  readonly path: string
  readonly body: unknown
}
let asked: Asked[]
let reached: boolean
let log: WorkEntry[]
let rows: number
let survey: ReturnType<typeof useSurvey>
let leave: () => void
const author = { id: LOOP, name: 'Ailsa Fenn' }
const at = '2027-02-01T08:00:00.000Z'

/** The server: begins a survey once, tells how it stands, ends it. */
function answer({ method, path, body }: Asked): unknown {
  const [id = '', what] = path.split('/surveys/')[1]?.split('/') ?? []
  if (method === 'GET')
    return { running: true, rows: ++rows, total: 1, recent: [[Date.parse(at), 60, 1, 1482, 90]], problem: '' }
  if (what === 'end') {
    log.push({ what: 'survey-end', survey: id, total: 2, rows, id: LOOP, by: author, at, practice: false })
    return log.at(-1)
  }
  const known = log.find((e) => e.id === id)
  if (!known)
    log.push({ what: 'survey', unit: 'm3/h', ...WISH, ...(body as object), id, by: author, at, practice: false })
  return log.find((e) => e.id === id)
}

beforeEach(() => {
  vi.useFakeTimers({ now: Date.parse(at) })
  setActivePinia(createPinia())
  ;[asked, reached, log, rows] = [[], true, [], 0]
  vi.stubGlobal('fetch', (path: string, { method = 'GET', body }: { method?: string; body?: string } = {}) => {
    const said = { method: method.toUpperCase(), path, body: body ? (JSON.parse(body) as unknown) : undefined }
    asked.push(said)
    if (!reached) return Promise.reject(new TypeError('no network'))
    return Promise.resolve(
      new Response(JSON.stringify(answer(said)), { headers: { 'content-type': 'application/json' } }),
    )
  })
  const folder = useFolder()
  folder.view = {
    loop: { id: LOOP, kind: 'clamp-on' },
    versions: [],
    checks: [],
    workLog: [],
    wireLog: [],
    countLog: [],
    bench: null,
  } as never
  vi.spyOn(folder, 'refresh').mockImplementation(() => {
    folder.view = { ...folder.view, workLog: [...log] } as never
    return Promise.resolve()
  })
  const page = mount(
    defineComponent({
      setup() {
        survey = useSurvey()
        return () => null
      },
    }),
  )
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
const sent = (method: string) => asked.filter((a) => a.method === method)

describe('a survey on its page', () => {
  it('is begun by the server, followed every second, and ended', async () => {
    await survey.begin(WISH)
    expect(survey.open.value).toMatchObject({ note: 'night rate', hours: 8 })
    await pass(5)
    expect(survey.now.value?.rows).toBeGreaterThan(4)
    await survey.end(survey.open.value!.id)
    expect(survey.open.value).toBeUndefined()
    expect(survey.surveys.value).toMatchObject([{ ended: { total: 2 } }])
    const looks = sent('GET').length
    await pass(5)
    expect(sent('GET')).toHaveLength(looks)
  })
  it('is asked for under one id until it is answered, and another wish is another survey', async () => {
    reached = false
    await survey.begin(WISH)
    expect(survey.problem.value).not.toBe('')
    await survey.begin(WISH)
    await survey.begin({ ...WISH, hours: 2 })
    const ids = sent('PUT').map((a) => a.path)
    expect(ids[1]).toBe(ids[0])
    expect(ids[2]).not.toBe(ids[0])
    reached = true
    await survey.begin({ ...WISH, hours: 2 })
    expect(sent('PUT').at(-1)!.path).toBe(ids[2])
    expect(survey.problem.value).toBe('')
  })
  it('leaves it to the server when the page is closed', async () => {
    await survey.begin(WISH)
    leave()
    await pass(5)
    expect(sent('PUT')).toHaveLength(1)
  })
  it('says when it cannot be reached, and goes on following', async () => {
    await survey.begin(WISH)
    reached = false
    await pass(3)
    expect(survey.problem.value).not.toBe('')
    reached = true
    await pass(2)
    expect(survey.problem.value).toBe('')
    expect(survey.now.value?.running).toBe(true)
  })
})
