// Sign-in: sessions in the database, a cookie that stays on this site, a token with every write; ended at once when
// their person changes.
import { SESSION_h, type OpenSession, type Person, type Session } from '@calm-loop/contract'
import connectPgSimple from 'connect-pg-simple'
import cookieParser from 'cookie-parser'
import { csrfSync } from 'csrf-sync'
import { and, desc, eq, gt, inArray, isNotNull, sql } from 'drizzle-orm'
import type { Request, RequestHandler, Response } from 'express'
import session from 'express-session'
import type pg from 'pg'
import type { Logger } from 'pino'
import type { Database, Queries } from '../db/database.ts'
import { people, sessions } from '../db/schema.ts'
import type { Guards, SignedInRequest } from '../http/mount.ts'
import { publicSessionId, type Streams } from '../http/streams.ts'
import { announceEnded } from '../services/events.ts'
import { readPractice } from '../services/judging.ts'
import { installationId, readDuties, readSetting } from '../services/settings.ts'
import { keptFor } from '../services/kept-for.ts'
import type { Workers } from '../workers/pool.ts'
import { BELIEVED_ms, KnownSessions } from './known-sessions.ts'

declare module 'express-session' {
  interface SessionData {
    personId?: string
    /** The person's stamp when it began: a person who has changed since has no session any more. */
    stamp?: number
    since?: string
    address?: string
    browser?: string
  }
}

const COOKIE = 'calm-loop'
/** A session lasts a working day from signing in, and not longer however much is done in it. */
const WORKDAY_ms = SESSION_h * 3600 * 1000

const { generateToken, csrfSynchronisedProtection } = csrfSync({
  getTokenFromRequest: (req) => req.headers['x-csrf-token'] as string | undefined,
})

export function personOf(row: typeof people.$inferSelect): Person {
  return { id: row.id, name: row.name, signIn: row.signIn, roles: row.roles }
}

/** What every route but the stateless ones goes through. */
export function sessionGuards({
  db,
  pool,
  secret,
  log,
  workers,
}: {
  readonly db: Database
  readonly pool: pg.Pool
  readonly secret: string
  readonly log: Logger
  readonly workers: Workers
}): Omit<Guards, 'proveAnswers'> & { forget(): void } {
  const Store = connectPgSimple(session)
  const known = new KnownSessions(
    new Store({
      pool,
      tableName: 'sessions',
      // Nothing is written by looking.
      disableTouch: true,
      pruneSessionInterval: 3600,
      errorLog: (...words: unknown[]) => log.warn({ says: String(words[0]) }, 'session store'),
    }),
  )
  const rows = keptFor(BELIEVED_ms, async (id) => (await db.select().from(people).where(eq(people.id, id)))[0])
  const cookies = session({
    name: COOKIE,
    secret,
    resave: false,
    // Who only looks leaves no session behind.
    saveUninitialized: false,
    // A working day from signing in, however much is done in it: the cookie is set once. Set with every answer, one
    // that was under way while somebody else signed in would bring the cookie of before back.
    rolling: false,
    store: known,
    cookie: { httpOnly: true, sameSite: 'strict', secure: 'auto', maxAge: WORKDAY_ms },
  })
  async function personIn({ personId, stamp, since }: Partial<session.SessionData>): Promise<Person | undefined> {
    const row = personId === undefined ? undefined : await rows.get(personId)
    const fresh = Date.now() - Date.parse(since ?? '') < WORKDAY_ms
    return row && fresh && !row.disabled && row.stamp === (stamp ?? 0) ? personOf(row) : undefined
  }
  const whoIsIt: RequestHandler = async (req, _res, next) => {
    ;(req as SignedInRequest).person = await personIn(req.session)
    next()
  }
  const readCookies = cookieParser(secret)
  /** Whose a cookie is, looked up once for the many requests that bring it. */
  const bearers = keptFor(BELIEVED_ms, async (header) => {
    const asked = { headers: { cookie: header } } as Request
    readCookies(asked, {} as Response, () => undefined)
    const sid: unknown = (asked.signedCookies as Record<string, unknown>)[COOKIE]
    const found = typeof sid === 'string' ? await known.look(sid) : null
    if (typeof sid !== 'string' || !found) return undefined
    return { sid, session: Object.freeze(found), person: await personIn(found) }
  })
  /** Where the session is left as it is, what is known of it does. */
  const whoLooks: RequestHandler = async (req, _res, next) => {
    const bearer = await bearers.get(req.headers.cookie ?? '')
    if (bearer) {
      req.sessionID = bearer.sid
      // With the token that a write is held against.
      req.session = bearer.session as Request['session']
      ;(req as SignedInRequest).person = bearer.person
    }
    next()
  }
  const parseHeavy: Guards['parseHeavy'] = (name, bytes, signal) => workers.run('parseBody', { name, bytes }, signal)
  const roleOf: Guards['roleOf'] = async (duty) => (await readDuties(db))[duty]
  const forget = () => {
    bearers.drop()
    known.forget()
    rows.drop()
  }
  return {
    session: [cookies, whoIsIt],
    looking: [whoLooks],
    csrf: csrfSynchronisedProtection,
    roleOf,
    parseHeavy,
    forget,
  }
}

