// What a port that is worked with can do, and what it is made of.
import type { CommandDevice, DeviceHistory, DeviceWrite, LinkState, Person, WriteValues } from '@calm-loop/contract'
import type { Description } from '@calm-loop/core/description'
import type { HistoryWish } from '@calm-loop/core/hart'
import type { Database } from '../db/database.ts'
import type { Exchange } from './hart-line.ts'
import type { LineLog } from './line-log.ts'
import type { Hearer } from './live.ts'
import type { KnownPort } from './registry.ts'

export interface Session {
  state(): LinkState
  /** The log outlives the opening and closing of the port. */
  readonly log: LineLog
  subscribe(hear: () => void): () => void
  /** @param circuit what the loop’s own circuit says where nothing answers */
  probe(asked: { from: number; to: number; tag?: string | undefined }, circuit?: readonly string[]): Promise<void>
  connect(address: number): Promise<void>
  upload(anew: boolean): Promise<void>
  stop(): void
  write(asked: WriteValues, person: Person): Promise<DeviceWrite[]>
  command(asked: CommandDevice): Promise<void>
  history(): DeviceHistory
  lookAtHistory(): Promise<void>
  downloadHistory(wish: HistoryWish): Promise<void>
  description(): Description
  /** @throws HttpProblem `link-busy` while the line is at work */
  refuseBusy(): void
  /** Takes up the device of a serial, and no other; at once where it is at hand. @throws HttpProblem */
  attach(serial: string): Promise<void>
  /**
   * One request to a device that is at hand, with nothing between.
   * @param once never repeated
   * @throws HttpProblem `other-device`, `link-busy`, `port-lost`
   */
  tell(serial: string, command: number, data?: Uint8Array, once?: boolean): Promise<Exchange>
  /** Something was written past `write`, or what was written is stored: what was read before counts no more. */
  wrote(unstored?: boolean): void
  /** Every live reading, as often as the line gives it. */
  hear(hearer: Hearer): () => void
  /** Lets the device and the port go; who looks at this port goes on looking. */
  leave(): void
  close(): void
}

export interface SessionParts {
  readonly db: Database
  readonly port: KnownPort
  /** Where the port is now: a stand-in has another after each start, an adapter after it was plugged in anew. */
  found(): Promise<KnownPort>
  readonly log: LineLog
  /** Takes the right to the port. @throws HttpProblem */
  hold(lost: () => void): Promise<{ release(): void }>
  closed(): void
}
