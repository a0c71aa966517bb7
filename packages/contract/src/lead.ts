// What comes on record when a gate of a guided run is passed: the same where it is put there and on a page that leads
// one by hand out of coverage.
import type { OwnBuffer } from '@calm-loop/core/analysis'
import { termsOf, type CurrentStudy } from '@calm-loop/core/loop'
import {
  advance,
  BY_EYE,
  commandFrom,
  heldByHand,
  stepsOf,
  toUndo,
  type Command,
  type Held,
  type ProcedureEvent,
  type RunState,
  type SteadyEvidence,
  type Step,
} from '@calm-loop/core/procedure'
import { Refusal } from '@calm-loop/core/refusal'
import type { DoProcedure, TrimLimits } from './procedures.ts'

import { asFoundStanding, type WorkEntry } from './work-log.ts'

/** What is known of a loop and of its run when a gate is passed. */
export interface RunNow {
  readonly tag: string
  /** The loop as its last entries make it; looked at when a run is begun. */
  readonly study: () => CurrentStudy
  readonly limits: TrimLimits
  readonly ownBuffers: readonly OwnBuffer[]
  readonly state: RunState | undefined
  readonly log: readonly WorkEntry[]
}
/** What a device that answers adds. */
export interface OverLink {
  readonly also: Readonly<Record<string, number>>
  readonly steadyBy: (state: RunState, step: Step) => SteadyEvidence
  readonly held: Held | undefined
}

/** What a device is taken to have said to a command that a person gave it. */
export const BY_HAND = 'Done at the device with the technician’s own communicator.'

/** What the device holds, as the person saw it. @throws Refusal `words-missing`, `value-missing` */
function seenBy(state: RunState | undefined, { seen, typed }: Extract<DoProcedure, { do: 'read' }>) {
  if (!seen?.trim()) throw new Refusal('words-missing', 'Say what the device shows now, as you see it there.')
  if (!state) throw new Refusal('not-begun', 'This run was never begun.')
  return { held: heldByHand(state, typed), seen: seen.trim(), ...(typed ? { typed } : {}) }
}

function passed(wish: Extract<DoProcedure, { do: 'pass' }>, { state, log }: RunNow, link?: OverLink): ProcedureEvent {
  const step = state?.steps[state.at]
  const reads = step?.kind === 'reading' || step?.kind === 'steady'
  return {
    do: 'pass',
    step: wish.step,
    ...(link && reads ? { also: link.also } : {}),
    ...(wish.words === undefined ? {} : { words: wish.words }),
    ...(wish.typed === undefined ? {} : { typed: wish.typed }),
    ...(step?.kind === 'steady' && state ? { steady: link ? link.steadyBy(state, step) : BY_EYE } : {}),
    ...(step?.kind === 'as-found' ? { points: asFoundStanding(log).map((p) => p.id) } : {}),
  }
}

/** The event that a wish makes; `send` is made by `sentEvent`. @throws Refusal */
export function eventOf(wish: Exclude<DoProcedure, { do: 'send' }>, now: RunNow, link?: OverLink): ProcedureEvent {
  switch (wish.do) {
    case 'begin': {
      const { procedure, choices } = wish
      const { tag, limits: site, ownBuffers } = now
      const terms = termsOf(now.study(), { tag, procedure, site, choices, ownBuffers })
      return { do: 'begin', procedure, terms, steps: stepsOf(procedure, terms) }
    }
    case 'pass':
      return passed(wish, now, link)
    case 'read':
      return link?.held
        ? { do: 'read', step: wish.step, held: link.held }
        : { do: 'read', step: wish.step, ...seenBy(now.state, wish) }
    case 'again':
      return { do: 'again', step: wish.step, reason: wish.reason }
    case 'valve':
      return { do: 'valve', step: wish.step, move: wish.move }
    case 'cancel':
      return { do: 'cancel', reason: wish.reason }
    case 'undone':
      return { do: 'undone', undo: wish.undo, words: wish.words }
  }
}

/** What the gate that is open sends. */
function planned(state: RunState | undefined): Command | undefined {
  const sends = state?.steps[state.at]?.sends
  return sends && state && commandFrom(sends, state.values)
}

/** A command as it goes out. Where nothing is sent at this gate, the core says what stands in the way. */
export function sentEvent(state: RunState | undefined, step: string, changesBefore: number): ProcedureEvent {
  const command = state?.status === 'cancelled' ? toUndo(state).find((u) => u.id === step)?.command : planned(state)
  return { do: 'sent', step, command: command ?? { do: 'release' }, changesBefore }
}

/** All that comes on record by a wish where nothing answers. @throws Refusal by the gate that stays shut */
export function eventsByHand(wish: DoProcedure, now: RunNow): ProcedureEvent[] {
  const events: ProcedureEvent[] =
    wish.do === 'send'
      ? [sentEvent(now.state, wish.step, 0), { do: 'answered', step: wish.step, taken: true, says: BY_HAND }]
      : [eventOf(wish, now)]
  events.reduce(advance, now.state)
  return events
}
