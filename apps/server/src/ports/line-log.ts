// Everything said over a line, the newest of it: bytes and what they mean.
import type { LineLogEntry } from '@calm-loop/contract'
import { hexOf } from '@calm-loop/core/bytes'
import { decodePayload, knowsPayload, readFrame, readStatus } from '@calm-loop/core/hart'
import { attempt, Refusal } from '@calm-loop/core/refusal'

const KEPT = 4000

/** What a frame says, in one line. */
export function meaningOf(bytes: Uint8Array): string {
  const frame = readFrame(bytes)
  if (typeof frame === 'string') return frame === 'incomplete' ? 'part of a frame' : 'no frame'
  const who = 'short' in frame.address ? `address ${frame.address.short}` : `device ${frame.address.long}`
  const sum = frame.checksumOk ? '' : ', check byte wrong'
  const master = frame.master === 'primary' ? '' : ', other master'
  const [status] = frame.status ? [readStatus(...frame.status)] : []
  const code = status ? (status.code === null ? ', not understood' : status.code ? `, code ${status.code}` : '') : ''
  const flags = status?.device.length ? ` (${status.device.join(', ')})` : ''
  const direction = frame.type === 'request' ? 'request' : 'response'
  const fields =
    knowsPayload(frame.command) && frame.data.length
      ? attempt(() => decodePayload(frame.command, direction, frame.data))
      : undefined
  const carried =
    fields && !(fields instanceof Refusal)
      ? ` ${Object.entries(fields)
          .map(([k, v]) => `${k}=${typeof v === 'string' ? v : JSON.stringify(v)}`)
          .join(' ')}`
      : ''
  const kind = { request: 'ask', response: 'answer', burst: 'burst' }[frame.type]
  return `${kind} ${frame.command}, ${who}${master}${code}${sum}${flags}${carried}`.slice(0, 400)
}

export interface LineLog {
  add(way: LineLogEntry['way'], bytes: Uint8Array | undefined, says?: string): void
  after(seq: number): LineLogEntry[]
}

export function lineLog(): LineLog {
  let seq = 0
  const kept: {
    seq: number
    at_ms: number
    way: LineLogEntry['way']
    bytes: Uint8Array | undefined
    says: string | undefined
  }[] = []
  return {
    add(way, bytes, says) {
      kept.push({ seq: ++seq, at_ms: Date.now(), way, bytes: bytes && Uint8Array.from(bytes), says })
      if (kept.length > KEPT) kept.splice(0, kept.length - KEPT)
    },
    after: (from) =>
      kept
        .filter((e) => e.seq > from)
        .slice(-1000)
        .map(({ bytes, says, ...e }) => ({
          ...e,
          hex: bytes ? hexOf(bytes) : '',
          says: says ?? (bytes ? meaningOf(bytes) : ''),
        })),
  }
}
