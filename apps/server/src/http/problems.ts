// Every way the server says no, in one place: problem details (RFC 9457) with a stable code.
import { acceptedInstead, isProblemCode, type Problem, type ProblemCode } from '@calm-loop/contract'
import { Refusal } from '@calm-loop/core/refusal'
import type { ErrorRequestHandler } from 'express'
import { z } from 'zod'

const TITLES: Record<number, string> = {
  400: 'Not understood',
  401: 'Sign in first',
  403: 'Not allowed',
  404: 'Not found',
  409: 'In conflict with what is on record',
  413: 'Too large',
  415: 'Wrong kind of content',
  422: 'Refused',
  429: 'Too many tries',
  500: 'Something broke on the server',
  503: 'The database cannot be reached',
  504: 'The device does not answer',
}

/** An answer other than the one asked for. */
export class HttpProblem extends Error {
  readonly status: number
  readonly code: ProblemCode
  readonly extra: Partial<Pick<Problem, 'fields' | 'current'>> & { retryAfter_s?: number }
  constructor(status: number, code: ProblemCode, says: string, extra: HttpProblem['extra'] = {}) {
    super(says)
    this.status = status
    this.code = code
    this.extra = extra
  }
}

export const idReused = (what = 'Something else is already on record under this id.') =>
  new HttpProblem(409, 'id-reused', what)

export const notFound = (what: string) => new HttpProblem(404, 'not-found', `${what} is not here.`)

/** Codes of the network and messages of the driver that mean: the database is away, or about to be. */
const AWAY_CODES = new Set([
  'ECONNREFUSED',
  'ECONNRESET',
  'EPIPE',
  'ETIMEDOUT',
  'ENOTFOUND',
  'EAI_AGAIN',
  '25006',
  '40001',
  '40P01',
])
const AWAY_WORDS =
  /connection terminated|timeout exceeded when trying to connect|client has encountered a connection error|not queryable|query read timeout|Cannot use a pool after calling end/i

/** Whether an error, or what caused it, says that the database cannot be reached or has just been lost. */
export function isDatabaseAway(error: unknown): boolean {
  for (
    let e = error as { code?: unknown; message?: unknown; cause?: unknown } | undefined;
    e;
    e = e.cause as typeof e
  ) {
    const code = typeof e.code === 'string' ? e.code : ''
    if (AWAY_CODES.has(code) || /^(08|53|57|58)/.test(code)) return true
    if (typeof e.message === 'string' && AWAY_WORDS.test(e.message)) return true
  }
  return false
}

/** Refusals of the database's own functions: a status, a code and words. */
function refusedByFunction(error: unknown): HttpProblem | undefined {
  const { code, message } = error as { code?: string; message?: string }
  const [name, says] = message?.split('|') ?? []
  return code?.startsWith('CL') && isProblemCode(name) && says
    ? new HttpProblem(Number(code.slice(2)), name, says)
    : undefined
}

/** What PostgreSQL refuses because of what was sent, by the class of its code. */
function refusedByDatabase(code: string): HttpProblem | undefined {
  if (code === '23505')
    return new HttpProblem(409, 'id-reused', 'Something else is already on record under this id or name.')
  if (code === '23503') return new HttpProblem(409, 'unknown-reference', 'This names something that is not on record.')
  if (code.startsWith('22') || code.startsWith('23'))
    return new HttpProblem(400, 'invalid-input', 'A figure, date or text in it is beyond what can be kept.')
  return undefined
}

/** What a schema refuses, by field and rule. */
export const invalidInput = (error: z.ZodError): HttpProblem =>
  new HttpProblem(400, 'invalid-input', 'Some of what was sent is missing or not of the right form.', {
    fields: error.issues.slice(0, 50).map((i) => ({ path: i.path.join('.') || 'body', rule: i.message })),
  })

function problemOf(error: unknown): HttpProblem | undefined {
  if (error instanceof HttpProblem) return error
  if (error instanceof Refusal) return new HttpProblem(422, error.code, error.message)
  if (error instanceof z.ZodError) return invalidInput(error)
  const { type, status, code } = error as { type?: string; status?: number; code?: string }
  if (type === 'entity.too.large')
    return new HttpProblem(413, 'too-large', 'This is larger than anything this address takes. Nothing was stored.')
  if (type === 'entity.parse.failed')
    return new HttpProblem(400, 'invalid-input', 'The body is not JSON, or it ends too early.')
  if (code === 'EBADCSRFTOKEN')
    return new HttpProblem(
      403,
      'stale-page',
      'This page is older than your session. Reload it; what you typed is kept.',
    )
  if (error instanceof URIError) return new HttpProblem(400, 'invalid-input', 'The address is not written correctly.')
  if (typeof status === 'number' && status >= 400 && status < 500)
    return new HttpProblem(status, 'invalid-input', String((error as Error).message))
  if (isDatabaseAway(error)) return databaseAway()
  return refusedByFunction(error) ?? (typeof code === 'string' ? refusedByDatabase(code) : undefined)
}

export const databaseAway = (): HttpProblem =>
  new HttpProblem(503, 'database-away', 'The database cannot be reached just now. Nothing was stored; try again.')

/** What an error is told as: problem details, and their headers. */
export function toldAs(error: unknown): { readonly problem: Problem; readonly headers: Record<string, string> } {
  const cause = (error as { cause?: unknown }).cause
  const found =
    problemOf(error) ??
    (cause ? problemOf(cause) : undefined) ??
    new HttpProblem(500, 'internal', 'The error is in the log with this request’s id. Nothing was stored.')
  const { retryAfter_s, ...extra } = found.extra
  const later = retryAfter_s ?? (found.status === 503 ? 1 : undefined)
  return {
    problem: {
      type: 'about:blank',
      title: TITLES[found.status] ?? 'Refused',
      status: found.status,
      detail: found.message,
      code: found.code,
      accepted: acceptedInstead(found.code),
      ...extra,
    },
    headers: later === undefined ? {} : { 'retry-after': String(later) },
  }
}

/** Answers every error as problem details; what is not expected is logged and its text kept from the caller. */
export const answerProblem: ErrorRequestHandler = (error, req, res, _next) => {
  if (res.headersSent) {
    // Half an answer is cut off, so that nobody takes it for a whole one.
    req.log?.error({ err: error }, 'request failed after its answer had begun')
    return void res.destroy()
  }
  const { problem, headers } = toldAs(error)
  if (problem.status === 500) req.log?.error({ err: error }, 'request failed')
  for (const [name, value] of Object.entries(headers)) res.set(name, value)
  res.status(problem.status).type('application/problem+json').send(JSON.stringify(problem))
}
