// The day: jobs, who has which piece of the kit, how each person has put their round, and the round on paper.
import { planOfRound, usualState } from '@calm-loop/contract/round-plan'
import { SETTING_HEADER, settingMark } from '@calm-loop/contract'
import type { Gear, Job, KitMove, NewJob, PutRound, Round, RoundState, Walking } from '@calm-loop/contract'
import { daysLater } from '@calm-loop/core/check'
import { v7 as uuid } from 'uuid'
import { describe, expect, it } from 'vitest'
import { checkBegun, givenBack, good, PASSWORD, readingAt, served, until, type Visitor } from './harness.ts'

const { server, ailsa, rona, magnus } = await served()
const today = () => new Date().toISOString().slice(0, 10)
const get = async (who: Visitor, path: string, query: Record<string, string>) =>
  good(await who.raw('GET', `${path}?${new URLSearchParams(query)}`))
const roundOf = async (who: Visitor = ailsa, query: Record<string, string> = {}): Promise<Round> =>
  (await get(who, '/api/round', { day: today(), ...query })).body
const job = (loopId: string, more: Partial<NewJob> = {}): NewJob => ({
  ...{ loopId, what: 'Look at the gland', why: 'Wet', by: today(), from: 'Operations', origin: 'call', works: [] },
  ...more,
})
const newLoop = async (tag: string, area = 'East quay'): Promise<string> => {
  const loopId = uuid()
  const identity = { tag, service: 'Brine', area, kind: 'level-from-above' }
  good(await ailsa.call('createLoop', { loopId }, identity))
  return loopId
}
const make = async (body: NewJob, who = ailsa, jobId = uuid()): Promise<Job> =>
  good(await who.call('makeJob', { jobId }, body)).body

describe('a job', () => {
  it('is made once, stands in the round until it is ended, and then beside its loop', async () => {
    const loopId = await newLoop('LT-9801')
    const made = await make(job(loopId), magnus)
    expect(made).toMatchObject({ tag: 'LT-9801', madeBy: { name: 'Magnus Orrin' }, ended: null })
    expect(await make(job(loopId), magnus, made.id)).toEqual(made)
    const other = await ailsa.call('makeJob', { jobId: made.id }, job(loopId, { what: 'Another' }))
    expect(other.problem.code).toBe('id-reused')
    expect((await roundOf()).jobs.map((j) => j.id)).toContain(made.id)
    expect((await roundOf()).loops.find((l) => l.id === loopId)).toMatchObject({ tag: 'LT-9801', due: null })
    const end = { how: 'done', words: 'New gland' }
    expect((await magnus.call('endJob', { jobId: made.id }, end)).problem.code).toBe('wrong-role')
    const ended = good(await ailsa.call('endJob', { jobId: made.id }, end)).body as Job
    expect(ended.ended).toMatchObject({ how: 'done', by: { name: 'Ailsa Fenn' } })
    expect(good(await ailsa.call('endJob', { jobId: made.id }, end)).body).toEqual(ended)
    const late = await rona.call('endJob', { jobId: made.id }, { how: 'withdrawn', words: '' })
    expect(late.problem).toMatchObject({ code: 'job-ended', current: { id: made.id } })
    expect(late.problem.detail).toContain('Ailsa Fenn said that it is done before: New gland')
    expect((await roundOf()).jobs.map((j) => j.id)).not.toContain(made.id)
    expect((await get(ailsa, '/api/jobs', { loopId })).body).toEqual([ended])
    expect(good(await ailsa.call('jobs')).body).not.toContainEqual(ended)
  })
  it('of no loop, without words, or for a day that is none, is refused', async () => {
    const loopId = await newLoop('LT-9802')
    const refused = async (body: object) => (await ailsa.call('makeJob', { jobId: uuid() }, body)).status
    expect(await refused(job(uuid()))).toBe(404)
    expect(await refused(job(loopId, { what: ' ' }))).toBe(400)
    expect(await refused(job(loopId, { by: '2026-02-30' }))).toBe(400)
    expect(await refused(job(loopId, { works: ['ph', 'ph'] }))).toBe(400)
    expect((await ailsa.call('endJob', { jobId: uuid() }, { how: 'done', words: '' })).status).toBe(404)
    expect((await server.visitor().call('makeJob', { jobId: uuid() }, job(loopId))).problem.code).toBe('not-signed-in')
  })
  it('that was due before it was made stands first, and its day is told', async () => {
    const loopId = await newLoop('LT-9803')
    const [late, open] = [daysLater(today(), -3), daysLater(today(), 9)]
    await make(job(loopId, { by: null, what: 'Some day' }))
    await make(job(loopId, { by: late, what: 'Long ago' }))
    await make(job(loopId, { by: open, what: 'Next week' }))
    const round = await roundOf()
    const plan = planOfRound(round, usualState(today()))
    const stop = plan.stops.find((s) => s.loop.id === loopId)!
    expect(stop.jobs.map((j) => j.what)).toEqual(['Long ago', 'Some day'])
    expect(plan.lateMade.map((j) => j.what)).toContain('Long ago')
    const later = await roundOf(ailsa, { until: open })
    expect(later.jobs.map((j) => j.what)).toContain('Next week')
  })
})

