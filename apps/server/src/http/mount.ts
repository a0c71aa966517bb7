// Mounting an endpoint of the contract: who may call it, what it must be sent, what it answers.
import {
  endpoints,
  type Access,
  type Duty,
  type Endpoint,
  type EndpointName,
  type Person,
  type Role,
} from '@calm-loop/contract'
import express, { type Express, type Request, type RequestHandler, type Response } from 'express'
import type { z } from 'zod'
import { HttpProblem } from './problems.ts'
import { refuseUnstorable } from './storable.ts'
import type { Streams } from './streams.ts'
import { sure } from '@calm-loop/core/sure'

type Of<N extends EndpointName> = (typeof endpoints)[N]

export interface Call<N extends EndpointName> {
  readonly params: z.output<Of<N>['params']>
  readonly query: z.output<Of<N>['query']>
  /** Parsed; bytes where the endpoint takes a file. */
  readonly body: z.output<Of<N>['body']> extends string ? Uint8Array : z.output<Of<N>['body']>
  readonly req: Request
  readonly res: Response
  /** Who is signed in; a route that is open to anyone must not rely on it. */
  readonly person: Person
  /** Ends when the one who asked has gone away. */
  readonly signal: AbortSignal
  /** How long a write waited on its device before it could be sent, ms; 0 where it was sent at once. */
  readonly waited_ms: number
}

/** The session's person, put on the request by `auth/`. */
export interface SignedInRequest extends Request {
  person?: Person | undefined
}

export interface Guards {
  /** Looks up the session and its person. */
  readonly session: RequestHandler[]
  /** The same for what leaves the session as it is. */
  readonly looking: RequestHandler[]
  /** Refuses a write without the session's token. */
  readonly csrf: RequestHandler
  /** Reads and checks a heavy body, away from the event loop. */
  readonly parseHeavy: (name: EndpointName, bytes: Uint8Array, signal: AbortSignal) => Promise<unknown>
  /** Holds every answer against the contract before it goes out: in tests and in development. */
  readonly proveAnswers: boolean
  /** To which role the site gives a duty. */
  readonly roleOf: (duty: Duty) => Promise<Role>
}

/** An answer as its page will read it, which must be one of the contract. */
function proved(name: EndpointName, schema: z.ZodType, result: unknown): unknown {
  const read = schema.safeParse(JSON.parse(JSON.stringify(result)))
  if (!read.success) throw new Error(`The answer of ${name} is not of the contract: ${read.error.message}`)
  return result
}

async function mayCall(access: Access, person: Person | undefined, guards: Guards): Promise<void> {
  if (access === 'anyone') return
  if (!person) throw new HttpProblem(401, 'not-signed-in', 'Sign in to do this. What you typed is kept.')
  if (access === 'signed-in') return
  const role = access.startsWith('duty:') ? await guards.roleOf(access.slice(5) as Duty) : (access as Role)
  if (!person.roles.includes(role)) throw new HttpProblem(403, 'wrong-role', `Only a ${role} may do this.`)
}

/** A write by someone without a session carries no token: then the browser must say that its page is ours. */
const fromOwnPage: RequestHandler = (req, _res, next) => {
  const site = req.headers['sec-fetch-site']
  const origin = req.headers.origin
  const other =
    (site !== undefined && site !== 'same-origin' && site !== 'none') ||
    (origin !== undefined && (!URL.canParse(origin) || new URL(origin).host !== req.host))
  if (other) throw new HttpProblem(403, 'other-page', 'This was sent from a page of another site.')
  next()
}

export type Mount = <N extends EndpointName>(
  name: N,
  handler: (call: Call<N>) => Promise<z.input<Of<N>['response']> | void>,
  ...extra: RequestHandler[]
) => void

/** A write as it would have come by itself. */
export interface AloneWrite {
  readonly endpoint: EndpointName
  readonly params: Record<string, string>
  readonly body: unknown
  readonly waited_ms: number
}
/** Does a write of another request in its place, with all that is asked of who writes and of what is written. */
export type DoOne = (write: AloneWrite, of: Pick<Call<EndpointName>, 'req' | 'res' | 'signal'>) => Promise<unknown>

