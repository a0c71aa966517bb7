import { flushPromises } from '@vue/test-utils'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { effectScope, nextTick, ref, type EffectScope } from 'vue'
import { useReveal } from './useReveal.ts'

let answer: (reveals: string) => void
let asked: string[]
let scope: EffectScope
const loop = ref('one')
const practice = ref<string>()
const bench = () =>
  scope.run(() =>
    useReveal(
      () => loop.value,
      () => practice.value,
    ),
  )!

beforeEach(() => {
  scope = effectScope()
  asked = []
  loop.value = 'one'
  practice.value = undefined
  vi.stubGlobal('fetch', (address: string) => {
    asked.push(address)
    return new Promise<Response>((resolve) => {
      answer = (reveals) => resolve(new Response(JSON.stringify({ case: 'a', reveals }), { status: 200 }))
    })
  })
})
afterEach(() => {
  scope.stop()
  vi.unstubAllGlobals()
})

it('shows what is hidden, and keeps it when the device is seen for the first time only afterwards', async () => {
  const { revealed, reveal } = bench()
  void reveal()
  answer('0.09 mA too much')
  await flushPromises()
  expect(revealed.value).toBe('0.09 mA too much')
  practice.value = 'case 3'
  await nextTick()
  expect(revealed.value).toBe('0.09 mA too much')
  expect(asked[0]).toContain('/loops/one/')
})
it('hides it when another case is begun, or another loop opened', async () => {
  practice.value = 'case 3'
  const { revealed, reveal } = bench()
  for (const change of [() => (practice.value = 'case 4'), () => (loop.value = 'two')]) {
    void reveal()
    answer('it')
    await flushPromises()
    expect(revealed.value).toBe('it')
    change()
    await nextTick()
    expect(revealed.value).toBe('')
  }
})
it('does not show an answer about a case that is over', async () => {
  practice.value = 'case 3'
  const { revealed, reveal } = bench()
  void reveal()
  practice.value = 'case 4'
  await nextTick()
  answer('of case 3')
  await flushPromises()
  expect(revealed.value).toBe('')
})
