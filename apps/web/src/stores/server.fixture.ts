// A server that stores talk to in tests: answers by path, what it was asked, and streams that are fed by hand.
import {
  USUAL_DUTIES,
  type FolderView,
  type Role,
  type Session,
  type Version,
  type WaitingAnswer,
  type WaitingWrite,
} from '@calm-loop/contract'
import type { Entries } from '@calm-loop/core/kinds'
import { vi } from 'vitest'
import { addressOf } from '../api/client.ts'

export interface AskedOf {
  readonly method: string
  readonly path: string
  readonly body: unknown
  readonly headers: Record<string, string>
}
type Answer = (asked: AskedOf) => unknown

export const json = (status: number, body: unknown) =>
  new Response(body === undefined ? '' : JSON.stringify(body), { status })
/** A refusal as the server words it. */
export const refusal = (status: number, code: string, detail: string) => json(status, { code, detail, status })
export const noNetwork = () => Promise.reject(new TypeError('no network'))

/** Answers by `METHOD /path`, `*` for any one part of it; what is not there is refused. Returns what was asked. */
export function answering(answers: Readonly<Record<string, Answer>>): AskedOf[] {
  const asked: AskedOf[] = []
  vi.stubGlobal('fetch', async (address: string, init: RequestInit = {}) => {
    const [path = ''] = address.split('?')
    const method = init.method ?? 'GET'
    const one: AskedOf = {
      method,
      path: address,
      body: typeof init.body === 'string' ? JSON.parse(init.body) : undefined,
      headers: (init.headers ?? {}) as Record<string, string>,
    }
    asked.push(one)
    const found = Object.keys(answers).find((key) =>
      new RegExp(`^${key.replaceAll('/', '\\/').replaceAll('*', '[^/]+')}$`).test(`${method} ${path}`),
    )
    if (!found) return refusal(404, 'not-found', `nothing at ${method} ${path}`)
    const answer = await answers[found]!(one)
    return answer instanceof Response ? answer : json(200, answer)
  })
  return asked
}

/**
 * Writes that come in one message, answered one by one up to the first that is refused; undefined for any other
 * message.
 */
export async function eachOf(
  address: string,
  init: RequestInit,
  answer: (address: string, body: never) => Response | Promise<Response>,
): Promise<Response | undefined> {
  if (!address.endsWith('/api/waiting')) return undefined
  const { writes } = JSON.parse(init.body as string) as { writes: WaitingWrite[] }
  const answers: WaitingAnswer[] = []
  for (const { endpoint, params, body } of writes) {
    const one = await answer(addressOf(endpoint, params), body as never)
    const text = await one.text()
    answers.push({ status: one.status, body: text ? (JSON.parse(text) as unknown) : null })
    if (one.status >= 300) break
  }
  return json(200, { answers })
}

/** Streams that were opened, newest last; what comes in them is said by the test. */
export class HandFed {
  static opened: HandFed[] = []
  static get last(): HandFed {
    return HandFed.opened.at(-1)!
  }
  closed = false
  private readonly ears = new Map<string, ((event: unknown) => void)[]>()
  readonly address: string
  constructor(address: string) {
    this.address = address
    HandFed.opened.push(this)
  }
  addEventListener(name: string, hear: (event: unknown) => void): void {
    this.ears.set(name, [...(this.ears.get(name) ?? []), hear])
  }
  close(): void {
    this.closed = true
  }
  say(name: string, data?: unknown): void {
    for (const hear of this.ears.get(name) ?? []) hear({ data: JSON.stringify(data) })
  }
}
export function handFed(): void {
  HandFed.opened = []
  vi.stubGlobal('EventSource', HandFed)
}

export const AILSA = { id: '01890000-0000-7000-8000-00000000000a', name: 'Ailsa Fenn' }
export const LOOP_ID = '01890000-0000-7000-8000-000000000001'
export const DAY = '2027-01-01T10:00:00.000Z'

export const sessionOf = (roles: readonly Role[] | null, more: Partial<Session> = {}): Session => ({
  person: roles && { ...AILSA, signIn: 'ailsa', roles: [...roles] },
  csrfToken: 'token-1',
  empty: false,
  duties: USUAL_DUTIES,
  demo: null,
  ...more,
})

/** The folder of a loop with these entries, and nothing on record beside them but what is given. */
export function folderOf(kind: string, entries: Entries, more: Partial<FolderView> = {}): FolderView {
  const version: Version = {
    id: '01890000-0000-7000-8000-000000000002',
    number: 1,
    parentId: null,
    revision: 0,
    entries,
    author: AILSA,
    startedAt: DAY,
    savedAt: DAY,
    reason: '',
    sealedAt: DAY,
  }
  return {
    loop: { id: LOOP_ID, tag: 'LT-1', service: 'Rinse tank', area: 'Wash house', kind, createdAt: DAY },
    versions: [version],
    checks: [],
    workLog: [],
    countLog: [],
    trains: [],
    ...more,
  } as unknown as FolderView
}
