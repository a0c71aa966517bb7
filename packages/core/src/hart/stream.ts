// Frames out of a stream of bytes that comes in pieces, glued together, or with noise.
import { readFrame, startOf, type Received } from './frame.ts'

/** More than the longest frame with its preambles and some noise. */
const MOST = 1024

export interface HartStream {
  /** What has come and is no whole frame yet. */
  readonly held: Uint8Array
  readonly at_ms: number
}
export const EMPTY_STREAM: HartStream = { held: new Uint8Array(), at_ms: 0 }

export interface StreamStep {
  readonly stream: HartStream
  readonly frames: readonly Received[]
  /** Bytes that belong to no frame. */
  readonly junk: number
}

/** Takes whole frames off the front. `ended`: no more bytes of what is held will come. */
function taken(bytes: Uint8Array, ended: boolean): { rest: Uint8Array; frames: Received[]; junk: number } {
  const frames: Received[] = []
  let rest = bytes
  let junk = 0
  for (;;) {
    const found = readFrame(rest)
    const start = startOf(rest)
    if (typeof found !== 'string' && found.checksumOk) {
      frames.push(found)
      rest = rest.subarray(found.used)
    } else if (start < 0) {
      if (!ended) break
      return { rest: rest.subarray(rest.length), frames, junk: junk + rest.length }
    } else if (found === 'incomplete' && !ended) break
    else {
      // Damaged, or never one: what looked like its inside may be a frame.
      junk += start + 1
      rest = rest.subarray(start + 1)
    }
  }
  return { rest, frames, junk }
}

/**
 * Bytes that came at a time. Silence longer than `gap_ms` ends what was held: frames inside it are given, the rest is
 * thrown away. Call it without bytes to let silence do its work.
 */
export function feed(stream: HartStream, bytes: Uint8Array, now_ms: number, gap_ms: number): StreamStep {
  const silent = stream.held.length > 0 && now_ms - stream.at_ms > gap_ms
  const old = silent ? taken(stream.held, true) : { rest: stream.held, frames: [], junk: 0 }
  const glued = new Uint8Array(old.rest.length + bytes.length)
  glued.set(old.rest)
  glued.set(bytes, old.rest.length)
  const now = taken(glued, false)
  const over = Math.max(0, now.rest.length - MOST)
  return {
    stream: { held: now.rest.slice(over), at_ms: bytes.length ? now_ms : stream.at_ms },
    frames: [...old.frames, ...now.frames],
    junk: old.junk + now.junk + over,
  }
}
