import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { bufferPh, idealSlope_mV, ownBuffer } from '../analysis/index.ts'
import { attempt, Refusal } from '../refusal/index.ts'
import {
  advance,
  backInService,
  commandFrom,
  inService,
  MANIFOLDS,
  moveValve,
  outOfService,
  phFit,
  phPoints,
  PROCEDURES,
  pumpReady,
  replay,
  stepsOf,
  toUndo,
  VALVES,
  wasTaken,
  worldWords,
  type Command,
  type Manifold,
  type ProcedureEvent,
  type ProcedureId,
  type RunState,
  type Step,
  type Terms,
} from './index.ts'
import { heldAfter, passing, PH_TERMS, TERMS, termsFor, undoing, walk } from './procedure.fixture.ts'

const refusal = (run: () => unknown) => {
  const result = attempt(run)
  if (!(result instanceof Refusal)) throw new Error('was not refused')
  return result
}
const goTo = (procedure: ProcedureId, id: string, terms = termsFor(procedure)): RunState => {
  const { states } = walk(procedure, terms)
  const found = states.find((s) => s.steps[s.at]?.id === id && !s.pending)
  if (!found) throw new Error(`no step ${id}`)
  return found
}
/** From a gate on to another, as a technician and a working device would go. */
const goOn = (state: RunState, id: string): RunState =>
  state.steps[state.at]?.id === id ? state : goOn(advance(state, passing(state, [])), id)
const STILL = { state: 'stable', driftPct: 0.01, noisePct: 0.01, window_s: 4, samples: 80 } as const
const pass = (step: string, more: object = {}): ProcedureEvent => ({ do: 'pass', step, ...more })

