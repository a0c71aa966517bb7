// The state machine of a guided procedure. Pure: a state and an event give the next state, or a refusal that says why
// not.
import { nominalPh } from '../analysis/index.ts'
import type { ProcedureEvent } from './events.ts'
import type { Pending, RunState, World } from './state.ts'
import { inService, moveValve, outOfOrder } from './manifold.ts'
import { commandFrom, type Command } from './command.ts'
import { firstSteps, type Held, type Step } from './steps.ts'
import { takeAgain } from './again.ts'
import { shownByHand } from './by-hand.ts'
import { toUndo } from './undo.ts'
import { outsideSensor, spanOf, taken } from './taken.ts'
import { refuse } from './refuse.ts'
import { sure } from '../sure/index.ts'
export { valueFor, expectedAt, correctionPct } from './taken.ts'
export { phPoints, phFit } from './electrode-taken.ts'

/** Whether what the device holds shows that it took a command. */
export function wasTaken({ command, changesBefore }: Pick<Pending, 'command' | 'changesBefore'>, held: Held): boolean {
  const near = (a: number | undefined, b: number) =>
    a !== undefined && Math.abs(a - b) <= 1e-6 * Math.max(1, Math.abs(b))
  switch (command.do) {
    case 'drive':
      return held.fixed_mA !== null && near(held.fixed_mA, command.mA)
    case 'release':
      return held.fixed_mA === null
    case 'store':
      return held.stored
    case 'set-range':
      return near(held.lrv, command.lrv) && near(held.urv, command.urv)
    case 'receiver':
      return near(held.receiverLow, command.low) && near(held.receiverHigh, command.high)
    case 'ph-calibrate':
      return near(held.slope_mVperPh, command.slope_mVperPh) && near(held.offset_mV, command.offset_mV)
    case 'damping':
      return held.damping_s === undefined ? held.changes > changesBefore : near(held.damping_s, command.seconds)
    case 'self-test':
      return held.health !== undefined || held.changes > changesBefore
    default:
      return held.changes > changesBefore
  }
}

/** @throws Refusal when the terms make no procedure */
function begin({ procedure, terms, steps }: Extract<ProcedureEvent, { do: 'begin' }>): RunState {
  if (terms.lrv === terms.urv) refuse('zero-span', 'Lower and upper range value are equal: finish Range first.')
  if (!(terms.plausiblePct > 0) || !(terms.tolerancePct > 0))
    refuse('no-limits', 'Tolerance and plausibility limit must be above 0 %.')
  if (procedure === 'sensor-trim') {
    const [lower, upper] = [terms.lower ?? terms.lrv, terms.upper ?? terms.urv]
    for (const v of [lower, upper]) outsideSensor(v, terms)
    if (Math.abs(upper - lower) < spanOf(terms) / 4)
      refuse(
        'points-too-close',
        'The two trim points are closer than a quarter of the span: what is trimmed between them would swing ' +
          'wide outside.',
      )
  }
  if (procedure === 'ph-calibration') {
    const buffers = terms.buffers ?? []
    const least = terms.slopePercent === undefined ? 2 : 1
    if (buffers.length < least || buffers.length > 5)
      refuse('buffers-missing', `Choose ${least === 1 ? 'one' : 'two'} to five buffers.`)
    const phs = buffers.map((b) => nominalPh(b, terms.ownBuffers))
    if (phs.some((a, i) => phs.some((b, k) => k > i && Math.abs(a - b) < 0.5)))
      refuse(
        'same-buffer',
        'The same buffer is chosen twice, or two within half a pH of each other: such points give no slope.',
      )
  }
  return {
    procedure,
    terms,
    steps: steps ?? firstSteps(procedure, terms),
    status: 'running',
    at: 0,
    pending: undefined,
    lastWrite: undefined,
    values: {},
    held: undefined,
    shown: [],
    note: '',
    cancelled: undefined,
    undone: [],
    events: 1,
    world: {
      told: false,
      manual: false,
      bypass: undefined,
      manifold: inService(terms.manifold),
      input: 'process',
      fixed_mA: null,
      device: 'untouched',
      written: [],
    },
  }
}

function effects(world: World, step: Step, words: string | undefined): World {
  switch (step.makes) {
    case 'told':
      return { ...world, told: true }
    case 'manual':
      return { ...world, manual: true }
    case 'bypassed':
      return { ...world, bypass: words?.trim() ?? '' }
    case 'input-off-process':
      return { ...world, input: 'bench' }
    case 'input-on-process':
      return { ...world, input: 'process' }
    case 'told-back':
      return { ...world, told: false }
    case 'bypass-removed':
      return { ...world, bypass: undefined }
    case 'automatic':
      return { ...world, manual: false }
    default:
      return world
  }
}

