// Pages as a person meets them, mounted in the test's own window and answered by the server of the tests.
import { firstVersion } from '../../../packages/core/src/kinds/demo-entries.fixture.ts'
import { kindOf } from '@calm-loop/core/kinds'
import { entryFrom } from '@calm-loop/core/quantity'
import { flushPromises, mount, type VueWrapper } from '@vue/test-utils'
import { EventSource } from 'eventsource'
import { v7 as uuid } from 'uuid'
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeAll, beforeEach, expect, inject, vi } from 'vitest'
import { VSelect } from 'vuetify/components'
import { createMemoryHistory, type Router } from 'vue-router'
import App from '../src/App.vue'
import { openRouter } from '../src/router.ts'
import { vuetify } from '../src/theme/vuetify.ts'
import { until } from './until.ts'

/** Of what a page asked the server. */
export interface Asked {
  readonly method: string
  readonly path: string
  readonly body: unknown
  readonly status: number
  /** Whom the server took the browser for, where that was asked. */
  readonly person?: string | null
}

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

const LOST_ms = 30_000
/** What is on its way: an answer to a page that was left still sets the cookie of its session. */
const underWay = new Set<Promise<Response>>()

async function carried(address: string | URL | Request, init: RequestInit = {}): Promise<Response> {
  if (away) throw new TypeError('no network')
  const path = address instanceof Request ? address.url : address.toString()
  const asking = native(inject('plant') + path, init)
  underWay.add(asking)
  // An answer that is lost on its way would keep the room of this browser for ever: it is sent again instead.
  const lost = new Promise<never>((_, refuse) => setTimeout(() => refuse(new TypeError('no answer came')), LOST_ms))
  const answer = await Promise.race([asking, lost]).finally(() => underWay.delete(asking))
  const text = path.endsWith('/api/session') && answer.status === 200 ? await answer.text() : undefined
  asked.push({
    method: init.method ?? 'GET',
    path,
    body: typeof init.body === 'string' ? JSON.parse(init.body) : undefined,
    status: answer.status,
    ...(path.endsWith('/api/session') && answer.ok ? { person: personIn(text) } : {}),
  })
  return text === undefined ? answer : new Response(text, { status: answer.status, headers: answer.headers })
}
function personIn(text: string | undefined): string | null {
  return (JSON.parse(text || '{}') as { person?: { name: string } | null }).person?.name ?? null
}

