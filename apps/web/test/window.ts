// What a browser has and the test's window has not: workers, a canvas, observers of sizes, a place to lay boxes out.
import 'fake-indexeddb/auto'
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
// Workers: the module is loaded here, and what it exposes is called as over a port, with nothing but what a port
// carries.
const loaded = new Map<string, Promise<Record<string, (...given: unknown[]) => unknown>>>()
const { exposing } = vi.hoisted((): { exposing: { now: unknown } } => ({ exposing: { now: undefined } }))
vi.stubGlobal(
  'Worker',
  class extends EventTarget {
    readonly address: string
    constructor(address: string | URL) {
      super()
      this.address = new URL(address, 'file://').pathname
    }
    postMessage() {}
    terminate() {}
  },
)
vi.mock('comlink', () => ({
  expose: (api: unknown) => (exposing.now = api),
  proxy: <T>(told: T) => told,
  releaseProxy: Symbol('release'),
  wrap: ({ address }: { address: string }) =>
    new Proxy(
      {},
      {
        get:
          (_, method: string) =>
          async (...given: unknown[]) => {
            const load = async () => {
              await import(/* @vite-ignore */ address)
              return exposing.now as Record<string, (...given: unknown[]) => unknown>
            }
            if (!loaded.has(address)) loaded.set(address, load())
            const carried = given.map((g) => (typeof g === 'function' || g instanceof File ? g : structuredClone(g)))
            return (await loaded.get(address)!)[method]!(...carried)
          },
      },
    ),
}))
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
      queueMicrotask(() => this.told([entry as unknown as ResizeObserverEntry], this))
    }
    unobserve() {}
    disconnect() {}
  },
)
vi.stubGlobal('visualViewport', Object.assign(new EventTarget(), { ...ROOM, offsetLeft: 0, offsetTop: 0, scale: 1 }))
/** A pen that draws nowhere: what is drawn on a canvas is looked at in the browser. */
const pen: unknown = new Proxy(function draw() {}, {
  get: (_, name) => (name === 'measureText' ? () => ({ width: 0 }) : pen),
  set: () => true,
  apply: () => undefined,
})
HTMLCanvasElement.prototype.getContext = (() => pen) as never
