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
  makeJob: 'job',
  endJob: 'end of a job',
  moveKit: 'kit taken or laid down',
  saveRound: 'the day as it was put',
}

/** What a write is, in words. */
export function writeWords(write: Pick<Pending, 'endpoint' | 'body'>): string {
  const words = WHAT[write.endpoint] ?? 'entry'
  if (write.endpoint !== 'takeReading') return words
  const { applied, reads } = write.body as TakeReading
  const read = reads['current'] ?? reads['controller']
  return `${words} at ${applied.typed}${read ? `: ${read.typed}` : ''}`
}

/** From so many on it takes a while: then it is told how far the sending is. */
const A_WHILE = 20

/** How far the sending is, of the most that waited; undefined where it is over in a moment. */
export const sentOf = (left: number, most: number): { sent: number; of: number } | undefined =>
  most >= A_WHILE ? { sent: most - left, of: most } : undefined

export function savingWords(left: number, most: number): string {
  const far = sentOf(left, most)
  return far ? `saving: ${far.sent} of ${far.of} sent` : `saving ${left}`
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
