// Talking to the server: one typed call for every endpoint of the contract.
import type { Endpoint, EndpointName, Endpoints, Problem, WaitingAnswer } from '@calm-loop/contract'
import known from '@calm-loop/contract/addresses'
import { SETTING_HEADER, settingMark } from '@calm-loop/contract/setting-mark'
import type { z } from 'zod'

/** Where a route is: what it takes and answers is looked at by the server, and by the types here. */
type Address = Pick<Endpoint, 'method' | 'path' | 'rawBody'>
const addresses = known as Record<EndpointName, Address>

type Of<N extends EndpointName> = Endpoints[N]

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

/** A refusal in words: field by field where it is of fields. */
export const problemWords = ({ message, fields }: Pick<ApiProblem, 'message'> & Partial<ApiProblem>): string =>
  fields?.length ? fields.map((f) => `${f.path}: ${f.rule}`).join('; ') : message

let csrfToken = ''
/** Told when the server says that nobody is signed in any more. */
let onEnded: () => void = () => undefined
export function whenSessionEnds(told: () => void): void {
  onEnded = told
}
let nthSession = 0
/** Tells that the session of now has ended; nothing where another was begun meanwhile: the answer came late. */
export function endOfThisSession(): () => void {
  const nth = nthSession
  return () => nth === nthSession && onEnded()
}
/** Looks whether the session still stands: a stream that will not open does not say why. */
export async function askSession(): Promise<void> {
  const ended = endOfThisSession()
  const answer = await send(addresses.session, '/api/session', undefined).catch(() => undefined)
  if (answer?.status === 200 && !(answer.body as { person: unknown }).person) ended()
}
/** Keeps the token of a session that begins, or is learned of: it goes with every write. */
export function rememberToken(token: string): void {
  csrfToken = token
  nthSession++
}

/** Address of an endpoint with its parameters filled in. */
export function addressOf(
  name: EndpointName,
  params: Record<string, string> = {},
  query: Record<string, unknown> = {},
): string {
  const path = addresses[name].path.replace(/:(\w+)/g, (_, key: string) => encodeURIComponent(params[key] ?? ''))
  const filled = Object.entries(query).filter(([, v]) => v !== undefined && v !== '' && v !== null)
  return filled.length ? `${path}?${new URLSearchParams(filled.map(([k, v]) => [k, String(v)]))}` : path
}

interface Sent<N extends EndpointName> {
  params?: z.input<Of<N>['params']>
  query?: z.input<Of<N>['query']>
  body?: z.input<Of<N>['body']>
  /** Sent as it is, where the endpoint takes a file. */
  file?: Blob
  /** Only what the server says now, never what this device kept of it. */
  fresh?: boolean
  /** What stood there when it was looked at, of a setting: not set over what another has set since. */
  was?: unknown
  /** How long it waited on this device before it could be sent. */
  waited_ms?: number
}
// How long it waited, not since when: a tablet’s clock may be a day off.
const waitedHeader = (waited_ms: number): Headers => ({ 'x-waited-ms': String(Math.max(0, waited_ms)) })

const AWAY = 'The server cannot be reached. What you typed is kept.'

type Headers = Readonly<Record<string, string>>
interface Answer {
  readonly status: number
  /** Parsed JSON; undefined without a body, or where a refusal's is not JSON. */
  readonly body: unknown
}

/** Sends and reads the whole answer. An answer that breaks off on the way is no answer: it may be asked for again. */
async function send(e: Address, address: string, body: unknown, also: Headers = {}): Promise<Answer> {
  const raw = e.rawBody || body instanceof Blob
  let status: number
  let text: string
  try {
    const response = await fetch(address, {
      method: e.method.toUpperCase(),
      headers: {
        ...(body === undefined ? {} : { 'content-type': raw ? 'application/octet-stream' : 'application/json' }),
        ...(e.method === 'get' ? {} : { 'x-csrf-token': csrfToken }),
        ...also,
      },
      ...(body === undefined ? {} : { body: raw ? (body as BodyInit) : JSON.stringify(body) }),
    })
    status = response.status
    text = await response.text()
  } catch {
    throw new ApiProblem({ status: 0, code: 'no-network', detail: AWAY })
  }
  try {
    return { status, body: text === '' ? undefined : JSON.parse(text) }
  } catch {
    // Not from our server: something stands between that answers in its place.
    if (status < 300) throw new ApiProblem({ status: 0, code: 'no-network', detail: AWAY })
    return { status, body: undefined }
  }
}