describe.each(PROCEDURES)('%s', (procedure) => {
  it.each(['none', 'three-valve', 'five-valve'] as const)('can be walked to its end with manifold: %s', (manifold) => {
    const { state, states } = walk(procedure, termsFor(procedure, manifold))
    expect(state.status).toBe('done')
    expect(toUndo(state)).toEqual([])
    expect(states.every((s) => worldWords(s).plant.length >= 4)).toBe(true)
  })
  it('has steps with names of their own, told first and automatic last', () => {
    const steps = stepsOf(procedure, termsFor(procedure))
    expect(new Set(steps.map((s) => s.id)).size).toBe(steps.length)
    expect(steps.slice(0, 3).map((s) => s.id)).toEqual(['told', 'manual', 'trips'])
    expect(steps.at(-1)!.id).toBe('automatic')
  })
  it('keeps its gates before every write, and reads back after it', () => {
    const steps = stepsOf(procedure, termsFor(procedure))
    steps.forEach((step, i) => {
      if (!step.writes) return
      const before = steps.slice(0, i).map((s) => s.id)
      for (const gate of ['told', 'manual', 'trips', 'as-found', 'warning']) expect(before).toContain(gate)
      const sinceWrite = steps.slice(0, i).map((s) => s.kind)
      expect(sinceWrite).toContain('plausible')
      if (!['range-change', 'receiver-scale', 'damping-change'].includes(procedure))
        expect(sinceWrite).toContain('steady')
      expect(steps[i + 1]!.kind).toBe('read-back')
      expect(steps.slice(i).some((s) => s.id === 'store')).toBe(true)
    })
  })
  it('speaks of units as the page prints them, never by their codes', () => {
    for (const [unit, quantity] of [
      ['degC', 'temperature'],
      ['m3/h', 'volume-flow'],
      ['mmH2O', 'pressure'],
    ] as const) {
      const terms = { ...termsFor(procedure), unit, quantity, receiverUnit: unit }
      const words = stepsOf(procedure, terms).flatMap((s) => [s.title, s.says, s.asks ?? '', s.caution ?? ''])
      expect(words.filter((w) => w.includes(unit))).toEqual([])
    }
  })
  it('is replayed from its own steps, whatever the code would compose today', () => {
    const { events, state } = walk(procedure, termsFor(procedure))
    const [begun, ...rest] = JSON.parse(JSON.stringify(events)) as ProcedureEvent[]
    if (begun?.do !== 'begin') throw new Error('not begun')
    // A release that has no such step, or another, or the same under another name.
    const added: Step = { id: 'of-another-day', kind: 'confirm', title: 'Another gate', says: 'Something else.' }
    const other = { ...begun, steps: [added, ...begun.steps!] }
    const replayed = replay([other, { do: 'pass', step: added.id }, ...rest])
    expect(replayed.status).toBe('done')
    expect(replayed.steps.length).toBe(state.steps.length + 1)
    expect(replay([begun, ...rest]).world).toEqual(state.world)
  })
  it('holds nothing in its steps but data', () => {
    const steps = stepsOf(procedure, termsFor(procedure))
    expect(JSON.parse(JSON.stringify(steps))).toEqual(steps)
  })
  it('replays to the state it came to live', () => {
    const { events, states } = walk(procedure, termsFor(procedure))
    for (const n of [1, 3, Math.floor(events.length / 2), events.length])
      expect(JSON.stringify(replay(events.slice(0, n)))).toBe(JSON.stringify(states[n - 1]))
  })
  it('cannot be made to write before every gate is passed, whatever is tried', () => {
    const steps = stepsOf(procedure, termsFor(procedure))
    const anything = fc.oneof(
      fc.constant('pass' as const),
      fc.constant('right' as const),
      fc.constant('sent' as const),
      fc.constant('read' as const),
      fc.constant('valve' as const),
      fc.constant('lost' as const),
      fc.constant('again' as const),
    )
    fc.assert(
      fc.property(fc.array(fc.tuple(anything, fc.nat(steps.length - 1), fc.nat(9)), { maxLength: 120 }), (tries) => {
        let state = advance(undefined, { do: 'begin', procedure, terms: termsFor(procedure), steps })
        const commands: Command[] = []
        const passed = new Set<string>()
        for (const [what, i, x] of tries) {
          if (state.status !== 'running') break
          const at = state.steps[state.at]!
          const tried = state.steps[i]!
          const event: ProcedureEvent =
            what === 'right' || what === 'lost'
              ? passing(state, commands)
              : what === 'sent'
                ? {
                    do: 'sent',
                    step: tried.id,
                    command: tried.sends ? commandFrom(tried.sends, state.values) : { do: 'zero-trim' },
                    changesBefore: 0,
                  }
                : what === 'again'
                  ? { do: 'again', step: tried.id, reason: 'misread' }
                  : what === 'read'
                    ? { do: 'read', step: tried.id, held: heldAfter(commands, state.terms) }
                    : what === 'valve'
                      ? { do: 'valve', step: at.id, move: { valve: VALVES[x % 5]!, to: x > 4 ? 'open' : 'shut' } }
                      : pass(tried.id, { words: 'x' })
          const result = attempt(() => advance(state, event))
          if (result instanceof Refusal) continue
          if (event.do === 'sent') {
            // The independent check: everything before this step has been passed by an accepted event.
            const place = state.steps.findIndex((s) => s.id === event.step)
            for (const gate of state.steps.slice(0, place)) expect(passed).toContain(gate.id)
            commands.push(event.command)
          }
          if (result.at > state.at) passed.add(at.id)
          if (event.do === 'again') for (const gone of state.steps.slice(result.at)) passed.delete(gone.id)
          state = result
        }
      }),
      { numRuns: 150 },
    )
  })
  it('leaves a complete list of what to undo, wherever it is cancelled, and the list can be worked off', () => {
    const { events } = walk(procedure, termsFor(procedure, 'five-valve'))
    for (let n = 1; n < events.length; n++) {
      const before = replay(events.slice(0, n))
      const sent = events.slice(0, n).flatMap((e) => (e.do === 'sent' ? [e.command] : []))
      let state = advance(before, { do: 'cancel', reason: 'called away' })
      const ids = toUndo(state).map((u) => u.id)
      const { world } = before
      // Told anew from the events alone, not from the list.
      if (world.told) expect(ids).toContain('told-back')
      if (world.manual) expect(ids).toContain('automatic')
      if (world.bypass !== undefined) expect(ids).toContain('bypass')
      if (world.input === 'bench') expect(ids).toContain('input')
      if (before.pending) expect(ids[0]).toBe('read-first')
      const driven = sent.filter((c) => c.do === 'drive' || c.do === 'release').at(-1)
      if (driven?.do === 'drive') expect(ids).toContain('release')
      for (const { valve } of backInService(before.terms.manifold, world.manifold))
        expect(ids.some((id) => id.startsWith(`valve-${valve}`))).toBe(true)
      const first = ids[0]
      if (ids.length > 1)
        expect(refusal(() => advance(state, { do: 'undone', undo: ids.at(-1)!, words: 'skipped' })).code).toMatch(
          /order|wrong-event/,
        )
      let rounds = 0
      const commands = [...sent]
      while (state.status === 'cancelled' && rounds++ < 40) {
        const event = undoing(state, commands)
        if (event.do === 'sent') commands.push(event.command)
        state = advance(state, event)
      }
      expect(state.status, `${procedure} cancelled after ${n} events, first ${first}`).toBe('ended')
      expect(state.world).toMatchObject({ told: false, manual: false, input: 'process', fixed_mA: null })
      expect(state.world.bypass).toBeUndefined()
      expect(state.world.manifold).toEqual(inService(before.terms.manifold))
      expect(state.world.device).not.toBe('changed')
      expect(state.pending).toBeUndefined()
    }
  })
})

