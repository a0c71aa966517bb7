// News of a loop: what one server writes reaches the pages of every server, through the database's notifications.
import { LoopEvent } from '@calm-loop/contract'
import { sql } from 'drizzle-orm'
import pg from 'pg'
import { z } from 'zod'
import { applicationConnection, type Queries } from '../db/database.ts'

/** The channel on which a loop’s changes are told. */
export const LOOPS = 'calm_loop'
const PEOPLE = 'calm_loop_people'
const AGAIN_ms = 200
/** A connection that does not answer so long is given up. */
const PATIENCE_ms = 5000
const ASK_EVERY_ms = 5000

/** Tells everyone, when the transaction it is called in commits. */
export async function announce(tx: Queries, event: LoopEvent): Promise<void> {
  await tx.execute(sql`select pg_notify(${LOOPS}, ${JSON.stringify(event)})`)
}

/** Sessions that have ended: all of a person, one of them, or all but one; sessions by their public id. */
const SessionsEnded = z.strictObject({ personId: z.string(), only: z.string().optional(), but: z.string().optional() })
export type SessionsEnded = z.infer<typeof SessionsEnded>
export async function announceEnded(tx: Queries, ended: SessionsEnded): Promise<void> {
  await tx.execute(sql`select pg_notify(${PEOPLE}, ${JSON.stringify(ended)})`)
}

export interface EventHub {
  subscribe(loopId: string, listener: (event: LoopEvent) => void): () => void
  /** Called at every change of any loop. */
  onLoop(listener: (event: LoopEvent) => void): void
  onSessionsEnded(listener: (ended: SessionsEnded) => void): void
  /** Called when the database is lost, and when it is back. */
  onDatabase(listener: (there: boolean) => void): void
  close(): Promise<void>
}

function parsed<T>(schema: z.ZodType<T>, text: string | undefined): T | undefined {
  try {
    return schema.safeParse(JSON.parse(text ?? 'null')).data
  } catch {
    return undefined
  }
}

/** Listens on a connection of its own, and opens another when that is lost. */
export async function openEventHub(url: string): Promise<EventHub> {
  const listeners = new Map<string, Set<(event: LoopEvent) => void>>()
  const endings: ((ended: SessionsEnded) => void)[] = []
  const ofAll: ((event: LoopEvent) => void)[] = []
  const watchers: ((there: boolean) => void)[] = []
  let closing = false
  let there = true
  let client: pg.Client | undefined

  const tell = (now: boolean) => {
    if (there !== now) watchers.forEach((w) => w(now))
    there = now
  }
  const connect = async (): Promise<void> => {
    const mine = new pg.Client({ ...applicationConnection(url), connectionTimeoutMillis: PATIENCE_ms, keepAlive: true })
    let lost = false
    const lose = () => {
      if (lost || closing) return
      lost = true
      tell(false)
      void mine.end().catch(() => undefined)
      setTimeout(() => void retry(), AGAIN_ms)
    }
    mine.on('notification', ({ channel, payload }) => {
      if (channel === PEOPLE) {
        const ended = parsed(SessionsEnded, payload)
        if (ended) endings.forEach((listener) => listener(ended))
        return
      }
      const event = parsed(LoopEvent, payload)
      if (!event) return
      Object.freeze(event)
      ofAll.forEach((listener) => listener(event))
      listeners.get(event.loopId)?.forEach((listener) => listener(event))
    })
    // Listened to before anything is awaited: an error of a connection that is being made must not end the program.
    mine.on('error', () => undefined)
    await mine.connect()
    await mine.query(`listen ${LOOPS}; listen ${PEOPLE}`)
    mine.on('error', lose)
    mine.on('end', lose)
    client = mine
    tell(true)
  }
  const retry = async (): Promise<void> => {
    while (!closing) {
      try {
        return await connect()
      } catch {
        await new Promise((resolve) => setTimeout(resolve, AGAIN_ms))
      }
    }
  }
  await connect()
  // A connection cut without a word is only found out by asking.
  const asking = setInterval(() => {
    const asked = client
    if (!asked || !there) return
    const late = setTimeout(() => asked.emit('end'), PATIENCE_ms)
    asked
      .query('select 1')
      .catch(() => asked.emit('end'))
      .finally(() => clearTimeout(late))
  }, ASK_EVERY_ms)
  asking.unref()

  return {
    subscribe(loopId, listener) {
      const set = listeners.get(loopId) ?? new Set()
      listeners.set(loopId, set.add(listener))
      return () => {
        set.delete(listener)
        if (set.size === 0) listeners.delete(loopId)
      }
    },
    onLoop: (listener) => void ofAll.push(listener),
    onSessionsEnded: (listener) => void endings.push(listener),
    onDatabase: (listener) => void watchers.push(listener),
    async close() {
      closing = true
      clearInterval(asking)
      await client?.end()
    },
  }
}
