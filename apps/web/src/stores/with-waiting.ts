// A folder as it will stand: what waits on this device counts as done here, by its person and in its order.
import type {
  AddWorkEntry,
  Check,
  DoProcedure,
  FolderView,
  Gate,
  Reading,
  TakeReading,
  WorkEntry,
  WorkOf,
} from '@calm-loop/contract'
import { answerIdOf } from '@calm-loop/contract/limits'
import type { ProcedureEvent } from '@calm-loop/core/procedure'
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

// Out of coverage nothing is simulated: the bench is on the server.
const marks = (write: Pending) => ({ practice: false, by: byWhom(write), at: when(write) })

/** The entry that a waiting write will become; undefined of another write. */
export const entryOf = (write: Pending): WorkEntry | undefined =>
  write.endpoint === 'addWork' ? { ...(write.body as AddWorkEntry), id: write.id, ...marks(write) } : undefined

/** What a gate of a run that was passed by hand makes: a command has its answer with it. */
export interface LedHere {
  readonly run: string
  readonly events: readonly ProcedureEvent[]
}
/** The events of a run that a waiting write will become; none of another write. */
export function eventsOf(write: Pending): WorkOf<'procedure'>[] {
  if (write.endpoint !== 'doProcedure') return []
  const { run, events } = write.shown as LedHere
  return events.map((event, i) => ({
    ...{ what: 'procedure', run, event, ...marks(write) },
    id: i === 0 ? write.id : answerIdOf(write.id),
  }))
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

/** Whether an entry of a log is still to be sent; the answer to a command goes with it. */
export const waitsHere = (waiting: readonly Pending[], id: string): boolean =>
  waiting.some((w) => w.id === id || answerIdOf(w.id) === id)

/** The folder with what waits for it; the very same where nothing does. */
export function withWaiting(view: FolderView, waiting: readonly Pending[]): FolderView {
  const mine = waitingFor(waiting, view.loop.id)
  if (!mine.length) return view
  const more = mine.flatMap((w) => entryOf(w) ?? eventsOf(w)).filter((e) => lacks(view.workLog, e.id))
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

const begins = ({ endpoint, body }: Pending): boolean =>
  endpoint === 'startCheck' || (endpoint === 'doProcedure' && (body as DoProcedure).do === 'begin')

/** Whether the loop itself, or what was begun by what is saved of it, waits: entries typed since come after that. */
export const comesFirst = (waiting: readonly Pending[], loopId: string): boolean =>
  waitingFor(waiting, loopId).some((w) => w.endpoint === 'createLoop' || begins(w))
