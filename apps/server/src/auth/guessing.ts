// Guessing a password is made slow, never impossible: each wrong one doubles the wait before the next is looked at,
// and time forgives.
import { eq, lt, sql } from 'drizzle-orm'
import type { Request } from 'express'
import { ipKeyGenerator } from 'express-rate-limit'
import type { Queries } from '../db/database.ts'
import { guesses } from '../db/schema.ts'
import { HttpProblem } from '../http/problems.ts'
import { sure } from '@calm-loop/core/sure'

interface Pace {
  /** So many wrong ones cost nothing. */
  readonly free: number
  readonly first_s: number
  readonly most_s: number
}
/** For one name from one address, for the password wanted at signing, and for codes. */
const STRICT: Pace = { free: 5, first_s: 0.25, most_s: 8 }
/** For one name from everywhere: never so slow that its owner is kept out by others. */
const OF_NAME: Pace = { free: 20, first_s: 0.25, most_s: 2 }
/** For one address, whatever the name: people of a site may share one. */
const OF_ADDRESS: Pace = { free: 40, first_s: 0.25, most_s: 4 }
/** One wrong guess is forgiven in this time. */
const FORGIVEN_s = 30
/** Counted up to here: what is beyond would be forgiven no sooner than it is worth. */
const MOST_COUNTED = 60
/** More than so many at once for one key are not kept waiting but sent away. */
const WAITING = 3

const waiting = new Map<string, number>()

/** A name as it is compared: however it is typed, it is one name. */
export const foldName = (name: string): string => name.normalize('NFKC').trim().toLowerCase().slice(0, 80)

export interface Guess {
  readonly key: string
  readonly pace: Pace
}

/** What a try at signing in is counted under. */
export function guessesAt(req: Request, name: string): Guess[] {
  const address = ipKeyGenerator(req.ip ?? '')
  const folded = foldName(name)
  return [
    { key: `both ${address} ${folded}`, pace: STRICT },
    { key: `name ${folded}`, pace: OF_NAME },
    { key: `address ${address}`, pace: OF_ADDRESS },
  ]
}
export const guessesAtSigning = (personId: string): Guess[] => [{ key: `person ${personId}`, pace: STRICT }]

/**
 * Counts the try before it is looked at, so that many at once are counted one after the other; returns how many stand.
 */
async function count(db: Queries, key: string): Promise<number> {
  const age_s = sql`extract(epoch from now() - ${guesses.at})`
  const left = sql`greatest(0, ${guesses.wrong} - floor(${age_s} / ${FORGIVEN_s}))::int`
  const [row] = await db
    .insert(guesses)
    .values({ key, wrong: 1, at: new Date() })
    .onConflictDoUpdate({
      target: guesses.key,
      set: { wrong: sql`least(${MOST_COUNTED}, ${left} + 1)`, at: sql`now()` },
    })
    .returning()
  return sure(row).wrong
}

/** Forgets what has been forgiven long ago, so that made-up names leave nothing behind. */
export async function forgetOldGuesses(db: Queries): Promise<void> {
  await db.delete(guesses).where(lt(guesses.at, sql`now() - make_interval(secs => ${MOST_COUNTED * FORGIVEN_s})`))
}

const waitOf = (wrong: number, { free, first_s, most_s }: Pace): number =>
  wrong <= free ? 0 : Math.min(most_s, first_s * 2 ** (wrong - free - 1))

/** Waits as the count demands. @throws HttpProblem 429 when too many wait already */
async function slowly(key: string, wait_s: number): Promise<void> {
  if (wait_s === 0) return
  const now = waiting.get(key) ?? 0
  if (now >= WAITING)
    throw new HttpProblem(429, 'too-many-tries', `Too many tries at once. Wait ${Math.ceil(wait_s)} s and try again.`, {
      retryAfter_s: Math.ceil(wait_s),
    })
  waiting.set(key, now + 1)
  try {
    await new Promise((resolve) => setTimeout(resolve, 1000 * wait_s))
  } finally {
    const left = (waiting.get(key) ?? 1) - 1
    if (left) waiting.set(key, left)
    else waiting.delete(key)
  }
}

/** Lets `look` see whether a password or code is right, after the wait that earlier wrong ones have earned. */
export async function guarded<T>(db: Queries, tries: readonly Guess[], look: () => Promise<T>): Promise<T> {
  const waits: [string, number][] = []
  for (const { key, pace } of tries) waits.push([key, waitOf(await count(db, key), pace)])
  const [key, wait_s] = waits.reduce((a, b) => (b[1] > a[1] ? b : a))
  await slowly(key, wait_s)
  const right = await look()
  const [own, ...wider] = tries
  await db.delete(guesses).where(eq(guesses.key, sure(own).key))
  for (const { key } of wider)
    await db
      .update(guesses)
      .set({ wrong: sql`greatest(0, ${guesses.wrong} - 1)` })
      .where(eq(guesses.key, key))
  return right
}
