// Every way the server says no, in one place: problem details (RFC 9457) with a stable code.
import type { Problem } from '@calm-loop/contract'
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
  readonly code: string
  readonly extra: Partial<Pick<Problem, 'fields' | 'current'>>
  constructor(status: number, code: string, says: string, extra: HttpProblem['extra'] = {}) {
    super(says)
    this.status = status
    this.code = code
    this.extra = extra
  }
}

export const notFound = (what: string) => new HttpProblem(404, 'not-found', `${what} is not here.`)

function problemOf(error: unknown): HttpProblem | undefined {
  if (error instanceof HttpProblem) return error
  if (error instanceof Refusal) return new HttpProblem(422, error.code, error.message)
  if (error instanceof z.ZodError)
    return new HttpProblem(400, 'invalid-input', 'Some of what was sent is missing or not of the right form.', {
      fields: error.issues.slice(0, 50).map((i) => ({ path: i.path.join('.') || 'body', rule: i.message })),
    })
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
  if (typeof status === 'number' && status >= 400 && status < 500)
    return new HttpProblem(status, 'invalid-input', String((error as Error).message))
  if (code === 'ECONNREFUSED' || code === 'ECONNRESET' || code?.startsWith('57') || code?.startsWith('08'))
    return new HttpProblem(
      503,
      'database-away',
      'The database cannot be reached just now. Nothing was stored; try again.',
    )
  return undefined
}

/** Answers every error as problem details; what is not expected is logged and its text kept from the caller. */
export const answerProblem: ErrorRequestHandler = (error, req, res, next) => {
  if (res.headersSent) return next(error)
  const cause = (error as { cause?: unknown }).cause
  const problem =
    problemOf(error) ??
    (cause ? problemOf(cause) : undefined) ??
    new HttpProblem(500, 'internal', 'The error is in the log with this request’s id. Nothing was stored.')
  if (problem.status >= 500) req.log?.error({ err: error }, 'request failed')
  const body: Problem = {
    type: 'about:blank',
    title: TITLES[problem.status] ?? 'Refused',
    status: problem.status,
    detail: problem.message,
    code: problem.code,
    ...problem.extra,
  }
  res.status(problem.status).type('application/problem+json').send(JSON.stringify(body))
}
