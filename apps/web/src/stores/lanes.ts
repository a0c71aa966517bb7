// Writes of one loop go one after the other, those of several loops side by side: what has waited for hours is sent in
// a minute.
import type { Write } from './waiting-room.ts'

/** Loops that are sent for at once: a browser opens six ways to a server; the live stream and the page want some. */
const AT_ONCE = 4

/** What became of a write: on to the next of its loop, nothing more of this loop for now, or nothing more at all. */
export type Went = 'on' | 'wait' | 'stop'

const laneOf = (write: Write): string => write.params['loopId'] ?? ''

/**
 * Sends writes, the earliest first, of each loop in their order. `send` is asked for nothing that is held back, nor for
 * what follows it in its loop.
 * @returns how many went on; undefined when nothing more is to be sent for now
 */
export async function inLanes(
  writes: readonly Write[],
  isHeld: (write: Write) => boolean,
  send: (write: Write) => Promise<Went>,
): Promise<number | undefined> {
  const lanes = new Map<string, Write[]>()
  for (const w of writes) lanes.set(laneOf(w), [...(lanes.get(laneOf(w)) ?? []), w])
  const free = new Set(lanes.values())
  let stopped = false
  let went = 0
  /** The lane whose next write was entered first. */
  function next(): Write[] | undefined {
    let first: Write[] | undefined
    for (const lane of free) {
      const [head] = lane
      if (!head || isHeld(head)) continue
      if (!first || head.seq < first[0]!.seq) first = lane
    }
    return first
  }
  async function work(): Promise<void> {
    for (let lane = next(); lane && !stopped; lane = next()) {
      free.delete(lane)
      const how = await send(lane[0]!)
      if (how === 'stop') stopped = true
      if (how !== 'on') continue
      went++
      lane.shift()
      free.add(lane)
    }
  }
  await Promise.all(Array.from({ length: Math.min(AT_ONCE, lanes.size) }, work))
  return stopped ? undefined : went
}
