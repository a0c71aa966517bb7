// One part of a page, mounted by itself on a loop that is open, with no server behind it but what the test answers.
import type { Role, WorkEntry } from '@calm-loop/contract'
import type { Entries } from '@calm-loop/core/kinds'
import { flushPromises, mount, type VueWrapper } from '@vue/test-utils'
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, expect, vi } from 'vitest'
import type { Component } from 'vue'
import { createMemoryHistory, type Router } from 'vue-router'
import { openRouter } from '../src/router.ts'
import { useFolder } from '../src/stores/folder.ts'
import { answering, folderOf, handFed, LOOP_ID, sessionOf, type AskedOf } from '../src/stores/server.fixture.ts'
import { useSession } from '../src/stores/session.ts'
import { vuetify } from '../src/theme/vuetify.ts'

let mounted: VueWrapper | undefined
/** What was put on record by the part that is mounted. */
export let added: unknown[] = []
let complaints: string[] = []

/** Registers what every file of parts needs. A part that complains to the console fails. */
export function parts(): void {
  beforeEach(() => {
    setActivePinia(createPinia())
    handFed()
    ;[added, complaints] = [[], []]
    for (const at of ['warn', 'error'] as const)
      vi.spyOn(console, at).mockImplementation((...said: unknown[]) => void complaints.push(said.map(String).join(' ')))
  })
  afterEach(() => {
    mounted?.unmount()
    mounted = undefined
    document.body.innerHTML = ''
    vi.restoreAllMocks()
    expect(complaints).toEqual([])
  })
}

export interface Opened {
  readonly kind: string
  readonly entries: Entries
  readonly workLog?: readonly WorkEntry[]
  readonly roles?: readonly Role[]
  readonly answers?: Parameters<typeof answering>[0]
}

/** Opens a loop as it came from the server. Every work that is added is taken and comes back with the folder. */
export function open({ kind, entries, workLog = [], roles = ['technician'], answers = {} }: Opened): AskedOf[] {
  const folder = useFolder()
  useSession().session = sessionOf(roles)
  folder.view = folderOf(kind, entries, { workLog: [...workLog] })
  folder.base = folder.view.versions.at(-1)
  folder.entries = entries
  const asked = answering({
    'PUT /api/loops/*/work/*': ({ body, path }) => {
      added.push(body)
      const entry = { ...(body as object), id: path.split('/').at(-1), ...SIGNED } as unknown as WorkEntry
      folder.view = { ...folder.view!, workLog: [...folder.view!.workLog, entry] }
      return entry
    },
    [`GET /api/loops/${LOOP_ID}`]: () => folder.view,
    'GET /api/loops/*/link': () => ({ unit: 'mm', lowest: 0, highest: 1 }),
    ...answers,
  })
  return asked
}
/** By whom and when what stands on record was put there. */
export const SIGNED = { at: '2027-01-02T09:30:00.000Z', by: { id: 'p', name: 'Ailsa Fenn' } }

/** Where the part that is mounted stands. */
export let router: Router
/** Mounts a part; what it gives is found by the selectors of the page. */
export function show(part: Component, props: Record<string, unknown> = {}): VueWrapper {
  mounted?.unmount()
  router = openRouter(createMemoryHistory())
  mounted = mount(part, {
    props,
    global: { plugins: [router, vuetify] },
    attachTo: document.body,
  })
  return mounted
}
export const settle = flushPromises
/** What a person reads there, blanks folded. */
export const textOf = (w: VueWrapper): string => w.text().replace(/\s+/g, ' ').trim()
/** Presses what is found by its mark or its words. */
export async function press(w: VueWrapper, what: string): Promise<void> {
  const marked = w.find(`[data-test="${what}"]`)
  const button = marked.exists() ? marked : w.findAll('button, [role=radio], label').find((b) => b.text() === what)
  if (!button?.exists()) throw new Error(`nothing to press: ${what} in ${textOf(w)}`)
  await button.trigger('click')
  await flushPromises()
}
export const disabled = (w: VueWrapper, mark: string): boolean =>
  (w.find(`[data-test="${mark}"]`).element as HTMLButtonElement).disabled
