// The ports of this server: which there are, and those that are worked with.
import { Refusal } from '@calm-loop/core/refusal'
import type pg from 'pg'
import type { Database } from '../db/database.ts'
import { HttpProblem } from '../http/problems.ts'
import { holdsFor } from './holds.ts'
import { lineLog, type LineLog } from './line-log.ts'
import { listPorts, rememberAdapter, standInAt, type KnownPort, type StandIns } from './registry.ts'
import { openSession } from './session.ts'
import type { Session } from './session-parts.ts'

export interface Ports {
  list(): Promise<KnownPort[]>
  /** @throws HttpProblem 404 */
  port(id: string): Promise<KnownPort>
  session(id: string): Promise<Session>
  logOf(id: string): LineLog
  /** Which stand-in answers at a host and port. */
  standInAt(host: string, port: number): Promise<string | undefined>
  /** Lets a port go that is to be opened another way. @throws HttpProblem `link-busy` */
  letGo(id: string, protocol: 'hart' | 'modbus'): void
  /** Takes a port for one piece of work that is no session. @throws HttpProblem */
  holding<T>(id: string, work: (port: KnownPort) => Promise<T>): Promise<T>
  closeAll(): Promise<void>
}

export function portsFor(db: Database, pool: pg.Pool, standIns: StandIns): Ports {
  const holds = holdsFor(pool)
  const sessions = new Map<string, Session>()
  const logs = new Map<string, LineLog>()
  const logOf = (id: string) => {
    const log = logs.get(id) ?? lineLog()
    logs.set(id, log)
    return log
  }
  const port = async (id: string) => {
    const found = (await listPorts(db, standIns)).find((p) => p.id === id)
    if (!found) throw new HttpProblem(404, 'not-found', 'This port is not there any more. Plug it in, and look again.')
    return found
  }
  const hold = async (p: KnownPort, lost: () => void) => {
    const right = await holds.hold(p.id, lost)
    if (!right)
      throw new HttpProblem(
        503,
        'port-taken',
        `${p.label} is held already: by another server of this installation, or by other work on this one.`,
      )
    await rememberAdapter(db, p)
    return right
  }
  return {
    list: () => listPorts(db, standIns),
    port,
    logOf,
    standInAt: (host, at) => standInAt(host, at, standIns),
    letGo(id, protocol) {
      const session = sessions.get(id)
      if (!session) return
      session.refuseBusy()
      // Whoever looks at it goes on looking, unless it speaks something else from now on.
      if (protocol === 'hart') session.leave()
      else session.close()
    },
    async session(id) {
      const known = sessions.get(id)
      if (known) return known
      const found = await port(id)
      if (found.protocol !== 'hart') throw new Refusal('unsupported', 'This port speaks Modbus: read its registers.')
      const session = openSession({
        db,
        port: found,
        found: () => port(id),
        log: logOf(id),
        hold: (lost) => hold(found, lost),
        closed: () => sessions.delete(id),
      })
      sessions.set(id, session)
      return session
    },
    async holding(id, work) {
      const found = await port(id)
      const right = await hold(found, () => undefined)
      try {
        return await work(found)
      } finally {
        right.release()
      }
    },
    async closeAll() {
      for (const session of [...sessions.values()]) session.close()
      await holds.close()
    },
  }
}