/** Signs in as one of the demo plant, for the whole test file. */
export async function signIn(who: 'ailsa' | 'rona' | 'magnus'): Promise<void> {
  await Promise.allSettled(underWay)
  const { csrfToken } = (await (await carried('/api/session')).json()) as { csrfToken: string }
  const answer = await carried('/api/session', {
    method: 'POST',
    headers: { 'content-type': 'application/json', 'x-csrf-token': csrfToken },
    body: JSON.stringify({ signIn: who, password: 'kelp and salt' }),
  })
  expect(answer.status).toBe(200)
}
let page: VueWrapper | undefined
function leave(): void {
  page?.unmount()
  page = undefined
  document.body.innerHTML = ''
}
let router: Router
/** Registers what every file of pages needs. @param who is signed in; nobody when not given */
export function pagesFor(who?: 'ailsa' | 'rona' | 'magnus'): void {
  beforeAll(async () => {
    // Of the same origin, so that the window keeps the cookie of the session as a browser does.
    ;(window as unknown as { happyDOM: { setURL(url: string): void } }).happyDOM.setURL(inject('plant'))
    if (who) await signIn(who)
    else await ask('/api/session', 'DELETE').catch(() => undefined)
  })
  beforeEach(() => {
    vi.stubGlobal('fetch', carried)
    vi.stubGlobal(
      'EventSource',
      class extends EventSource {
        constructor(address: string) {
          super(inject('plant') + address, { fetch: (url, init) => native(url, init) })
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
    leave()
    const said = complaints
    vi.restoreAllMocks()
    expect(said).toEqual([])
  })
}

/** Opens a page, as in a new tab, and waits until it says what it is. */
export async function visit(path: string, heading: RegExp | string): Promise<VueWrapper> {
  leave()
  const pinia = createPinia()
  setActivePinia(pinia)
  router = openRouter(createMemoryHistory())
  await router.push(path)
  page = mount(App, { global: { plugins: [pinia, router, vuetify] }, attachTo: document.body })
  await until(() => expect(headings()).toMatch(heading)).catch((error: Error) => {
    error.message += `\nAsked: ${asked.map((a) => [a.method, a.path, a.status, a.person].join(' ')).join('; ')}`
    throw error
  })
  return page
}
const headings = () =>
  page!
    .findAll('h1, h2')
    .map((h) => h.text())
    .join('\n')
/** Loads the same page again: what is shown then came from the server. */
export const reload = (heading: RegExp | string): Promise<VueWrapper> => visit(address(), heading)
export const address = (): string => router.currentRoute.value.fullPath
export const goTo = (path: string): Promise<unknown> => router.push(path)

const fold = (text: string | null | undefined): string => (text ?? '').replace(/\s+/g, ' ').trim()
/** What stands on the page, blanks folded. */
export const words = (): string => fold(document.body.textContent)
type Where = string | Element
const placeOf = (at: Where): string => (typeof at === 'string' ? at : at.className)
const one = (at: Where): HTMLElement => {
  const found = typeof at === 'string' ? document.querySelector<HTMLElement>(at) : (at as HTMLElement)
  if (!found) throw new Error(`nothing is at ${placeOf(at)}`)
  return found
}
/** Waits for what stands at a selector, and for its words when they are given. */
export const see = (at: string, text: string | RegExp = ''): Promise<HTMLElement> =>
  until(() => {
    const all = [...document.querySelectorAll<HTMLElement>(at)]
    const fits = (e: Element) =>
      typeof text === 'string' ? fold(e.textContent).includes(text) : text.test(fold(e.textContent))
    const found = all.find(fits)
    if (!found)
      throw new Error(`${at} with ${String(text)}: ${all.map((e) => fold(e.textContent)).join(' | ') || 'not there'}`)
    return found
  })
/** Waits for words anywhere on the page. */
export const read = (text: string | RegExp): Promise<void> => until(() => expect(words()).toMatch(text))
export const gone = (at: string): Promise<void> =>
  until(() => expect(document.querySelector(at)?.textContent).toBe(undefined))
async function done(element: Element, ...events: Event[]): Promise<void> {
  for (const event of events) element.dispatchEvent(event)
  await flushPromises()
}
export const click = (at: Where): Promise<void> =>
  done(one(at), new MouseEvent('click', { bubbles: true, cancelable: true }))
export const key = async (at: Where, name: string): Promise<void> =>
  done(await until(() => one(at)), new KeyboardEvent('keydown', { key: name, bubbles: true, cancelable: true }))
const nameOf = (e: Element): string => {
  const by = e.getAttribute('aria-labelledby')
  return fold(
    e.getAttribute('aria-label') ??
      (by
        ? by
            .split(' ')
            .map((id) => document.getElementById(id)?.textContent)
            .join(' ')
        : e.textContent),
  )
}
function named(name: string | RegExp, within: Where): HTMLButtonElement {
  const all = [...one(within).querySelectorAll('button, a, [role=tab], [role=menuitem], label')]
  const found = all.filter((e) => (typeof name === 'string' ? nameOf(e) === name : name.test(nameOf(e))))
  if (found.length !== 1) throw new Error(`${found.length} named ${String(name)} among: ${all.map(nameOf).join(' | ')}`)
  return found[0] as HTMLButtonElement
}
/** Presses a button, link, tab or radio by its name, once it can be pressed. */
export async function press(name: string | RegExp, within: Where = 'body'): Promise<void> {
  const button = await until(() => {
    const found = named(name, within)
    if (found.disabled) throw new Error(`${String(name)} cannot be pressed`)
    return found
  })
  await click(button)
}
/** Presses what a test finds by its mark. */
export const pressAt = (mark: string, within = ''): Promise<void> =>
  until(() => {
    const found = one(`${within} [data-test="${mark}"]`) as HTMLButtonElement
    if (found.disabled) throw new Error(`${mark} cannot be pressed`)
    return found
  }).then(click)
/** Waits until a button is there and cannot be pressed. */
export const barred = (name: string | RegExp, within: Where = 'body'): Promise<void> =>
  until(() => expect(named(name, within).disabled).toBe(true))
/** A field by its label or its name for those who do not see. */
export function field(label: string | RegExp, within: Where = 'body'): HTMLInputElement {
  const fits = (text: string) => (typeof label === 'string' ? text === label : label.test(text))
  const all = [...one(within).querySelectorAll<HTMLInputElement>('input, textarea, select')]
  const namesOf = (e: HTMLInputElement) => [...(e.labels ?? [])].map((l) => fold(l.textContent)).concat(nameOf(e))
  const found = all.filter((e) => namesOf(e).some(fits))
  if (found.length !== 1)
    throw new Error(`${found.length} of ${String(label)} among: ${all.map((e) => namesOf(e).join('/')).join(' | ')}`)
  return found[0]!
}
/** Types into a field, ticks a box, or chooses from a list of the browser by its words. */
export async function type(at: Where, text: string): Promise<void> {
  const element = (await until(() => one(at))) as HTMLInputElement
  if (element instanceof HTMLSelectElement) {
    const option = [...element.options].find((o) => fold(o.textContent) === text || o.value === text)
    if (!option) throw new Error(`no ${text} among: ${[...element.options].map((o) => o.textContent).join(' | ')}`)
    element.value = option.value
    return done(element, new Event('input', { bubbles: true }), new Event('change', { bubbles: true }))
  }
  element.value = text
  await done(element, new Event('input', { bubbles: true }), new Event('change', { bubbles: true }))
}
/** Types into the field of this name, once it is there. */
export const fill = async (label: string | RegExp, text: string): Promise<void> =>
  type(await until(() => field(label)), text)
export const tick = async (label: string | RegExp): Promise<void> => click(await until(() => field(label)))
/** Chooses from a list of ours by its words: the list itself is the package's. */
export async function choose(within: Where, title: string): Promise<void> {
  const select = page!.findAllComponents(VSelect).find((s) => one(within).contains(s.element as Element))
  if (!select) throw new Error(`no list at ${placeOf(within)}`)
  const { items, itemTitle, itemValue } = select.props() as { items: unknown[]; itemTitle: string; itemValue: string }
  const part = (item: unknown, key: string) =>
    typeof item === 'object' ? (item as Record<string, unknown>)[key] : item
  const item = items.find((i) => part(i, itemTitle) === title)
  if (item === undefined) throw new Error(`no ${title} among: ${items.map((i) => part(i, itemTitle)).join(' | ')}`)
  ;(select.vm as { $emit(name: string, value: unknown): void }).$emit('update:modelValue', part(item, itemValue))
  await flushPromises()
}
export const entry = (key: string): HTMLInputElement => one(`[data-entry="${key}"] input`) as HTMLInputElement
export const knot = (id: string): HTMLInputElement => one(`[data-knot="${id}"] input`) as HTMLInputElement
/** Fills entries of the stage at hand; a choice is pressed, a list item chosen. */
export async function enter(values: Record<string, string>): Promise<void> {
  for (const [name, value] of Object.entries(values)) {
    const at = await see(`[data-entry="${name}"]`)
    if (at.querySelector('.v-select')) await choose(at, value)
    else if (at.querySelector('button.pick')) await press(value, at)
    else await type(at.querySelector('input')!, value)
  }
}
/** Goes to a stage of the loop that is open. */
export async function stage(id: string): Promise<void> {
  await goTo(`${address().split('?')[0]!.split('/').slice(0, 3).join('/')}/${id}`)
  await see(`[data-stage="${id}"][aria-current=step]`)
}
export async function work(name: string): Promise<void> {
  await press(new RegExp(`^${name}`), '[role=tablist]')
  await see('[role=tab][aria-selected=true]', name)
}
export const saved = (): Promise<HTMLElement> => see('[data-test="coverage"]', 'saved')

/** Calls the server as the page does, to prepare or to look. */
export async function ask<T>(path: string, method = 'GET', body?: unknown): Promise<T> {
  const session = (await (await carried('/api/session')).json()) as { csrfToken: string }
  const answer = await carried(path, {
    method,
    headers: { 'content-type': 'application/json', 'x-csrf-token': session.csrfToken },
    ...(body === undefined ? {} : { body: JSON.stringify(body) }),
  })
  if (!answer.ok) throw new Error(`${method} ${path}: ${answer.status} ${await answer.text()}`)
  const text = await answer.text()
  return (text ? JSON.parse(text) : undefined) as T
}
/** Makes a new loop with these entries, and opens it. */
export async function newLoop(tag: string, kind: string, entries: Record<string, string> = {}): Promise<void> {
  const id = uuid()
  await ask(`/api/loops/${id}`, 'PUT', { tag, service: 'Rinse tank', area: 'Wash house', kind })
  if (Object.keys(entries).length) {
    const { fields } = kindOf(kind)
    const made = Object.fromEntries(
      Object.entries(entries).map(([key, typed]) => {
        const found = fields.find((f) => f.key === key)
        return [key, found?.type === 'quantity' ? entryFrom(typed, found) : { typed }]
      }),
    )
    await ask(`/api/loops/${id}/versions/${uuid()}`, 'PUT', firstVersion(made))
  }
  await visit(`/loops/${id}`, tag)
}
/** Opens a loop of the demo plant. */
export const openLoop = async (tag: string, at = ''): Promise<VueWrapper> =>
  visit(`/loops/${await loopId(tag)}${at}`, tag)
/** Connects the bench of the loop that is open, unless it is. */
export const connectBench = async (): Promise<void> => {
  if (!document.querySelector('[data-test="bench-ribbon"]')) await pressAt('connect-bench')
  await see('[data-test="bench-ribbon"]', 'Bench connected: practice')
}
/** Ends the bench of the loop that is open, which another test may have left connected: then the record is shown. */
export async function onRecord(): Promise<void> {
  await see('[data-test="connect-bench"], [data-test="disconnect-bench"]')
  if (document.querySelector('[data-test="disconnect-bench"]')) await pressAt('disconnect-bench')
  await see('[data-test="connect-bench"]')
}
/** The folder of a loop of the demo plant. */
export async function loopId(tag: string): Promise<string> {
  const { loops } = await ask<{ loops: { id: string; tag: string }[] }>(`/api/loops?search=${encodeURIComponent(tag)}`)
  return loops.find((l) => l.tag === tag)!.id
}
