import type { LiveReading } from '@calm-loop/contract'
import { idealSlope_mV } from '@calm-loop/core/analysis'
import { PROCEDURES, type ProcedureId, type RunState, type Step } from '@calm-loop/core/procedure'
import { formatQuantity, plainText } from '@calm-loop/core/quantity'
import { describe, expect, it } from 'vitest'
import { TERMS, termsFor, walk } from '../../../../packages/core/src/procedure/procedure.fixture.ts'
import { benchValue, buttonOf, offeredAt, passing, plausibleFacts, readingFacts, trendOf } from './gate.ts'

const quantity = (v: number, unit: string, decimals: number) => formatQuantity(v, unit, { decimals })
/** The run at the first gate that fits, with that gate. */
function at(procedure: ProcedureId, fits: (step: Step) => boolean): { state: RunState; step: Step } {
  for (const state of walk(procedure, termsFor(procedure)).states) {
    const step = state.steps[state.at]
    if (step && !state.pending && fits(step)) return { state, step }
  }
  throw new Error(`${procedure} has no such gate`)
}
const reading = (knots: Record<string, number>, electrode_mV?: number): LiveReading =>
  ({
    t_s: 1,
    reference: 0,
    wanted: 0,
    moving: false,
    knots,
    ...(electrode_mV === undefined ? {} : { transmitter: { electrode_mV } }),
  }) as LiveReading
const namesOf = (facts: readonly { name: string }[]) => facts.map((f) => f.name)

describe('what a gate offers to take', () => {
  const live = reading({ digital: 300.25, current: 12.0078, controller: 300.31 }, -171.26)
  it.each([
    ['zero-trim', 'digital', '300.25 mbar'],
    ['current-trim', 'current', '12.008 mA'],
    ['ph-calibration', 'electrode', '−171.26 mV'],
  ] as const)('in %s is what is live at the %s', (procedure, what, says) => {
    const { step } = at(procedure, (s) => s.reads?.what === what)
    expect(plainText(offeredAt(step, live, quantity))).toBe(says.replace('−', '-'))
  })
  it('is nothing where the step reads nothing, or nothing is live there', () => {
    const { step } = at('zero-trim', (s) => s.reads?.what === 'digital')
    expect(offeredAt(step, undefined, quantity)).toBe('')
    expect(offeredAt(step, reading({ current: 12 }), quantity)).toBe('')
    expect(offeredAt(at('zero-trim', (s) => s.kind === 'words').step, live, quantity)).toBe('')
  })
  it('is typed as a keyboard would', () => expect(plainText('−1\u202f234.5\u00a0mV')).toBe('-1 234.5 mV'))
})

describe('what stands beside a reading', () => {
  it('is what is expected, what is live, and the receiver’s where a current is read', () => {
    const { state, step } = at('current-trim', (s) => s.reads?.what === 'current')
    const facts = readingFacts(state, step, { reading: reading({ current: 4.01, controller: 0.4 }), quantity })
    expect(namesOf(facts)).toEqual(['Expected', 'Live', 'Receiver'])
    expect(facts.map((f) => f.as)).toEqual(['figure', 'live', 'live'])
    expect(facts.map((f) => plainText(f.says))).toEqual(['4.000 mA', '4.010 mA', '0.40 mbar'])
  })
  it('leaves out what is not known', () => {
    const { state, step } = at('current-trim', (s) => s.reads?.what === 'current')
    expect(namesOf(readingFacts(state, step, { reading: undefined, quantity }))).toEqual(['Expected'])
    const words = at('zero-trim', (s) => s.kind === 'words')
    expect(readingFacts(words.state, words.step, { reading: reading({ current: 4 }), quantity })).toEqual([])
  })
})

