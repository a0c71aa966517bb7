// What a browser has and the test's window has not: workers, a canvas, observers of sizes, a place to lay boxes out.
import '@vitest/web-worker'
import { vi } from 'vitest'

// The layout of the wiring is made where it stands: its worker is a file that only a browser would load.
vi.mock('elkjs/lib/elk-api.js', async () => {
  const { default: Elk } = await import('elkjs/lib/elk.bundled.js')
  return {
    default: class extends Elk {
      constructor() {
        super()
      }
      override terminateWorker() {}
    },
  }
})
// A chart needs a canvas to draw on; what it is given is tested, its pixels are the package's.
vi.mock('vue-chartjs', () => {
  const chart = { props: ['data', 'options'], template: '<canvas role="img" />' }
  return { Scatter: chart, Line: chart, Bar: chart }
})
/** Every box is as large as this: nothing is laid out here, and a drawing asks how much room it has. */
const ROOM = { width: 960, height: 480 }
for (const [name, value] of [
  ['offsetWidth', ROOM.width],
  ['offsetHeight', ROOM.height],
  ['clientWidth', ROOM.width],
  ['clientHeight', ROOM.height],
] as const)
  Object.defineProperty(HTMLElement.prototype, name, { configurable: true, get: () => value })
vi.stubGlobal(
  'ResizeObserver',
  class {
    private readonly told: ResizeObserverCallback
    constructor(told: ResizeObserverCallback) {
      this.told = told
    }
    observe(target: Element): void {
      const contentRect = { ...ROOM, top: 0, left: 0, right: ROOM.width, bottom: ROOM.height, x: 0, y: 0 }
      const size = [{ inlineSize: ROOM.width, blockSize: ROOM.height }]
      const entry = { target, contentRect, contentBoxSize: size, borderBoxSize: size, devicePixelContentBoxSize: size }
      queueMicrotask(() => this.told([entry as unknown as ResizeObserverEntry], this as unknown as ResizeObserver))
    }
    unobserve() {}
    disconnect() {}
  },
)
vi.stubGlobal('visualViewport', Object.assign(new EventTarget(), { ...ROOM, offsetLeft: 0, offsetTop: 0, scale: 1 }))
