// The weeks ahead: each check that comes due is put on a day and a person within its window, so that no week is heavier
// than it must be. The same input gives the same plan, in whatever order it comes.
import { dayNumber, daysLater } from '../check/index.ts'
import { sure } from '../sure/index.ts'
import { packFor, type Packed, type Piece } from './kit.ts'
import { minutesFor, type Expected } from './minutes.ts'
import { pastKey, type RoundLoop } from './plan.ts'

export interface WeeksTerms {
  /** Days of the week on which one works: 1 is Monday, 7 Sunday. */
  readonly workingDays: readonly number[]
  /** Minutes of checks that a person does on such a day, above 0. */
  readonly minutesADay: number
  /** A check may be done so many days before it is due. */
  readonly early_days: number
}
/** A stretch of days in which an area, or all of the works, stands still. Days are YYYY-MM-DD, both are of it. */
export interface Shutdown {
  readonly id: string
  readonly from: string
  readonly to: string
  /** Null: everywhere. */
  readonly area: string | null
  /** Checks are moved into it where their window allows; or none can be done then. */
  readonly how: 'into' | 'none'
}
/** What a person has settled: a day, somebody, or both. */
export interface Pin {
  readonly loopId: string
  readonly day: string | null
  readonly personId: string | null
}
export interface WeeksInput {
  readonly today: string
  /** The last day that is looked at. */
  readonly until: string
  readonly loops: readonly RoundLoop[]
  readonly people: readonly { readonly id: string; readonly name: string }[]
  readonly pins: readonly Pin[]
  readonly shutdowns: readonly Shutdown[]
  readonly terms: WeeksTerms
  readonly kit: readonly Piece[]
  readonly past: Readonly<Record<string, readonly number[]>>
  readonly wanted: number
}
export interface Visit {
  readonly loop: RoundLoop
  readonly day: string
  readonly personId: string
  readonly expected: Expected
  readonly due: string
  /** It is due before the day that it is put on. */
  readonly late: boolean
  /** Settled by a person, not by the plan. */
  readonly pinned: boolean
}
export interface Week {
  /** Its Monday. */
  readonly begins: string
  /** Minutes of what is due in it, and of what is put into it. */
  readonly due: number
  readonly planned: number
  /** Minutes that everybody has in it. */
  readonly room: number
}
/** A piece that two people want on one day, or that nothing replaces once it is past its own due date. */
export interface KitConflict {
  readonly day: string
  readonly what: string
  readonly why: 'two-people' | 'no-range' | 'past-due'
  readonly people: readonly string[]
  readonly tags: readonly string[]
}
export interface WeeksPlan {
  /** By day, person, area and tag. */
  readonly visits: readonly Visit[]
  /** Due, and put on no day. */
  readonly unplaced: readonly { readonly loop: RoundLoop; readonly why: 'no-working-day' | 'nobody' }[]
  readonly weeks: readonly Week[]
  readonly conflicts: readonly KitConflict[]
}

/** 1 January 1970 was one. */
const THURSDAY = 4
/** 1 is Monday, 7 Sunday. */
export const weekday = (day: string): number => ((((dayNumber(day) + THURSDAY - 1) % 7) + 7) % 7) + 1
export const mondayOf = (day: string): string => daysLater(day, 1 - weekday(day))
/** Every day from one to another, both with it. */
export function daysFrom(from: string, to: string): string[] {
  const days: string[] = []
  for (let day = from; day <= to; day = daysLater(day, 1)) days.push(day)
  return days
}

/** Nobody goes twice to an area for what can be done at once: worth so much of a day. */
const SAME_AREA = 0.2
/** The sooner before it is due, the sooner it is due again: the whole window costs so much of a day. */
const SOONER = 0.1
/** A day over its minutes counts so many times. */
const OVER = 4
/** A week that is full costs so much of a day: what is light beside it is filled first. */
const WEEK = 4

