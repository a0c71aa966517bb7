// Event streams that are open: whose they are, so that they end with the session, and what all of them are told.
import { createHash } from 'node:crypto'
import type { Request, Response } from 'express'
import type { SessionsEnded } from '../services/events.ts'

const BEAT_ms = 15_000

/** A session as others may name it: its own id is a secret. */
export const publicSessionId = (sid: string): string => createHash('sha256').update(sid).digest('hex').slice(0, 16)

interface Open {
  readonly personId: string
  readonly sid: string
  readonly res: Response
}

export interface Streams {
  /** Opens a stream and returns how to send to it; `closed` runs when the page goes away. */
  open(res: Response, closed: () => void): (event: string, data: unknown) => void
  /** Ends the streams of sessions that have ended. */
  end(ended: SessionsEnded): void
  tellAll(event: string, data: unknown): void
  /** Told to all, and to whoever opens a stream while it is away. */
  database(here: boolean): void
  /** Ends those whose session is not in `alive` (by session id). */
  keepOnly(alive: ReadonlySet<string>): void
  sessionIds(): string[]
}

/** A reader that leaves so much unread is let go: its page asks again when it reads again. */
export const MOST_UNREAD_B = 512 * 1024

/** Words of what many are told, and nobody changes any more, are made once. */
const said = new WeakMap<object, string>()
function textOf(data: unknown): string {
  if (typeof data !== 'object' || data === null || !Object.isFrozen(data)) return JSON.stringify(data)
  const text = said.get(data) ?? JSON.stringify(data)
  said.set(data, text)
  return text
}

function write(res: Response, event: string, data: unknown): void {
  res.write(`event: ${event}\ndata: ${textOf(data)}\n\n`)
  if (res.writableLength > MOST_UNREAD_B) res.destroy()
}

export function makeStreams(): Streams {
  const all = new Set<Open>()
  let away = false
  const tellAll = (event: string, data: unknown) => all.forEach(({ res }) => write(res, event, data))
  const finish = (stream: Open) => {
    write(stream.res, 'session', { ended: true })
    stream.res.end()
  }
  return {
    open(res, closed) {
      const req = res.req as Request & { person?: { id: string } }
      const stream = { personId: req.person?.id ?? '', sid: req.sessionID, res }
      res.writeHead(200, {
        'content-type': 'text/event-stream',
        'cache-control': 'no-store',
        'x-accel-buffering': 'no',
      })
      res.write('retry: 1000\n\n')
      if (away) write(res, 'server', { database: 'away' })
      all.add(stream)
      const beat = setInterval(() => res.write(': \n\n'), BEAT_ms)
      res.on('close', () => {
        clearInterval(beat)
        all.delete(stream)
        closed()
      })
      return (event, data) => write(res, event, data)
    },
    end({ personId, only, but }) {
      for (const stream of all) {
        const id = publicSessionId(stream.sid)
        if (stream.personId === personId && (only === undefined || only === id) && but !== id) finish(stream)
      }
    },
    tellAll,
    database(here) {
      away = !here
      tellAll('server', { database: here ? 'here' : 'away' })
    },
    keepOnly: (alive) => all.forEach((stream) => !alive.has(stream.sid) && finish(stream)),
    sessionIds: () => [...new Set([...all].map((s) => s.sid))],
  }
}
