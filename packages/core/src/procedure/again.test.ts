import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { attempt, Refusal } from '../refusal/index.ts'
import { advance, PROCEDURES, replay, retakable, stepsOf, type ProcedureEvent, type RunState } from './index.ts'
import { firstSteps } from './steps.ts'
import { passing, TERMS, termsFor, walk } from './procedure.fixture.ts'

const codeOf = (run: () => unknown): string => {
  const result = attempt(run)
  return result instanceof Refusal ? result.code : 'taken'
}
const at = (id: string): { events: ProcedureEvent[]; state: RunState } => {
  const { events, states } = walk('sensor-trim', TERMS)
  const i = states.findIndex((s) => s.steps[s.at]?.id === id)
  return { events: events.slice(0, i + 1), state: states[i]! }
}
const again = (step: string, reason = 'misread'): ProcedureEvent => ({ do: 'again', step, reason })

describe('a misread figure', () => {
  it('is taken again without ending the run, and what was read since is read again', () => {
    const { state, events } = at('plausible-lower')
    expect(retakable(state).map((s) => s.id)).toEqual(['found-lower', 'apply-lower'])
    const back = advance(state, again('apply-lower', 'gauge read upside down'))
    expect(back.steps[back.at]!.id).toBe('apply-lower')
    expect(back.values).not.toHaveProperty('apply-lower')
    expect(back.values).not.toHaveProperty('found-lower')
    expect(replay([...events, again('apply-lower', 'gauge read upside down')])).toEqual(back)
    // The run goes on from there to its end, with the new figure.
    let on = advance(back, { do: 'pass', step: 'apply-lower', typed: '2 mbar' })
    expect(on.values['apply-lower']).toBe(2)
    on = advance(on, passing(on, []))
    expect(on.steps[on.at]!.id).toBe('found-lower')
  })
  it('is not, once a command has been sent since, or without a word', () => {
    const { state } = at('read-back-lower')
    expect(retakable(state)).toEqual([])
    expect(codeOf(() => advance(state, again('found-lower')))).toBe('not-retakable')
    const { state: judged } = at('plausible-lower')
    expect(codeOf(() => advance(judged, again('found-lower', ' ')))).toBe('words-missing')
    expect(codeOf(() => advance(judged, again('manual')))).toBe('not-retakable')
    expect(codeOf(() => advance(judged, again('nowhere')))).toBe('not-retakable')
  })
  it('never brings back a gate at which something was done, whatever the procedure and the moment', () => {
    fc.assert(
      fc.property(fc.constantFrom(...PROCEDURES), fc.nat(), (procedure, n) => {
        const { states } = walk(procedure, termsFor(procedure))
        const state = states[n % states.length]!
        for (const step of retakable(state)) {
          const back = advance(state, again(step.id))
          expect(back.world).toEqual(state.world)
          expect(back.at).toBeLessThan(state.at)
          const between = state.steps.slice(back.at, state.at).map((s) => s.kind)
          expect(between.some((kind) => ['command', 'valve', 'confirm', 'read-back', 'words'].includes(kind))).toBe(
            false,
          )
        }
      }),
    )
  })
})

describe('a sensor trim', () => {
  it('is verified at both points', () => {
    const ids = stepsOf('sensor-trim', TERMS)
      .filter((s) => s.verifies)
      .map((s) => s.id)
    expect(ids).toEqual(['left-upper', 'left-lower'])
  })
  it('of release 0.1 is replayed with the steps that it had', () => {
    expect(firstSteps('sensor-trim', TERMS).some((s) => s.id === 'left-lower')).toBe(false)
    expect(firstSteps('zero-trim', TERMS)).toEqual(stepsOf('zero-trim', TERMS))
  })
})
