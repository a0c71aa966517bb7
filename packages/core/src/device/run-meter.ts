// Running a simulated meter: its phases, its zeroing, its commands.
import { Refusal } from '../refusal/index.ts'
import type { MeterCommand, MeterModel, MeterShown, MeterState } from './meter.ts'
import { normal, type RandomState } from './random.ts'

const NO_ZEROING = { sum: 0, squares: 0, count: 0, length_s: 0 }

export function startMeter(model: MeterModel, practice: string, seed: RandomState): MeterState {
  const { held, measures } = model.begin(practice)
  return {
    t_s: 0,
    phase: measures ? 'running' : 'off',
    phase_s: 0,
    practice,
    held,
    zero: 0,
    zeroing: NO_ZEROING,
    mount: { spacing_mm: undefined, swapped: false },
    health: { output: 'hold', last: 0 },
    random: seed,
  }
}

const phase = (state: MeterState, name: MeterState['phase']): MeterState => ({ ...state, phase: name, phase_s: 0 })

/** @throws Refusal `unknown-practice`, `not-measuring`, `no-such-command` */
export function commandMeter(model: MeterModel, state: MeterState, command: MeterCommand, shown: number): MeterState {
  switch (command.do) {
    case 'start':
      return model.search_s ? phase(state, 'searching') : phase(state, 'running')
    case 'practice':
      if (command.case !== '' && !model.cases.some((c) => c.id === command.case))
        throw new Refusal('unknown-practice', `There is no practice case “${command.case}”.`)
      return startMeter(model, command.case, state.random)
    case 'mount':
      return phase({ ...state, mount: { spacing_mm: command.spacing_mm, swapped: command.swapped } }, 'off')
    case 'zero':
      if (state.phase !== 'running')
        throw new Refusal('not-measuring', 'The meter does not measure now: start it, and wait for its signal.')
      return phase({ ...state, zeroing: { ...NO_ZEROING, length_s: command.length_s } }, 'zeroing')
    case 'write':
      return { ...state, held: { ...state.held, ...command.values } }
    case 'health':
      if (!model.health_s) throw new Refusal('no-such-command', 'This meter has no health check.')
      if (state.phase !== 'running') throw new Refusal('not-measuring', 'The meter does not measure now.')
      return phase({ ...state, health: { output: command.output, last: shown } }, 'health')
    case 'gas':
      return { ...state, gas: { pressure_kPa: command.pressure_kPa, temp_C: command.temp_C } }
    case 'process': {
      const { gas: _gas, ...rest } = state
      return rest
    }
  }
}

/** The meter `dt_s` later, at a true process value. */
export function stepMeter(model: MeterModel, state: MeterState, process: number, dt_s: number): MeterState {
  const [noise, random] = normal(state.random)
  let next: MeterState = { ...state, t_s: state.t_s + dt_s, phase_s: state.phase_s + dt_s, random }
  const measured = model.measure(next, process, noise)
  if (next.phase === 'searching' && next.phase_s >= model.search_s)
    next = phase(next, measured === undefined ? 'no-signal' : 'running')
  else if ((next.phase === 'running' || next.phase === 'zeroing') && measured === undefined)
    next = phase(next, 'no-signal')
  else if (next.phase === 'health' && next.phase_s >= model.health_s) next = phase(next, 'running')
  if (next.phase === 'zeroing' && measured !== undefined) {
    const { sum, squares, count, length_s } = next.zeroing
    const z = { sum: sum + measured, squares: squares + measured * measured, count: count + 1, length_s }
    next = { ...next, zeroing: z }
    if (next.phase_s >= length_s) {
      const mean = z.sum / z.count
      const spread = Math.sqrt(Math.max(0, z.squares / z.count - mean * mean))
      next = phase(
        { ...next, zeroed: { before: mean - next.zero, after: 0, spread }, zero: mean, zeroing: NO_ZEROING },
        'running',
      )
    }
  }
  return next
}

/** What the meter shows now. */
export function observeMeter(model: MeterModel, state: MeterState, process: number): MeterShown {
  const [noise] = normal(state.random ^ 0x2545f491)
  const measuring = state.phase === 'running' || state.phase === 'zeroing'
  if (state.phase === 'health') {
    const shown = model.show(state, process, model.measure(state, process, noise))
    return { ...shown, digital: state.health.output === 'hold' ? state.health.last : undefined }
  }
  return model.show(state, process, measuring ? model.measure(state, process, noise) : undefined)
}
