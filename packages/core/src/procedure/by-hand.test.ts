// Procedures without a link: every one of them can be led to its end by hand, with what the device shows typed.
import { describe, expect, it } from 'vitest'
import { advance, askedOfDevice, BY_EYE, heldByHand, type ProcedureEvent, type RunState } from './index.ts'
import { passing, TERMS, termsFor, walk } from './procedure.fixture.ts'
import { PROCEDURES, stepsOf } from './steps.ts'

/** What passes the gate that is open, at a device without a link. */
function byHand(state: RunState): ProcedureEvent {
  const step = state.steps[state.at]!
  if (state.pending) return { do: 'answered', step: step.id, taken: true, says: 'by hand' }
  if (step.kind === 'steady')
    return { do: 'pass', step: step.id, words: 'Still for 30 s on its display', steady: BY_EYE }
  if (step.kind !== 'read-back') return passing(state, [])
  const asked = askedOfDevice(state)
  const { command } = state.lastWrite ?? {}
  const shown = (): [number, number] =>
    command?.do === 'set-range'
      ? [command.lrv, command.urv]
      : command?.do === 'receiver'
        ? [command.low, command.high]
        : command?.do === 'ph-calibrate'
          ? // As its display rounds it.
            [Math.round(command.slope_mVperPh * 10) / 10, Math.round(command.offset_mV * 10) / 10]
          : [0, 600]
  const typed =
    asked &&
    (shown().map((v, i) => `${command?.do === 'ph-calibrate' ? v.toFixed(1) : v} ${asked.units[i as 0 | 1]}`) as [
      string,
      string,
    ])
  return { do: 'read', step: step.id, held: heldByHand(state, typed), seen: 'as written' }
}

describe.each(PROCEDURES)('%s by hand', (procedure) => {
  const { events } = walk(procedure, termsFor(procedure))
  const first = events[0]!
  it('is led to its end', () => {
    let state = advance(undefined, first)
    for (let i = 0; state.status === 'running' && i < 200; i++) state = advance(state, byHand(state))
    expect(state.status).toBe('done')
    expect(state.steps.map((s) => s.id)).toEqual(stepsOf(procedure, state.terms).map((s) => s.id))
  })
})

describe('what is seen by eye', () => {
  const until = (kind: string) => {
    let state = advance(undefined, walk('range-change', TERMS).events[0]!)
    while (state.steps[state.at]!.kind !== kind) state = advance(state, byHand(state))
    return state
  }
  it('says on what it stood still', () => {
    let state = advance(undefined, walk('zero-trim', TERMS).events[0]!)
    while (state.steps[state.at]!.kind !== 'steady') state = advance(state, byHand(state))
    const { id } = state.steps[state.at]!
    expect(() => advance(state, { do: 'pass', step: id, steady: BY_EYE })).toThrow(/On what|on what/)
  })
  it('is kept as it was typed; of the rest nothing is said to be held', () => {
    let state = advance(undefined, walk('zero-trim', TERMS).events[0]!)
    while (state.status === 'running') state = advance(state, byHand(state))
    expect(state.held).toBeUndefined()
    expect(state.shown).toContainEqual({ words: 'as written', figures: [] })
    expect(state.shown.flatMap((s) => s.figures)).toEqual([])

    const range = until('read-back')
    const { id } = range.steps[range.at]!
    const typed = ['0', '600.0 mbar'] as const
    const read = advance(range, { do: 'read', step: id, held: heldByHand(range, typed), seen: 'Its menu', typed })
    expect(read.shown.at(-1)).toEqual({
      words: 'Its menu',
      figures: [
        ['Device shows, for 4 mA', '0 mbar'],
        ['Device shows, for 20 mA', '600.0 mbar'],
      ],
    })
  })
  it('of a range is typed, and another one than was written sends the run back to its write', () => {
    let state = until('read-back')
    // The range that it holds is asked for before the write as after it.
    expect(askedOfDevice(state)!.names[0]).toBe('Device shows, for 4 mA')
    while (!state.lastWrite || state.steps[state.at]!.kind !== 'read-back') state = advance(state, byHand(state))
    expect(askedOfDevice(state)!.names[0]).toBe('Device shows, for 4 mA')
    expect(() => heldByHand(state, undefined)).toThrow(/Type what the device shows/)
    expect(() => heldByHand(state, ['low', '1 mbar'])).toThrow()
    const { id } = state.steps[state.at]!
    const held = heldByHand(state, ['0 mbar', '123 mbar'])
    const back = advance(state, { do: 'read', step: id, held, seen: 'another range' })
    expect(back.steps[back.at]!.kind).toBe('command')
    expect(back.note).toContain('does not hold what was written')
  })
})
