// The waiting room on this device: writes that the server has not confirmed yet, kept in IndexedDB for all tabs, and
// the right to send them.
import type { EndpointName } from '@calm-loop/contract'
import { openDB, type DBSchema, type IDBPDatabase } from 'idb'

export interface Write {
  /** Place in the order of sending; given when it is stored. */
  seq: number
  /** Id of the thing written. */
  id: string
  /** Who wrote it, and their name: it is sent in nobody else's name. */
  by: string
  byName: string
  endpoint: EndpointName
  params: Record<string, string>
  body: unknown
  /** How it is shown while it waits, where the body does not say it. */
  shown?: unknown
  /** The loop it belongs to, as people say it. */
  tag: string
  /** When it was written, ms since 1970. */
  at: number
  /** How often the server has failed over it. */
  tries: number
  /** Why the server will never take it; it stays here until someone has seen that. */
  refused?: string
  refusedCode?: string
  /** What stands on record in its place. */
  current?: unknown
}
export type NewWrite = Omit<Write, 'seq' | 'tries'>

interface Room extends DBSchema {
  writes: { key: number; value: Write; indexes: { id: string; by: string } }
  leases: { key: string; value: { name: string; holder: string; until: number } }
}

const NAME = 'calm-loop'
const JOURNAL = 'calm-loop.journal.'
const LEASE_ms = 30_000

let opened: Promise<IDBPDatabase<Room>> | undefined
const open = (): Promise<IDBPDatabase<Room>> =>
  (opened ??= (async () =>
    openDB<Room>(NAME, 1, {
      upgrade(db) {
        const writes = db.createObjectStore('writes', { keyPath: 'seq', autoIncrement: true })
        writes.createIndex('id', 'id', { unique: true })
        writes.createIndex('by', 'by')
        db.createObjectStore('leases', { keyPath: 'name' })
      },
      // Cleared by the person, or by a browser short of room: what a page has of it goes into a new one.
      terminated() {
        opened = undefined
        ;[...lost].forEach((hear) => hear())
      },
    }))().catch((error: unknown) => {
    // Asked for again the next time: a room that is being cleared cannot be opened for a moment.
    opened = undefined
    throw error
  }))
const lost = new Set<() => void>()
/** Tells when the browser has thrown the room away. Returns how to stop listening. */
export function whenRoomIsLost(hear: () => void): () => void {
  lost.add(hear)
  return () => void lost.delete(hear)
}

/** Closes the open database: for tests. */
export async function closeRoom(): Promise<void> {
  ;(await opened)?.close()
  opened = undefined
}

/** Other tabs of this browser hear of a change through here; this one through its own list. */
const channel = typeof BroadcastChannel === 'undefined' ? undefined : new BroadcastChannel(`${NAME}.writes`)
/** Who looks again after a change, by how they stop. */
const watchers = new Map<() => void, () => void>()
function changed(but?: () => void): void {
  channel?.postMessage('changed')
  watchers.forEach((look, stop) => stop !== but && look())
}
if (channel) channel.onmessage = () => watchers.forEach((look) => look())

/**
 * Writes a note of what is to be kept, at once: a page that closes before the room has it loses nothing. Says whether
 * there was room for it.
 */
export function noteDown(write: NewWrite): boolean {
  try {
    localStorage.setItem(JOURNAL + write.id, JSON.stringify(write))
    return true
  } catch {
    return false
  }
}

/** Puts a write into the room; its note is no longer needed then. */
export async function keepWrite(write: NewWrite): Promise<void> {
  // Plain, as what is watched by the page cannot be stored.
  const plain = JSON.parse(JSON.stringify({ ...write, tries: 0 })) as Write
  const db = await open()
  try {
    await db.add('writes', plain)
  } catch (error) {
    // Stored before: a note that was left over.
    if ((error as { name?: string }).name !== 'ConstraintError') throw error
  }
  localStorage.removeItem(JOURNAL + write.id)
  changed()
}