/** Starts a fresh session for a person, so that a session id from before signing in is worth nothing. */
export async function startSession(db: Queries, req: Request, personId: string): Promise<void> {
  const [row] = await db.select({ stamp: people.stamp }).from(people).where(eq(people.id, personId))
  await new Promise<void>((resolve, reject) =>
    req.session.regenerate((error) => {
      if (error) return reject(error as Error)
      req.session.personId = personId
      req.session.stamp = row?.stamp ?? 0
      req.session.since = new Date().toISOString()
      req.session.address = (req.ip ?? '').slice(0, 80)
      req.session.browser = String(req.headers['user-agent'] ?? '')
        .replace(/\p{Cc}/gu, '')
        .slice(0, 300)
      resolve()
    }),
  )
}

/** What the page needs to know about its session. */
export async function describeSession(db: Database, req: Request, person: Person | null): Promise<Session> {
  const [someone] = await db.select({ id: people.id }).from(people).where(isNotNull(people.passwordHash)).limit(1)
  const demo = await readSetting<{ password: string }>(db, 'demo')
  const cast = demo
    ? await db
        .select()
        .from(people)
        .where(and(eq(people.demo, true), eq(people.disabled, false)))
    : []
  return {
    person,
    csrfToken: person ? generateToken(req) : '',
    empty: !someone,
    duties: await readDuties(db),
    decimalMark: (await readPractice(db)).decimalMark,
    ...(person ? { installation: await installationId(db) } : {}),
    demo: demo ? { people: cast.map(personOf), password: demo.password } : null,
  }
}

const ofPerson = (personId: string) => eq(sql`${sessions.sess}->>'personId'`, personId)

/** Open sessions of a person, the newest first. */
export async function listSessions(db: Queries, personId: string, here: string): Promise<OpenSession[]> {
  const [person] = await db.select().from(people).where(eq(people.id, personId))
  if (!person || person.disabled) return []
  const rows = await db
    .select()
    .from(sessions)
    .where(and(ofPerson(personId), gt(sessions.expire, sql`localtimestamp`)))
    .orderBy(desc(sessions.expire))
  return rows.flatMap(({ sid, sess, expire }) => {
    const kept = sess as { stamp?: number; since?: string; address?: string; browser?: string }
    if ((kept.stamp ?? 0) !== person.stamp) return []
    return [
      {
        id: publicSessionId(sid),
        since: kept.since ?? null,
        until: expire.toISOString(),
        address: kept.address ?? '',
        browser: kept.browser ?? '',
        here: sid === here,
      },
    ]
  })
}

/** Ends sessions of a person and their streams, on all servers: one by its public id, or all but `but`. */
export async function endSessions(
  db: Queries,
  personId: string,
  which: { only?: string; but?: string } = {},
): Promise<void> {
  const rows = await db.select({ sid: sessions.sid }).from(sessions).where(ofPerson(personId))
  const gone = rows
    .map((r) => r.sid)
    .filter(
      (sid) => (which.only === undefined || publicSessionId(sid) === which.only) && publicSessionId(sid) !== which.but,
    )
  if (gone.length) await db.delete(sessions).where(inArray(sessions.sid, gone))
  await announceEnded(db, { personId, ...which })
}

/** Ends streams whose session has gone or run out meanwhile, whatever was heard. */
export async function sweepStreams(db: Queries, streams: Streams): Promise<void> {
  const ids = streams.sessionIds()
  if (!ids.length) return
  const rows = await db
    .select({ sid: sessions.sid })
    .from(sessions)
    .innerJoin(people, eq(sql`${people.id}::text`, sql`${sessions.sess}->>'personId'`))
    .where(
      and(
        inArray(sessions.sid, ids),
        gt(sessions.expire, sql`localtimestamp`),
        eq(people.disabled, false),
        sql`(${sessions.sess}->>'since')::timestamptz > now() - make_interval(hours => ${SESSION_h})`,
        eq(sql`coalesce((${sessions.sess}->>'stamp')::int, 0)`, people.stamp),
      ),
    )
  streams.keepOnly(new Set(rows.map((r) => r.sid)))
}
