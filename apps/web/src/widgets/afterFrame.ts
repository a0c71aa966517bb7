// What may wait until the frame under the finger is painted: charts, panels, the tidy layout.
import { getCurrentScope, onScopeDispose, shallowRef, watch, type ShallowRef } from 'vue'

/**
 * Does something once the frame that is due has been painted.
 * @returns stops it, if it has not been done yet
 */
export function afterFrame(act: () => void): () => void {
  let stopped = false
  requestAnimationFrame(() => {
    // A message sent from within a frame is delivered after its painting.
    const { port1, port2 } = new MessageChannel()
    port1.onmessage = () => {
      port1.close()
      if (!stopped) act()
    }
    port2.postMessage(0)
  })
  return () => (stopped = true)
}

/**
 * Follows a value one frame later: what hangs on it is drawn after what is under the finger. Of several changes only
 * the last is taken.
 */
export function useAfterFrame<T>(source: () => T): Readonly<ShallowRef<T>> {
  const later = shallowRef(source()) as ShallowRef<T>
  let stop: (() => void) | undefined
  watch(source, () => {
    stop?.()
    stop = afterFrame(() => (later.value = source()))
  })
  if (getCurrentScope()) onScopeDispose(() => stop?.())
  return later
}
