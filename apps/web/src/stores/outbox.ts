// Writes that must not be lost: kept on this device until the server has said that it has them, sent once and in order
// by one tab for all.
import type { Sign } from '@calm-loop/contract'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { callTogether, callWritten, isAway, type ApiProblem } from '../api/client.ts'
import { inLanes, type Went } from './lanes.ts'
import { sure } from '@calm-loop/core/sure'
import { useSession } from './session.ts'
import {
  dropSent,
  dropWrite,
  exclusively,
  keepWrite,
  noteDown,
  noteWrite,
  takeLeftovers,
  watchRoom,
  whenRoomIsLost,
  writesOf,
  type NewWrite,
  type Write,
} from './waiting-room.ts'

/** A write as the pages see it. */
export type Pending = NewWrite & Partial<Pick<Write, 'seq' | 'tries'>>

const AGAIN_ms = 1000
const LINGER_ms = 1000
/** Place in the order of what could not be kept: after all that could. */
const AFTER_ALL = 1e12
const MANY = 200
const SWEEP_ms = 100
/** A password that was typed to seal is forgotten after this time. */
const SEALING_ms = 60_000
/** A server that breaks over one and the same write so often will not take it. */
const MOST_TRIES = 5
/** What is wrong with a message as a whole, whatever stands in it. */
const isOfMessage = ({ status, code }: ApiProblem): boolean =>
  status >= 400 && status <= 500 && ![401, 429].includes(status) && code !== 'stale-page'
const FULL =
  'This device can keep nothing more. Free some space before you go on; what stands here is on this page only.'

