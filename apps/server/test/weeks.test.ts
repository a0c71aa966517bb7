// The weeks ahead over HTTP: their plan, what is settled, and the calendar, read back by another parser.
import type { Weeks } from '@calm-loop/contract'
import { planOfWeeks } from '@calm-loop/contract/weeks-plan'
import { USUAL_WEEK, type Pin } from '@calm-loop/contract/weeks'
import { daysLater } from '@calm-loop/core/check'
import ICAL from 'ical.js'
import { v7 as uuid } from 'uuid'
import { describe, expect, it } from 'vitest'
import { SERIALIZERS } from '../src/log.ts'
import { good, served, type Visitor } from './harness.ts'

const { server, ailsa, rona, magnus } = await served({ empty: false })
const weeksOf = async (who: Visitor = ailsa): Promise<Weeks> => good(await who.call('weeks')).body
const idOf = (weeks: Weeks, name: string) => weeks.people.find((p) => p.name === name)!.id
const eventsOf = (text: string) =>
  new ICAL.Component(ICAL.parse(text) as unknown[]).getAllSubcomponents('vevent').map((v) => new ICAL.Event(v))
const settle = (who: Visitor, loopId: string, body: Omit<Pin, 'loopId'>) => who.call('pinVisit', { loopId }, body)

describe('the weeks ahead', () => {
  it('plan every check that is due, and stand round what is settled', async () => {
    const weeks = await weeksOf()
    const plan = planOfWeeks(weeks)
    expect(plan.visits.map((v) => v.loop.id).sort()).toEqual(weeks.loops.map((l) => l.id).sort())
    const first = plan.visits[0]!
    const day = daysLater(weeks.today, 21)
    const personId = idOf(weeks, 'Rona Teague')
    good(await settle(ailsa, first.loop.id, { day, personId }))
    const after = planOfWeeks(await weeksOf(magnus)).visits.find((v) => v.loop.id === first.loop.id)
    expect(after).toMatchObject({ day, personId, pinned: true })
    good(await settle(rona, first.loop.id, { day: null, personId: null }))
    expect((await weeksOf()).pins).toEqual([])
  })
  it('keep what is settled for the check that was due then, and for no later one', async () => {
    const { loops, today } = await weeksOf()
    const loopId = loops[0]!.id
    good(await settle(ailsa, loopId, { day: daysLater(today, 9), personId: null }))
    expect((await weeksOf()).pins).toHaveLength(1)
    // The check is done: the next one is due a year later.
    await server.pool.query(`update loops set next_due = next_due + 365 where id = $1`, [loopId])
    expect((await weeksOf()).pins).toEqual([])
    await server.pool.query(`update loops set next_due = next_due - 365 where id = $1`, [loopId])
    good(await settle(ailsa, loopId, { day: null, personId: null }))
  })
  it('settle nothing for nobody, at no loop, or by who does no checks', async () => {
    const weeks = await weeksOf()
    const at = weeks.loops[0]!.id
    expect((await settle(ailsa, uuid(), { day: weeks.today, personId: null })).status).toBe(404)
    const other = await settle(ailsa, at, { day: null, personId: uuid() })
    expect(other.problem.code).toBe('unknown-reference')
    expect((await settle(ailsa, at, { day: '2026-02-30', personId: null })).status).toBe(400)
    expect((await settle(magnus, at, { day: weeks.today, personId: null })).problem.code).toBe('wrong-role')
  })
  it('go by what the site sets; without a working day each check is named as put on no day', async () => {
    expect((await ailsa.call('saveWeekTerms', {}, USUAL_WEEK)).problem.code).toBe('wrong-role')
    const shutdown = { id: uuid(), from: '2026-12-21', to: '2026-12-20', area: null, how: 'none' as const, words: '' }
    expect((await rona.call('saveWeekTerms', {}, { ...USUAL_WEEK, shutdowns: [shutdown] })).status).toBe(400)
    good(await rona.call('saveWeekTerms', {}, { ...USUAL_WEEK, workingDays: [] }))
    const weeks = await weeksOf()
    const plan = planOfWeeks(weeks)
    expect(plan.visits).toEqual([])
    expect(plan.unplaced).toHaveLength(weeks.loops.length)
    good(await rona.call('saveWeekTerms', {}, USUAL_WEEK))
  })
})

describe('the calendar', () => {
  it('is a file that another program reads: one day-long event for each visit, and for each shutdown', async () => {
    const to = {
      ...USUAL_WEEK,
      shutdowns: [
        {
          id: uuid(),
          from: '2026-12-24',
          to: '2027-01-02',
          area: 'Gas',
          how: 'into' as const,
          words: 'Cleaning; lines open, stay clear',
        },
      ],
    }
    good(await rona.call('saveWeekTerms', {}, to))
    const weeks = await weeksOf()
    const { visits } = planOfWeeks(weeks)
    const file = await ailsa.raw('GET', '/api/calendar.ics?of=all')
    expect(file.headers.get('content-type')).toContain('text/calendar')
    // RFC 5545: lines end by CRLF and have no more than 75 octets.
    for (const line of file.text.split('\r\n')) expect(Buffer.byteLength(line)).toBeLessThanOrEqual(75)
    const events = eventsOf(file.text)
    expect(events).toHaveLength(visits.length + 1)
    for (const v of visits) {
      const event = events.find((e) => e.uid === `${v.loop.id}-${v.due}@calm-loop`)!
      expect(event.startDate.isDate).toBe(true)
      expect(event.startDate.toString()).toBe(v.day)
      expect(event.endDate.toString()).toBe(daysLater(v.day, 1))
      expect(event.summary).toBe(`Check ${v.loop.tag}`)
      expect(event.location).toBe(v.loop.area)
    }
    const still = events.find((e) => e.summary.startsWith('Gas'))!
    expect([still.startDate.toString(), still.endDate.toString()]).toEqual(['2026-12-24', '2027-01-03'])
    expect(still.description).toBe('Cleaning; lines open, stay clear')
    const mine = eventsOf((await ailsa.raw('GET', '/api/calendar.ics')).text)
    const her = idOf(weeks, 'Ailsa Fenn')
    expect(mine).toHaveLength(visits.filter((v) => v.personId === her).length + 1)
    good(await rona.call('saveWeekTerms', {}, USUAL_WEEK))
  })
  it('is read under an address without signing in, until that is taken back', async () => {
    expect(good(await ailsa.call('feedState')).body).toBeNull()
    const { path } = good(await ailsa.call('makeFeed', {}, { of: 'all' })).body as { path: string }
    const nobody = server.visitor()
    const feed = await nobody.raw('GET', path)
    expect(feed.status).toBe(200)
    expect(feed.headers.get('set-cookie')).toBeNull()
    expect(eventsOf(feed.text).length).toBeGreaterThan(0)
    expect(good(await ailsa.call('feedState')).body).toMatchObject({ of: 'all' })
    // What opens the calendar is not in the log.
    expect(SERIALIZERS.req({ url: path }).url).toBe('/api/calendar/feeds/….ics')
    // Another address ends the one before.
    const again = good(await ailsa.call('makeFeed', {}, { of: 'mine' })).body as { path: string }
    expect((await nobody.raw('GET', path)).status).toBe(404)
    expect((await nobody.raw('GET', again.path)).status).toBe(200)
    good(await ailsa.call('endFeed'))
    expect((await nobody.raw('GET', again.path)).status).toBe(404)
    expect((await nobody.raw('GET', '/api/calendar/feeds/short.ics')).status).toBe(400)
    expect((await nobody.raw('GET', '/api/calendar.ics')).problem.code).toBe('not-signed-in')
  })
})
