// A write of the loop that is open: sent at once, or kept on this device until the server is reached, in order with
// what waits for that loop already.
import type { Check, EndpointName, Endpoints, WorkEntry } from '@calm-loop/contract'
import { until } from '@vueuse/core'
import { defineStore } from 'pinia'
import type { z } from 'zod'
import { call, isAway, type ApiProblem } from '../api/client.ts'
import { useFolder } from './folder.ts'
import { useOutbox } from './outbox.ts'
import { waitingFor } from './with-waiting.ts'

/** What is sent in coverage has gone by then, or it waits. */
const ON_ITS_WAY_ms = 3000

type Body<N extends EndpointName> = z.input<Endpoints[N]['body']>
export interface Later<N extends EndpointName> {
  readonly endpoint: N
  /** Id of the thing written. */
  readonly id: string
  readonly params: Record<string, string> & { readonly loopId: string }
  readonly body: Body<N>
  /** What it is kept as where it waits; `body` where nothing else is said. */
  readonly waits?: Body<N>
  /** How the folder shows it while it waits. */
  readonly shown?: unknown
}

export const useLater = defineStore('later', () => {
  const folder = useFolder()
  const outbox = useOutbox()

  /**
   * Sends a write, or keeps it; nothing that is practised waits, as the bench is on the server.
   * @returns the server’s answer; undefined where it waits
   * @throws ApiProblem where the server refuses it
   */
  async function write<N extends EndpointName>(w: Later<N>): Promise<z.output<Endpoints[N]['response']> | undefined> {
    const { loopId } = w.params
    // After what waits already, or the server would hear the second before the first. In coverage that is on its way.
    const behind = () => !folder.practising && waitingFor(outbox.waiting, loopId).length > 0
    const held = outbox.offline || waitingFor(outbox.toSeal, loopId).length > 0
    if (behind() && !held) {
      void outbox.flush()
      await until(() => behind() && !outbox.offline).toBe(false, { timeout: ON_ITS_WAY_ms })
    }
    if (behind()) return keep(w)
    try {
      return await call(w.endpoint, { params: w.params, body: w.body } as Parameters<typeof call<N>>[1])
    } catch (error) {
      if (!isAway(error as ApiProblem) || folder.practising) throw error
      return keep(w)
    }
  }
  function keep<N extends EndpointName>({ endpoint, id, params, body, waits, shown }: Later<N>): undefined {
    const tag = folder.view?.loop.id === params.loopId ? folder.view.loop.tag : ''
    const kept = shown === undefined ? {} : { shown }
    outbox.put({ id, endpoint, params, body: waits ?? body, tag, ...kept }, (saved) => {
      // On record before it no longer waits: in between it would be neither.
      if (endpoint === 'addWork' && saved) folder.addEntry(params.loopId, saved as WorkEntry)
      if (endpoint === 'doProcedure') for (const e of (saved as WorkEntry[]) ?? []) folder.addEntry(params.loopId, e)
      if (endpoint === 'startCheck' && saved) folder.addCheck(params.loopId, saved as Check)
      void folder.refresh().catch(() => undefined)
    })
    return undefined
  }
  return { write }
})