describe('gates', () => {
  it('passes a gate once: the second tablet hears that somebody went on', () => {
    const state = goTo('zero-trim', 'manual')
    const passed = advance(state, pass('manual'))
    expect(refusal(() => advance(passed, pass('manual')))).toMatchObject({
      code: 'step-out-of-order',
      message: expect.stringContaining('passed already') as string,
    })
  })
  it('wants as found on record, two points where two are trimmed', () => {
    expect(refusal(() => advance(goTo('zero-trim', 'as-found'), pass('as-found', { points: [] }))).code).toBe(
      'as-found-missing',
    )
    expect(refusal(() => advance(goTo('current-trim', 'as-found'), pass('as-found', { points: ['a'] }))).code).toBe(
      'as-found-missing',
    )
  })
  it('refuses an applied value outside the sensor, or far from what is wanted', () => {
    const state = goTo('sensor-trim', 'apply-upper')
    expect(refusal(() => advance(state, pass('apply-upper', { typed: '1200 mbar' }))).code).toBe('outside-sensor')
    expect(refusal(() => advance(state, pass('apply-upper', { typed: '60 mbar' }))).code).toBe('far-from-target')
    expect(advance(state, pass('apply-upper', { typed: '0.598 bar' })).values['apply-upper']).toBeCloseTo(598, 9)
  })
  it('refuses a trim point outside the sensor before anything begins', () => {
    const terms = { ...TERMS, upper: 1500 }
    expect(refusal(() => advance(undefined, { do: 'begin', procedure: 'sensor-trim', terms })).code).toBe(
      'outside-sensor',
    )
  })
  it('reads a meter in volts across the shunt, or with a comma', () => {
    const state = goTo('current-trim', 'meter-4')
    expect(advance(state, pass('meter-4', { typed: '1.005 V' })).values['meter-4']).toBeCloseTo(4.02, 9)
    expect(advance(state, pass('meter-4', { typed: '4,02' })).values['meter-4']).toBeCloseTo(4.02, 9)
    expect(refusal(() => advance(state, pass('meter-4', { typed: 'four' }))).code).toBe('not-a-figure')
    expect(refusal(() => advance(state, pass('meter-4', { typed: '4 A' }))).code).toBe('not-a-loop-current')
    expect(refusal(() => advance(state, pass('meter-4', { typed: '3 bar' }))).code).toBe('wrong-quantity')
    expect(refusal(() => advance(state, pass('meter-4', { typed: '' }))).code).toBe('value-missing')
  })
  it('stops at a correction above the limit, and grants one exactly on it', () => {
    const state = goTo('zero-trim', 'zero-found')
    const at = (text: string) => advance(state, pass('zero-found', { typed: text }))
    expect(refusal(() => advance(at('18.1 mbar'), pass('plausible'))).code).toBe('implausible')
    expect(advance(at('18 mbar'), pass('plausible')).values['correction-plausible']).toBeCloseTo(3, 9)
    expect(advance(at('-18 mbar'), pass('plausible')).at).toBe(state.at + 2)
  })
  it('does not call verified what still reads outside tolerance', () => {
    const state = goTo('zero-trim', 'zero-left')
    expect(refusal(() => advance(state, pass('zero-left', { typed: '3.1 mbar' }))).code).toBe('not-verified')
    expect(advance(state, pass('zero-left', { typed: '3 mbar' })).at).toBe(state.at + 1)
  })
  it('does not pass a reading that is not stable', () => {
    const state = goTo('zero-trim', 'stable')
    for (const kind of ['waiting', 'moving', 'noisy'])
      expect(
        refusal(() =>
          advance(
            state,
            pass('stable', { steady: { state: kind, driftPct: 1, noisePct: 1, window_s: 4, samples: 9 } }),
          ),
        ).code,
      ).toBe('not-steady')
    expect(refusal(() => advance(state, pass('stable'))).code).toBe('not-steady')
  })
})