describe('the kit', () => {
  const piece = (): Gear => ({
    ...{ id: uuid(), name: 'Loop meter L8', serial: 'L8-1', measures: 'Current', range: '0 to 24 mA' },
    ...{ uncertainty: '', due: daysLater(today(), 90) },
    ranges: [{ quantity: 'current', unit: 'mA', low: 0, high: 24, pctOfReading: 0.01, coverage: 2 }],
  })
  const move = (who: Visitor, gearId: string, body: object, moveId = uuid()) =>
    who.call('moveKit', { gearId, moveId }, body)
  it('is taken by one person at a time: the other is told who has it, and may take it knowingly', async () => {
    const gear = piece()
    good(await ailsa.call('saveGear', { gearId: gear.id }, gear))
    const moveId = uuid()
    const mine = { taken: true, place: 'Van 2', after: null }
    const first = good(await move(ailsa, gear.id, mine, moveId)).body as KitMove
    expect(first).toMatchObject({ holder: { name: 'Ailsa Fenn' }, place: 'Van 2' })
    expect(good(await move(ailsa, gear.id, mine, moveId)).body).toEqual(first)
    const both = await move(rona, gear.id, { taken: true, place: '', after: null })
    expect(both.problem).toMatchObject({ code: 'kit-moved', current: { id: first.id } })
    expect(both.problem.detail).toContain('Ailsa Fenn took it at')
    good(await move(rona, gear.id, { taken: true, place: '', after: first.id }))
    expect((await roundOf()).kit.find((k) => k.id === gear.id)).toMatchObject({
      move: { holder: { name: 'Rona Teague' } },
    })
    expect((await move(ailsa, uuid(), mine)).status).toBe(404)
    expect((await move(magnus, gear.id, mine)).problem.code).toBe('wrong-role')
  })
  it('of both that ask at the same moment one gets it', async () => {
    const gear = piece()
    good(await ailsa.call('saveGear', { gearId: gear.id }, gear))
    const asked = [ailsa, rona].map((who) => move(who, gear.id, { taken: true, place: '', after: null }))
    expect((await Promise.all(asked)).map((a) => a.status).sort()).toEqual([200, 409])
  })
})

