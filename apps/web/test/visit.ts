// Pages as a person meets them, mounted in the test's own window and answered by the server of the tests.
import { flushPromises, mount, type DOMWrapper, type VueWrapper } from '@vue/test-utils'
import { EventSource } from 'eventsource'
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeAll, beforeEach, expect, inject, vi } from 'vitest'
import { createMemoryHistory, type Router } from 'vue-router'
import App from '../src/App.vue'
import { openRouter } from '../src/router.ts'
import { vuetify } from '../src/theme/vuetify.ts'

/** Of what a page asked the server. */
export interface Asked {
  readonly method: string
  readonly path: string
  readonly body: unknown
  readonly status: number
}

const PATIENCE_ms = 10_000
const native = globalThis.fetch
/** All that was asked of the server since the page was opened. */
export let asked: Asked[] = []
/** What the page said to the console: nothing is the only good answer. */
let complaints: string[] = []
/** While true the server cannot be reached. */
let away = false
export const network = (here: boolean): void => {
  away = !here
}

async function carried(address: string | URL | Request, init: RequestInit = {}): Promise<Response> {
  if (away) throw new TypeError('no network')
  const path = String(address)
  const answer = await native(inject('plant') + path, init)
  asked.push({
    method: init.method ?? 'GET',
    path,
    body: typeof init.body === 'string' ? JSON.parse(init.body) : undefined,
    status: answer.status,
  })
  return answer
}

/** Signs in as one of the demo plant, for the whole test file. */
export async function signIn(who: 'ailsa' | 'rona' | 'magnus'): Promise<void> {
  const { csrfToken } = (await (await carried('/api/session')).json()) as { csrfToken: string }
  const answer = await carried('/api/session', {
    method: 'POST',
    headers: { 'content-type': 'application/json', 'x-csrf-token': csrfToken },
    body: JSON.stringify({ signIn: who, password: 'kelp and salt' }),
  })
  expect(answer.status).toBe(200)
}
let page: VueWrapper | undefined
let router: Router
/** Registers what every file of pages needs. @param who is signed in; nobody when not given */
export function pagesFor(who?: 'ailsa' | 'rona' | 'magnus'): void {
  beforeAll(async () => {
    // Of the same origin, so that the window keeps the cookie of the session as a browser does.
    ;(window as unknown as { happyDOM: { setURL(url: string): void } }).happyDOM.setURL(inject('plant'))
    if (who) await signIn(who)
  })
  beforeEach(() => {
    vi.stubGlobal('fetch', carried)
    vi.stubGlobal(
      'EventSource',
      class extends EventSource {
        constructor(address: string) {
          super(inject('plant') + address, { fetch: (url, init) => native(url, init as RequestInit) as never })
        }
      },
    )
    for (const at of ['warn', 'error'] as const)
      vi.spyOn(console, at).mockImplementation((...said: unknown[]) => {
        const text = said.map(String).join(' ')
        // The graph library looks for its styles, which are not applied here.
        if (!text.startsWith('[Vue Flow]')) complaints.push(text)
      })
    localStorage.clear()
    ;[asked, complaints, away] = [[], [], false]
  })
  afterEach(() => {
    page?.unmount()
    page = undefined
    document.body.innerHTML = ''
    const said = complaints
    vi.restoreAllMocks()
    expect(said).toEqual([])
  })
}

/** Waits until something holds, as a person would. */
export const until = <T>(look: () => T | Promise<T>): Promise<T> =>
  vi.waitFor(async () => {
    await flushPromises()
    return look()
  }, { timeout: PATIENCE_ms, interval: 20 }) // prettier-ignore

/** Opens a page and waits until it says what it is. */
export async function visit(path: string, heading: RegExp | string): Promise<VueWrapper> {
  const pinia = createPinia()
  setActivePinia(pinia)
  router = openRouter(createMemoryHistory())
  await router.push(path)
  page = mount(App, { global: { plugins: [pinia, router, vuetify] }, attachTo: document.body })
  await until(() => expect(headings()).toMatch(heading))
  return page
}
const headings = () => page!.findAll('h1, h2').map((h) => h.text()).join('\n') // prettier-ignore
export const address = (): string => router.currentRoute.value.fullPath
export const goTo = (path: string): Promise<unknown> => router.push(path)

/** What stands on the page, blanks folded. */
export const words = (): string => page!.text().replace(/\s+/g, ' ')
/** A button, link or tab by its whole name. @throws when there is none, or more than one */
export function press(name: string | RegExp): DOMWrapper<Element> {
  const all = [...page!.findAll('button, a, [role=tab], [role=radio]'), ...outside()]
  const nameOf = (e: DOMWrapper<Element>) => (e.attributes('aria-label') ?? e.text()).replace(/\s+/g, ' ').trim()
  const found = all.filter((e) => (typeof name === 'string' ? nameOf(e) === name : name.test(nameOf(e))))
  if (found.length !== 1) throw new Error(`${found.length} of ${String(name)} among: ${all.map(nameOf).join(' | ')}`)
  return found[0]!
}
/** What Vuetify puts beside the page: dialogs, menus. */
const outside = (): DOMWrapper<Element>[] =>
  [...document.querySelectorAll('.v-overlay-container button, .v-overlay-container [role=option]')].map(
    (e) => ({ element: e, text: () => e.textContent ?? '', attributes: (n: string) => e.getAttribute(n) ?? undefined, trigger: async (t: string) => { e.dispatchEvent(new Event(t, { bubbles: true })); await flushPromises() } }) as unknown as DOMWrapper<Element>,
  ) // prettier-ignore
/** A field to type into, by its label. */
export function field(label: string | RegExp): DOMWrapper<HTMLInputElement> {
  const labels = page!
    .findAll('label')
    .filter((l) => (typeof label === 'string' ? l.text() === label : label.test(l.text())))
  const ids = new Set(labels.map((l) => l.attributes('for')))
  const found = [...ids].map((id) => document.getElementById(id ?? '')).filter((e) => e !== null)
  const named = page!
    .findAll('input, textarea')
    .filter((i) =>
      typeof label === 'string' ? i.attributes('aria-label') === label : label.test(i.attributes('aria-label') ?? ''),
    )
  if (found.length + named.length !== 1) throw new Error(`${found.length + named.length} of ${String(label)} among: ${page!.findAll('label').map((l) => l.text()).join(' | ')}`) // prettier-ignore
  const id = found[0]?.id
  return (id ? page!.find(`[id="${id}"]`) : named[0]!) as DOMWrapper<HTMLInputElement>
}
/** Calls the server as the page does, to prepare or to look. */
export async function ask<T>(path: string, method = 'GET', body?: unknown): Promise<T> {
  const session = (await (await carried('/api/session')).json()) as { csrfToken: string }
  const answer = await carried(path, {
    method,
    headers: { 'content-type': 'application/json', 'x-csrf-token': session.csrfToken },
    ...(body === undefined ? {} : { body: JSON.stringify(body) }),
  })
  if (!answer.ok) throw new Error(`${method} ${path}: ${answer.status} ${await answer.text()}`)
  return (await answer.json()) as T
}
/** The folder of a loop of the demo plant. */
export async function loopId(tag: string): Promise<string> {
  const { loops } = await ask<{ loops: { id: string; tag: string }[] }>(`/api/loops?search=${encodeURIComponent(tag)}`)
  return loops.find((l) => l.tag === tag)!.id
}