export const useOutbox = defineStore('outbox', () => {
  const session = useSession()
  const stored = shallowRef<readonly Pending[]>([])
  /** On their way into the waiting room. */
  const coming = shallowRef<readonly Pending[]>([])
  /** Sent by another tab a moment ago. */
  const lingering = shallowRef<readonly Pending[]>([])
  const offline = ref(false)
  /** This device cannot keep anything more: said before anything is lost. */
  const full = ref('')
  const all = computed(() => {
    const known = new Set(stored.value.map((s) => s.id))
    return [...stored.value, ...[...coming.value, ...lingering.value].filter((p) => !known.has(p.id))]
  })
  const me = computed(() => session.person?.id ?? '')
  const pending = computed(() => all.value.filter((p) => p.by === me.value))
  const waiting = computed(() => pending.value.filter((p) => p.refused === undefined))
  /** The most that waited since nothing did: what is being sent is told out of so many. */
  const most = ref(0)
  watch(
    () => waiting.value.length,
    (left) => (most.value = left && Math.max(most.value, left)),
    { flush: 'sync' },
  )
  const refused = computed(() => pending.value.filter((p) => p.refused !== undefined))
  /** That others’ entries wait here is told; what they are is not. */
  const others = computed(() => {
    const found = new Map<string, { name: string; count: number; since: number }>()
    for (const { by, byName, at } of all.value) {
      if (by === me.value) continue
      const known = found.get(by) ?? { name: byName, count: 0, since: at }
      found.set(by, { name: known.name, count: known.count + 1, since: Math.min(known.since, at) })
    }
    return [...found.values()]
  })
  const saved = new Map<string, (result: unknown) => void>()
  let timer: ReturnType<typeof setTimeout> | undefined
  let storing: Promise<unknown> = takeLeftovers().catch(() => undefined)

  /** Taken out by this page: a look at the room that was begun before then does not bring it back. */
  const out = new Set<string>()
  /** What this page has of a room that was thrown away goes into the new one, before anybody looks into that. */
  const stopKeeping = whenRoomIsLost(() => {
    const mine = stored.value
    coming.value = [...mine, ...coming.value]
    stored.value = []
    for (const w of mine as Write[]) {
      const { seq: _, tries: _t, ...write } = w
      storing = storing.then(() => keep(write)).catch(() => noRoom(write))
    }
    void storing.then(() => flush())
  })
  const stopWatching = watchRoom((all) => {
    const writes = all.filter((w) => !out.has(w.id))
    const gone = stored.value.filter((s) => !writes.some((w) => w.id === s.id))
    stored.value = writes
    coming.value = coming.value.filter((c) => !out.has(c.id) && !all.some((w) => w.id === c.id))
    // Sent by another tab: what it was answered is not known here.
    for (const { id } of gone) tell(id, undefined)
    if (gone.length) linger(gone)
    // Whoever sent it, the server was reached.
    if (gone.length) offline.value = false
  })
  /** What another tab has sent counts as waiting until this page has had time to look at the record. */
  function linger(gone: readonly Pending[]): void {
    lingering.value = [...lingering.value, ...gone]
    setTimeout(() => (lingering.value = lingering.value.filter((l) => !gone.includes(l))), LINGER_ms)
  }
  function tell(id: string, result: unknown): void {
    const hear = saved.get(id)
    saved.delete(id)
    hear?.(result)
  }

  /** Queues a write; `onSaved` runs with the server's answer, or with nothing where another tab has sent it. */
  function put(
    item: Pick<NewWrite, 'id' | 'endpoint' | 'params' | 'body' | 'shown'> & { tag?: string },
    onSaved?: (result: unknown) => void,
  ): void {
    if (onSaved) saved.set(item.id, onSaved)
    const { person } = session
    const write: NewWrite = {
      ...item,
      tag: item.tag ?? '',
      by: person?.id ?? '',
      byName: person?.name ?? '',
      at: Date.now(),
    }
    coming.value = [...coming.value, write]
    // At once: the page may be gone before the room has it.
    full.value = noteDown(write) ? full.value : FULL
    storing = storing.then(() => keep(write)).catch(() => noRoom(write))
    // Sent once it is stored; the storing of the next does not wait for the sending. Out of coverage it is tried again
    // by itself, and not for each of the many that one may enter there.
    void storing.then(() => (timer === undefined ? flush() : undefined))
  }

  let draftsUnkept = false
  /** Entries that are being typed found room on this device, or none. */
  function draftKept(kept: boolean): void {
    if (!kept) full.value = FULL
    else if (draftsUnkept && !unkept.size) full.value = ''
    draftsUnkept = !kept
  }
  /** Found no room on this device: they stand on this page only, and are sent from it after what has room. */
  const unkept = new Map<string, Write>()
  let afterAll = AFTER_ALL
  let keepAgain: ReturnType<typeof setTimeout> | undefined
  function noRoom(write: NewWrite): void {
    full.value = FULL
    unkept.set(write.id, { ...write, seq: afterAll++, tries: 0 })
    keepLater()
  }
  /** What kept a write out of the room may be over by itself: a browser that was clearing it, a disk that was full. */
  function keepLater(): void {
    keepAgain ??= setTimeout(() => {
      keepAgain = undefined
      storing = storing.then(keepBefore).catch(() => (unkept.size && !closed ? keepLater() : undefined))
    }, AGAIN_ms)
  }
  async function keepBefore(): Promise<void> {
    for (const { seq: _, tries: _t, ...before } of [...unkept.values()]) {
      if (!unkept.has(before.id)) continue
      await keepWrite(before)
      // Sent from the page while the room took it.
      if (!unkept.delete(before.id)) await dropWrite(before.id)
    }
    full.value = ''
  }
  /** Keeps a write, after those that found no room before: their order stands. */
  async function keep(write: NewWrite): Promise<void> {
    await keepBefore()
    await keepWrite(write)
  }
  function forgetUnkept(id: string): boolean {
    coming.value = coming.value.filter((c) => c.id !== id || !unkept.has(id))
    return unkept.delete(id)
  }
  /** Notes what became of a write, where it is kept. */
  async function note(id: string, change: Partial<Write>): Promise<void> {
    const write = unkept.get(id)
    if (!write) return noteWrite(id, change)
    unkept.set(id, { ...write, ...change })
    coming.value = coming.value.map((c) => (c.id === id ? { ...c, ...change } : c))
  }
  async function sendable(by: string): Promise<Write[]> {
    const kept = await writesOf(by).catch(() => [])
    const inRoom = new Set(kept.map((w) => w.id))
    const mine = [...unkept.values()].filter((w) => w.by === by && w.refused === undefined && !inRoom.has(w.id))
    // What was sent and could not be taken out of the room is not sent for ever.
    return [...kept.filter((w) => !out.has(w.id)), ...mine]
  }

  /** Typed once when the server is back, for what was signed out of coverage; kept nowhere. */
  const password = ref('')
  const notSealed = ref('')
  const isUnsealed = ({ endpoint, body }: Pick<NewWrite, 'endpoint' | 'body'>) =>
    endpoint === 'sign' && (body as Sign).password === ''
  const sealed = (write: Write): Write => ({ ...write, body: { ...(write.body as Sign), password: password.value } })
  /** Signatures that wait for the password of who gave them. */
  const toSeal = computed(() => waiting.value.filter(isUnsealed))
  watch(
    () => toSeal.value.length,
    (left) => left || (password.value = ''),
  )
  async function seal(typed: string): Promise<void> {
    password.value = typed
    notSealed.value = ''
    setTimeout(() => password.value === typed && (password.value = ''), SEALING_ms)
    await flush()
  }

  /** Of thousands that are sent, the list is not made anew for each. */
  function takeOut(id: string): void {
    out.add(id)
    if (stored.value.length < MANY) sweep()
    else sweeping ??= setTimeout(sweep, SWEEP_ms)
  }
  let sweeping: ReturnType<typeof setTimeout> | undefined
  function sweep(): void {
    clearTimeout(sweeping)
    sweeping = undefined
    stored.value = stored.value.filter((s) => !out.has(s.id))
  }

  const mayGo = (by: string) => session.person?.id === by && !session.ended && !closed
  const waitedOf = (write: Write) => Date.now() - write.at
  /** Until a message with several was refused as a whole; the next time it is tried again. */
  let together = true
  /** Sends writes of one loop, in their order. */
  async function send(writes: readonly Write[]): Promise<Went> {
    const first = sure(writes[0])
    if (!mayGo(first.by)) return { done: 0, how: 'stop' }
    try {
      if (writes.length > 1) return await sendTogether(writes)
      await areSent([
        { write: first, result: await callWritten(isUnsealed(first) ? sealed(first) : first, waitedOf(first)) },
      ])
      return { done: 1, how: 'on' }
    } catch (error) {
      const problem = error as ApiProblem
      // Of the message, not of a write in it: what is wrong with that is said when it comes by itself.
      if (writes.length > 1 && isOfMessage(problem)) {
        together = false
        return { done: 0, how: 'on' }
      }
      return notSent(first, problem)
    }
  }
  async function sendTogether(writes: readonly Write[]): Promise<Went> {
    const answers = await callTogether(writes.map((w) => ({ ...w, waited_ms: waitedOf(w) })))
    const done = answers.findIndex((a) => a.problem)
    const count = done < 0 ? answers.length : done
    await areSent(writes.slice(0, count).map((write, i) => ({ write, result: answers[i]!.done })))
    if (done < 0) return { done: count, how: 'on' }
    const last = await notSent(sure(writes[done]), sure(answers[done]?.problem))
    return { done: count + last.done, how: last.how }
  }
  async function areSent(done: readonly { readonly write: Write; readonly result: unknown }[]): Promise<void> {
    offline.value = false
    for (const { write, result } of done) {
      // First on record, then no longer waiting: in between it would be neither.
      tell(write.id, result)
      takeOut(write.id)
    }
    const kept = done.map((d) => d.write).filter((w) => !forgetUnkept(w.id))
    // Found room while they were sent from the page: their place in it is not known here.
    for (const { id } of kept.filter((w) => w.seq >= AFTER_ALL)) await dropWrite(id).catch(() => undefined)
    const placed = kept.filter((w) => w.seq < AFTER_ALL)
    if (placed.length) await dropSent(placed, stopWatching).catch(() => undefined)
  }
  async function notSent(next: Write, problem: ApiProblem): Promise<Went> {
    // Whatever it says, it was reached.
    if (!isAway(problem)) offline.value = false
    // Asked again, and what waits for other loops goes on.
    if (isUnsealed(next) && (problem.code === 'wrong-password' || problem.status === 429)) {
      password.value = ''
      notSealed.value = problem.message
      return { done: 0, how: 'wait' }
    }
    if (problem.status === 401 || problem.code === 'stale-page') return { done: 0, how: 'stop' }
    const breaks = problem.status === 500 && next.tries + 1 < MOST_TRIES
    if (breaks) await note(next.id, { tries: next.tries + 1 })
    if (breaks || problem.status === 0 || problem.status === 429 || problem.status > 500) {
      offline.value = problem.status === 0 || problem.status > 500
      waitNoMore()
      timer = setTimeout(() => void flush(), AGAIN_ms)
      return { done: 0, how: 'stop' }
    }
    await note(next.id, {
      refused: [problem.message, ...problem.fields.map((f) => `${f.path}: ${f.rule}`)].join(' '),
      refusedCode: problem.code,
      ...(problem.current ? { current: problem.current } : {}),
    })
    return { done: 1, how: 'on' }
  }

  function waitNoMore(): void {
    clearTimeout(timer)
    timer = undefined
  }
  const isHeld = (write: Write) => !password.value && isUnsealed(write)
  let asked = false
  let closed = false
  /** Sends what waits, as long as it goes; one tab at a time. */
  async function flush(): Promise<void> {
    const by = session.person?.id
    if (!by || session.ended || asked || closed) return
    asked = true
    waitNoMore()
    await storing.catch(() => undefined)
    await exclusively(`outbox.${by}`, async () => {
      // Whoever writes from now on asks again.
      asked = false
      together = true
      // What was entered meanwhile is sent after what was there.
      while (mayGo(by) && (await inLanes(await sendable(by), { isHeld, send, together: () => together })));
    }).catch(() => undefined)
    sweep()
    asked = false
  }
  /** Puts away a refused write, when somebody has seen why. */
  async function dismiss(id: string): Promise<void> {
    out.add(id)
    sweep()
    if (!forgetUnkept(id)) await dropWrite(id)
  }
  /** Everything in the room has been stored and one round of sending has passed: for tests. */
  const settled = () => storing
  const online = () => void flush()
  window.addEventListener('online', online)
  watch(
    () => [session.person?.id, session.ended],
    () => void flush(),
    { immediate: true },
  )
  function close(): void {
    closed = true
    stopWatching()
    stopKeeping()
    clearTimeout(timer)
    clearTimeout(keepAgain)
    clearTimeout(sweeping)
    window.removeEventListener('online', online)
  }
  return {
    pending,
    waiting,
    most,
    refused,
    others,
    offline,
    full,
    toSeal,
    notSealed,
    seal,
    put,
    flush,
    dismiss,
    draftKept,
    settled,
    close,
  }
})
