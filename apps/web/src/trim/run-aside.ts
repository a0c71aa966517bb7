// Gates of a run that were passed on this device and that the server did not take, as somebody had gone on first: what
// was done, and what it left otherwise than the record says.
import { runsOf, type WorkEntry, type WorkOf } from '@calm-loop/contract'
import { PROCEDURE_NAMES, replay, toPutRight, type Aside, type RunState } from '@calm-loop/core/procedure'
import { attempt, Refusal } from '@calm-loop/core/refusal'
import { sure } from '@calm-loop/core/sure'
import type { Pending } from '../stores/outbox.ts'
import { eventsOf } from '../stores/with-waiting.ts'

export interface RunAside {
  readonly run: string
  readonly name: string
  /** Why the first of them was refused. */
  readonly why: string
  /** What was done here, step by step. */
  readonly steps: readonly string[]
  readonly putRight: readonly Aside[]
  /** The writes that were refused, in their order. */
  readonly writes: readonly Pending[]
}

const stateOf = (entries: readonly WorkOf<'procedure'>[]): RunState | undefined => {
  const made = entries.length ? attempt(() => replay(entries.map((e) => e.event))) : undefined
  return made instanceof Refusal ? undefined : made
}

/** A step as it was done, in words. */
function wordsOf({ event }: WorkOf<'procedure'>, state: RunState | undefined): string {
  if (event.do === 'begin') return `Begun: ${PROCEDURE_NAMES[event.procedure]}`
  if (event.do === 'cancel') return `Cancelled: ${event.reason}`
  const id = event.do === 'undone' ? event.undo : event.step
  const title = state?.steps.find((s) => s.id === id)?.title ?? id
  const said = 'typed' in event && typeof event.typed === 'string' ? event.typed : ''
  const words = 'words' in event ? (event.words ?? '') : ''
  return [title, [said, words].filter(Boolean).join('; ')].filter(Boolean).join(': ')
}

/**
 * What of a loop's runs does not stand, by run.
 * @param log of the record: practice has nothing of it
 */
export function runsAside(refused: readonly Pending[], loopId: string, log: readonly WorkEntry[]): RunAside[] {
  const mine = refused.filter((w) => w.endpoint === 'doProcedure' && w.params['loopId'] === loopId)
  const runs = [...new Set(mine.map((w) => sure(w.params['runId'])))]
  return runs.map((run) => {
    const writes = mine.filter((w) => w.params['runId'] === run)
    const done = writes.flatMap(eventsOf)
    const onRecord = runsOf(log).find((r) => r.run === run)?.entries ?? []
    const after = (writes[0]!.body as { after?: string }).after
    const before = onRecord.slice(0, onRecord.findIndex((e) => e.id === after) + 1)
    const since = stateOf(before)
    const here = stateOf([...before, ...done])
    // Where the run itself was refused, the loop is as it was before it, or as another run has left it.
    const others = runsOf(log).at(-1)?.entries ?? []
    const stands = stateOf(onRecord) ?? stateOf(others) ?? stateOf(done.slice(0, 1))
    return {
      run,
      name: here ? PROCEDURE_NAMES[here.procedure] : 'Guided work',
      why: writes[0]!.refused ?? '',
      steps: done.filter((e) => e.event.do !== 'answered').map((e) => wordsOf(e, here)),
      putRight: here && stands ? toPutRight(here, stands.world, since) : [],
      writes,
    }
  })
}
