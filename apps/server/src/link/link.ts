// A device link: one small interface for whatever the loop is connected to, simulated or real.
import type { CommandMeter, LinkDescription, LiveReading, MeterHeld, MoveProcess, Revealed } from '@calm-loop/contract'
import type { z } from 'zod'

export interface DeviceLink {
  readonly description: z.infer<typeof LinkDescription>
  /** Calls `listener` with each live reading until the returned function is called; `closed` when the link ends before that. */
  subscribe(listener: (reading: LiveReading) => void, closed?: () => void): () => void
  /** Moves the process, where the link can. @throws Refusal */
  move(wish: MoveProcess): void
  /** The meter behind the link, where there is one. */
  readonly meter?: {
    held(): z.infer<typeof MeterHeld>
    /** @throws Refusal */
    command(command: CommandMeter): void
    reveal(): z.infer<typeof Revealed>
  }
  /** The process value now, so that a link made anew can go on from there. */
  processNow(): number
  /** How many listen. */
  listening(): number
  close(): void
}

/** Those who listen to a link. */
export function audience() {
  const listeners = new Map<(reading: LiveReading) => void, (() => void) | undefined>()
  return {
    size: () => listeners.size,
    tell: (reading: LiveReading) => listeners.forEach((_, listener) => listener(reading)),
    join(listener: (reading: LiveReading) => void, closed?: () => void): () => void {
      listeners.set(listener, closed)
      return () => void listeners.delete(listener)
    },
    close() {
      const last = [...listeners.values()]
      listeners.clear()
      last.forEach((closed) => closed?.())
    },
  }
}
