// What a loop needs besides its folder is fetched while the server is there, so that it opens without it.
import { call } from '../api/client.ts'
import { OF_THE_SITE, tidyShelf } from './kept.ts'

const AGAIN_ms = 10 * 60_000
let fetched = 0

/** Asks that nothing is cleared away; whoever has left meanwhile is not asked. */
const persist = async () => navigator.storage?.persist?.()

/** Fetches what every folder of the site needs; at most every ten minutes, and nobody waits for it. */
export async function fetchForTheSite(now = Date.now()): Promise<void> {
  if (now - fetched < AGAIN_ms) return
  fetched = now
  for (const name of OF_THE_SITE) await call(name).catch(() => undefined)
  await tidyShelf().catch(() => undefined)
  await persist().catch(() => false)
}

/** Fetches all that a loop needs. @throws ApiProblem where the loop itself cannot be had */
export async function fetchLoop(loopId: string, discrete: boolean): Promise<void> {
  await call('folder', { params: { loopId }, fresh: true })
  if (discrete) await call('edges', { params: { loopId } }).catch(() => undefined)
  fetched = 0
  await fetchForTheSite()
}
