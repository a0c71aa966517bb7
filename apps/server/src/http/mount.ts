// Mounting an endpoint of the contract: who may call it, what it must be sent, what it answers.
import { endpoints, type Access, type Endpoint, type EndpointName, type Person, type Role } from '@calm-loop/contract'
import express, { type Express, type Request, type RequestHandler, type Response } from 'express'
import type { z } from 'zod'
import { HttpProblem } from './problems.ts'

type Of<N extends EndpointName> = (typeof endpoints)[N]

export interface Call<N extends EndpointName> {
  readonly params: z.output<Of<N>['params']>
  readonly query: z.output<Of<N>['query']>
  readonly body: z.output<Of<N>['body']>
  readonly req: Request
  readonly res: Response
  /** Who is signed in; a route that is open to anyone must not rely on it. */
  readonly person: Person
}

/** The session's person, put on the request by `auth/`. */
export interface SignedInRequest extends Request {
  person?: Person
}

function mayCall(access: Access, person: Person | undefined): void {
  if (access === 'anyone') return
  if (!person) throw new HttpProblem(401, 'not-signed-in', 'Sign in to do this. What you typed is kept.')
  if (access !== 'signed-in' && !person.roles.includes(access as Role))
    throw new HttpProblem(403, 'wrong-role', `Only a ${access} may do this.`)
}

/** UTF-8 text of a raw body; a byte order mark is dropped, any other encoding refused. */
function decodeText(body: unknown): string {
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(Buffer.isBuffer(body) ? body : Buffer.alloc(0))
  } catch {
    throw new HttpProblem(
      422,
      'not-utf-8',
      'This file is not UTF-8 text. Save it again as UTF-8 and send that. Nothing was stored.',
    )
  }
}

export interface Guards {
  /** Looks up the session and its person. */
  readonly session: RequestHandler[]
  /** Refuses a write without the session's token. */
  readonly csrf: RequestHandler
}

export type Mount = <N extends EndpointName>(
  name: N,
  handler: (call: Call<N>) => Promise<z.input<Of<N>['response']> | void>,
  ...extra: RequestHandler[]
) => void

/** A function that mounts endpoints on `app`. An endpoint with a `media` answers for itself through `res`. */
export function mounter(app: Express, guards: Guards): Mount {
  return (name, handler, ...extra) => {
    const e: Endpoint = endpoints[name]
    const limit = e.bodyLimit ?? '1mb'
    const parse = e.rawBody ? express.raw({ type: () => true, limit }) : express.json({ limit, strict: false })
    const guarded = e.stateless ? [] : [...guards.session, ...(e.method === 'get' ? [] : [guards.csrf])]
    const allow: RequestHandler = (req, _res, next) => {
      mayCall(e.access, (req as SignedInRequest).person)
      next()
    }
    const answer: RequestHandler = async (req, res) => {
      const result = await handler({
        params: e.params.parse(req.params),
        query: e.query.parse(req.query),
        body: e.rawBody ? decodeText(req.body) : e.body.parse(req.body),
        req,
        res,
        person: (req as SignedInRequest).person!,
      } as never)
      if (e.media || res.headersSent) return
      if (result === undefined) res.status(204).end()
      else res.json(result)
    }
    app[e.method](e.path, ...guarded, allow, parse, ...extra, answer)
  }
}

/** Opens an event stream and returns how to send to it; `closed` runs when the page goes away. */
export function openEventStream(res: Response, closed: () => void): (event: string, data: unknown) => void {
  res.writeHead(200, { 'content-type': 'text/event-stream', 'cache-control': 'no-store', 'x-accel-buffering': 'no' })
  res.write('retry: 1000\n\n')
  const beat = setInterval(() => res.write(': \n\n'), 15_000)
  res.on('close', () => {
    clearInterval(beat)
    closed()
  })
  return (event, data) => void res.write(`event: ${event}\ndata: ${JSON.stringify(data)}\n\n`)
}
