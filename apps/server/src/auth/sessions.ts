// Sign-in: sessions in the database, a cookie that stays on this site, a token with every write, and a limit on guessing.
import type { Person, Session } from '@calm-loop/contract'
import connectPgSimple from 'connect-pg-simple'
import { csrfSync } from 'csrf-sync'
import { eq } from 'drizzle-orm'
import type { Request, RequestHandler } from 'express'
import { ipKeyGenerator, rateLimit } from 'express-rate-limit'
import session from 'express-session'
import type pg from 'pg'
import type { Database } from '../db/database.ts'
import { people } from '../db/schema.ts'
import { HttpProblem } from '../http/problems.ts'
import type { Guards, SignedInRequest } from '../http/mount.ts'
import { readSetting } from '../services/settings.ts'

declare module 'express-session' {
  interface SessionData {
    personId?: string
  }
}

const WORKDAY_ms = 12 * 3600 * 1000

export const { generateToken, csrfSynchronisedProtection } = csrfSync({
  getTokenFromRequest: (req) => req.headers['x-csrf-token'] as string | undefined,
})

export function personOf(row: typeof people.$inferSelect): Person {
  return { id: row.id, name: row.name, signIn: row.signIn, roles: row.roles }
}

/** What every route but the stateless ones goes through. */
export function sessionGuards(db: Database, pool: pg.Pool, secret: string): Guards {
  const Store = connectPgSimple(session)
  const cookies = session({
    name: 'calm-loop',
    secret,
    resave: false,
    saveUninitialized: false,
    rolling: true,
    store: new Store({ pool, tableName: 'sessions', pruneSessionInterval: 3600 }),
    cookie: { httpOnly: true, sameSite: 'strict', secure: 'auto', maxAge: WORKDAY_ms },
  })
  const whoIsIt: RequestHandler = async (req, _res, next) => {
    const id = req.session.personId
    if (id) {
      const [row] = await db.select().from(people).where(eq(people.id, id))
      if (row) (req as SignedInRequest).person = personOf(row)
    }
    next()
  }
  return { session: [cookies, whoIsIt], csrf: csrfSynchronisedProtection }
}

/** Ten wrong passwords in a quarter of an hour from one address for one name; right ones do not count. */
export const signInLimit: RequestHandler = rateLimit({
  windowMs: 15 * 60_000,
  limit: 10,
  skipSuccessfulRequests: true,
  standardHeaders: 'draft-8',
  legacyHeaders: false,
  keyGenerator: (req) =>
    `${ipKeyGenerator(req.ip ?? '')} ${String((req.body as { signIn?: string } | undefined)?.signIn ?? '').toLowerCase()}`,
  handler: () => {
    throw new HttpProblem(
      429,
      'too-many-tries',
      'Too many wrong passwords. Wait a quarter of an hour, or ask a reviewer.',
    )
  },
})

/** Starts a fresh session for a person, so that a session id from before signing in is worth nothing. */
export function startSession(req: Request, personId: string): Promise<void> {
  return new Promise((resolve, reject) =>
    req.session.regenerate((error) => {
      if (error) return reject(error)
      req.session.personId = personId
      resolve()
    }),
  )
}

/** What the page needs to know about its session. */
export async function describeSession(db: Database, req: Request, person: Person | null): Promise<Session> {
  const everyone = await db.select().from(people)
  const demo = await readSetting<{ password: string }>(db, 'demo')
  return {
    person,
    csrfToken: generateToken(req),
    empty: !everyone.some((row) => row.passwordHash !== null),
    demo: demo ? { people: everyone.filter((row) => row.demo).map(personOf), password: demo.password } : null,
  }
}
