// Hostile hands at every route of the OpenAPI document: requests by chance from a seed, half of them bent. Whatever is
// sent, the server
// answers in words: never with a status of 500, never with something that is not its own, and it goes on.
import { bend, dice, NASTY, pick, valueFor, type Json, type Schema } from './shapes.ts'

interface Operation {
  operationId: string
  parameters?: { name: string; in: string; schema: Schema }[]
  requestBody?: { content: Record<string, { schema: Schema }> }
  responses: Record<string, { content?: Record<string, unknown> }>
}
export interface Report {
  readonly sent: number
  readonly byStatus: Readonly<Record<string, number>>
  /** What should not have been answered so: status, route and what was sent. */
  readonly bad: readonly string[]
}

/** Bodies that are no JSON, or not the right one. */
const GARBAGE = [
  '',
  '{',
  '[1,',
  'null',
  '"x"',
  '\u0000',
  '{"a":1}{"b":2}',
  '[[[[[[[[[[[[',
  '{"__proto__":{"x":1}}',
  '﻿{}',
  'a=b&c=d',
]
const TYPES = ['application/json', 'text/plain', 'application/x-www-form-urlencoded', 'multipart/form-data', '']

const asText = (value: Json): string =>
  (typeof value === 'string' ? value : JSON.stringify(value)).slice(0, 500).toWellFormed()

interface Route {
  method: string
  path: string
  operation: Operation
}

class Hand {
  private cookie = ''
  private token = ''
  private readonly base: string
  private readonly signInName: string
  private readonly password: string
  constructor(base: string, signInName: string, password: string) {
    this.base = base
    this.signInName = signInName
    this.password = password
  }
  async signIn(): Promise<void> {
    const answer = await fetch(`${this.base}/api/session`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ signIn: this.signInName, password: this.password }),
    })
    this.cookie = answer.headers.get('set-cookie')?.split(';')[0] ?? ''
    this.token = ((await answer.json()) as { csrfToken?: string }).csrfToken ?? ''
  }
  headers(): Record<string, string> {
    return { cookie: this.cookie, 'x-csrf-token': this.token }
  }
}

/** Sends `count` requests from a seed. */
export async function attack(
  base: string,
  {
    count,
    seed,
    signIn,
    password,
    ids = [],
  }: { count: number; seed: number; signIn: string; password: string; ids?: readonly string[] },
): Promise<Report> {
  const roll = dice(seed)
  const described = (await (await fetch(`${base}/api/openapi.json`)).json()) as {
    paths: Record<string, Record<string, Operation>>
  }
  const routes: Route[] = Object.entries(described.paths).flatMap(([path, methods]) =>
    Object.entries(methods).map(([method, operation]) => ({ method: method.toUpperCase(), path, operation })),
  )
  const hand = new Hand(base, signIn, password)
  await hand.signIn()
  const listed = await fetch(`${base}/api/loops?limit=50`, { headers: hand.headers() })
  const known = [...ids, ...((await listed.json()) as { loops: { id: string }[] }).loops.map((l) => l.id)]
  const byStatus: Record<string, number> = {}
  const bad: string[] = []

  const one = async (i: number): Promise<void> => {
    const { method, path, operation } = routes[i % routes.length]!
    const bent = roll() < 0.5
    const filled = path.replace(/\{(\w+)\}/g, (_, name: string) => {
      const parameter = operation.parameters?.find((p) => p.name === name)
      const value = bent && roll() < 0.3 ? pick(roll, NASTY) : valueFor(parameter?.schema ?? {}, roll, known)
      return encodeURIComponent(asText(value)) || 'x'
    })
    const query = (operation.parameters ?? [])
      .filter((p) => p.in === 'query' && roll() < 0.5)
      .map((p) => `${p.name}=${encodeURIComponent(asText(bent ? pick(roll, NASTY) : valueFor(p.schema, roll, known)))}`)
    const schema = Object.values(operation.requestBody?.content ?? {})[0]?.schema
    const fitting: Json = schema ? valueFor(schema, roll, known) : null
    const garbage = bent && roll() < 0.2
    const body =
      method === 'GET'
        ? undefined
        : garbage
          ? pick(roll, GARBAGE)
          : JSON.stringify(bent ? bend(fitting, roll) : fitting)
    const type = garbage && roll() < 0.3 ? pick(roll, TYPES) : 'application/json'
    const abort = new AbortController()
    const late = setTimeout(() => abort.abort(), 60_000)
    let said: string
    try {
      const answer = await fetch(`${base}${filled}${query.length ? `?${query.join('&')}` : ''}`, {
        method,
        signal: abort.signal,
        headers: { ...hand.headers(), ...(type ? { 'content-type': type } : {}) },
        ...(body === undefined ? {} : { body }),
      })
      const stream = /event-stream/.test(answer.headers.get('content-type') ?? '')
      const text = stream ? '' : await answer.text()
      if (stream) abort.abort()
      byStatus[answer.status] = (byStatus[answer.status] ?? 0) + 1
      const own = answer.status < 400 || /problem\+json/.test(answer.headers.get('content-type') ?? '')
      said = answer.status === 500 || answer.status === 502 || !own ? `${answer.status} ${text.slice(0, 200)}` : ''
      if (answer.status === 401 && operation.operationId !== 'signIn') await hand.signIn()
    } catch (error) {
      byStatus['cut'] = (byStatus['cut'] ?? 0) + 1
      said =
        abort.signal.aborted && !/stream/.test(operation.operationId) && !/Stream|Events/.test(operation.operationId)
          ? 'no answer within a minute'
          : ''
      if (!abort.signal.aborted) said = `no answer: ${(error as Error).message}`
    } finally {
      clearTimeout(late)
    }
    if (said) bad.push(`${said} — ${method} ${filled} ${query.join('&')} ${String(body).slice(0, 600)}`)
  }
  const AT_ONCE = 8
  let next = 0
  await Promise.all(
    Array.from({ length: AT_ONCE }, async () => {
      while (next < count) await one(next++)
    }),
  )
  const alive = await fetch(`${base}/healthz`).then(
    (r) => r.ok,
    () => false,
  )
  if (!alive) bad.push('the server does not answer any more')
  return { sent: count, byStatus, bad }
}
