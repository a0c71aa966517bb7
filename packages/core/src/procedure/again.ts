// Going back to a figure that was misread, without ending the run: as far as nothing was done to plant or device since.
import { refuse } from './refuse.ts'
import { whichKey } from './electrode-taken.ts'
import type { RunState } from './state.ts'
import type { Step } from './step.ts'

/** Steps that give a figure. */
const FIGURES: readonly Step['kind'][] = ['apply', 'buffer', 'reading']
/** Steps that can be gone through again: they read and judge, and leave everything as it is. */
const HARMLESS: readonly Step['kind'][] = [...FIGURES, 'steady', 'plausible']

/** Steps whose figure can still be taken again, the newest first. */
export function retakable({ steps, at, status, pending }: RunState): Step[] {
  if (status !== 'running' || pending) return []
  const before = steps.slice(0, at).reverse()
  const barrier = before.findIndex((s) => !HARMLESS.includes(s.kind))
  return before.slice(0, barrier < 0 ? before.length : barrier).filter((s) => FIGURES.includes(s.kind))
}

/** What a step has put among the values of a run. */
const keysOf = (step: Step): string[] => [
  step.id,
  ...(step.gives ? [step.gives, whichKey(step.gives)] : []),
  ...(step.kind === 'plausible' ? [`correction-${step.id}`, 'slope', 'offset', 'slopePercent'] : []),
]

/** The run at that step again, without what was read from there on. @throws Refusal */
export function takeAgain(state: RunState, step: string, reason: string): RunState {
  if (!retakable(state).some((s) => s.id === step))
    refuse(
      'not-retakable',
      'That figure cannot be taken again any more: something was done to the plant or the device since. Cancel ' +
        'the run and begin it anew.',
    )
  if (!reason.trim()) refuse('words-missing', 'Say what was wrong with the figure, for the record.')
  const at = state.steps.findIndex((s) => s.id === step)
  const gone = new Set(state.steps.slice(at).flatMap(keysOf))
  const values = Object.fromEntries(Object.entries(state.values).filter(([key]) => !gone.has(key)))
  return { ...state, at, values, note: '' }
}
