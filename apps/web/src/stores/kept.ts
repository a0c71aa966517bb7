// What the server told, kept on this device for when it cannot be reached: by person, for a fortnight after it was last
// opened, longer where a person takes it along.
import type { EndpointName, FolderView, LoopRow, Session } from '@calm-loop/contract'
import { SESSION_h } from '@calm-loop/contract/limits'
import { openDB, type DBSchema, type IDBPDatabase } from 'idb'
import type { Keeper } from '../api/client.ts'

/** How long a folder is kept after it was last opened. */
export const KEPT_ms = 14 * 24 * 3_600_000
/** Nobody is taken for signed in longer than the server itself would. */
const SIGNED_IN_ms = SESSION_h * 3_600_000

/** Answers of the whole site that a folder needs. */
export const OF_THE_SITE = [
  ...(['kinds', 'gear', 'siteRows', 'judging', 'siteHead', 'siteUnits', 'sitePractice'] as const),
  ...(['trimLimits', 'faultPriors', 'electrodes', 'duties'] as const),
] satisfies EndpointName[]
const OF_A_LOOP = ['folder', 'edges'] satisfies EndpointName[]
const OF_A_DAY = ['round'] satisfies EndpointName[]
const KEPT = new Set<EndpointName>(['session', ...OF_THE_SITE, ...OF_A_LOOP, ...OF_A_DAY])
const isOfADay = ({ address }: KeptAnswer) => address.startsWith('/api/round?')

export interface KeptAnswer {
  /** Person and address. */
  key: string
  person: string
  address: string
  /** The loop that it is of; empty where it is of the whole site. */
  loop: string
  /** When the server told it, and when it was last asked for; ms since 1970. */
  at: number
  used: number
  /** Taken along: kept until it is put back. */
  along: boolean
  body: unknown
}
interface Shelf extends DBSchema {
  answers: { key: string; value: KeptAnswer; indexes: { person: string } }
}

const SESSION = 'session'
let opened: Promise<IDBPDatabase<Shelf>> | undefined
const open = (): Promise<IDBPDatabase<Shelf>> =>
  (opened ??= (async () =>
    openDB<Shelf>('calm-loop.kept', 1, {
      upgrade: (db) => void db.createObjectStore('answers', { keyPath: 'key' }).createIndex('person', 'person'),
    }))())
/** Closes the open database: for tests. */
export async function closeShelf(): Promise<void> {
  ;(await opened)?.close()
  opened = undefined
}

const keyOf = (person: string, address: string) => (address === SESSION ? SESSION : `${person} ${address}`)
const loopIn = (name: EndpointName, address: string): string =>
  name === 'folder' || name === 'edges' ? (address.split('/')[3] ?? '') : ''

const tokenOf = (body: unknown) => (body as Session).csrfToken

/** Puts an answer on the shelf. */
async function put(person: string, name: EndpointName, address: string, body: unknown): Promise<void> {
  const db = await open()
  const { store, done } = db.transaction('answers', 'readwrite')
  const key = keyOf(person, address)
  const before = await store.get(key)
  const now = Date.now()
  const loop = loopIn(name, address)
  // A session is as old as its sign-in, however often it is asked for.
  const same = name === 'session' && before && tokenOf(before.body) === tokenOf(body)
  const at = same ? before.at : now
  await store.put({ key, person, address, loop, at, used: now, along: before?.along ?? false, body })
  await done
}

/** A folder that the server does not know yet. */
export const keepFolder = (person: string, view: FolderView): Promise<void> =>
  put(person, 'folder', `/api/loops/${view.loop.id}`, view)

/** Everything kept in a person's name is forgotten. */
export async function forget(person: string): Promise<void> {
  const { store, done } = (await open()).transaction('answers', 'readwrite')
  for (const key of await store.index('person').getAllKeys(person)) await store.delete(key)
  await store.delete(SESSION)
  await done
}

/** What nobody opened for a fortnight goes, but for what was taken along. */
export async function tidyShelf(now = Date.now()): Promise<void> {
  const { store, done } = (await open()).transaction('answers', 'readwrite')
  for (const kept of await store.getAll())
    if ((kept.loop || isOfADay(kept)) && !kept.along && now - kept.used > KEPT_ms) await store.delete(kept.key)
  await done
}

export interface KeptLoop {
  readonly id: string
  readonly row: LoopRow
  readonly at: number
  readonly along: boolean
}
/** The folders of a person that would open without the server, by tag. */
export async function keptLoops(person: string): Promise<KeptLoop[]> {
  const all = await (await open()).getAllFromIndex('answers', 'person', person)
  return all
    .flatMap((k): KeptLoop[] => {
      const row = k.address === `/api/loops/${k.loop}` ? (k.body as FolderView).row : undefined
      return row ? [{ id: k.loop, row, at: k.at, along: k.along }] : []
    })
    .sort((a, b) => a.row.tag.localeCompare(b.row.tag))
}
/** Takes a loop along until it is put back, or puts it back. */
export async function takeAlong(person: string, loopId: string, along: boolean): Promise<void> {
  const { store, done } = (await open()).transaction('answers', 'readwrite')
  for (const kept of await store.index('person').getAll(person))
    if (kept.loop === loopId) await store.put({ ...kept, along })
  await done
}

/**
 * Keeps and gives answers in the name of whoever is signed in. What is kept is never shown to anybody else, and goes
 * when its person signs out.
 */
export function keeperFor(person: () => string, shown: (at?: number) => void): Keeper {
  return {
    keeps: (name) => KEPT.has(name),
    async keep(name, address, body) {
      if (name !== 'session') return person() ? put(person(), name, address, body) : undefined
      const { person: now } = body as Session
      if (now) await put(now.id, name, SESSION, body)
      else await (await open()).delete('answers', SESSION)
    },
    async kept(name, address) {
      const of = name === 'session' ? SESSION : keyOf(person(), address)
      const { store, done } = (await open()).transaction('answers', 'readwrite')
      const found = await store.get(of)
      if (found && name !== 'session') await store.put({ ...found, used: Date.now() })
      await done
      if (!found || (name === 'session' && Date.now() - found.at > SIGNED_IN_ms)) return undefined
      shown(name === 'folder' ? found.at : undefined)
      return found.body
    },
  }
}