describe('between write and read-back', () => {
  const lost = () =>
    advance(goTo('zero-trim', 'write'), { do: 'sent', step: 'write', command: { do: 'zero-trim' }, changesBefore: 4 })
  const held = { ...heldAfter([], TERMS), changes: 4 }
  it('knows nothing until the device is read', () => {
    for (const event of [
      pass('read-back'),
      { do: 'sent', step: 'write', command: { do: 'zero-trim' }, changesBefore: 4 } as const,
    ])
      expect(refusal(() => advance(lost(), event))).toMatchObject({
        code: 'unknown-held',
        message: expect.stringContaining('Read back first') as string,
      })
    expect(worldWords(lost()).device[0]).toContain('Read back first')
  })
  it('goes on when the device holds it, and back to the write when not', () => {
    const yes = advance(lost(), { do: 'read', step: 'read-back', held: { ...held, changes: 5 } })
    expect(yes.steps[yes.at]!.id).toBe('read-back')
    expect(yes.world.device).toBe('changed')
    const no = advance(lost(), { do: 'read', step: 'read-back', held })
    expect(no.steps[no.at]!.id).toBe('write')
    expect(no.world.device).toBe('untouched')
    expect(no.note).toContain('did not take it')
  })
  it('knows a command whose parts come in another order, and no other', () => {
    const state = goTo('current-trim', 'write-4')
    const { reading } = commandFrom(state.steps[state.at]!.sends!, state.values) as { reading: number }
    const sent = (command: object) => ({ do: 'sent', step: 'write-4', command, changesBefore: 0 }) as ProcedureEvent
    expect(advance(state, sent({ reading, at: 4, do: 'current-trim' })).pending).toBeDefined()
    expect(refusal(() => advance(state, sent({ reading: reading + 0.1, at: 4, do: 'current-trim' }))).code).toBe(
      'wrong-command',
    )
  })
  it('writes again when it answered but does not hold', () => {
    const answered = advance(lost(), { do: 'answered', step: 'write', taken: true, says: '' })
    const back = advance(answered, { do: 'read', step: 'read-back', held })
    expect(back.steps[back.at]!.id).toBe('write')
  })
  it('stays before the write when the device refuses it', () => {
    const no = advance(lost(), { do: 'answered', step: 'write', taken: false, says: 'Write-protected.' })
    expect([no.steps[no.at]!.id, no.note, no.world.device]).toEqual(['write', 'Write-protected.', 'untouched'])
  })
  it('supposes the worse when it is cancelled and cannot be read', () => {
    const cancelled = advance(lost(), { do: 'cancel', reason: 'device dead' })
    const on = advance(cancelled, { do: 'undone', undo: 'read-first', words: 'no answer, fuse gone' })
    expect(toUndo(on).map((u) => u.id)).toContain('device-changed')
  })
  it('judges by what the device holds', () => {
    expect(wasTaken({ command: { do: 'drive', mA: 12 }, changesBefore: 0 }, { ...held, fixed_mA: 12 })).toBe(true)
    expect(wasTaken({ command: { do: 'set-range', lrv: 0, urv: 5 }, changesBefore: 0 }, held)).toBe(false)
  })
})

