// News of a loop: what one server writes reaches the pages of every server, through the database's notifications.
import { LoopEvent } from '@calm-loop/contract'
import { sql } from 'drizzle-orm'
import pg from 'pg'
import { applicationConnection, type Queries } from '../db/database.ts'

const CHANNEL = 'calm_loop'

/** Tells everyone, when the transaction it is called in commits. */
export async function announce(tx: Queries, event: LoopEvent): Promise<void> {
  await tx.execute(sql`select pg_notify(${CHANNEL}, ${JSON.stringify(event)})`)
}

export interface EventHub {
  subscribe(loopId: string, listener: (event: LoopEvent) => void): () => void
  close(): Promise<void>
}

/** Listens on a connection of its own, and opens another when that is lost. */
export async function openEventHub(url: string): Promise<EventHub> {
  const listeners = new Map<string, Set<(event: LoopEvent) => void>>()
  let closing = false
  let client: pg.Client

  const connect = async (): Promise<void> => {
    client = new pg.Client(applicationConnection(url))
    client.on('error', () => undefined)
    client.on('end', () => {
      if (!closing) setTimeout(() => void connect().catch(() => undefined), 1000).unref()
    })
    client.on('notification', ({ payload }) => {
      const event = LoopEvent.safeParse(JSON.parse(payload ?? 'null'))
      if (event.success) listeners.get(event.data.loopId)?.forEach((listener) => listener(event.data))
    })
    await client.connect()
    await client.query(`listen ${CHANNEL}`)
  }
  await connect()

  return {
    subscribe(loopId, listener) {
      const set = listeners.get(loopId) ?? new Set()
      listeners.set(loopId, set.add(listener))
      return () => {
        set.delete(listener)
        if (set.size === 0) listeners.delete(loopId)
      }
    },
    async close() {
      closing = true
      await client.end()
    },
  }
}
