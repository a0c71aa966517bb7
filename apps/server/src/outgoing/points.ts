// What is told of a discrete point that the server records: its state and count, long cycles and standstills.
import type { OutMessage } from '@calm-loop/contract'
import { LEAST_STILL_s, longCycleWatch, type SeenState } from '@calm-loop/core/discrete'
import { countTerms, entriesNow, kindOf, readEntries } from '@calm-loop/core/kinds'
import { eq } from 'drizzle-orm'
import { v7 as uuid } from 'uuid'
import type { Database } from '../db/database.ts'
import { benchLinks, loops, versions } from '../db/schema.ts'

/** A state that changes faster is told so often, ms. */
const LEAST_ms = 1000
const UNSEEN = 'unseen'
/** Entries that change are looked at again after so long, ms. */
const KNOWN_ms = 30_000

type Seen = Omit<Extract<OutMessage, { kind: 'alarm' }>, 'id' | 'at' | 'kind' | 'alarm' | 'on' | 'seconds' | 'limit_s'>
interface Watched {
  readonly of: Seen
  readonly limits: readonly { readonly alarm: 'long-cycle' | 'standstill'; readonly limit_s: number }[]
  readonly watches: readonly ReturnType<typeof longCycleWatch>[]
  readonly until_ms: number
}

/** @param tell gives a message on; `now` ones are worth nothing later */
export function pointsTold(
  db: Database,
  tell: (message: OutMessage) => void,
): { seen: (loopId: string, seen: SeenState) => void } {
  const watched = new Map<string, Watched>()
  const counts = new Map<string, { readonly count: number; readonly told: string; readonly told_ms: number }>()
  const looking = new Set<string>()

  async function look(loopId: string): Promise<void> {
    const [row] = await db
      .select({ loop: loops, version: versions, bench: benchLinks.loopId })
      .from(loops)
      .leftJoin(versions, eq(versions.id, loops.headVersionId))
      .leftJoin(benchLinks, eq(benchLinks.loopId, loops.id))
      .where(eq(loops.id, loopId))
    if (!row?.version) return
    const kind = kindOf(row.loop.kind)
    const { entries: kept, kindVersion } = row.version
    const entries = entriesNow(kind, { entries: kept, ...(kindVersion === null ? {} : { kindVersion }) })
    const { longCycle_s, idealCycle_s } = countTerms(entries)
    const { id, tag, area } = row.loop
    const before = watched.get(loopId)
    const limits = [
      ...(longCycle_s === undefined ? [] : [{ alarm: 'long-cycle' as const, limit_s: longCycle_s }]),
      { alarm: 'standstill' as const, limit_s: Math.max(LEAST_STILL_s, longCycle_s ?? 3 * (idealCycle_s ?? 100)) },
    ]
    const same = JSON.stringify(before?.limits) === JSON.stringify(limits)
    watched.set(loopId, {
      of: {
        loop: { id, tag, area },
        name: readEntries(kind.fields, entries).text('pointName'),
        simulated: !!row.bench,
      },
      limits,
      // One that is running goes on: a standstill is not begun anew because somebody looked.
      watches: same && before ? before.watches : limits.map((l) => longCycleWatch(l.limit_s)),
      until_ms: Date.now() + KNOWN_ms,
    })
  }

  function tellState(loopId: string, { of }: Watched, seen: SeenState): void {
    const was = counts.get(loopId) ?? { count: 0, told: '', told_ms: 0 }
    const count = was.count + seen.edges.filter((e) => e.state).length
    const state = seen.state ?? null
    const [told, now] = [state === null ? UNSEEN : `${state} ${count}`, Date.now()]
    // That nothing is seen is told at once: it may be the last.
    const isSoon = state !== null && now - was.told_ms < LEAST_ms
    if (told === was.told || isSoon) return void counts.set(loopId, { ...was, count })
    // What is counted begins anew with what is seen next.
    counts.set(loopId, { count: state === null ? 0 : count, told, told_ms: now })
    tell({ ...of, id: uuid(), at: new Date(seen.at_ms).toISOString(), kind: 'state', state, count })
  }

  return {
    seen(loopId, seen) {
      const known = watched.get(loopId)
      if (!((known?.until_ms ?? 0) > Date.now()) && !looking.has(loopId)) {
        looking.add(loopId)
        void look(loopId)
          .catch(() => undefined)
          .finally(() => looking.delete(loopId))
      }
      if (!known) return
      tellState(loopId, known, seen)
      known.watches.forEach((watch, i) => {
        const told = watch(seen)
        if (!told) return
        tell({
          ...known.of,
          ...known.limits[i]!,
          ...{ id: uuid(), at: new Date(told.at_ms).toISOString(), kind: 'alarm' },
          ...{ on: told.what === 'long-cycle', seconds: told.seconds },
        })
      })
    },
  }
}
