// A device link: one small interface for whatever the loop is connected to, simulated or real.
import type { LiveReading } from '@calm-loop/contract'

export interface DeviceLink {
  readonly description: {
    readonly driver: 'stand-in'
    readonly unit: string
    readonly lowest: number
    readonly highest: number
  }
  /** Calls `listener` with each live reading until the returned function is called. */
  subscribe(listener: (reading: LiveReading) => void): () => void
  /** Moves the process, where the link can. @throws Refusal */
  move(wanted: number): void
  /** The process value now, so that a link made anew can go on from there. */
  processNow(): number
  close(): void
}
