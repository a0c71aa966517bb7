// When something was done that waited on a device: told by how long it waited, as that device's clock may be off.
import { WAITED_ms, type StartCheck, type Version } from '@calm-loop/contract'
import { HttpProblem } from '../http/problems.ts'

/** Undefined where it was sent at once, or nearly. */
export const doneBefore = (waited_ms: number): Date | undefined =>
  waited_ms < WAITED_ms ? undefined : new Date(Date.now() - waited_ms)

/** So far a device's clock may be off before it is not believed. */
const OFF_ms = 2 * 60_000

/** When a reading was taken: by its device's clock, unless how long it waited says that this clock is off. */
export function takenTruly(told: string, waited_ms: number): string {
  const byWait = doneBefore(waited_ms)
  return byWait && Math.abs(byWait.getTime() - Date.parse(told)) > OFF_ms ? byWait.toISOString() : told
}

/** Who begins something out of coverage saw these entries; by others it would be another. @throws HttpProblem */
export function refuseOtherEntries(head: Version | undefined, on: StartCheck['on'], what: 'check' | 'run'): void {
  if (!head || !on || (on.version === head.id && on.revision === head.revision)) return
  throw new HttpProblem(
    409,
    'version-conflict',
    `${head.author.name} saved a change to this loop before this ${what} arrived: it would go by other entries than ` +
      'those that stood there. Begin it anew.',
    { current: head },
  )
}
