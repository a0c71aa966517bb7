// Leases on devices: of all servers on one database one alone holds the link to a loop's device.
import { and, eq, inArray, sql } from 'drizzle-orm'
import { hostname } from 'node:os'
import { randomUUID } from 'node:crypto'
import type { Database } from '../db/database.ts'
import { linkLeases } from '../db/schema.ts'

/** A server that dies is followed by another within this time. */
export const LEASE_s = 4
const RENEW_ms = 1000

export interface Leases {
  /** Takes the lease of a loop, or says where the server that has it is reached. */
  take(loopId: string): Promise<{ mine: true } | { mine: false; address: string }>
  giveBack(loopId: string): Promise<void>
  /** Calls `lost` for each loop whose lease could not be kept. */
  onLost(lost: (loopId: string) => void): void
  /** From where the other servers reach this one. */
  reachedAt(address: string): void
  close(): Promise<void>
}

const isForeignKey = (error: unknown) =>
  [error, (error as { cause?: unknown }).cause].some((e) => (e as { code?: string } | undefined)?.code === '23503')
const ends = sql<Date>`now() + make_interval(secs => ${LEASE_s})`

export function leasesFor(db: Database): Leases {
  let holder = randomUUID() as string
  let address = ''
  /** Until when each lease is sure to be ours, by this process's own clock. */
  const mine = new Map<string, number>()
  const listeners: ((loopId: string) => void)[] = []
  const lose = (loopId: string) => {
    if (mine.delete(loopId)) listeners.forEach((lost) => lost(loopId))
  }

  async function renew(): Promise<void> {
    if (!mine.size) return
    const [held, sure] = [[...mine.keys()], performance.now() + LEASE_s * 1000]
    const kept = await db
      .update(linkLeases)
      .set({ until: ends })
      .where(and(eq(linkLeases.holder, holder), inArray(linkLeases.loopId, held)))
      .returning({ loopId: linkLeases.loopId })
    const still = new Set(kept.map((row) => row.loopId))
    for (const loopId of held) {
      if (!still.has(loopId)) lose(loopId)
      else if (mine.has(loopId)) mine.set(loopId, sure)
    }
  }
  // Out of touch with the database, a device is let go before another server may take it.
  const letGo = () => {
    for (const [loopId, until] of mine) if (performance.now() > until) lose(loopId)
  }
  let renewing = false
  const timer = setInterval(() => {
    letGo()
    if (renewing) return
    renewing = true
    renew()
      .catch(() => undefined)
      .finally(() => (renewing = false))
  }, RENEW_ms)
  timer.unref()

  return {
    async take(loopId) {
      if ((mine.get(loopId) ?? 0) > performance.now()) return { mine: true }
      const sure = performance.now() + LEASE_s * 1000
      const taken = await db
        .insert(linkLeases)
        .values({ loopId, holder, address, until: ends })
        .onConflictDoUpdate({
          target: linkLeases.loopId,
          set: { holder, address, until: ends },
          setWhere: sql`${linkLeases.until} < now() or ${linkLeases.holder} = ${holder}`,
        })
        .returning({ loopId: linkLeases.loopId })
        .catch((error: unknown) => {
          // No such loop: whoever asks for it is told so further on.
          if (isForeignKey(error)) return []
          throw error
        })
      if (taken.length) {
        mine.set(loopId, sure)
        return { mine: true }
      }
      const [other] = await db.select().from(linkLeases).where(eq(linkLeases.loopId, loopId))
      return other ? { mine: false, address: other.address } : { mine: true }
    },
    async giveBack(loopId) {
      mine.delete(loopId)
      await db.delete(linkLeases).where(and(eq(linkLeases.loopId, loopId), eq(linkLeases.holder, holder)))
    },
    onLost: (lost) => void listeners.push(lost),
    reachedAt(at) {
      address = at
      // The same place after a restart: what died there a moment ago need not be waited for.
      holder = `${hostname()} ${at}`
    },
    async close() {
      clearInterval(timer)
      mine.clear()
      await db
        .delete(linkLeases)
        .where(eq(linkLeases.holder, holder))
        .catch(() => undefined)
    },
  }
}