describe('buffers', () => {
  const at = (i: number, mV: number, state: RunState) => advance(state, pass(`electrode-${i}`, { typed: `${mV} mV` }))
  it('refuses the same buffer chosen twice, and fewer than two', () => {
    for (const buffers of [['4.00', '4.00'], ['7.00']])
      expect(
        refusal(() => advance(undefined, { do: 'begin', procedure: 'ph-calibration', terms: { ...PH_TERMS, buffers } }))
          .code,
      ).toMatch(/buffer/)
  })
  it('takes two to five buffers, of either set and of the site’s own, and only such as lie apart', () => {
    const begin = (buffers: string[]) =>
      advance(undefined, { do: 'begin', procedure: 'ph-calibration', terms: { ...PH_TERMS, buffers } })
    expect(
      walk('ph-calibration', { ...PH_TERMS, buffers: ['1.68', '4.00', '6.865', '9.180', '10.01'] }).state.status,
    ).toBe('done')
    for (const buffers of [
      ['4.00', '4.005'],
      ['7.00', '6.865', '10.01'],
      ['9.180', '9.5', '4.00'],
    ])
      expect(refusal(() => begin(buffers)).code).toBe('same-buffer')
    expect(refusal(() => begin(['4.00', '15'])).code).toBe('not-a-buffer')
    expect(refusal(() => begin(['1.68', '4.00', '6.865', '9.180', '10.01', '12.45'])).code).toBe('buffers-missing')
  })
  it('recognises another buffer in the cup at the first reading, and says which', () => {
    const state = goTo('ph-calibration', 'electrode-1', { ...PH_TERMS, recognise: true })
    const wrong = refusal(() => at(1, -3, state))
    expect(wrong).toMatchObject({ code: 'buffers-swapped', message: expect.stringContaining('in buffer 7.00') })
    expect(refusal(() => at(1, -176, state)).message).toContain('in buffer 10.01')
    expect(at(1, 172, state).values['electrode-1']).toBe(172)
    // A run that was begun before goes on as it was.
    expect(at(1, -3, goTo('ph-calibration', 'electrode-1')).values['electrode-1']).toBe(-3)
    // A worn one in its own buffer is not taken for anything else.
    expect(at(1, 125, state).values['electrode-1']).toBe(125)
  })
  it('of three, one that lies off the line is said to be spoilt', () => {
    let state = goTo('ph-calibration', 'electrode-3', { ...PH_TERMS, recognise: true })
    const [first, second] = ['electrode-1', 'electrode-2'].map((id) => state.values[id]!)
    const straight = second! + ((second! - first!) / 3) * 3.01
    state = advance(state, pass('electrode-3', { typed: `${(straight + 22).toFixed(1)} mV` }))
    expect(refusal(() => advance(state, pass('plausible')))).toMatchObject({ code: 'buffer-spoilt' })
  })
  it('come in any order: each is known by its signal, whichever comes first', () => {
    const terms = { ...PH_TERMS, recognise: true, anyOrder: true }
    const all = terms.buffers!.map((name, i) => ({ i, name, ph: bufferPh(name, 25).ph }))
    const share = fc.double({ min: 0.92, max: 1.02, noNaN: true })
    const offset = fc.double({ min: -20, max: 20, noNaN: true })
    fc.assert(
      fc.property(fc.shuffledSubarray(all, { minLength: 3 }), share, offset, (order, part, off) => {
        let state = goTo('ph-calibration', 'buffer-1', terms)
        for (const [k, { ph }] of order.entries()) {
          state = advance(state, pass(`buffer-${k + 1}`, { typed: '25 °C' }))
          state = advance(state, pass(`stable-${k + 1}`, { steady: STILL }))
          state = at(k + 1, Number((off + part * idealSlope_mV(25) * (ph - 7)).toFixed(4)), state)
        }
        expect(phPoints(state).map((p) => p.buffer)).toEqual(order.map((b) => b.name))
        expect(phFit(state).slopePercent).toBeCloseTo(100 * part, 2)
        expect(phFit(state).offset_mV).toBeCloseTo(off, 2)
      }),
    )
    expect(walk('ph-calibration', terms).state.status).toBe('done')
  })
  it('of any order: none twice, none that is not there, and one that the signal does not tell is named', () => {
    const terms = { ...PH_TERMS, recognise: true, anyOrder: true }
    const first = at(1, 172, goTo('ph-calibration', 'electrode-1', terms))
    const second = goOn(first, 'electrode-2')
    expect(refusal(() => at(2, 170, second)).code).toBe('same-buffer')
    expect(refusal(() => at(2, 95, second)).code).toBe('buffer-not-recognised')
    const named = (words: string, mV: number) => advance(second, pass('electrode-2', { typed: `${mV} mV`, words }))
    expect(phPoints(named('10.01', -110)).map((p) => p.buffer)).toEqual(['4.00', '10.01'])
    expect(refusal(() => named('10.01', -2)).code).toBe('buffers-swapped')
    expect(refusal(() => named('12.45', 95)).code).toBe('buffer-not-recognised')
    // Read again, it is forgotten which it was.
    const again = advance(at(2, -2, second), { do: 'again', step: 'electrode-1', reason: 'misread' })
    expect(phPoints(at(1, -173, again)).map((p) => p.buffer)).toEqual(['10.01'])
  })
  it('are read once the electrode has their temperature: its drift over the window is looked at too', () => {
    const state = goTo('ph-calibration', 'stable-1', { ...PH_TERMS, recognise: true, anyOrder: true })
    const still = (more: object) => advance(state, pass('stable-1', { steady: { ...STILL, ...more } }))
    const warm = refusal(() => still({ temp_C: 31.4, tempDrift_K: -0.35 }))
    expect(warm).toMatchObject({ code: 'not-steady', message: expect.stringContaining('0.35 K over 4 s') as string })
    expect(still({ temp_C: 25, tempDrift_K: 0.1 }).at).toBe(state.at + 1)
    expect(still({}).at).toBe(state.at + 1)
  })
  it('of one only: the offset follows, the slope stays', () => {
    const one = { ...PH_TERMS, recognise: true, anyOrder: true, buffers: ['7.00'] }
    const begin = (terms: Terms) => advance(undefined, { do: 'begin', procedure: 'ph-calibration', terms })
    expect(refusal(() => begin(one)).code).toBe('buffers-missing')
    const { state } = walk('ph-calibration', { ...one, slopePercent: 97.5 })
    expect(state.status).toBe('done')
    expect(phFit(state)).toMatchObject({ slopePercent: 97.5, offset_mV: expect.closeTo(0, 6) as number })
  })
  it('of the site’s own have their table: between its rows, not beyond it', () => {
    const own = ownBuffer('acetate', '15: 4.68; 25: 4.66')
    const terms = { ...PH_TERMS, recognise: true, anyOrder: true, buffers: ['acetate', '7.00'], ownBuffers: [own] }
    const { state } = walk('ph-calibration', terms)
    expect(phPoints(state)).toMatchObject([{ buffer: '7.00' }, { buffer: 'acetate', ph: 4.66 }])
    expect(bufferPh('acetate', 20, [own]).ph).toBeCloseTo(4.67, 9)
    expect(attempt(() => bufferPh('acetate', 26, [own]))).toMatchObject({ code: 'out-of-range' })
    // One whose table ends below 25 °C is told apart by where it ends.
    const cold = ownBuffer('cold', '5: 4.70; 20: 4.65')
    const begun = advance(undefined, {
      do: 'begin',
      procedure: 'ph-calibration',
      terms: { ...terms, buffers: ['cold', '7.00'], ownBuffers: [cold] },
    })
    expect(begun.status).toBe('running')
    for (const table of ['', '25: 4.66', '25: 4.66; 20: 4.65', '20: 15; 25: 4'])
      expect(attempt(() => ownBuffer('x', table))).toMatchObject({ code: 'not-a-buffer' })
  })
  it('sees buffers exchanged, and the electrode left in the same one', () => {
    const state = goTo('ph-calibration', 'electrode-2')
    expect(refusal(() => at(2, 340, state)).code).toBe('buffers-swapped')
    expect(refusal(() => at(2, 172, state)).code).toBe('same-buffer')
    expect(at(2, -3, state).values['electrode-2']).toBe(-3)
    expect(refusal(() => at(2, -180, state)).code).toBe('buffers-swapped')
  })
  it('mends no worn-out electrode', () => {
    let state = advance(
      goTo('ph-calibration', 'electrode-2', { ...PH_TERMS, buffers: ['4.00', '7.00'] }),
      pass('electrode-2', { typed: '60 mV' }),
    )
    expect(refusal(() => advance(state, pass('plausible'))).code).toBe('electrode-worn-out')
    state = advance(state, { do: 'cancel', reason: 'worn' })
    expect(toUndo(state).map((u) => u.id)).toEqual(['input', 'told-back', 'bypass', 'automatic'])
  })
})