/** Keeps what the server told, and gives it while the server cannot be reached. */
export interface Keeper {
  keeps(name: EndpointName): boolean
  keep(name: EndpointName, address: string, answer: unknown): Promise<void>
  /** Undefined where nothing is kept. */
  kept(name: EndpointName, address: string): Promise<unknown>
}
let keeper: Keeper | undefined
export const keepAnswersWith = (next: Keeper | undefined): void => void (keeper = next)
/** Told when the server has answered. */
let onReached: () => void = () => undefined
export const whenReached = (told: () => void): void => void (onReached = told)

/** Nobody answered, or only what stands before the server. */
export const isAway = ({ status, code }: Pick<ApiProblem, 'status' | 'code'>): boolean =>
  status === 0 || code === 'no-network'

/**
 * Calls an endpoint; while the server cannot be reached, what this device has kept of its answer is given.
 * @throws ApiProblem
 */
export async function call<N extends EndpointName>(name: N, sent: Sent<N> = {}): Promise<z.output<Of<N>['response']>> {
  const address = addressOf(name, sent.params, sent.query)
  const keeping = keeper?.keeps(name) ? keeper : undefined
  try {
    const also = {
      ...('was' in sent ? { [SETTING_HEADER]: settingMark(sent.was) } : {}),
      ...(sent.waited_ms === undefined ? {} : waitedHeader(sent.waited_ms)),
    }
    const answer = await ask(addresses[name], address, sent.file ?? sent.body, also)
    void keeping?.keep(name, address, answer).catch(() => undefined)
    return answer as z.output<Of<N>['response']>
  } catch (error) {
    if (!keeping || sent.fresh || !isAway(error as ApiProblem)) throw error
    const kept = await keeping.kept(name, address).catch(() => undefined)
    if (kept === undefined) throw error
    return kept as z.output<Of<N>['response']>
  }
}

/** Calls an endpoint with what was written down for it earlier, perhaps by another version of this page. */
export const callWritten = ({ endpoint, params, body }: WrittenWrite, waited_ms: number): Promise<unknown> =>
  ask(addresses[endpoint], addressOf(endpoint, params), body, waitedHeader(waited_ms))

interface WrittenWrite {
  readonly endpoint: EndpointName
  readonly params: Record<string, string>
  readonly body: unknown
}
/**
 * Sends writes that may come together, in their order: of each that was done its answer, of the first that was not the
 * refusal, and nothing of what follows.
 * @throws ApiProblem where none of them was looked at
 */
export async function callTogether(
  writes: readonly (WrittenWrite & { readonly waited_ms: number })[],
): Promise<readonly { readonly done: unknown; readonly problem?: ApiProblem }[]> {
  const sent = writes.map(({ endpoint, params, body, waited_ms }) => ({
    ...{ endpoint, params, body, waited_ms: Math.max(0, waited_ms) },
  }))
  const said = (await ask(addresses.sendWaiting, '/api/waiting', { writes: sent })) as { answers?: WaitingAnswer[] }
  // Not from our server.
  if (!said.answers?.length) throw new ApiProblem({ status: 0, code: 'no-network', detail: AWAY })
  return said.answers.map(({ status, body }) =>
    status < 300 ? { done: body } : { done: undefined, problem: problemIn({ status, body }) },
  )
}

function problemIn({ status, body }: Answer): ApiProblem {
  const problem = (body ?? {}) as Partial<Problem>
  return new ApiProblem({ ...problem, status, code: problem.code ?? 'no-network', detail: problem.detail ?? AWAY })
}

async function ask(e: Address, address: string, body: unknown, also?: Headers): Promise<unknown> {
  let ended = endOfThisSession()
  let answer = await send(e, address, body, also)
  if (answer.status === 403 && (answer.body as Partial<Problem> | undefined)?.code === 'stale-page') {
    // The session may have been renewed in another tab: fetch its token and try once more.
    const session = await send(addresses.session, '/api/session', undefined)
    const now = session.body as { csrfToken: string; person: unknown }
    if (!now.person) ended()
    rememberToken(now.csrfToken)
    ended = endOfThisSession()
    answer = await send(e, address, body, also)
  }
  if (answer.status >= 200 && answer.status < 300) {
    onReached()
    return answer.body
  }
  const problem = problemIn(answer)
  if (answer.status === 401 && problem.code === 'not-signed-in') ended()
  throw problem
}
