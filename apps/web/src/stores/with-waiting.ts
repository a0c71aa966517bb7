// A folder as it will stand: what waits on this device counts as done here, by its person and in its order.
import type { AddWorkEntry, Check, FolderView, Gate, Reading, TakeReading, WorkEntry } from '@calm-loop/contract'
import type { Pending } from './outbox.ts'

const isOf =
  (loopId: string) =>
  ({ params }: Pending): boolean =>
    params['loopId'] === loopId

/** What waits for a loop, in the order in which it was written. */
export const waitingFor = (waiting: readonly Pending[], loopId: string): readonly Pending[] =>
  waiting.filter(isOf(loopId))

const byWhom = (write: Pending) => ({ id: write.by, name: write.byName })
const when = (write: Pending) => new Date(write.at).toISOString()

/** The entry that a waiting write will become; undefined of another write. */
export function entryOf(write: Pending): WorkEntry | undefined {
  if (write.endpoint !== 'addWork') return undefined
  // Out of coverage nothing is simulated: the bench is on the server.
  return { ...(write.body as AddWorkEntry), practice: false, id: write.id, by: byWhom(write), at: when(write) }
}

/** A check that was begun here and waits, as it was planned by the same rules as the server’s. */
const checkOf = (write: Pending): Check | undefined =>
  write.endpoint === 'startCheck' ? (write.shown as Check | undefined) : undefined

function gateOf(write: Pending): Gate {
  return { ...(write.body as Pick<Gate, 'gate' | 'words' | 'told'>), id: write.id, by: byWhom(write), at: when(write) }
}
function readingOf(write: Pending, check: Check): Reading | undefined {
  const { sample: _, ...take } = write.body as TakeReading
  const point = check.points[take.pointIndex]
  if (!point) return undefined
  const seq = (check.readings.at(-1)?.seq ?? 0) + 1
  const { percent, direction } = point
  return { ...take, id: write.id, seq, percent, direction, by: byWhom(write), savedAt: when(write) }
}
const lacks = (known: readonly { id: string }[], id: string) => !known.some((k) => k.id === id)

/** A check with what waits for it. */
function checkWith(check: Check, write: Pending): Check {
  if (write.params['checkId'] !== check.id) return check
  if (write.endpoint === 'confirmGate' && lacks(check.gates, write.id))
    return { ...check, gates: [...check.gates, gateOf(write)] }
  const reading = write.endpoint === 'takeReading' && lacks(check.readings, write.id) && readingOf(write, check)
  return reading ? { ...check, readings: [...check.readings, reading] } : check
}

/** The folder with what waits for it; the very same where nothing does. */
export function withWaiting(view: FolderView, waiting: readonly Pending[]): FolderView {
  const mine = waitingFor(waiting, view.loop.id)
  if (!mine.length) return view
  const more = mine.flatMap((w) => entryOf(w) ?? []).filter((e) => lacks(view.workLog, e.id))
  const begun = mine.flatMap((w) => checkOf(w) ?? []).filter((c) => lacks(view.checks, c.id))
  const before = begun.length ? [...view.checks, ...begun] : view.checks
  const checks = before.map((check) => mine.reduce(checkWith, check))
  const same = !begun.length && checks.every((c, i) => c === view.checks[i])
  if (same && !more.length) return view
  return { ...view, ...(more.length ? { workLog: [...view.workLog, ...more] } : {}), ...(same ? {} : { checks }) }
}

/** Signatures that were given here and wait to be sealed, of a check. */
export const signedHere = (waiting: readonly Pending[], checkId: string): readonly Pending[] =>
  waiting.filter((w) => w.endpoint === 'sign' && w.params['checkId'] === checkId)

/** Whether the loop itself, or a check begun by what is saved of it, waits: entries typed since come after that. */
export const comesFirst = (waiting: readonly Pending[], loopId: string): boolean =>
  waitingFor(waiting, loopId).some((w) => w.endpoint === 'startCheck' || w.endpoint === 'createLoop')
