import { USUAL_DUTIES } from '@calm-loop/contract'
import { deleteDB } from 'idb'
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { useSession } from './session.ts'
import { useWaitingPictures } from './waiting-pictures.ts'

const LOOP = '01890000-0000-7000-8000-000000000001'
const ID = (n: number) => `01890000-0000-7000-8000-0000000000${10 + n}`
const as = (name: string) => {
  useSession().session = {
    person: { id: name, name, signIn: name, roles: ['technician'] },
    ...{ csrfToken: 't', empty: false, duties: USUAL_DUTIES, demo: null },
  }
}
let answer: () => Promise<Response>
let asked: string[]
const file = (name: string) => new File(['picture'], name)
const fresh = (name: string) => {
  setActivePinia(createPinia())
  as(name)
  return useWaitingPictures()
}
beforeEach(() => {
  asked = []
  answer = () => Promise.reject(new TypeError('no network'))
  vi.stubGlobal('fetch', (address: string) => {
    asked.push(address)
    return answer()
  })
})
afterEach(async () => {
  vi.unstubAllGlobals()
  await deleteDB('calm-loop.pictures')
})

it('what waits is there again in a new tab, and is sent once, under the id that it had', async () => {
  await fresh('ailsa').keep(LOOP, ID(1), file('a.jpg'))
  const again = fresh('ailsa')
  await vi.waitFor(() => expect(again.all.map((w) => w.name)).toEqual(['a.jpg']))
  answer = () => Promise.resolve(new Response('{}', { status: 200 }))
  await again.send()
  expect(again.all).toEqual([])
  expect(again.arrived).toBe(1)
  expect(asked.at(-1)).toContain(`${LOOP}/attachments/${ID(1)}?name=a.jpg`)
  const before = asked.length
  await again.send()
  expect(asked).toHaveLength(before)
})
it('what the server does not take says why, and does not hold up the next', async () => {
  const waiting = fresh('ailsa')
  await waiting.keep(LOOP, ID(2), file('words.jpg'))
  await waiting.keep(LOOP, ID(3), file('b.jpg'))
  answer = () => {
    const refused = asked.at(-1)!.includes(ID(2))
    const body = refused ? { code: 'not-a-picture', detail: 'This file is no photograph.' } : {}
    return Promise.resolve(new Response(JSON.stringify(body), { status: refused ? 422 : 200 }))
  }
  await waiting.send()
  expect(waiting.all).toMatchObject([{ name: 'words.jpg', refused: 'This file is no photograph.' }])
})
it('after the first that does not arrive the others wait too, and one whose session ended', async () => {
  const waiting = fresh('ailsa')
  await waiting.keep(LOOP, ID(4), file('a.jpg'))
  await waiting.keep(LOOP, ID(5), file('b.jpg'))
  await vi.waitFor(() => expect(waiting.all).toHaveLength(2))
  const before = asked.length
  await waiting.send()
  expect(asked.length - before).toBe(1)
  answer = () => Promise.resolve(new Response('{"code":"not-signed-in"}', { status: 401 }))
  await waiting.send()
  expect(waiting.all.map((w) => w.refused)).toEqual([undefined, undefined])
})
it('one over which the server breaks is tried again later, and holds up nothing', async () => {
  const waiting = fresh('ailsa')
  await waiting.keep(LOOP, ID(7), file('a.jpg'))
  await waiting.keep(LOOP, ID(8), file('b.jpg'))
  await vi.waitFor(() => expect(waiting.all).toHaveLength(2))
  const broken = JSON.stringify({ code: 'failed', detail: 'Something failed here.' })
  answer = () => Promise.resolve(new Response(broken, { status: asked.at(-1)!.includes(ID(7)) ? 500 : 200 }))
  await waiting.send()
  expect(waiting.all.map((w) => [w.name, w.refused])).toEqual([['a.jpg', undefined]])
  // Not for ever: a large one would be sent again and again.
  for (let i = 0; i < 6; i++) await waiting.send()
  expect(waiting.all[0]!.refused).toBe('Something failed here.')
  const before = asked.length
  await waiting.send()
  expect(asked).toHaveLength(before)
})
it('says how long it waited, so that it is of when it was added', async () => {
  const waiting = fresh('ailsa')
  await waiting.keep(LOOP, ID(9), file('a.jpg'))
  let headers: Record<string, string> = {}
  vi.stubGlobal('fetch', (_: string, init: RequestInit) => {
    headers = init.headers as Record<string, string>
    return Promise.resolve(new Response('{}'))
  })
  vi.setSystemTime(Date.now() + 3_600_000)
  await waiting.send().finally(() => vi.useRealTimers())
  expect(Number(headers['x-waited-ms'])).toBeGreaterThanOrEqual(3_600_000)
})
it('what one person left is not another’s to see or send', async () => {
  await fresh('ailsa').keep(LOOP, ID(6), file('a.jpg'))
  const other = fresh('rona')
  answer = () => Promise.resolve(new Response('{}', { status: 200 }))
  await other.send()
  expect(other.all).toEqual([])
  expect(asked.filter((a) => a.includes(ID(6)) && a.includes('attachments'))).toEqual([])
})
