// What a fault is: a change to the circuit, or to what the meter shows of it.
import type { Alter } from './energise.ts'
import type { Shown } from './predict.ts'
import type { LoopReading } from './readings.ts'

export type FaultKind =
  | 'none'
  | 'open'
  | 'reversed'
  | 'supply-missing'
  | 'supply-second'
  | 'fuse-blown'
  | 'short-earth'
  | 'short-pair'
  | 'leak-earth'
  | 'leak-pair'
  | 'shunt-missing'
  | 'shunt-doubled'
  | 'shunt-wrong'
  | 'supply-low'
  | 'cable-long'
  | 'transmitter-low'
  | 'transmitter-high'
  | 'transmitter-dead'
  | 'meter-fuse'
  | 'meter-jack'
  | 'meter-ac'
  | 'leads-exchanged'
  | 'meter-burden'
  | 'meter-range'
  | 'meter-across'

export interface Fault {
  readonly id: string
  readonly kind: FaultKind
  readonly says: string
  /** Terminals, conductors and devices it is at. */
  readonly where: readonly string[]
  /** How often such a thing is met, as a weight against others; 1 is usual. */
  readonly usual: number
  /** The figure to be found: its limits and whether it is spread over decades. */
  readonly figure?: { readonly low: number; readonly high: number; readonly unit: string; readonly decades: boolean }
  readonly alter: (figure: number) => Alter
  /** Of two at once: both, the first at the figure that was found for it. */
  readonly both?: readonly [Fault, Fault]
  /** Of the meter: what its display makes of what stands there. */
  readonly seen?: (shown: Shown, reading: LoopReading, i: number) => Shown
}
export type Priors = Readonly<Record<FaultKind, number>>