describe('the manifold', () => {
  const all = (type: (typeof MANIFOLDS)[number], start: Manifold, moves: ReturnType<typeof outOfService>) =>
    moves.reduce((m, move) => moveValve(type, m, move), start)
  it.each(['three-valve', 'five-valve'] as const)('%s goes out and comes back by moves that are all safe', (type) => {
    const out = all(type, inService(type), outOfService(type))
    expect(out).toMatchObject({ high: 'shut', low: 'shut', equalize: 'open' })
    expect(all(type, out, backInService(type, out))).toEqual(inService(type))
    const pump = all(type, out, pumpReady(type))
    expect(pump.equalize).toBe('shut')
    expect(all(type, pump, backInService(type, pump))).toEqual(inService(type))
  })
  it('comes back from wherever safe moves can lead', () => {
    const safe = fc.array(
      fc.record({ valve: fc.constantFrom(...VALVES), to: fc.constantFrom('open' as const, 'shut' as const) }),
      { maxLength: 30 },
    )
    fc.assert(
      fc.property(fc.constantFrom('three-valve' as const, 'five-valve' as const), safe, (type, moves) => {
        let state = inService(type)
        for (const m of moves) {
          const result = attempt(() => moveValve(type, state, m))
          if (!(result instanceof Refusal)) state = result
          // Whatever is done, the process never flows through, never vents, and never stands on one side of a joined
          // cell.
          if (state.equalize === 'open') expect([state.high, state.low]).toContain('shut')
          if (state['vent-high'] === 'open' || state['vent-low'] === 'open')
            expect([state.high, state.low]).toEqual(['shut', 'shut'])
        }
        expect(all(type, state, backInService(type, state))).toEqual(inService(type))
      }),
    )
  })
  it('refuses and explains the wrong move', () => {
    const state = goTo('zero-trim', 'out-1-low')
    const tried = (valve: 'high' | 'equalize' | 'low', to: 'open' | 'shut') =>
      refusal(() => advance(state, { do: 'valve', step: 'out-1-low', move: { valve, to } }))
    expect(tried('equalize', 'open')).toMatchObject({
      code: 'manifold-danger',
      message: expect.stringContaining('straight through') as string,
    })
    expect(tried('high', 'shut')).toMatchObject({
      code: 'wrong-move',
      message: expect.stringContaining('low side is shut first') as string,
    })
    expect(tried('low', 'open').message).toContain('already')
    const five = goTo('zero-trim', 'out-3-high', { ...TERMS, manifold: 'five-valve' })
    expect(
      refusal(() => advance(five, { do: 'valve', step: 'out-3-high', move: { valve: 'vent-high', to: 'open' } }))
        .message,
    ).toContain('let the process out')
  })
})