/** What earlier pages left: notes whose write never reached the room, and the list of an older version. */
export async function takeLeftovers(): Promise<void> {
  const keys = Array.from({ length: localStorage.length }, (_, i) => localStorage.key(i) ?? '')
  for (const key of keys.filter((k) => k.startsWith(JOURNAL)).sort()) {
    const write = parsed<NewWrite>(localStorage.getItem(key))
    if (write?.id) await keepWrite(write)
    else localStorage.removeItem(key)
  }
  const OLD = 'calm-loop.outbox'
  const list = parsed<NewWrite[]>(localStorage.getItem(OLD))
  for (const w of Array.isArray(list) ? list : [])
    await keepWrite({ ...w, byName: w.byName ?? '', tag: w.tag ?? '', at: w.at ?? Date.now() })
  localStorage.removeItem(OLD)
}
function parsed<T>(text: string | null): T | undefined {
  try {
    return JSON.parse(text ?? 'null') as T
  } catch {
    return undefined
  }
}

/** A room that holds much is not read again for every one of many changes: a pause of so much for each write in it. */
const PAUSE_ms_EACH = 0.1
const LONGEST_PAUSE_ms = 500

/**
 * Tells of every change of the room, by whichever tab; the first time at once. Changes while it is read, and while it
 * rests from that, are told together.
 */
export function watchRoom(hear: (writes: Write[]) => void): () => void {
  let looking = false
  let again = false
  const look = async (): Promise<void> => {
    if (looking) return void (again = true)
    looking = true
    do {
      again = false
      const writes = await open()
        .then((db) => db.getAll('writes'))
        .catch(() => undefined)
      if (!watchers.has(stop)) break
      if (!writes) continue
      hear(writes)
      const pause = Math.min(LONGEST_PAUSE_ms, writes.length * PAUSE_ms_EACH)
      if (pause >= 1) await new Promise((resolve) => setTimeout(resolve, pause))
    } while (again)
    looking = false
  }
  const stop = () => void watchers.delete(stop)
  watchers.set(stop, () => void look())
  void look()
  return stop
}

/** What a person wrote that can still be sent, in the order in which it was entered. */
export async function writesOf(by: string): Promise<Write[]> {
  const all = await (await open()).getAllFromIndex('writes', 'by', by)
  return all.filter((w) => w.refused === undefined)
}
async function onWrite(id: string, change: (write: Write) => Write | undefined): Promise<void> {
  const { store, done } = (await open()).transaction('writes', 'readwrite')
  const write = await store.index('id').get(id)
  const next = write && change(write)
  if (next) await store.put(next)
  else if (write) await store.delete(write.seq)
  await done
  changed()
}
export const dropWrite = (id: string): Promise<void> => onWrite(id, () => undefined)
/** Takes out what was sent. Whoever sent it, named by how it stops to watch, knows; all others are told. */
export async function dropSent(sent: readonly Pick<Write, 'seq'>[], by?: () => void): Promise<void> {
  const { store, done } = (await open()).transaction('writes', 'readwrite')
  await Promise.all(sent.map(({ seq }) => store.delete(seq)))
  await done
  changed(by)
}
export const noteWrite = (id: string, change: Partial<Write>): Promise<void> =>
  onWrite(id, (w) => ({ ...w, ...change }))

/**
 * Does `work` while no other tab of this browser does the same. Web Locks where the page may use them, else a lease in
 * the database.
 */
export async function exclusively(name: string, work: () => Promise<void>): Promise<void> {
  if (typeof navigator !== 'undefined' && navigator.locks) {
    await navigator.locks.request(`${NAME}.${name}`, work)
    return
  }
  const holder = Math.random().toString(36).slice(2)
  const take = async (): Promise<boolean> => {
    const { store, done } = (await open()).transaction('leases', 'readwrite')
    const held = await store.get(name)
    const free = !held || held.holder === holder || held.until <= Date.now()
    if (free) await store.put({ name, holder, until: Date.now() + LEASE_ms })
    await done
    return free
  }
  // Where nothing can be kept there is nothing that another tab could send as well.
  while (!(await take().catch(() => true))) await new Promise((resolve) => setTimeout(resolve, 100))
  const renew = setInterval(() => void take().catch(() => undefined), LEASE_ms / 3)
  try {
    await work()
  } finally {
    clearInterval(renew)
    const db = await open()
    if ((await db.get('leases', name))?.holder === holder) await db.delete('leases', name)
  }
}
