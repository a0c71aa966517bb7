// A HART line: the master of the core, run by the clock on a channel. One request at a time, in order.
import {
  encodeFrame,
  IDLE_MASTER,
  masterStep,
  readStatus,
  USUAL_MASTER,
  wakeAt,
  type Address,
  type Counts,
  type Frame,
  type MasterEvent,
  type MasterSetup,
  type Received,
  type Unanswered,
} from '@calm-loop/core/hart'
import { sure } from '@calm-loop/core/sure'
import { openChannel, type Channel, type Reached } from './channel.ts'
import type { LineLog } from './line-log.ts'

/** What an exchange came to. */
export type Exchange =
  | { readonly frame: Received; readonly tries: number; readonly took_ms: number }
  | { readonly why: Unanswered | 'lost'; readonly tries: number; readonly took_ms: number }
/** Whether an answer came. */
export const answered = (exchange: Exchange): exchange is Extract<Exchange, { frame: Received }> => 'frame' in exchange
/** Its response code; 255 where the device did not understand. */
export const codeOf = (frame: Received): number => readStatus(...sure(frame.status)).code ?? 255

export interface Asking {
  readonly address: Address
  readonly command: number
  readonly data?: Uint8Array
  readonly preambles?: number
  readonly tries?: number
  readonly within_ms?: number
}
export interface HartLine {
  /** Asks after what is on its way; always comes to an end. */
  ask(asking: Asking): Promise<Exchange>
  counts(): Counts
  /** Time of a byte on the line, ms; 0 where somebody else keeps it. */
  readonly byte_ms: number
  close(): void
}

/** What each leaves to the other master after an exchange on a line of its own, ms. */
const AFTER_ms = 75

export interface LineEvents {
  burst(frame: Received): void
  lost(why: string): void
}

/** @throws Error with why the port cannot be opened */
export async function openHartLine(reached: Reached, log: LineLog, events: LineEvents): Promise<HartLine> {
  let state = IDLE_MASTER
  let timer: ReturnType<typeof setTimeout> | undefined
  let settle: ((exchange: Exchange) => void) | undefined
  let isLost = false
  let last: Promise<unknown> = Promise.resolve()

  const channel: Channel = await openChannel(reached, {
    bytes: (bytes) => step({ kind: 'bytes', bytes }),
    lost(why) {
      isLost = true
      log.add('note', undefined, `The port is gone: ${why}.`)
      clearTimeout(timer)
      settle?.({ why: 'lost', tries: 1, took_ms: 0 })
      settle = undefined
      events.lost(why)
    },
  })
  const setup: MasterSetup = { ...USUAL_MASTER, byte_ms: channel.byte_ms }

  function step(event: MasterEvent): void {
    const before = state.counts.junk
    const { state: next, acts } = masterStep(state, event, performance.now(), setup)
    state = next
    if (state.counts.junk > before && event.kind === 'bytes') log.add('in', event.bytes, undefined)
    for (const act of acts) {
      switch (act.kind) {
        case 'send':
          log.add('out', act.bytes)
          channel.send(act.bytes)
          break
        case 'burst':
          log.add('in', encodeFrame(act.frame))
          events.burst(act.frame)
          break
        case 'heard':
          log.add('in', encodeFrame(act.frame))
          break
        case 'answer':
          log.add('in', encodeFrame(act.frame))
          settle?.(act)
          settle = undefined
          break
        case 'unanswered':
          log.add('note', undefined, `No answer after ${act.tries} tries: ${act.why}.`)
          settle?.(act)
          settle = undefined
      }
    }
    clearTimeout(timer)
    const now = performance.now()
    const wake = wakeAt(state, now, setup)
    if (wake !== undefined) timer = setTimeout(() => step({ kind: 'time' }), Math.max(1, wake - now + 1))
  }
  const one = async (asking: Asking): Promise<Exchange> => {
    if (isLost) return { why: 'lost', tries: 0, took_ms: 0 }
    const request: Frame = {
      type: 'request',
      address: asking.address,
      master: 'primary',
      burstMode: false,
      command: asking.command,
      data: asking.data ?? new Uint8Array(),
      status: null,
    }
    const done = new Promise<Exchange>((resolve) => (settle = resolve))
    step({
      kind: 'ask',
      request,
      preambles: asking.preambles ?? 5,
      ...(asking.tries === undefined ? {} : { tries: asking.tries }),
      ...(asking.within_ms === undefined ? {} : { within_ms: asking.within_ms }),
    })
    const exchange = await done
    if (setup.byte_ms) await new Promise((resolve) => setTimeout(resolve, AFTER_ms))
    return exchange
  }
  return {
    ask(asking) {
      const mine = last.then(() => one(asking))
      last = mine.catch(() => undefined)
      return mine
    },
    byte_ms: channel.byte_ms,
    counts: () => state.counts,
    close() {
      clearTimeout(timer)
      channel.close()
      isLost = true
      settle?.({ why: 'lost', tries: 0, took_ms: 0 })
      settle = undefined
    },
  }
}
