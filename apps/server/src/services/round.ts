// What a round is planned from, read at once: due checks, open jobs, kit and who has it, minutes of past visits.
import {
  MOST_STOPS,
  NO_ORDER,
  Walking,
  type LoopRoundView,
  type Person,
  type PutRound,
  type Round,
  type RoundState,
  type Weeks,
} from '@calm-loop/contract'
import { roundPut, usualState } from '@calm-loop/contract/round-plan'
import { pastKey } from '@calm-loop/core/round'
import { and, eq, inArray, lt, sql } from 'drizzle-orm'
import type { Database, Queries } from '../db/database.ts'
import { rounds } from '../db/round-schema.ts'
import { loops } from '../db/schema.ts'
import type { Workers } from '../workers/pool.ts'
import { daysLater } from '@calm-loop/core/check'
import { listPins, readWeekTerms, whoChecks } from './weeks.ts'
import { listGear } from './gear.ts'
import { listJobs } from './jobs.ts'
import { readJudging } from './judging.ts'
import { keptFor } from './kept-for.ts'
import { whereKitIs } from './kit-moves.ts'
import { settingOf } from './setting-of.ts'
import { refreshSummary } from './summary.ts'
import { inOneTurn } from './turns.ts'

export const { read: readWalking, save: saveWalking } = settingOf('walking', Walking, NO_ORDER)

/** Visits of so long ago no longer say how long one takes; one that went on over a night is no visit. */
const PAST_days = 730
const LONGEST_VISIT_h = 10
/** So many of each are enough for a median. */
const MOST_VISITS = 50
const PAST_ms = 60_000
/** Loops of before this was worked out are caught up so many at a time. */
const CAUGHT_UP = 40
/** A day that was put is forgotten after this. */
const FORGET_days = 60

/** Minutes from the beginning of a check to the signature of who did it, by kind and works; no practice. */
export async function pastMinutes(db: Queries): Promise<Record<string, number[]>> {
  const { rows } = await db.execute<{ kind: string; works: LoopRoundView['works'] | null; minutes: number }>(sql`
    select kind, works, minutes from (
      select l.kind, l.round->'works' works, extract(epoch from s.at - c.started_at)::float8 / 60 minutes,
        row_number() over (partition by l.kind, l.round->'works' order by c.started_at desc, c.id) place
      from checks c join signatures s on s.check_id = c.id and s.role = 'performed' join loops l on l.id = c.loop_id
      where c.practice is not true and c.imported is null and l.round is not null
        and c.started_at > now() - make_interval(days => ${PAST_days})
        and s.at between c.started_at and c.started_at + make_interval(hours => ${LONGEST_VISIT_h})
    ) t where place <= ${MOST_VISITS}`)
  const past: Record<string, number[]> = {}
  for (const { kind, works, minutes } of rows) (past[pastKey(kind, works ?? [])] ??= []).push(minutes)
  return past
}

/** Of a loop that cannot be worked out. */
const UNKNOWN: LoopRoundView = { works: ['loop-check'], needs: [], brings: [] }
/** Works out what the checks of these loops take, where that was never done; as many as keep nobody waiting. */
async function catchUp(db: Database, workers: Workers, ids: readonly string[]): Promise<void> {
  // In its turn, as everything that changes a loop's row: what somebody saves meanwhile is not written over.
  for (const id of ids.slice(0, CAUGHT_UP)) await inOneTurn(db, `loop ${id}`, (tx) => refreshSummary(tx, workers, id))
}

