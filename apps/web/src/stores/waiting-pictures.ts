// Photographs and papers that could not be sent: kept whole on this device, by person, and sent when the server is
// reached. Each under the id that it was first sent with, so that the same twice is once.
import { openDB, type DBSchema, type IDBPDatabase } from 'idb'
import { defineStore } from 'pinia'
import { computed, onScopeDispose, ref, shallowRef, watch } from 'vue'
import { call, isAway, problemWords, type ApiProblem } from '../api/client.ts'
import { useSession } from './session.ts'

export interface WaitingPicture {
  readonly id: string
  readonly person: string
  readonly loopId: string
  readonly name: string
  readonly bytes: ArrayBuffer
  /** When it was added; ms since 1970. */
  readonly at: number
  /** How often the server broke over it. */
  readonly tries?: number
  /** Why the server did not take it. */
  readonly refused?: string
}
interface Room extends DBSchema {
  pictures: { key: string; value: WaitingPicture; indexes: { person: string } }
}
const AGAIN_ms = 4000
/** A server that breaks over one and the same picture so often will not take it. */
const MOST_TRIES = 5

const open = (): Promise<IDBPDatabase<Room>> =>
  openDB<Room>('calm-loop.pictures', 1, {
    upgrade: (db) => void db.createObjectStore('pictures', { keyPath: 'id' }).createIndex('person', 'person'),
  })
/** The room is opened for each look: what a browser clears meanwhile is not held. */
async function within<T>(work: (db: IDBPDatabase<Room>) => Promise<T>): Promise<T> {
  const db = await open()
  return work(db).finally(() => db.close())
}

export const useWaitingPictures = defineStore('waiting-pictures', () => {
  const session = useSession()
  const me = computed(() => session.person?.id ?? '')
  /** What waits of whoever is signed in, without the files. */
  const all = shallowRef<readonly Omit<WaitingPicture, 'bytes'>[]>([])
  /** How many have arrived since this page was opened. */
  const arrived = ref(0)
  let sending = false

  async function look(): Promise<void> {
    const found = me.value ? await within((db) => db.getAllFromIndex('pictures', 'person', me.value)) : []
    all.value = found.map(({ bytes: _, ...rest }) => rest).sort((a, b) => a.at - b.at)
  }
  /** @throws where this device has no room for it */
  async function keep(loopId: string, id: string, file: File): Promise<void> {
    const bytes = await file.arrayBuffer()
    const picture: WaitingPicture = {
      id,
      person: me.value,
      loopId,
      name: file.name.slice(0, 120),
      bytes,
      at: Date.now(),
    }
    await within((db) => db.put('pictures', picture))
    await look()
  }
  const leave = async (id: string): Promise<void> => {
    await within((db) => db.delete('pictures', id))
    await look()
  }

  /** Sends one after the other, until the server is not reached. */
  async function send(): Promise<void> {
    if (sending || !me.value) return
    sending = true
    try {
      for (const { id, refused } of all.value) {
        if (refused !== undefined) continue
        const picture = await within((db) => db.get('pictures', id))
        if (picture?.person !== me.value) continue
        if (!(await sent(picture))) break
      }
      await look()
    } finally {
      sending = false
    }
  }
  /** Whether the next may be tried. */
  async function sent(picture: WaitingPicture): Promise<boolean> {
    const { id, loopId, name, bytes, at, tries = 0 } = picture
    const params = { loopId, attachmentId: id }
    try {
      await call('attach', { params, query: { name }, file: new Blob([bytes]), waited_ms: Date.now() - at })
      await within((db) => db.delete('pictures', id))
      arrived.value++
      return true
    } catch (error) {
      const problem = error as ApiProblem
      // Signed in anew, or the server back, it is tried again.
      if (isAway(problem) || [401, 429].includes(problem.status) || problem.status > 500) return false
      if (problem.code === 'stale-page') return false
      // Over this one alone the server breaks: the others do not wait for it.
      if (problem.status === 500 && tries + 1 < MOST_TRIES) {
        await within((db) => db.put('pictures', { ...picture, tries: tries + 1 }))
        return true
      }
      await within((db) => db.put('pictures', { ...picture, refused: problemWords(problem) }))
      return true
    }
  }
  const again = setInterval(() => void (all.value.length && send().catch(() => undefined)), AGAIN_ms)
  onScopeDispose(() => clearInterval(again))
  watch(
    me,
    () =>
      void look()
        .then(send)
        .catch(() => undefined),
    { immediate: true },
  )
  return { all, arrived, keep, leave, send }
})
