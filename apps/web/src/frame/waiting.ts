// What waits on this device, as a person reads it: by loop, with its age; and what could not be sent.
import type { EndpointName, Reading, TakeReading } from '@calm-loop/contract'
import type { Pending } from '../stores/outbox.ts'

const WHAT: Partial<Record<EndpointName, string>> = {
  takeReading: 'reading',
  addWireEntry: 'wiring entry',
  addEdges: 'changes counted',
  addWork: 'step of the work',
  startCheck: 'check begun',
  confirmGate: 'gate',
  sign: 'signature',
  createLoop: 'new loop',
  doProcedure: 'gate of guided work',
}

/** What a write is, in words. */
export function writeWords(write: Pick<Pending, 'endpoint' | 'body'>): string {
  const words = WHAT[write.endpoint] ?? 'entry'
  if (write.endpoint !== 'takeReading') return words
  const { applied, reads } = write.body as TakeReading
  const read = reads['current'] ?? reads['controller']
  return `${words} at ${applied.typed}${read ? `: ${read.typed}` : ''}`
}

export interface WaitingLoop {
  readonly tag: string
  readonly count: number
  readonly since: number
}

/** Loops for which something waits, the longest waiting first. */
export function byLoop(waiting: readonly Pending[]): WaitingLoop[] {
  const found = new Map<string, WaitingLoop>()
  for (const { tag, at } of waiting) {
    const known = found.get(tag)
    found.set(tag, { tag, count: (known?.count ?? 0) + 1, since: Math.min(known?.since ?? at, at) })
  }
  return [...found.values()].sort((a, b) => a.since - b.since)
}

/** The reading that stands in place of a refused one; it can be corrected with a reason. */
export const standingInstead = (write: Pick<Pending, 'refusedCode' | 'current'>): Reading | undefined =>
  write.refusedCode === 'already-read' ? (write.current as Reading | undefined) : undefined
