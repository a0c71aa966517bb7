// What stands around the work by itself: what waits on this device, stops of a counted point, points of the chain.
import type { WorkEntry } from '@calm-loop/contract'
import { describe, expect, it } from 'vitest'
import { nextTick } from 'vue'
import { demoEntries } from '../../../packages/core/src/kinds/demo-entries.fixture.ts'
import WaitingPanel from '../src/frame/WaitingPanel.vue'
import { useCount } from '../src/stores/count.ts'
import { draftKey, draftsOf } from '../src/stores/draft-notes.ts'
import { useDrafts } from '../src/stores/drafts.ts'
import { useFolder } from '../src/stores/folder.ts'
import { useOutbox } from '../src/stores/outbox.ts'
import { useSession } from '../src/stores/session.ts'
import { useThread } from '../src/stores/thread.ts'
import { useTrim } from '../src/stores/trim.ts'
import { noNetwork } from '../src/stores/server.fixture.ts'
import StopList from '../src/switching/StopList.vue'
import PointTable from '../src/trim/PointTable.vue'
import 'fake-indexeddb/auto'
import { added, open, parts, press, settle, show, SIGNED, textOf } from './panel.ts'

parts()
const dialog = () => document.body.textContent.replace(/\s+/g, ' ')

describe('what waits on this device', () => {
  const reading = { pointIndex: 0, applied: { typed: '900 mm' }, reads: { current: { typed: '12.1 mA' } } }
  const write = (id: string) => ({
    id,
    endpoint: 'takeReading' as const,
    params: { loopId: 'l', checkId: 'c', readingId: id },
    body: reading,
    tag: 'LT-112',
  })
  const waiting = async () => {
    open({ kind: 'pressure', entries: {}, answers: { 'PUT /api/loops/*/checks/*/readings/*': noNetwork } })
    const outbox = useOutbox()
    show(WaitingPanel, { modelValue: true })
    await settle()
    return outbox
  }
  it('is nothing when all is saved', async () => {
    const outbox = await waiting()
    expect(dialog()).toContain('Nothing waits; all is saved.')
    outbox.close()
  })
  it('is told by loop, with its age', async () => {
    const outbox = await waiting()
    for (const id of ['r1', 'r2']) outbox.put(write(id))
    await nextTick()
    expect(dialog()).toContain('LT-112 2 entries since just now')
    outbox.close()
  })
  it('says why a draft is not taken, and puts it away when that was read', async () => {
    const outbox = await waiting()
    const [person, loopId] = [useSession().person!.id, 'gone']
    localStorage.setItem(draftKey(person, loopId), JSON.stringify({ base: {}, entries: {}, tag: 'LT-9' }))
    await useDrafts().send()
    show(WaitingPanel, { modelValue: true })
    await settle()
    expect(dialog()).toContain('LT-9 the server will not take it: nothing at GET')
    const away = [...document.querySelectorAll('button')].find((b) => b.textContent.includes('Put away for good'))
    away!.click()
    expect(draftsOf(person)).toEqual([])
    outbox.close()
  })
})

