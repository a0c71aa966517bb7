// What was done in a shift, in words, by where it stands on record.
import { attempt, Refusal } from '@calm-loop/core/refusal'
import { PROCEDURE_NAMES, replay, toUndo, type ProcedureEvent } from '@calm-loop/core/procedure'

const WORDS: Readonly<Record<string, string>> = {
  'check-begun-as-found': 'began a check as found',
  'check-begun-as-left': 'began a check as left',
  'check-performed': 'signed a check',
  'check-reviewed': 'countersigned a check',
  'check-accepted': 'accepted a check from elsewhere',
  'loop-in-manual': 'took the loop in manual',
  'loop-released': 'gave the loop back',
  reading: 'took readings',
  wiring: 'worked at the wiring',
  entered: 'changed entries',
  'loop-created': 'created the loop',
  'device-told': 'wrote to a device',
  'device-tied': 'said which device it is',
  'device-untied': 'took its device away',
  'work-begin': 'began guided work',
  'work-cancel': 'gave guided work up',
  'work-sent': 'sent to the device',
  'entry-run-signed': 'signed a verification',
  'entry-interval': 'settled the interval',
  'entry-fit': 'said whether it is fit for use',
  'entry-survey': 'logged a survey',
  'entry-survey-rows': 'logged a survey',
  'job-made': 'asked for a job',
  'job-done': 'did a job',
  'job-withdrawn': 'withdrew a job',
}
/** What is practised at the bench never reads as work. */
export const doneWords = (what: string, practice: boolean): string =>
  practice
    ? 'practised at the bench'
    : (WORDS[what] ??
      (/^(took|laid down) /.test(what) ? what : what.startsWith('work-') ? 'led guided work' : 'worked at the point'))

/** How each run of guided work stands; undefined where it came to its end, or cannot be played through. */
export const runsOpen = ({ runs }: { readonly runs: readonly (readonly ProcedureEvent[])[] }) =>
  runs.map((events) => {
    const state = events.length ? attempt(() => replay(events)) : undefined
    if (!state || state instanceof Refusal) return undefined
    if (state.status !== 'running' && state.status !== 'cancelled') return undefined
    const step = state.steps[state.at]?.title
    const how = state.status === 'cancelled' ? 'given up, and not brought back' : `at “${step ?? 'its end'}”`
    return {
      words: `${PROCEDURE_NAMES[state.procedure]}, ${how}`,
      left: toUndo(state).map((u) => `${u.title}: ${u.says}`),
    }
  })