/** What a command leaves behind once the device has taken it. */
function commanded(world: World, { command }: Pending, title: string): World {
  switch (command.do) {
    case 'drive':
      return { ...world, fixed_mA: command.mA }
    case 'release':
      return { ...world, fixed_mA: null }
    case 'self-test':
      return world
    case 'store':
      return { ...world, device: world.device === 'untouched' ? 'untouched' : 'stored' }
    default:
      return { ...world, device: 'changed', written: [...world.written, title] }
  }
}

/** Whether two commands say the same, in whatever order their parts were kept. */
const sameCommand = (a: Command, b: Command): boolean =>
  Object.keys(a).length === Object.keys(b).length &&
  Object.entries(a).every(([key, value]) => (b as unknown as Record<string, unknown>)[key] === value)

const next = (state: RunState, change: Partial<RunState>): RunState => {
  const at = change.at ?? state.at
  return { ...state, note: '', ...change, status: at >= state.steps.length ? 'done' : (change.status ?? state.status) }
}

function stepOf(state: RunState, id: string): Step {
  const step = state.steps[state.at]!
  if (step.id !== id) {
    const known = state.steps.findIndex((s) => s.id === id)
    refuse(
      'step-out-of-order',
      known >= 0 && known < state.at
        ? `“${state.steps[known]!.title}” is passed already: somebody went on elsewhere. The run now stands at ` +
            `“${step.title}”.`
        : `Not yet: the gate “${step.title}” comes first.`,
    )
  }
  return step
}

/** A command whose fate is known now. */
function settle(state: RunState, taken: boolean, says: string): RunState {
  const pending = sure(state.pending)
  const undo = state.status === 'cancelled' ? pending.step : undefined
  const step = state.steps.find((s) => s.id === pending.step)
  const settled = { ...state, pending: undefined }
  if (!taken) return next(settled, { note: says || 'The device did not take it. It holds what it held before.' })
  const world = commanded(state.world, pending, step?.title ?? pending.command.do)
  if (undo) return afterUndo({ ...settled, world, undone: [...state.undone, undo] })
  return next(settled, { world, at: state.at + 1, ...(step?.writes ? { lastWrite: pending } : {}) })
}

const afterUndo = (state: RunState): RunState => ({
  ...state,
  note: '',
  status: toUndo(state).length ? 'cancelled' : 'ended',
})

const supposed = (state: RunState): World => {
  const { pending, world } = state
  if (!pending || pending.command.do === 'release' || pending.command.do === 'store') return world
  return commanded(world, pending, state.steps.find((s) => s.id === pending.step)?.title ?? '')
}

function whileCancelled(state: RunState, event: ProcedureEvent): RunState {
  const first = sure(toUndo(state)[0])
  const only = (id: string) => {
    if (first.id !== id) refuse('step-out-of-order', `Not yet: “${first.title}” comes first.`)
  }
  switch (event.do) {
    case 'valve': {
      if (first.kind !== 'valve') return refuse('step-out-of-order', `Not yet: “${first.title}” comes first.`)
      const manifold = moveValve(state.terms.manifold, state.world.manifold, event.move)
      if (sure(first.move).valve !== event.move.valve || sure(first.move).to !== event.move.to)
        refuse('wrong-move', outOfOrder(sure(first.move), event.move))
      return afterUndo({ ...state, world: { ...state.world, manifold } })
    }
    case 'sent':
      only(event.step)
      if (!first.command || first.command.do !== event.command.do)
        refuse('wrong-event', 'That is not what is to be undone now.')
      return {
        ...state,
        pending: { step: event.step, command: event.command, changesBefore: event.changesBefore },
        note: '',
      }
    case 'undone': {
      only(event.undo)
      if (first.kind === 'valve') return refuse('wrong-event', 'Move the valve at the manifold as drawn.')
      if (!event.words.trim()) return refuse('words-missing', 'Say in a few words what was done, for the record.')
      // What could not be read is taken to have happened: the worse of the two.
      const world: World = first.id === 'read-first' ? supposed(state) : { ...state.world, ...first.leaves }
      const pending = first.id === 'read-first' ? undefined : state.pending
      return afterUndo({ ...state, world, pending, undone: [...state.undone, event.undo] })
    }
    default:
      return refuse('cancelled', 'This run was cancelled; only what must be undone is still open.')
  }
}

/**
 * The state after an event. @throws Refusal with the gate's reason; the state given is then still the true one
 */
