import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { effectScope, nextTick, ref } from 'vue'
import { afterFrame, useAfterFrame } from './afterFrame.ts'
import { until } from '../../test/until.ts'

let frames: (() => void)[] = []
/** Lets the browser draw its next frame, and what was sent from within it arrive. */
async function frame(): Promise<void> {
  const due = frames
  frames = []
  due.forEach((draw) => draw())
  await until(() => expect(delivered).toBe(due.length + already))
  already = delivered
}
let delivered = 0
let already = 0

beforeEach(() => {
  frames = []
  delivered = already = 0
  vi.stubGlobal('requestAnimationFrame', (draw: () => void) => frames.push(draw))
  const Real = globalThis.MessageChannel
  vi.stubGlobal(
    'MessageChannel',
    class extends Real {
      constructor() {
        super()
        this.port1.addEventListener('message', () => delivered++)
      }
    },
  )
})
afterEach(() => vi.unstubAllGlobals())

describe('what may wait', () => {
  it('is done after the frame, once', async () => {
    let done = 0
    afterFrame(() => done++)
    expect(done).toBe(0)
    await frame()
    expect(done).toBe(1)
  })

  it('is not done when it was stopped before', async () => {
    let done = 0
    afterFrame(() => done++)()
    await frame()
    expect(done).toBe(0)
  })

  it('follows its source a frame later, and only to where it came to rest', async () => {
    const source = ref(1)
    const scope = effectScope()
    const later = scope.run(() => useAfterFrame(() => source.value))!
    expect(later.value).toBe(1)
    source.value = 2
    await nextTick()
    source.value = 3
    await nextTick()
    expect(later.value).toBe(1)
    await frame()
    expect(later.value).toBe(3)
    source.value = 4
    await nextTick()
    scope.stop()
    await frame()
    expect(later.value).toBe(3)
  })
})