/** A day on which one works, its number, and the Monday of its week: worked out once for all checks. */
interface Day {
  readonly day: string
  readonly number: number
  readonly monday: string
}
const dayOf = (day: string): Day => ({ day, number: dayNumber(day), monday: mondayOf(day) })
/** What is put on days, people and weeks so far. */
class Load {
  readonly #minutes = new Map<string, Map<string, number>>()
  readonly #weeks = new Map<string, number>()
  readonly #areas = new Map<string, Set<string>>()
  readonly #room: number
  readonly #weekRoom: (monday: string) => number
  constructor(room: number, weekRoom: (monday: string) => number) {
    this.#room = room
    this.#weekRoom = weekRoom
  }
  add({ day, monday }: Day, personId: string, { area, minutes }: { area: string; minutes: number }): void {
    const ofDay = this.#minutes.get(day) ?? new Map<string, number>()
    ofDay.set(personId, (ofDay.get(personId) ?? 0) + minutes)
    this.#minutes.set(day, ofDay)
    this.#weeks.set(monday, (this.#weeks.get(monday) ?? 0) + minutes)
    const areas = this.#areas.get(`${day} ${personId}`) ?? new Set()
    this.#areas.set(`${day} ${personId}`, areas.add(area))
  }
  /** What it costs to put anything into a week, in days. */
  week(monday: string): number {
    return (WEEK * (this.#weeks.get(monday) ?? 0)) / Math.max(this.#room, this.#weekRoom(monday))
  }
  /** What it costs to put so many minutes more on somebody’s day, in days. */
  cost({ day }: Day, personId: string, { area, minutes }: { area: string; minutes: number }): number {
    const share = ((this.#minutes.get(day)?.get(personId) ?? 0) + minutes) / this.#room
    const same = this.#areas.size > 0 && this.#areas.get(`${day} ${personId}`)?.has(area)
    return share + OVER * Math.max(0, share - 1) - (same ? SAME_AREA : 0)
  }
}

const within = (day: string, s: Shutdown) => day >= s.from && day <= s.to
const natural = new Intl.Collator('en', { numeric: true, sensitivity: 'base' })
const compare = (a: string, b: string) => (a < b ? -1 : a > b ? 1 : 0)

/** Days on which a check can be done: in its window, else the first ones after it. */
function daysOf(loop: RoundLoop, due: string, input: WeeksInput, working: readonly Day[]): readonly Day[] {
  const here = input.shutdowns.filter((s) => s.area === null || s.area === loop.area)
  const closed = here.filter((s) => s.how === 'none')
  const able = closed.length ? working.filter(({ day }) => !closed.some((s) => within(day, s))) : working
  const first = daysLater(due, -input.terms.early_days)
  const window = able.filter(({ day }) => day >= first && day <= due)
  const still = window.filter(({ day }) => here.some((s) => s.how === 'into' && within(day, s)))
  if (still.length) return still
  if (window.length) return window
  // Too late already, or closed until then: as soon as it can be, over so many days as a window has.
  const after = able.filter(({ day }) => day > due)
  const last = daysLater(after[0]?.day ?? due, LATE_WITHIN_days)
  return after.length ? after.filter(({ day }) => day <= last) : able.slice(-1)
}
/** What is overdue is spread over so many days and no more. */
const LATE_WITHIN_days = 7

/** Puts every check that is due until then on a day and a person. */
export function planWeeks(input: WeeksInput): WeeksPlan {
  const { today, until, terms } = input
  const working = daysFrom(today, until)
    .filter((day) => terms.workingDays.includes(weekday(day)))
    .map(dayOf)
  const people = [...input.people].sort((a, b) => compare(a.id, b.id))
  const pinOf = new Map(input.pins.map((p) => [p.loopId, p]))
  const due = input.loops
    .filter((l): l is RoundLoop & { due: string } => l.due !== null && (l.due <= until || !!pinOf.get(l.id)?.day))
    .sort((a, b) => compare(a.due, b.due) || natural.compare(a.area, b.area) || compare(a.id, b.id))
  if (!working.length || !people.length) {
    const why = working.length ? ('nobody' as const) : ('no-working-day' as const)
    return { visits: [], unplaced: due.map((loop) => ({ loop, why })), weeks: weeksOf(input, [], []), conflicts: [] }
  }
  const daysIn = new Map<string, number>()
  for (const { monday } of working) daysIn.set(monday, (daysIn.get(monday) ?? 0) + 1)
  const weekRoom = (monday: string) => (daysIn.get(monday) ?? 0) * people.length * terms.minutesADay
  const load = new Load(terms.minutesADay, weekRoom)
  const isPinned = (l: RoundLoop) => !!pinOf.get(l.id)?.day
  // What a person has settled stands, and the rest is put round it.
  const order = [...due.filter(isPinned), ...due.filter((l) => !isPinned(l))]
  const visits = order.map((loop): Visit => {
    const pin = pinOf.get(loop.id)
    const expected = minutesFor(loop.works, input.past[pastKey(loop.kind, loop.works)])
    const days = pin?.day ? [dayOf(pin.day)] : daysOf(loop, loop.due, input, working)
    const who = people.filter((p) => p.id === pin?.personId)
    const it = { area: loop.area, minutes: expected.minutes }
    const dueOn = dayNumber(loop.due)
    let best: { day: Day; personId: string; cost: number } | undefined
    for (const day of days) {
      const sooner = (SOONER * Math.max(0, dueOn - day.number)) / Math.max(1, terms.early_days)
      const base = load.week(day.monday) + sooner
      for (const { id } of who.length ? who : people) {
        const cost = base + load.cost(day, id, it)
        if (!best || cost < best.cost) best = { day, personId: id, cost }
      }
    }
    const { day, personId } = sure(best)
    load.add(day, personId, it)
    return { loop, day: day.day, personId, expected, due: loop.due, late: day.day > loop.due, pinned: !!pin?.day }
  })
  visits.sort(
    (a, b) =>
      compare(a.day, b.day) ||
      compare(a.personId, b.personId) ||
      natural.compare(a.loop.area, b.loop.area) ||
      natural.compare(a.loop.tag, b.loop.tag),
  )
  return { visits, unplaced: [], weeks: weeksOf(input, visits, working), conflicts: conflictsOf(visits, input) }
}

function weeksOf(input: WeeksInput, visits: readonly Visit[], working: readonly Day[]): Week[] {
  const [due, planned, days] = [new Map<string, number>(), new Map<string, number>(), new Map<string, number>()]
  const add = (to: Map<string, number>, monday: string, more: number) => to.set(monday, (to.get(monday) ?? 0) + more)
  for (const v of visits) {
    // What was due before today weighs on this week.
    add(due, mondayOf(v.due < input.today ? input.today : v.due), v.expected.minutes)
    add(planned, mondayOf(v.day), v.expected.minutes)
  }
  for (const { monday } of working) add(days, monday, 1)
  const mondays = new Set([...daysFrom(input.today, input.until).map(mondayOf), ...due.keys(), ...planned.keys()])
  return [...mondays].sort().map((begins) => ({
    ...{ begins, due: due.get(begins) ?? 0, planned: planned.get(begins) ?? 0 },
    room: (days.get(begins) ?? 0) * input.people.length * input.terms.minutesADay,
  }))
}

/** Whether it reads less than the other, or less of it well enough. */
const isWorse = (a: ReturnType<typeof packFor>, b: ReturnType<typeof packFor>): boolean => {
  const short = (of: typeof a) => of.packed.flatMap((p) => p.uses).filter((u) => u.short).length
  return a.missing.length > b.missing.length || short(a) > short(b)
}
/** Pieces that stand in each other's way, day by day. */
function conflictsOf(visits: readonly Visit[], input: WeeksInput): KitConflict[] {
  const nameOf = (id: string) => input.people.find((p) => p.id === id)?.name ?? ''
  return [...new Set(visits.map((v) => v.day))].flatMap((day): KitConflict[] => {
    const ofDay = visits.filter((v) => v.day === day)
    const missing: KitConflict[] = []
    const taken: { readonly personId: string; readonly packed: Packed }[] = []
    for (const personId of new Set(ofDay.map((v) => v.personId))) {
      const needs = ofDay
        .filter((v) => v.personId === personId)
        .flatMap(({ loop }) => loop.needs.map((n) => ({ ...n, tag: loop.tag })))
      const own = packFor(needs, input.kit, { day, wanted: input.wanted })
      // Another piece that is as good serves as well: only what cannot be had twice stands in the way.
      const had = new Set(taken.map((t) => t.packed.piece.id))
      const rest = input.kit.filter((piece) => !had.has(piece.id))
      const other = packFor(needs, rest, { day, wanted: input.wanted })
      const { packed: pieces } = isWorse(other, own) ? own : other
      taken.push(...pieces.map((packed) => ({ personId, packed })))
      for (const { need, why } of own.missing)
        missing.push({ day, what: need.what, why, people: [nameOf(personId)], tags: [need.tag] })
    }
    const shared = [...new Set(taken.map((t) => t.packed.piece.id))].flatMap((id): KitConflict[] => {
      const both = taken.filter((t) => t.packed.piece.id === id)
      if (both.length < 2) return []
      const { name, serial } = sure(both[0]).packed.piece
      const tags = both.flatMap((t) => t.packed.uses.map((u) => u.need.tag))
      const people = both.map((t) => nameOf(t.personId))
      return [{ day, what: `${name} ${serial}`.trim(), why: 'two-people', people, tags: [...new Set(tags)] }]
    })
    return [...shared, ...together(missing)]
  })
}
/** Of one thing that lacks for several loops on a day, one line. */
function together(missing: readonly KitConflict[]): KitConflict[] {
  const lines = new Map<string, KitConflict>()
  for (const m of missing) {
    const key = `${m.what} ${m.why}`
    const known = lines.get(key)
    const join = (a: readonly string[], b: readonly string[]) => [...new Set([...a, ...b])]
    lines.set(key, known ? { ...m, people: join(known.people, m.people), tags: join(known.tags, m.tags) } : m)
  }
  return [...lines.values()]
}
