// The weeks ahead as a calendar: a day-long event for each visit and each shutdown. RFC 5545.
import type { Weeks } from '@calm-loop/contract'
import { planOfWeeks } from '@calm-loop/contract/weeks-plan'
import { daysLater } from '@calm-loop/core/check'
import { spreadWords, USUAL } from '@calm-loop/core/round'
import ical, { ICalCalendarMethod } from 'ical-generator'
import { day } from './page.ts'

export interface CalendarAsked {
  readonly weeks: Weeks
  /** Only this person’s visits; everybody’s where nobody is named. */
  readonly person?: { readonly id: string; readonly name: string } | undefined
}
/** Read anew so often by who follows it, s. */
const AGAIN_s = 3600
/** A date without a time: the same day wherever it is read. */
const allDay = (from: string, to = from) => ({
  allDay: true,
  start: new Date(`${from}T00:00:00Z`),
  end: new Date(`${daysLater(to, 1)}T00:00:00Z`),
  timezone: 'UTC',
})

export function weekCalendar({ weeks, person }: CalendarAsked): string {
  const { visits } = planOfWeeks(weeks)
  const nameOf = new Map(weeks.people.map((p) => [p.id, p.name]))
  const calendar = ical({
    name: person ? `Checks of ${person.name}` : 'Checks',
    prodId: { company: 'Calm Loop', product: 'weeks ahead', language: 'EN' },
    method: ICalCalendarMethod.PUBLISH,
    ttl: AGAIN_s,
  })
  const stamp = new Date(`${weeks.today}T00:00:00Z`)
  for (const v of visits.filter((each) => !person || each.personId === person.id))
    calendar.createEvent({
      // One event for each time that it falls due: moved, it is the same event elsewhere.
      id: `${v.loop.id}-${v.due}@calm-loop`,
      stamp,
      ...allDay(v.day),
      summary: `Check ${v.loop.tag}`,
      location: v.loop.area,
      description: [
        v.loop.works.map((w) => USUAL[w].name).join(', '),
        `Takes ${spreadWords(v.expected)}.`,
        `Due ${day(v.due)}${v.late ? ': it is late' : ''}.`,
        v.pinned ? 'The day is settled.' : 'The day is proposed by the plan.',
        ...(person ? [] : [nameOf.get(v.personId) ?? '']),
      ].join('\n'),
    })
  for (const s of weeks.terms.shutdowns)
    calendar.createEvent({
      ...{ id: `${s.id}@calm-loop`, stamp, ...allDay(s.from, s.to) },
      summary: `${s.area ?? 'The works'}: ${s.how === 'into' ? 'stands still, checks are done' : 'no checks'}`,
      ...(s.area ? { location: s.area } : {}),
      ...(s.words ? { description: s.words } : {}),
    })
  return calendar.toString()
}
