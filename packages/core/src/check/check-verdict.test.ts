import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { attempt, Refusal } from '../refusal/index.ts'
import {
  checkVerdict,
  CONFORMITY_VERDICTS,
  instrumentUncertainty,
  type CheckVerdictInput,
  type InstrumentFigures,
} from './index.ts'

const refusal = (run: () => unknown): string => {
  const made = attempt(run)
  if (!(made instanceof Refusal)) throw new Error('was not refused')
  return made.code
}
const size = (max: number) => fc.double({ min: 0, max, noNaN: true })

describe('what a reading is worth', () => {
  it('is no better with another part, and grows with the reading', () =>
    fc.assert(
      fc.property(size(1000), size(1000), size(5), size(5), (reading, more, pctOfReading, fixed) => {
        const one = instrumentUncertainty(reading, { pctOfReading })
        const both = instrumentUncertainty(reading, { pctOfReading, fixed })
        const larger = instrumentUncertainty(reading + more, { pctOfReading })
        expect(both.standard).toBeGreaterThanOrEqual(one.standard)
        expect(larger.halfWidth).toBeGreaterThanOrEqual(one.halfWidth)
        expect(instrumentUncertainty(-reading, { pctOfReading })).toEqual(one)
      }),
    ))
  it('by limits is that of all places between them, equally likely (second method: many drawn)', () => {
    const { halfWidth, standard } = instrumentUncertainty(12, { pctOfReading: 0.1, digits: 2, resolution: 0.001 })
    let sum = 0
    const many = 100_000
    for (let i = 0; i < many; i++) sum += (halfWidth * (2 * ((i + 0.5) / many) - 1)) ** 2
    expect(Math.sqrt(sum / many) / standard).toBeCloseTo(1, 4)
  })
  it.each<[InstrumentFigures]>([
    [{}],
    [{ range: 10, coverage: 2 }],
    [{ pctOfRange: 0.1 }],
    [{ digits: 2 }],
    [{ fixed: -1 }],
    [{ fixed: 1, coverage: 0 }],
    [{ fixed: 1, range: -5 }],
    [{ digits: 1, resolution: 0 }],
    [{ pctOfReading: NaN }],
  ])('of %j is refused', (figures) => expect(refusal(() => instrumentUncertainty(1, figures))).toBe('invalid-input'))
})

const LOOP = { lrv: 0, urv: 100, root: 'none', tolerancePct: 0.5, rule: 'simple' } as const
const perfect = (root: CheckVerdictInput['root'], applied: number) => ({
  applied,
  direction: 'up' as const,
  mA: root === 'receiver' ? 4 + 16 * (applied / 100) ** 2 : 4 + 0.16 * applied,
  controller: 2 * applied,
})
const input = (more: Partial<CheckVerdictInput> = {}): CheckVerdictInput => ({
  ...LOOP,
  controllerLow: 0,
  controllerHigh: 200,
  points: [0, 25, 50, 75, 100].map((p) => perfect(more.root ?? 'none', p)),
  ...more,
})

