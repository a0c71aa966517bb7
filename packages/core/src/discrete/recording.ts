// Recording the changes of a discrete point as they are seen: in pieces without a gap, each a train of its own; what
// nobody saw is in none of them.
import type { EdgeTrain } from './edge-log.ts'

/** What was seen at a moment: the state then, and the changes since the moment before. */
export interface SeenState {
  /** Milliseconds since 1970-01-01 UTC. */
  readonly at_ms: number
  /** Undefined while nothing can be seen. */
  readonly state: boolean | undefined
  readonly edges: readonly { readonly t_ms: number; readonly state: boolean }[]
}

interface Piece {
  readonly start_ms: number
  readonly startState: boolean
  readonly gaps_ms: number[]
  last_ms: number
}
const begun = (start_ms: number, startState: boolean): Piece => ({
  start_ms,
  startState,
  gaps_ms: [],
  last_ms: start_ms,
})
const stateOf = (piece: Piece) => piece.startState !== (piece.gaps_ms.length % 2 === 1)
const trainOf = ({ start_ms, startState, gaps_ms }: Piece): EdgeTrain => ({
  start_ms,
  startState,
  gaps_ms: [...gaps_ms],
})

export interface Recording {
  /** Changes seen so far, those that were taken too. */
  readonly changes: number
  /** Takes in what was seen. What it gives is a piece that ended, as a change went by unseen. */
  see(seen: SeenState): EdgeTrain | undefined
  /** The piece so far, where something changed; what follows begins a millisecond later, as no time counts twice. */
  take(): EdgeTrain | undefined
  /** Nothing can be seen any more: what happens until the next is not known. Gives the piece so far. */
  lose(): EdgeTrain | undefined
}

/** A recording that begins with the first that is seen. */
export function newRecording(): Recording {
  let piece: Piece | undefined
  let changes = 0
  function take(): EdgeTrain | undefined {
    if (!piece?.gaps_ms.length) return undefined
    const train = trainOf(piece)
    piece = begun(piece.last_ms + 1, stateOf(piece))
    return train
  }
  function lose(): EdgeTrain | undefined {
    const train = take()
    piece = undefined
    return train
  }
  return {
    get changes() {
      return changes
    },
    see({ at_ms, state, edges }) {
      for (const edge of edges) {
        // A change that does not change the state follows one that was not seen.
        if (!piece || edge.t_ms <= piece.last_ms || edge.state === stateOf(piece)) continue
        piece.gaps_ms.push(edge.t_ms - piece.last_ms)
        piece.last_ms = edge.t_ms
        changes++
      }
      if (state === undefined) return lose()
      const ended = piece && stateOf(piece) !== state ? lose() : undefined
      piece ??= begun(Math.max(at_ms, (edges.at(-1)?.t_ms ?? 0) + 1), state)
      return ended
    },
    take,
    lose,
  }
}

/** A point that has not risen for too long, or runs again. */
export interface LongCycleTold {
  readonly what: 'long-cycle' | 'running-again'
  readonly at_ms: number
  /** Since the last rise, s. */
  readonly seconds: number
}

/**
 * Tells when a cycle becomes long, once, and when it ends.
 * @param limit_s from when on a cycle is long
 */
export function longCycleWatch(limit_s: number): (seen: SeenState) => LongCycleTold | undefined {
  let [rose_ms, long] = [undefined as number | undefined, false]
  return ({ at_ms, state, edges }) => {
    const rise = edges.findLast((e) => e.state)
    const since_s = rose_ms === undefined ? 0 : ((rise?.t_ms ?? at_ms) - rose_ms) / 1000
    // What cannot be seen is no standstill.
    if (state === undefined) {
      rose_ms = undefined
      return undefined
    }
    const began = rose_ms ?? at_ms
    rose_ms = rise?.t_ms ?? began
    if (rise) {
      const was = long
      long = false
      return was ? { what: 'running-again', at_ms: rise.t_ms, seconds: since_s } : undefined
    }
    if (long || since_s <= limit_s) return undefined
    long = true
    return { what: 'long-cycle', at_ms, seconds: since_s }
  }
}
