// The weeks ahead: what they are planned from, what people have settled, and calendars that show them elsewhere.
import { z } from 'zod'
import { endpoint } from './endpoint.ts'
import { Author, Day, filledLine, Id, Instant, line } from './primitives.ts'
import { Round, RoundStop } from './round.ts'

export const SHUTDOWN_HOWS = ['into', 'none'] as const
export const SiteShutdown = z
  .strictObject({
    id: Id,
    from: Day,
    to: Day,
    /** Null: everywhere. */
    area: filledLine(80).nullable(),
    how: z.enum(SHUTDOWN_HOWS),
    words: line(120),
  })
  .refine((s) => s.from <= s.to, 'ends after it began')
/** When one works here, how much in a day, how early a check may be done, and when what stands still. */
export const WeekTerms = z.strictObject({
  /** 1 is Monday, 7 Sunday; none may be set, and then nothing can be planned. */
  workingDays: z
    .array(z.number().int().min(1).max(7))
    .max(7)
    .refine((d) => new Set(d).size === d.length, 'each day once'),
  minutesADay: z.number().int().min(15).max(1440),
  early_days: z.number().int().min(0).max(365),
  shutdowns: z.array(SiteShutdown).max(100),
})
export type WeekTerms = z.infer<typeof WeekTerms>
export const USUAL_WEEK: WeekTerms = { workingDays: [1, 2, 3, 4, 5], minutesADay: 240, early_days: 30, shutdowns: [] }

/** What somebody has settled of a visit: the day, who goes, or both. */
export const Pin = z.strictObject({ loopId: Id, day: Day.nullable(), personId: Id.nullable() })
export type Pin = z.infer<typeof Pin>

export const Weeks = z.strictObject({
  today: Day,
  until: Day,
  loops: z.array(RoundStop),
  /** Due as well, and not listed. */
  more: z.number().int().nonnegative(),
  /** Who does checks. */
  people: z.array(Author),
  pins: z.array(Pin),
  terms: WeekTerms,
  kit: Round.shape.kit,
  past: Round.shape.past,
  wanted: z.number(),
  walking: Round.shape.walking,
})
export type Weeks = z.infer<typeof Weeks>

export const FEEDS_OF = ['mine', 'all'] as const
export const FeedState = z.strictObject({ of: z.enum(FEEDS_OF), since: Instant }).nullable()
export type FeedState = z.infer<typeof FeedState>
/** Told once: only its fingerprint is kept. */
export const NewFeed = z.strictObject({ path: z.string() })

const ofWeeks = z.object({ until: Day.optional() })
export const weekRoutes = {
  weeks: endpoint({
    method: 'get',
    path: '/api/weeks',
    access: 'signed-in',
    summary: 'What the weeks ahead are planned from; half a year where no day is given',
    query: ofWeeks,
    response: Weeks,
  }),
  pinVisit: endpoint({
    method: 'put',
    path: '/api/pins/:loopId',
    access: 'technician',
    summary: 'Settle on which day a loop is checked, or by whom; neither leaves it to the plan',
    params: z.object({ loopId: Id }),
    body: Pin.omit({ loopId: true }),
    response: Pin,
  }),
  weekTerms: endpoint({
    method: 'get',
    path: '/api/settings/weeks',
    access: 'signed-in',
    summary: 'Working days, minutes of checks in a day, how early a check may be done, shutdowns',
    response: WeekTerms,
  }),
  saveWeekTerms: endpoint({
    method: 'put',
    path: '/api/settings/weeks',
    access: 'administrator',
    summary: 'Set working days, minutes, windows and shutdowns',
    body: WeekTerms,
    response: WeekTerms,
  }),
  calendarFile: endpoint({
    method: 'get',
    path: '/api/calendar.ics',
    access: 'signed-in',
    summary: 'The weeks ahead as a calendar file (RFC 5545)',
    query: z.object({ of: z.enum(FEEDS_OF).optional() }),
    media: 'text/calendar',
  }),
  feedState: endpoint({
    method: 'get',
    path: '/api/calendar/feed',
    access: 'signed-in',
    summary: 'Whether one’s own calendar can be read under an address, and since when',
    response: FeedState,
  }),
  makeFeed: endpoint({
    method: 'put',
    path: '/api/calendar/feed',
    access: 'signed-in',
    summary: 'Make an address under which one’s calendar is read without signing in; an earlier one ends',
    body: z.strictObject({ of: z.enum(FEEDS_OF) }),
    response: NewFeed,
  }),
  endFeed: endpoint({
    method: 'delete',
    path: '/api/calendar/feed',
    access: 'signed-in',
    summary: 'End the address of one’s calendar: who has it reads nothing more',
  }),
  calendarFeed: endpoint({
    method: 'get',
    path: '/api/calendar/feeds/:token.ics',
    access: 'anyone',
    stateless: true,
    summary: 'A person’s calendar under its address (RFC 5545)',
    params: z.object({ token: z.string().regex(/^[A-Za-z0-9_-]{43}$/) }),
    media: 'text/calendar',
  }),
}