const columns = {
  ...{ id: loops.id, tag: loops.tag, service: loops.service, area: loops.area, kind: loops.kind },
  ...{ due: loops.nextDue, round: loops.round },
}
/** Loops that are due, the longest overdue first, and those that are named. */
async function loopsFor(db: Queries, until: string, also: readonly string[]) {
  const isDue = sql`${loops.nextDue} <= ${until}`
  const due = await db.select(columns).from(loops).where(isDue).orderBy(loops.nextDue, loops.tag).limit(MOST_STOPS)
  const known = new Set(due.map((l) => l.id))
  const others = [...new Set(also)].filter((id) => !known.has(id))
  const more = due.length < MOST_STOPS ? 0 : (await db.$count(loops, isDue)) - MOST_STOPS
  return { rows: [...due, ...(others.length ? await loopsNamed(db, others) : [])], more }
}
const loopsNamed = (db: Queries, ids: readonly string[]) =>
  db
    .select(columns)
    .from(loops)
    .where(inArray(loops.id, [...ids]))

async function kitOf(db: Queries): Promise<Round['kit']> {
  const [pieces, moves] = [await listGear(db), await whereKitIs(db)]
  return pieces.map(({ id, name, serial, due, ranges = [] }) => ({
    ...{ id, name, serial, due, ranges },
    move: moves.get(id) ?? null,
  }))
}

export interface Rounds {
  /** @param until the last day whose checks are taken; what the person has put, or the day itself */
  read(day: string, until: string | undefined, person: Person): Promise<Round>
  /** What the weeks ahead are planned from. */
  weeks(until?: string): Promise<Weeks>
}
/** As far as is looked ahead where nobody says. */
const AHEAD_days = 26 * 7 - 1
export function roundsOf(db: Database, workers: Workers): Rounds {
  const past = keptFor(PAST_ms, () => pastMinutes(db))
  /** Loops that are due, those named beside, and all that they are planned with. */
  async function known(last: string, also: readonly string[]) {
    let { rows, more } = await loopsFor(db, last, also)
    const unknown = rows.filter((l) => !l.round).map((l) => l.id)
    if (unknown.length) {
      await catchUp(db, workers, unknown)
      ;({ rows, more } = await loopsFor(db, last, also))
    }
    return {
      more,
      loops: rows.map(({ round, ...l }) => ({ ...l, ...(round ?? UNKNOWN) })),
      kit: await kitOf(db),
      walking: await readWalking(db),
      past: await past.get(''),
      wanted: (await readJudging(db)).leastRatio,
    }
  }
  return {
    async read(day, until, person) {
      const mine = await readState(db, person, day)
      const last = until ?? mine?.until ?? day
      const jobs = (await listJobs(db)).filter((j) => j.by === null || j.by <= last)
      const at = jobs.map((j) => j.loopId)
      return { ...{ day, jobs, mine }, ...(await known(last, at)) }
    },
    async weeks(until) {
      const today = new Date().toISOString().slice(0, 10)
      const last = until ?? daysLater(today, AHEAD_days)
      const pins = await listPins(db)
      const settled = pins.filter((p) => p.day !== null).map((p) => p.loopId)
      const [terms, who] = [await readWeekTerms(db), await whoChecks(db)]
      return { ...{ today, until: last, pins, terms, people: who }, ...(await known(last, settled)) }
    },
  }
}

export async function readState(db: Queries, person: Person, day: string): Promise<RoundState | null> {
  const mine = and(eq(rounds.personId, person.id), eq(rounds.day, day))
  const [row] = await db.select().from(rounds).where(mine)
  return row?.body ?? null
}

/** Puts some of a person's day otherwise; two tabs that put different parts of it both have theirs. */
export function saveState(db: Database, person: Person, day: string, put: PutRound): Promise<RoundState> {
  return inOneTurn(db, `round ${person.id} ${day}`, async (tx) => {
    const body = roundPut((await readState(tx, person, day)) ?? usualState(day), put)
    const values = { personId: person.id, day, body, at: new Date() }
    await tx
      .insert(rounds)
      .values(values)
      .onConflictDoUpdate({ target: [rounds.personId, rounds.day], set: values })
    const old = new Date(Date.now() - FORGET_days * 86_400_000)
    await tx.delete(rounds).where(and(eq(rounds.personId, person.id), lt(rounds.at, old)))
    return body
  })
}