describe('the stops of a counted point', () => {
  const stop = {
    id: 's1',
    what: 'stop',
    from: '2027-01-01T08:00:00.000Z',
    to: '2027-01-01T08:12:00.000Z',
    reason: 'jam',
  }
  function stops(log: readonly object[] = [], roles: ('technician' | 'reviewer')[] = ['technician']) {
    const asked = open({
      kind: 'discrete-sensor',
      entries: demoEntries('discrete-sensor'),
      roles,
      answers: { 'PUT /api/loops/*/count-log/*': () => ({}) },
    })
    const folder = useFolder()
    folder.view = { ...folder.view!, countLog: log.map((e) => ({ ...e, ...SIGNED })) as never }
    return { asked, part: show(StopList) }
  }
  const entered = (asked: ReturnType<typeof stops>['asked']) =>
    asked.filter((a) => a.path.includes('/count-log/')).map((a) => a.body)

  it('on record say when, how long, why and by whom', () => {
    const { part } = stops([stop])
    expect(textOf(part)).toMatch(/12\.0\s*min\s*jam\s*Ailsa Fenn/)
  })
  it.each([
    [['', '2027-01-01T09:00', 'jam'], 'Choose day and time of both ends.'],
    [['2027-01-01T09:00', '2027-01-01T09:00', 'jam'], 'A stop ends after it begins.'],
    [['2027-01-01T09:00', '2027-01-01T10:00', ' '], 'Say why it stood.'],
  ] as const)('entered as %j are not taken: %s', async (typed, says) => {
    const { asked, part } = stops()
    const fields = part.findAll('form.own input')
    for (const [i, text] of typed.entries()) await fields[i]!.setValue(text)
    await part.find('form.own').trigger('submit')
    await settle()
    expect(part.find('[role=alert]').text()).toBe(says)
    expect(entered(asked)).toEqual([])
  })
  it('entered whole are put on record, and the form is empty again', async () => {
    const { asked, part } = stops()
    const fields = part.findAll('form.own input')
    for (const [i, text] of ['2027-01-01T09:00', '2027-01-01T10:00', ' belt '].entries())
      await fields[i]!.setValue(text)
    await part.find('form.own').trigger('submit')
    await settle()
    expect(entered(asked)).toMatchObject([{ what: 'stop', reason: 'belt' }])
    expect(part.findAll('form.own input').map((f) => (f.element as HTMLInputElement).value)).toEqual(['', '', ''])
  })
  it('nobody has named can be named, and count until then as run time', async () => {
    const { asked, part } = stops()
    const unnamed = Array.from({ length: 10 }, (_, i) => ({ from_ms: i * 1e6, to_ms: i * 1e6 + 300_000 }))
    useCount().report = { unnamed, stillFrom_s: 60 } as never
    await nextTick()
    expect(textOf(part)).toContain('and 2 shorter ones.')
    const first = part.find('[data-unnamed="0"]')
    await first.find('form').trigger('submit')
    expect(entered(asked)).toEqual([])
    await first.find('input').setValue('changeover')
    await first.find('form').trigger('submit')
    await settle()
    expect(entered(asked)).toMatchObject([{ what: 'stop', from: '1970-01-01T00:00:00.000Z', reason: 'changeover' }])
  })
  it('are withdrawn with a reason, never removed', async () => {
    const { asked, part } = stops([stop])
    await part.find('td button').trigger('click')
    await part.find('td form').trigger('submit')
    expect(entered(asked)).toEqual([])
    await part.find('td form input').setValue('wrong machine')
    await part.find('td form').trigger('submit')
    await settle()
    expect(entered(asked)).toEqual([{ what: 'withdrawn', entry: 's1', reason: 'wrong machine' }])
  })
  it('are only read by whoever is no technician', () => {
    const { part } = stops([stop], ['reviewer'])
    expect(part.findAll('form')).toHaveLength(0)
    expect(textOf(part)).toContain('jam')
  })
})

describe('the points of the chain on record', () => {
  const e = (value: number, unit: string) => ({ typed: `${value} ${unit}`, value, unit })
  const point = (id: string, applied: number, digital: number) =>
    ({
      ...SIGNED,
      what: 'trim-point',
      id,
      set: 'a',
      phase: 'as-found',
      source: 'typed',
      applied: e(applied, 'mbar'),
      digital: e(digital, 'mbar'),
      current: null,
      receiver: null,
    }) as unknown as WorkEntry
  const entries = demoEntries('pressure')
  function table(log: WorkEntry[], roles: ('technician' | 'reviewer')[] = ['technician']) {
    open({ kind: 'pressure', entries, workLog: log, roles })
    return show(PointTable, { points: useTrim().found, phase: 'as-found', pinnable: true })
  }
  const span = () => useTrim().known!.urv - useTrim().known!.lrv

  it('say what was read, by whom, and where each parts from what is expected', () => {
    open({ kind: 'pressure', entries })
    const off = span() * 0.02
    const part = table([point('p1', 0, off), point('p2', span(), span())])
    const rows = part.findAll('tbody tr').map((r) => r.text().replace(/\s+/g, ' '))
    expect(rows[0]).toMatch(/parts at the .+, \+2\.00 %/)
    expect(rows[1]).toContain('follows')
    expect(rows[1]).toContain('not read')
    expect(rows[1]).toContain('Ailsa Fenn')
  })
  it('can be held on the thread, one at a time, and let go', async () => {
    const part = table([point('p1', 0, 1), point('p2', 100, 100)])
    const thread = useThread()
    const hold = (i: number) => part.findAll('tbody tr')[i]!.find('button.link').trigger('click')
    await hold(0)
    expect(thread.pinned?.reads).toMatchObject({ digital: 1 })
    expect(thread.pinned?.caption).toMatch(/^As found, .+ applied\.$/)
    await hold(1)
    expect(thread.pinned?.reads).toMatchObject({ digital: 100 })
    await hold(1)
    expect(thread.pinned).toBe(undefined)
  })
  it('are withdrawn with a reason', async () => {
    const part = table([point('p1', 0, 1)])
    await press(part, 'Withdraw')
    await part.find('form.withdraw').trigger('submit')
    await settle()
    expect(added).toEqual([])
    await part.find('form.withdraw input').setValue(' wrong range ')
    await part.find('form.withdraw').trigger('submit')
    await settle()
    expect(added).toEqual([{ what: 'trim-point-withdrawn', point: 'p1', reason: 'wrong range' }])
    expect(useTrim().found).toEqual([])
  })
  it('cannot be withdrawn by whoever is no technician', () => {
    expect(textOf(table([point('p1', 0, 1)], ['reviewer']))).not.toContain('Withdraw')
  })
})