export function advance(state: RunState | undefined, event: ProcedureEvent): RunState {
  if (!state) return event.do === 'begin' ? begin(event) : refuse('not-begun', 'This run was never begun.')
  const result = step(state, event)
  return { ...result, events: state.events + 1 }
}

type Event<D extends ProcedureEvent['do']> = Extract<ProcedureEvent, { do: D }>

function cancel(state: RunState, event: Event<'cancel'>): RunState {
  if (state.status === 'cancelled') return refuse('cancelled', 'This run is cancelled already.')
  if (!event.reason.trim()) return refuse('words-missing', 'Say why, for the record.')
  return afterUndo({ ...state, cancelled: { reason: event.reason, step: sure(state.steps[state.at]).id } })
}

/** The device was read: it settles what was sent and never answered, else it passes the gate that reads back. */
function readBack(state: RunState, event: Event<'read'>): RunState {
  const seen =
    event.seen === undefined
      ? { ...state, held: event.held }
      : { ...state, held: undefined, shown: [...state.shown, shownByHand(state, event.seen, event.typed)] }
  if (state.pending) {
    const was = settle(
      seen,
      wasTaken(state.pending, event.held),
      'Read back: the device did not take it. It holds what it held before; send it again, or cancel.',
    )
    return was.status === 'cancelled' ? afterUndo(was) : was
  }
  if (state.status === 'cancelled') return seen
  const at = stepOf(state, event.step)
  if (at.kind !== 'read-back') return refuse('wrong-event', `The gate “${at.title}” is not passed that way.`)
  const { lastWrite } = state
  if (!lastWrite || wasTaken(lastWrite, event.held)) return next(seen, { at: state.at + 1 })
  return next(seen, {
    at: state.steps.findIndex((s) => s.id === lastWrite.step),
    lastWrite: undefined,
    note: 'The device answered, but it does not hold what was written. Write it again, or cancel.',
  })
}

/** An event of a run that goes on: its gate is passed, or stays shut. */
function onward(state: RunState, event: ProcedureEvent): RunState {
  switch (event.do) {
    case 'pass': {
      const at = stepOf(state, event.step)
      const values = { ...state.values, ...taken(state, at, event) }
      return next(state, { values, at: state.at + 1, world: effects(state.world, at, event.words) })
    }
    case 'again':
      return takeAgain(state, event.step, event.reason)
    case 'valve': {
      const at = stepOf(state, event.step)
      if (at.kind !== 'valve') return refuse('wrong-event', 'No valve is to be moved now.')
      const manifold = moveValve(state.terms.manifold, state.world.manifold, event.move)
      const wanted = sure(at.move)
      if (wanted.valve !== event.move.valve || wanted.to !== event.move.to)
        refuse('wrong-move', outOfOrder(wanted, event.move))
      return next(state, { at: state.at + 1, world: { ...state.world, manifold } })
    }
    case 'sent': {
      const at = stepOf(state, event.step)
      if (at.kind !== 'command') return refuse('wrong-event', 'Nothing is sent to the device at this gate.')
      const wanted = commandFrom(sure(at.sends), state.values)
      if (!sameCommand(wanted, event.command)) return refuse('wrong-command', 'That is not what this gate sends.')
      return next(state, { pending: { step: at.id, command: event.command, changesBefore: event.changesBefore } })
    }
    default:
      return refuse('wrong-event', 'Nothing is to be undone in a run that goes on.')
  }
}

export function step(state: RunState, event: ProcedureEvent): RunState {
  if (event.do === 'begin') return refuse('begun-already', 'This run was begun already.')
  if (state.status === 'done') return refuse('run-done', 'This run is finished.')
  if (state.status === 'ended') return refuse('run-ended', 'This run was cancelled and everything is put back.')
  if (event.do === 'cancel') return cancel(state, event)
  if (event.do === 'read') return readBack(state, event)
  if (event.do === 'answered') {
    if (state.pending?.step !== event.step) return refuse('nothing-sent', 'Nothing that could be answered was sent.')
    return settle(state, event.taken, event.says)
  }
  if (state.pending && !(state.status === 'cancelled' && event.do === 'undone'))
    return refuse('unknown-held', 'Unknown: the device never answered, so nobody knows what it holds. Read back first.')
  if (state.status === 'cancelled') return whileCancelled(state, event)
  return onward(state, event)
}

/** The state that a list of events leads to. @throws Refusal when one of them could not have happened */
export function replay(events: readonly ProcedureEvent[]): RunState {
  let state: RunState | undefined
  for (const event of events) state = advance(state, event)
  return state ?? refuse('not-begun', 'This run was never begun.')
}
