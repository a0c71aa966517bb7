// Watching many discrete points at once: which they are, and one stream of their states.
import type { PointStates, WatchedPoint } from '@calm-loop/contract'
import { KINDS } from '@calm-loop/core/kinds'
import { asc, eq, inArray } from 'drizzle-orm'
import type { Database } from '../db/database.ts'
import { benchLinks, loops, versions } from '../db/schema.ts'
import type { Links } from '../link/links.ts'
import type { Workers } from '../workers/pool.ts'

/** At most so many are watched at once: one screen holds no more. */
const MOST = 50
export const WATCH_ms = 50
/** What stands at a point that nothing answers for. */
export const NOT_CONNECTED = 'bench not connected'
const SWITCHES = KINDS.filter((k) => k.family === 'switch').map((k) => k.id)

/** The first discrete points by tag. */
export async function watchedPoints(db: Database, workers: Workers): Promise<WatchedPoint[]> {
  const rows = await db
    .select({ id: loops.id, tag: loops.tag, service: loops.service, kind: loops.kind, entries: versions.entries })
    .from(loops)
    .leftJoin(versions, eq(versions.id, loops.headVersionId))
    .where(inArray(loops.kind, SWITCHES))
    .orderBy(asc(loops.tag))
    .limit(MOST)
  const points = await workers.run('watched', rows)
  const connected = new Set((await db.select({ id: benchLinks.loopId }).from(benchLinks)).map((b) => b.id))
  return points.map((p) => (p.says || connected.has(p.loopId) ? p : { ...p, says: NOT_CONNECTED }))
}

/** Tells the states of all points at a steady pace until the returned function is called. */
export async function watchStates(
  db: Database,
  workers: Workers,
  links: Links,
  tell: (states: PointStates) => void,
): Promise<() => void> {
  const points = await watchedPoints(db, workers)
  const states = points.map(() => -1)
  const counts = points.map(() => 0)
  const stops: (() => void)[] = []
  let ended = false
  const listen = async (i: number): Promise<void> => {
    const device = await links.of(points[i]!.loopId).catch(() => undefined)
    if (!device || ended) return
    stops[i] = device.driver.subscribe({
      reading(reading) {
        states[i] = reading.knots['controller'] ?? -1
        counts[i]! += reading.edges?.filter((e) => e.state).length ?? 0
      },
      // Its entries changed: listen to the link made anew.
      closed: () => void (ended || listen(i)),
    })
  }
  for (let i = 0; i < points.length; i++) if (!points[i]!.says) await listen(i)
  const timer = setInterval(() => tell({ at_ms: Date.now(), states: [...states], counts: [...counts] }), WATCH_ms)
  return () => {
    ended = true
    clearInterval(timer)
    stops.forEach((stop) => stop?.())
  }
}