/** Nothing waits longer than that, ms. */
const LONGEST_WAIT_ms = 400 * 24 * 3_600_000
const waitedIn = (req: Request): number => waitedSo(Number(req.headers['x-waited-ms'] ?? 0))
function waitedSo(told: number): number {
  return Number.isFinite(told) && told > 0 && told <= LONGEST_WAIT_ms ? Math.floor(told) : 0
}

function signalOf(res: Response): AbortSignal {
  const gone = new AbortController()
  res.on('close', () => {
    if (!res.writableFinished) gone.abort()
  })
  return gone.signal
}

/** What begins, ends or changes a session; asking for it gives it its token. */
const OF_THE_SESSION = new Set<EndpointName>([
  ...(['session', 'signIn', 'signOut', 'firstPerson', 'useReset', 'changePassword'] as const),
])

/**
 * How endpoints are mounted on `app`; one with a `media` answers for itself through `res`. And how one that is mounted,
 * by its name, does what came with others.
 */
export function mounter(app: Express, guards: Guards): { readonly mount: Mount; readonly doOne: DoOne } {
  const mounted = new Map<EndpointName, DoOne>()
  const mount: Mount = (name, handler, ...extra) => {
    const e: Endpoint = endpoints[name]
    const prove = (result: unknown) => (guards.proveAnswers ? proved(name, e.response, result) : result)
    const limit = e.bodyLimit ?? '1mb'
    const parse =
      e.rawBody || e.heavy ? express.raw({ type: () => true, limit }) : express.json({ limit, strict: false })
    const writes = e.method !== 'get'
    const asked = OF_THE_SESSION.has(name) ? guards.session : guards.looking
    const guarded = e.stateless ? [] : [...(writes && e.access === 'anyone' ? [fromOwnPage] : []), ...asked]
    const allow: RequestHandler = async (req, _res, next) => {
      await mayCall(e.access, (req as SignedInRequest).person, guards)
      next()
    }
    const token = writes && !e.stateless && e.access !== 'anyone' ? [guards.csrf] : []
    const bodyOf = (req: Request, signal: AbortSignal): unknown => {
      const bytes = Buffer.isBuffer(req.body) ? req.body : Buffer.alloc(0)
      if (e.heavy) return guards.parseHeavy(name, bytes, signal)
      if (e.rawBody) return bytes
      refuseUnstorable(req.body)
      return e.body.parse(req.body)
    }
    const answer: RequestHandler = async (req, res) => {
      refuseUnstorable(req.params, req.query)
      const signal = signalOf(res)
      const result = await handler({
        // Each read by its schema, a heavy body by a thread that has it; a file's bytes are taken as they are.
        params: e.params.parse(req.params) as Call<typeof name>['params'],
        query: e.query.parse(req.query) as Call<typeof name>['query'],
        body: (await bodyOf(req, signal)) as Call<typeof name>['body'],
        req,
        res,
        // A route that anybody may call must not ask who does.
        get person() {
          return sure((req as SignedInRequest).person)
        },
        signal,
        waited_ms: waitedIn(req),
      })
      if (e.media || res.headersSent) return
      if (result === undefined) res.status(204).end()
      else res.json(prove(result))
    }
    app[e.method](e.path, ...guarded, allow, ...token, parse, ...extra, answer)
    // What is guarded by more than its own schema comes by itself.
    if (extra.length || e.heavy || e.rawBody || e.media) return
    mounted.set(name, async ({ params, body, waited_ms }, { req, res, signal }) => {
      const { person } = req as SignedInRequest
      await mayCall(e.access, person, guards)
      refuseUnstorable(params, body)
      const result = await handler({
        params: e.params.parse(params) as Call<typeof name>['params'],
        query: e.query.parse({}) as Call<typeof name>['query'],
        body: e.body.parse(body) as Call<typeof name>['body'],
        ...{ req, res, signal, person: sure(person), waited_ms: waitedSo(waited_ms) },
      })
      return prove(result)
    })
  }
  return { mount, doOne: (write, of) => sure(mounted.get(write.endpoint))(write, of) }
}

/** Opens an event stream and returns how to send to it; `closed` runs when the page goes away. */
export function openEventStream(res: Response, closed: () => void): (event: string, data: unknown) => void {
  return (res.app.locals as { streams: Streams }).streams.open(res, closed)
}
