// The tidy layout of the wiring that is open, made in a worker; the last one stays while the next is made.
import type { Wiring } from '@calm-loop/core/wiring'
import { layoutWiring, type WiringLayout } from '@calm-loop/drawing'
import Elk from 'elkjs/lib/elk-api.js'
import workerUrl from 'elkjs/lib/elk-worker.min.js?url'
import { onScopeDispose, shallowRef, watch, type Ref } from 'vue'
import { afterFrame } from '../widgets/afterFrame.ts'

/** What the layout depends on: devices with their terminals, and what is joined to what. */
const shapeOf = (w: Wiring): string =>
  JSON.stringify([
    w.devices.map((d) => [d.id, d.type, d.own?.terminals.length]),
    w.conductors.map((c) => [c.id, c.from, c.to]),
  ])

export function useWiringLayout(wiring: Ref<Wiring | undefined>, room: Ref<number>): Ref<WiringLayout | undefined> {
  const elk = new Elk({ workerUrl })
  const layout = shallowRef<WiringLayout>()
  let wanted = ''
  let busy = false
  let stop: (() => void) | undefined
  async function make(): Promise<void> {
    if (busy) return
    busy = true
    try {
      for (let done = ''; wiring.value && done !== wanted;) {
        done = wanted
        layout.value = await layoutWiring(wiring.value, elk, room.value)
      }
    } finally {
      busy = false
    }
  }
  watch(
    () => (wiring.value && room.value ? `${room.value} ${shapeOf(wiring.value)}` : ''),
    (shape) => {
      if (!shape) return
      wanted = shape
      // The figures at the terminals come first: until the tidy run has followed, a plain one is drawn.
      stop?.()
      stop = afterFrame(() => void make())
    },
    { immediate: true },
  )
  onScopeDispose(() => {
    stop?.()
    elk.terminateWorker()
  })
  return layout
}