describe('the round', () => {
  it('has what is due with the works and needs of its check, and minutes of past visits', async () => {
    const begun = await checkBegun(ailsa, 'LT-9804')
    for (let i = 0; i < 6; i++) good(await ailsa.call('takeReading', { ...begun, readingId: uuid() }, readingAt(i)))
    good(await ailsa.call('confirmGate', { ...begun, gateId: uuid() }, givenBack()))
    const signed = { role: 'performed', statement: 'Yes.', password: PASSWORD }
    good(await ailsa.call('sign', { ...begun, signatureId: uuid() }, signed))
    const soon = daysLater(today(), 800)
    const found = async () => (await roundOf(ailsa, { until: soon })).loops.find((l) => l.id === begun.loopId)
    await until(async () => !!(await found()))
    const loop = (await found())!
    expect(loop.works).toEqual(['loop-check', 'level-above'])
    expect(loop.needs.map((n) => n.unit)).toEqual([expect.any(String), 'mA'])
    expect(loop.due! > today()).toBe(true)
    const { stops } = planOfRound(await roundOf(ailsa, { until: soon }), { ...usualState(today()), until: soon })
    expect(stops.find((s) => s.loop.id === begun.loopId)!.check).toMatchObject({ overdue: false })
  })
  it('is put by each person for themselves', async () => {
    const state: RoundState = { ...usualState(today()), begins: '06:45', packed: ['tape'], areas: ['East quay'] }
    good(await ailsa.call('saveRound', { day: today() }, state))
    good(await ailsa.call('saveRound', { day: today() }, { ...state, begins: '07:00' }))
    expect((await roundOf()).mine).toEqual({ ...state, begins: '07:00' })
    expect((await roundOf(rona)).mine).toBeNull()
    for (const bad of [{ begins: '24:00' }, { until: 'Friday' }, { byHand: ['x'] }])
      expect((await ailsa.call('saveRound', { day: today() }, { ...state, ...bad })).status).toBe(400)
  })
  it('is put in parts by two tabs of one person, and each stands', async () => {
    const day = daysLater(today(), 1)
    const put = (body: PutRound) => magnus.call('saveRound', { day }, body)
    const [a, b] = [uuid(), uuid()]
    await Promise.all([
      put({ byHand: [a, b] }),
      put({ begins: '06:15' }),
      ...['tape', 'film', 'fuse'].map((key) => put({ pack: { key, on: true } })),
    ])
    const state = good(await put({ pack: { key: 'film', on: false } })).body as RoundState
    expect(state).toEqual({
      ...usualState(day),
      byHand: [a, b],
      begins: '06:15',
      packed: expect.any(Array) as string[],
    })
    expect([...state.packed].sort()).toEqual(['fuse', 'tape'])
    // More than a day can hold takes nothing of it out of reach.
    const full = { packed: Array.from({ length: 500 }, (_, i) => `thing ${i}`) }
    good(await put(full))
    expect((good(await put({ pack: { key: 'one more', on: true } })).body as RoundState).packed.at(-1)).toBe('one more')
    expect((await roundOf(magnus, { day })).mine!.packed).toHaveLength(500)
  })
  it('walks in the order of the site, and an area without a place comes last', async () => {
    const loops = [
      await newLoop('LT-9805', 'Annex'),
      await newLoop('LT-9806', 'West quay'),
      await newLoop('LT-9807', 'Attic'),
    ]
    for (const loopId of loops) await make(job(loopId, { works: ['discrete'] }))
    const order = {
      areas: ['West quay', 'Annex'].map((area) => ({ area, told: area === 'Annex' ? 'Yard master' : '' })),
    }
    expect((await ailsa.call('saveWalking', {}, order)).problem.code).toBe('wrong-role')
    good(await rona.call('saveWalking', {}, order))
    const twice = { areas: [order.areas[0], order.areas[0]] }
    expect((await rona.call('saveWalking', {}, twice)).status).toBe(400)
    const { stops } = planOfRound(await roundOf(rona), usualState(today()))
    const mine = stops.filter((s) => loops.includes(s.loop.id))
    expect(mine.map((s) => s.loop.tag)).toEqual(['LT-9806', 'LT-9805', 'LT-9807'])
    expect(mine.map((s) => s.unplaced)).toEqual([false, false, true])
    expect(mine[1]!.people[0]).toBe('Yard master')
  })
  it('has one order for all: of two that set it at once the second is told', async () => {
    const was = (await get(rona, '/api/settings/walking', {})).body as Walking
    const order = (told: string) => JSON.stringify({ areas: [{ area: 'Annex', told }] })
    const put = (body: string, mark?: string) =>
      rona.raw('PUT', '/api/settings/walking', body, {
        'content-type': 'application/json',
        ...(mark ? { [SETTING_HEADER]: mark } : {}),
      })
    good(await put(order('one'), settingMark(was)))
    const second = await put(order('two'), settingMark(was))
    expect(second.problem).toMatchObject({ code: 'setting-changed', current: { areas: [{ told: 'one' }] } })
    // The same again is no quarrel, and knowing what stands it may be set.
    good(await put(order('one'), settingMark(was)))
    good(await put(order('two'), settingMark(second.problem.current)))
    good(await put(JSON.stringify(was)))
  })
  it('stands on one sheet, as it was put', async () => {
    const { text, headers } = await get(ailsa, '/api/round.pdf', { day: today() })
    expect(headers.get('content-type')).toBe('application/pdf')
    expect(text.match(/\/Type \/Page\b/g)).toHaveLength(1)
  })
})
