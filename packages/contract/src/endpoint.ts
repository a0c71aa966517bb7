// What a route declares, once: who may call it, what it takes, what it answers.
import { z } from 'zod'
import type { Duty, Role } from './people.ts'
import { Id } from './primitives.ts'

/** Who may call: anyone; anyone signed in; only people with the role; those to whom the site gives the duty. */
export type Access = 'anyone' | 'signed-in' | Role | `duty:${Duty}`

/** What a route answers with when it is not JSON. */
export type Media =
  | 'application/pdf'
  | 'application/zip'
  | 'text/csv'
  | 'text/calendar'
  | 'application/json'
  | 'text/event-stream'
  | 'text/html'
  | 'image/svg+xml'
  | 'image/webp'
  | 'application/octet-stream'

export interface Endpoint<
  P extends z.ZodType = z.ZodType,
  Q extends z.ZodType = z.ZodType,
  B extends z.ZodType = z.ZodType,
  R extends z.ZodType = z.ZodType,
> {
  readonly method: 'get' | 'post' | 'put' | 'delete'
  /** Express form, e.g. `/api/loops/:loopId`. */
  readonly path: string
  readonly summary: string
  readonly access: Access
  readonly params: P
  readonly query: Q
  readonly body: B
  readonly response: R
  readonly media?: Media
  /** Largest body, default 1 MB. */
  readonly bodyLimit?: string
  /** Body as raw text rather than JSON. */
  readonly rawBody?: boolean
  /** Body so large that reading and checking it is work for a thread of its own. */
  readonly heavy?: boolean
  /** Computes only: no session is looked at and no token is wanted. */
  readonly stateless?: boolean
}

const nothing = z.undefined()
const none = z.object({})

export function endpoint<
  P extends z.ZodType = typeof none,
  Q extends z.ZodType = typeof none,
  B extends z.ZodType = typeof nothing,
  R extends z.ZodType = typeof nothing,
>(
  e: Pick<
    Endpoint,
    'method' | 'path' | 'summary' | 'access' | 'media' | 'bodyLimit' | 'rawBody' | 'stateless' | 'heavy'
  > & {
    params?: P
    query?: Q
    body?: B
    response?: R
  },
): Endpoint<P, Q, B, R> {
  return {
    ...e,
    params: e.params ?? none,
    query: e.query ?? none,
    body: e.body ?? nothing,
    response: e.response ?? nothing,
  } as Endpoint<P, Q, B, R>
}

export const person = z.object({ personId: Id })
export const loop = z.object({ loopId: Id })
export const check = z.object({ loopId: Id, checkId: Id })
export const run = z.object({ loopId: Id, runId: Id })
/** For what volts are given: a loop current in mA (12 where it is not), or a target there (1) or not (0). */
export const atSignal = z.object({
  mA: z.coerce.number().min(0).max(25).optional(),
  target: z.enum(['0', '1']).optional(),
})
export const imported = z.strictObject({ added: z.array(z.string()), already: z.array(z.string()) })
