// A folder as it will stand: what waits on this device counts as done here, by its person and in its order.
import type { AddWorkEntry, FolderView, WorkEntry } from '@calm-loop/contract'
import type { Pending } from './outbox.ts'

const isOf =
  (loopId: string) =>
  ({ params }: Pending): boolean =>
    params['loopId'] === loopId

/** What waits for a loop, in the order in which it was written. */
export const waitingFor = (waiting: readonly Pending[], loopId: string): readonly Pending[] =>
  waiting.filter(isOf(loopId))

/** The entry that a waiting write will become; undefined of another write. */
export function entryOf(write: Pending): WorkEntry | undefined {
  if (write.endpoint !== 'addWork') return undefined
  // Out of coverage nothing is simulated: the bench is on the server.
  return {
    ...(write.body as AddWorkEntry),
    practice: false,
    id: write.id,
    by: { id: write.by, name: write.byName },
    at: new Date(write.at).toISOString(),
  }
}

/** The folder with what waits for it; the very same where nothing does. */
export function withWaiting(view: FolderView, waiting: readonly Pending[]): FolderView {
  const mine = waitingFor(waiting, view.loop.id).flatMap((w) => entryOf(w) ?? [])
  if (!mine.length) return view
  const known = new Set(view.workLog.map((e) => e.id))
  const more = mine.filter((e) => !known.has(e.id))
  return more.length ? { ...view, workLog: [...view.workLog, ...more] } : view
}
