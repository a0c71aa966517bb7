// Talking to the server: one typed call for every endpoint of the contract.
import { endpoints, type Endpoint, type EndpointName, type Problem } from '@calm-loop/contract'
import type { z } from 'zod'

type Of<N extends EndpointName> = (typeof endpoints)[N]

/** A refusal by the server, or by the network (`no-network`). */
export class ApiProblem extends Error {
  readonly status: number
  readonly code: string
  readonly fields: NonNullable<Problem['fields']>
  readonly current: unknown
  constructor(problem: Partial<Problem> & { code: string; detail?: string | undefined; status: number }) {
    super(problem.detail ?? problem.title ?? 'The server refused this.')
    this.status = problem.status
    this.code = problem.code
    this.fields = problem.fields ?? []
    this.current = problem.current
  }
}

let csrfToken = ''
/** Keeps the token that goes with every write. */
export function rememberToken(token: string): void {
  csrfToken = token
}

/** Address of an endpoint with its parameters filled in. */
export function addressOf(
  name: EndpointName,
  params: Record<string, string> = {},
  query: Record<string, unknown> = {},
): string {
  const path = endpoints[name].path.replace(/:(\w+)/g, (_, key: string) => encodeURIComponent(params[key] ?? ''))
  const filled = Object.entries(query).filter(([, v]) => v !== undefined && v !== '' && v !== null)
  return filled.length ? `${path}?${new URLSearchParams(filled.map(([k, v]) => [k, String(v)]))}` : path
}

interface Sent<N extends EndpointName> {
  params?: z.input<Of<N>['params']>
  query?: z.input<Of<N>['query']>
  body?: z.input<Of<N>['body']>
}

async function send(e: Endpoint, address: string, body: unknown): Promise<Response> {
  try {
    return await fetch(address, {
      method: e.method.toUpperCase(),
      headers: {
        ...(body === undefined ? {} : { 'content-type': e.rawBody ? 'application/octet-stream' : 'application/json' }),
        ...(e.method === 'get' ? {} : { 'x-csrf-token': csrfToken }),
      },
      ...(body === undefined ? {} : { body: e.rawBody ? (body as BodyInit) : JSON.stringify(body) }),
    })
  } catch {
    throw new ApiProblem({
      status: 0,
      code: 'no-network',
      detail: 'The server cannot be reached. What you typed is kept.',
    })
  }
}

/** Calls an endpoint. @throws ApiProblem */
export async function call<N extends EndpointName>(name: N, sent: Sent<N> = {}): Promise<z.output<Of<N>['response']>> {
  const e: Endpoint = endpoints[name]
  const address = addressOf(name, sent.params as Record<string, string>, sent.query as Record<string, unknown>)
  let response = await send(e, address, sent.body)
  if (response.status === 403 && e.method !== 'get') {
    // The session may have been renewed in another tab: fetch its token and try once more.
    const problem = (await response
      .clone()
      .json()
      .catch(() => ({}))) as Partial<Problem>
    if (problem.code === 'stale-page') {
      rememberToken(
        ((await (await send(endpoints.session as Endpoint, '/api/session', undefined)).json()) as { csrfToken: string })
          .csrfToken,
      )
      response = await send(e, address, sent.body)
    }
  }
  if (response.ok) return (response.status === 204 ? undefined : await response.json()) as z.output<Of<N>['response']>
  const problem = (await response.json().catch(() => ({}))) as Partial<Problem>
  throw new ApiProblem({
    ...problem,
    status: response.status,
    code: problem.code ?? 'no-network',
    detail: problem.detail ?? 'The server cannot be reached. What you typed is kept.',
  })
}
