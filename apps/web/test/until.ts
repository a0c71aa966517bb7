// How a test waits for what a page will show.
import { flushPromises } from '@vue/test-utils'
import { vi } from 'vitest'

/** Against hanging: a machine that is busy may take its time. */
const PATIENCE_ms = 60_000

/** Waits until something holds, as a person would. */
export const until = <T>(look: () => T | Promise<T>): Promise<T> =>
  vi.waitFor(
    async () => {
      await flushPromises()
      return look()
    },
    { timeout: PATIENCE_ms, interval: 20 },
  )
