// Writes of one loop go one after the other, those of several loops side by side: what has waited for hours is sent in
// a minute.
import { MOST_TOGETHER, SENT_TOGETHER } from '@calm-loop/contract/limits'
import type { Write } from './waiting-room.ts'

/** Loops that are sent for at once: a browser opens six ways to a server; the live stream and the page want some. */
const AT_ONCE = 4

/** What became of the last write sent: on to the next, nothing more of this loop for now, or nothing more at all. */
export type How = 'on' | 'wait' | 'stop'
export interface Went {
  /** Writes that are done with, from the first of those given. */
  readonly done: number
  readonly how: How
}
interface Sending {
  readonly isHeld: (write: Write) => boolean
  /** Sends writes of one loop, in their order. */
  readonly send: (writes: readonly Write[]) => Promise<Went>
  /** Whether several go in one message. */
  readonly together: () => boolean
}

const laneOf = (write: Write): string => write.params['loopId'] ?? ''
const goesTogether = ({ endpoint }: Write): boolean => (SENT_TOGETHER as readonly string[]).includes(endpoint)

/** The next of a loop: one, or as many as may go in one message. */
function nextOf(lane: readonly Write[], together: boolean): readonly Write[] {
  const alone = lane.findIndex((w) => !goesTogether(w))
  const most = together ? (alone < 0 ? lane.length : alone) : 1
  return lane.slice(0, Math.max(1, Math.min(most, MOST_TOGETHER)))
}

/**
 * Sends writes, the earliest first, of each loop in their order. `send` is asked for nothing that is held back, nor for
 * what follows it in its loop.
 * @returns how many are done with; undefined when nothing more is to be sent for now
 */
export async function inLanes(
  writes: readonly Write[],
  { isHeld, send, together }: Sending,
): Promise<number | undefined> {
  const lanes = new Map<string, Write[]>()
  for (const w of writes) {
    const lane = lanes.get(laneOf(w))
    if (lane) lane.push(w)
    else lanes.set(laneOf(w), [w])
  }
  const free = new Set(lanes.values())
  let stopped = false
  let all = 0
  /** The loop whose next write was entered first. */
  function next(): Write[] | undefined {
    let first: Write[] | undefined
    for (const lane of free) {
      const [head] = lane
      if (head && !isHeld(head) && (!first || head.seq < first[0]!.seq)) first = lane
    }
    return first
  }
  async function work(): Promise<void> {
    for (let lane = next(); lane && !stopped; lane = next()) {
      free.delete(lane)
      const { done, how } = await send(nextOf(lane, together()))
      all += done
      lane.splice(0, done)
      if (how === 'stop') stopped = true
      if (how === 'on') free.add(lane)
    }
  }
  await Promise.all(Array.from({ length: Math.min(AT_ONCE, lanes.size) }, work))
  return stopped ? undefined : all
}
