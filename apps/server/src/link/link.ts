// A device link: one small interface for whatever the loop is connected to, simulated or real.
import type {
  CommandBench,
  CommandMeter,
  LinkDescription,
  LiveReading,
  MeterHeld,
  MoveProcess,
  Revealed,
  TransmitterView,
  TrendSample,
} from '@calm-loop/contract'
import type { Sample } from '@calm-loop/core/check'
import type { Command, Held, ValveMove } from '@calm-loop/core/procedure'
import type { z } from 'zod'

export type Witness = 'digital' | 'current' | 'electrode'

/** A transmitter that can be told something and asked what it holds. */
export interface TransmitterLink {
  view(): TransmitterView
  /** What it says that it holds. Never settles when the link is dead. */
  read(): Promise<Held>
  /** Tells it something. Never settles when the answer gets lost. */
  command(command: Command): Promise<{ taken: boolean; says: string }>
  /** The manifold and what feeds the sensor, moved along with the run sheet. */
  valve(move: ValveMove): Promise<void>
  feed(input: 'process' | 'bench'): Promise<void>
  /** @throws Refusal */
  bench(command: CommandBench): Promise<void>
  reveal(): z.infer<typeof Revealed>
  /** The newest samples of a witness, in per cent of span (an electrode in mV), in time order. */
  samples(witness: Witness): readonly Sample[]
  /** What every witness shows now, by knot id. */
  now(): Readonly<Record<string, number>>
}

export interface DeviceLink {
  /** Unit of each knot that it reads, by the knot's id. */
  readonly units: Readonly<Record<string, string>>
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
  readonly transmitter?: TransmitterLink
  /** Calls `listener` with each sample of a trend. */
  trend?(listener: (sample: TrendSample) => void): () => void
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
