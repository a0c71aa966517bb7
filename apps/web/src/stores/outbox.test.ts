import type { Session } from '@calm-loop/contract'
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { useOutbox } from './outbox.ts'
import { useSession } from './session.ts'

const person = (id: string): Session => ({
  person: { id, name: id, signIn: id, roles: ['technician'] },
  csrfToken: 't',
  empty: false,
  demo: null,
})
const reading = (id: string) => ({
  id,
  endpoint: 'takeReading' as const,
  params: { loopId: 'l', checkId: 'c', readingId: id },
  body: { pointIndex: 0 },
})
const answer = (status: number, body: object = {}) => new Response(JSON.stringify(body), { status })

let sent: string[]
let respond: (id: string) => Response | Promise<Response>
beforeEach(() => {
  vi.useFakeTimers()
  localStorage.clear()
  setActivePinia(createPinia())
  sent = []
  respond = () => answer(200, { ok: true })
  vi.stubGlobal('fetch', (address: string) => {
    const id = address.split('/').at(-1)!
    sent.push(id)
    return Promise.resolve(respond(id))
  })
  useSession().session = person('ailsa')
})
afterEach(() => {
  vi.useRealTimers()
  vi.unstubAllGlobals()
})
const settle = () => vi.advanceTimersByTimeAsync(0)

describe('the outbox', () => {
  it('sends in order and tells who waits for the answer', async () => {
    const outbox = useOutbox()
    const saved: unknown[] = []
    for (const id of ['1', '2', '3']) outbox.put(reading(id), (r) => saved.push(r))
    await settle()
    expect(sent).toEqual(['1', '2', '3'])
    expect(saved).toHaveLength(3)
    expect(outbox.pending).toEqual([])
  })
  it('keeps what could not be sent, on the device too, and sends it again in order', async () => {
    respond = () => Promise.reject(new TypeError('no network'))
    const outbox = useOutbox()
    outbox.put(reading('1'))
    outbox.put(reading('2'))
    await settle()
    expect(outbox.offline).toBe(true)
    expect(JSON.parse(localStorage.getItem('calm-loop.outbox')!)).toHaveLength(2)
    respond = () => answer(200)
    await vi.advanceTimersByTimeAsync(2500)
    expect(sent.slice(-2)).toEqual(['1', '2'])
    expect(outbox.offline).toBe(false)
    expect(JSON.parse(localStorage.getItem('calm-loop.outbox')!)).toEqual([])
  })
  it('does not take an answer that breaks off on the way for a refusal', async () => {
    const broken = () =>
      new Response(
        new ReadableStream({
          start: (controller) => controller.error(new TypeError('Failed to fetch')),
        }),
        { status: 200 },
      )
    respond = broken
    const outbox = useOutbox()
    outbox.put(reading('1'))
    await settle()
    expect(outbox.pending).toMatchObject([{ id: '1' }])
    expect(outbox.pending[0]!.refused).toBeUndefined()
    respond = () => answer(200)
    await vi.advanceTimersByTimeAsync(2500)
    expect(outbox.pending).toEqual([])
  })
  it('keeps a refused write with the reason, and goes on with the next', async () => {
    respond = (id) => (id === '1' ? answer(409, { code: 'signed', detail: 'This check is signed.' }) : answer(200))
    const outbox = useOutbox()
    outbox.put(reading('1'))
    outbox.put(reading('2'))
    await settle()
    expect(outbox.pending).toMatchObject([{ id: '1', refused: 'This check is signed.' }])
    outbox.dismiss('1')
    expect(outbox.pending).toEqual([])
  })
  it('finds after a reload what was still waiting', async () => {
    respond = () => Promise.reject(new TypeError('no network'))
    useOutbox().put(reading('1'))
    await settle()
    setActivePinia(createPinia())
    useSession().session = person('ailsa')
    respond = () => answer(200)
    const again = useOutbox()
    await settle()
    expect(again.pending).toEqual([])
  })
  it('sends nothing in another person’s name', async () => {
    respond = () => Promise.reject(new TypeError('no network'))
    const outbox = useOutbox()
    outbox.put(reading('1'))
    await settle()
    sent = []
    respond = () => answer(200)
    useSession().session = person('rona')
    await vi.advanceTimersByTimeAsync(10_000)
    expect(sent).toEqual([])
    useSession().session = person('ailsa')
    await vi.advanceTimersByTimeAsync(3000)
    expect(sent).toEqual(['1'])
  })
})