describe('what is judged before a write', () => {
  it('is the correction against its limit', () => {
    const { state, step } = at('zero-trim', (s) => s.kind === 'plausible')
    const read = state.steps.find((s) => s.id === step.judges?.[0])!
    // 6 mbar of 600 read at a true zero: 1 % of span is taken away.
    const off = { ...state, values: { ...state.values, [read.id]: 6 } }
    expect(plausibleFacts(off, step).map((f) => [f.name, f.says])).toEqual([
      ['Correction', '−1.00 % of span'],
      ['Limit', `± ${TERMS.plausiblePct} %`],
    ])
    expect(plausibleFacts({ ...state, values: {} }, step)).toEqual([])
  })
  it('is the electrode against the ideal at the mean temperature of its buffers', () => {
    const { state, step } = at('ph-calibration', (s) => s.kind === 'plausible')
    const facts = plausibleFacts(state, step)
    expect(facts.map((f) => f.says)).toEqual([
      expect.stringMatching(/^-?58\.\d\d mV per pH$/),
      expect.stringMatching(/^9[78]\.\d %$/),
      expect.stringMatching(/mV$/),
      'good',
    ])
    expect(facts[1]!.name).toBe(`Of the ideal ${idealSlope_mV(25).toFixed(2)} mV per pH`)
    const electrode = (share: number) => ({
      ...state,
      values: Object.fromEntries(
        Object.entries(state.values).map(([k, v]) => [k, k.startsWith('electrode-') ? v * share : v]),
      ),
    })
    expect(plausibleFacts(electrode(0.95), step).at(-1)!.says).toBe('worn: order a spare')
    expect(plausibleFacts(electrode(0.7), step).at(-1)!.says).toBe('to be replaced')
  })
  it('is nothing until two buffers are read, and at any other gate', () => {
    const { state, step } = at('ph-calibration', (s) => s.kind === 'plausible')
    expect(plausibleFacts({ ...state, values: {} }, step)).toEqual([])
    expect(plausibleFacts(state, { ...step, kind: 'confirm' })).toEqual([])
  })
})

describe('a trend that must be steady', () => {
  const step = (of?: Step['of']): Step => ({ id: 'stable', kind: 'steady', title: '', says: '', ...(of ? { of } : {}) })
  it.each([
    ['current', 50, '12.000 mA', 1],
    ['digital', 50, '300.00 mbar', 1],
    ['electrode', -177.4, '-177.4 mV', 100 / (59 * 600)],
  ] as const)('of the %s says its own figure', (of, v, says, pctPer) => {
    const trend = trendOf(step(of), TERMS, quantity)
    expect(plainText(trend.show(v))).toBe(says)
    expect(trend.pctPer).toBeCloseTo(pctPer, 12)
  })
  it('of a reverse range runs the other way', () =>
    expect(plainText(trendOf(step(), { ...TERMS, lrv: 600, urv: 0 }, quantity).show(25))).toBe('450.00 mbar'))
})

describe.each(PROCEDURES)('every gate of %s', (procedure) => {
  const gates = walk(procedure, termsFor(procedure)).states.flatMap((s) => s.steps[s.at] ?? [])
  it('has one button that says what it does, and sends what its step wants', () => {
    for (const step of gates) {
      const { says, does } = buttonOf(step, false)
      expect(says.length).toBeGreaterThan(3)
      expect(does).toBe({ command: 'send', 'read-back': 'read' }[step.kind as string] ?? 'pass')
      const sent = passing(step, ' Rolf ', ' 4.01 mA ')
      expect(sent.step).toBe(step.id)
      // By hand a steady gate is passed by what was seen.
      expect('words' in sent).toBe(step.kind === 'words' || step.kind === 'steady')
      expect('typed' in sent).toBe(['apply', 'buffer', 'reading'].includes(step.kind))
      if ('typed' in sent) expect(sent.typed).toBe('4.01 mA')
    }
  })
  it('that wants a value can be met at the bench', () => {
    for (const step of gates.filter((s) => s.kind === 'apply' || s.kind === 'buffer'))
      expect(Number.isFinite(benchValue(at('ph-calibration', (s) => s.kind === 'plausible').state, step, '7.00'))).toBe(
        true,
      )
  })
})

it('a command says that the device is waited for', () => {
  const { step } = at('zero-trim', (s) => s.kind === 'command')
  expect(buttonOf(step, true).says).toBe('Waiting for the device')
  expect(buttonOf(step, false).says).toMatch(/^Send: /)
  expect(buttonOf(step, false, true).says).toMatch(/^Done at the device: /)
})