describe('the verdict of a loop', () => {
  it.each(['none', 'transmitter', 'receiver'] as const)('without error passes, root: %s', (root) =>
    expect(checkVerdict(input({ root }))).toMatchObject({
      verdict: 'pass',
      firstDeparture: 'none',
      current: { verdict: 'pass' },
      controller: { verdict: 'pass' },
    }),
  )
  it('fails by a controller that is scaled wrong, though the current is right', () => {
    const points = [0, 50, 100].map((p) => ({ ...perfect('none', p), controller: 2.4 * p }))
    expect(checkVerdict(input({ points }))).toMatchObject({
      verdict: 'fail',
      firstDeparture: 'controller',
      current: { verdict: 'pass' },
      controller: { verdict: 'fail', maxErrorPct: expect.closeTo(20, 9) as number },
    })
  })
  it('names the current first where both depart', () => {
    const points = [perfect('none', 50)].map((p) => ({ ...p, mA: 13, controller: 120 }))
    expect(checkVerdict(input({ points })).firstDeparture).toBe('current')
  })
  it('guarded never accepts what simple does not, and only what is far inside', () =>
    fc.assert(
      fc.property(fc.double({ min: -2, max: 2, noNaN: true }), size(1), (offPct, u_mA) => {
        const points = [{ ...perfect('none', 50), mA: 12 + 0.16 * offPct, u_mA }]
        const by = (rule: CheckVerdictInput['rule']) => checkVerdict(input({ points, rule })).current!.verdict
        if (by('guarded') === 'pass') expect(by('simple')).toBe('pass')
        if (by('simple') === 'pass') expect(['pass', 'pass-at-risk']).toContain(by('guarded'))
        else expect(['fail-at-risk', 'fail']).toContain(by('guarded'))
      }),
    ))
  it('is as bad as its worst point, at either knot', () =>
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: -1, max: 1, noNaN: true }), { minLength: 1, maxLength: 8 }),
        size(0.05),
        (off, u_mA) => {
          const points = off.map((e, i) => ({ ...perfect('none', 10 * i), mA: 4 + 1.6 * i + 0.16 * e, u_mA }))
          const made = checkVerdict(input({ points, rule: 'guarded' }))
          const worst = Math.max(...made.points.map((p) => CONFORMITY_VERDICTS.indexOf(p.current!.verdict)))
          expect(CONFORMITY_VERDICTS.indexOf(made.verdict)).toBe(worst)
          expect(Math.abs(made.current!.maxErrorPct)).toBeCloseTo(Math.max(...off.map(Math.abs)), 6)
        },
      ),
    ))
  it('counts the doubt of what is applied by how steep the knot is there (second method: a small step)', () => {
    const at = (applied: number) => 4 + 16 * (applied / 100) ** 2
    for (const applied of [0, 10, 60, 100]) {
      const points = [{ ...perfect('receiver', applied), u_applied: 0.2 }]
      const { u_pct } = checkVerdict(input({ root: 'receiver', points })).points[0]!.current!
      const step = (at(applied + 1e-4) - at(applied - 1e-4)) / 2e-4
      expect(u_pct).toBeCloseTo((100 * Math.abs(step) * 0.2) / 16, 6)
    }
  })
  it('below the cutoff expects none, and no doubt of what is applied', () => {
    const points = [{ applied: 3, direction: 'up' as const, mA: 4, controller: 0, u_applied: 1 }]
    const [point] = checkVerdict(input({ cutoff: 5, points })).points
    expect(point).toMatchObject({ current: { errorPct: 0, u_pct: 0 }, controller: { errorPct: 0, u_pct: 0 } })
  })
  it('turns with reverse ends', () => {
    const points = [{ applied: 25, direction: 'up' as const, controller: 151 }]
    const made = checkVerdict(input({ controllerLow: 200, controllerHigh: 0, points }))
    expect(made.controller!.maxErrorPct).toBeCloseTo(-0.5, 9)
    expect(made.current).toBe(null)
  })
  it.each<[string, Partial<CheckVerdictInput>]>([
    ['zero-span', { urv: 0 }],
    ['zero-span', { controllerHigh: 0 }],
    ['invalid-input', { points: [] }],
    ['invalid-input', { tolerancePct: 0 }],
    ['invalid-input', { cutoff: -1 }],
    ['invalid-input', { cutoff: 1, lrv: 10 }],
    ['invalid-input', { root: 'transmitter', lrv: 10 }],
    ['invalid-input', { root: 'receiver', points: [perfect('none', -1)] }],
    ['invalid-input', { points: [{ applied: 0, direction: 'up' }] }],
    ['invalid-input', { controllerLow: undefined }],
    ['invalid-input', { points: [{ ...perfect('none', 0), u_mA: -1 }] }],
  ])('is refused as %s: %j', (code, more) => expect(refusal(() => checkVerdict(input(more)))).toBe(code))
})

describe('a verdict of one knot alone', () => {
  it.each([
    ['a meter', { controller: undefined }, 'controller'],
    ['a screen', { mA: undefined }, 'current'],
  ] as const)('by whoever has only %s', (_, without, missing) => {
    const points = [0, 50, 100].map((p) => ({ ...perfect('none', p), ...without }))
    const made = checkVerdict(input({ points }))
    expect(made[missing]).toBe(null)
    expect(made.points.every((p) => p[missing] === null)).toBe(true)
    expect(made).toMatchObject({ verdict: 'pass', firstDeparture: 'none' })
  })
  it('at risk is not yet a departure where it still passes', () => {
    const points = [{ ...perfect('none', 50), mA: 12 + 0.16 * 0.45, u_mA: 0.02 }]
    const made = checkVerdict(input({ points, rule: 'guarded' }))
    expect(made.current!.verdict).toBe('pass-at-risk')
    expect(made.firstDeparture).toBe('none')
  })
})
