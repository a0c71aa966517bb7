// A run walked by a script: at each gate the event that passes it, as a technician and a working device would give it.
import type { ProcedureEvent } from './events.ts'
import { bufferPh } from '../analysis/index.ts'
import { advance, expectedAt, phPoints } from './machine.ts'
import type { RunState } from './state.ts'
import { commandFrom, type Command } from './command.ts'
import { stepsOf, type Held, type ProcedureId, type Step, type Terms } from './steps.ts'
import { toUndo } from './undo.ts'

export const TERMS: Terms = {
  tag: 'PDT-118',
  unit: 'mbar',
  quantity: 'pressure',
  decimals: 1,
  lrv: 0,
  urv: 600,
  tolerancePct: 0.5,
  plausiblePct: 3,
  stability: { window_s: 4, driftPct: 0.1, noisePct: 0.06 },
  sensorLow: -1000,
  sensorHigh: 1000,
  manifold: 'three-valve',
  controls: 'Filter backwash at 450 mbar',
  tell: 'Wash house operator',
  cautions: ['Pressure.'],
  reference: 'pressure calibrator',
  process: 'Pressure',
  lower: 0,
  upper: 600,
  faultLow_mA: 3.6,
  faultHigh_mA: 21.5,
  shunt_Ohm: 250,
  toLow: 0,
  toHigh: 500,
  receiverUnit: 'mbar',
  toDamping_s: 2,
}
export const PH_TERMS: Terms = {
  ...TERMS,
  tag: 'AT-221',
  unit: 'pH',
  quantity: 'acidity',
  decimals: 2,
  lrv: 2,
  urv: 12,
  sensorLow: 0,
  sensorHigh: 14,
  manifold: 'none',
  lower: 2,
  upper: 12,
  toLow: 2,
  toHigh: 11,
  buffers: ['4.00', '7.00', '10.01'],
  reference: 'buffer',
}
export const termsFor = (procedure: ProcedureId, manifold: Terms['manifold'] = 'three-valve'): Terms =>
  procedure === 'ph-calibration' ? PH_TERMS : { ...TERMS, manifold: procedure === 'flow-zero' ? 'none' : manifold }

/** A device that does as it is told. */
export function heldAfter(commands: readonly Command[], terms: Terms): Held {
  let held: Held = {
    lrv: terms.lrv,
    urv: terms.urv,
    receiverLow: terms.lrv,
    receiverHigh: terms.urv,
    fixed_mA: null,
    stored: true,
    changes: 0,
    slope_mVperPh: -59,
    offset_mV: 0,
  }
  for (const c of commands) {
    const changed = { ...held, changes: held.changes + 1, stored: false }
    if (c.do === 'drive') held = { ...held, fixed_mA: c.mA }
    else if (c.do === 'release') held = { ...held, fixed_mA: null }
    else if (c.do === 'store') held = { ...held, stored: true }
    else if (c.do === 'set-range') held = { ...changed, lrv: c.lrv, urv: c.urv }
    else if (c.do === 'receiver') held = { ...changed, receiverLow: c.low, receiverHigh: c.high }
    else if (c.do === 'ph-calibrate') held = { ...changed, slope_mVperPh: c.slope_mVperPh, offset_mV: c.offset_mV }
    else if (c.do === 'damping') held = { ...changed, damping_s: c.seconds }
    else if (c.do === 'self-test') held = { ...held, health: '' }
    else held = changed
  }
  return held
}

/** The buffer that is named at the gate before, else the last that was not read yet: the order is free. */
function bufferOf(state: RunState, step: Step): number {
  const named = state.steps.find((x) => x.id === step.buffer)!.asks
  if (named !== undefined) return Number(named)
  const { buffers = [], ownBuffers } = state.terms
  const read = phPoints(state).map((p) => p.buffer)
  return bufferPh(buffers.filter((b) => !read.includes(b)).at(-1)!, 25, ownBuffers).ph
}

/** What passes the gate that is open. */
export function passing(state: RunState, commands: readonly Command[]): ProcedureEvent {
  const step: Step = state.steps[state.at]!
  const { terms } = state
  if (state.pending) return { do: 'answered', step: state.pending.step, taken: true, says: '' }
  switch (step.kind) {
    case 'words':
      return { do: 'pass', step: step.id, words: step.id === 'trips' ? 'PTW-204' : 'Rolf' }
    case 'as-found':
      return { do: 'pass', step: step.id, points: ['a', 'b'] }
    case 'valve':
      return { do: 'valve', step: step.id, move: step.move! }
    case 'apply':
      return { do: 'pass', step: step.id, typed: `${step.target} ${terms.unit}` }
    case 'buffer':
      return { do: 'pass', step: step.id, typed: '25 °C' }
    case 'steady':
      return {
        do: 'pass',
        step: step.id,
        steady: { state: 'stable', driftPct: 0.01, noisePct: 0.01, window_s: 4, samples: 80 },
      }
    case 'reading': {
      const { what, unit } = step.reads!
      const value = what === 'electrode' ? -58 * (bufferOf(state, step) - 7) : expectedAt(state, step)!
      return { do: 'pass', step: step.id, typed: `${Number(value.toFixed(6))} ${unit}` }
    }
    case 'command':
      return {
        do: 'sent',
        step: step.id,
        command: commandFrom(step.sends!, state.values),
        changesBefore: heldAfter(commands, terms).changes,
      }
    case 'read-back':
      return { do: 'read', step: step.id, held: heldAfter(commands, terms) }
    default:
      return { do: 'pass', step: step.id }
  }
}

/** What undoes the first thing that is left to undo. */
export function undoing(state: RunState, commands: readonly Command[]): ProcedureEvent {
  if (state.pending) return { do: 'read', step: 'any', held: heldAfter(commands, state.terms) }
  const first = toUndo(state)[0]!
  if (first.kind === 'valve') return { do: 'valve', step: first.id, move: first.move! }
  if (first.kind === 'command')
    return {
      do: 'sent',
      step: first.id,
      command: first.command!,
      changesBefore: heldAfter(commands, state.terms).changes,
    }
  return { do: 'undone', undo: first.id, words: 'done' }
}

/** A run from its beginning to its end, or for as many events as wanted; with every state on the way. */
export function walk(procedure: ProcedureId, terms: Terms, most = Infinity) {
  const events: ProcedureEvent[] = [{ do: 'begin', procedure, terms, steps: stepsOf(procedure, terms) }]
  let state = advance(undefined, events[0]!)
  const states = [state]
  const commands: Command[] = []
  while (state.status === 'running' && events.length < most) {
    const event = passing(state, commands)
    if (event.do === 'sent') commands.push(event.command)
    state = advance(state, event)
    events.push(event)
    states.push(state)
  }
  return { events, states, state, commands }
}
