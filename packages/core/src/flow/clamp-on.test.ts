import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  clampOnFlow,
  clampOnGeometry,
  isMatchedPair,
  measuredWith,
  mountingFor,
  runTrials,
  SCHOOLS,
  sensitivities,
  soundSpeedVerdict,
  straightRun,
  transducersFor,
  TRANSDUCERS,
  transitTimes,
  type BeamInput,
  type FlowModel,
  type Trials,
  type VerdictTerms,
} from './index.ts'

const beam: BeamInput = {
  od_mm: 114.3,
  wall_mm: 3.6,
  wallSpeed_mps: 3230,
  fluidSpeed_mps: 1482,
  wedgeSpeed_mps: 2480,
  wedgeAngle_deg: 40,
  traverses: 2,
}
const number = (min: number, max: number) => fc.double({ min, max, noNaN: true })

describe('transit times', () => {
  it('come back as the velocity and sound speed that made them', () => {
    fc.assert(
      fc.property(number(-8, 8), number(900, 2000), fc.constantFrom(1, 2, 3, 4), (v, c, traverses) => {
        const input = { ...beam, fluidSpeed_mps: c, traverses } as BeamInput
        const times = transitTimes(clampOnGeometry(input), c, v)
        const back = clampOnFlow({ ...input, ...times, kinematicViscosity_cSt: 1 })
        expect(back.pathVelocity_mps).toBeCloseTo(v, 9)
        expect(back.measuredSoundSpeed_mps).toBeCloseTo(c, 6)
      }),
    )
  })
  it('with swapped leads give the same flow backwards', () => {
    const times = transitTimes(clampOnGeometry(beam), beam.fluidSpeed_mps, 2)
    const swapped = { upTime_us: times.downTime_us, downTime_us: times.upTime_us }
    const [a, b] = [times, swapped].map(
      (t) => clampOnFlow({ ...beam, ...t, kinematicViscosity_cSt: 1 }).volumeFlow_m3ph,
    )
    expect(b).toBeCloseTo(-a!, 9)
  })
})

describe('the spacing', () => {
  it('grows with the diameter, and with each traverse', () => {
    fc.assert(
      fc.property(number(60, 900), number(1, 200), (od, more) => {
        const at = (d: number, traverses: 1 | 2 | 3 | 4) => clampOnGeometry({ ...beam, od_mm: d, traverses }).spacing_mm
        expect(at(od + more, 2)).toBeGreaterThan(at(od, 2))
        expect(at(od, 3)).toBeGreaterThan(at(od, 2))
      }),
    )
  })
})

describe('the verdict on a sound speed', () => {
  const terms: VerdictTerms = {
    beam,
    medium: 'liquid',
    fluidName: 'water',
    density_kgm3: 998,
    speedAt: (t) => 1482 + 3 * (t - 20),
    temp_C: 20,
    usual: { temp_C: 2, wall_mm: 0.1, od_mm: 0.5, liner_mm: 1 },
    others: [
      { name: 'seawater', speed_mps: 1522, near: true },
      { name: 'diesel oil', speed_mps: 1375 },
    ],
  }
  const judge = (measured: number) => soundSpeedVerdict(terms, measured, 300)
  it('believes what lies within one per cent, and asks for no cause', () => {
    expect(judge(1490)).toMatchObject({ grade: 'good', causes: [] })
    expect(judge(1505).grade).toBe('doubtful')
    expect(judge(1530).grade).toBe('wrong')
  })
  it('gives each cause the size that explains the whole difference', () => {
    fc.assert(
      fc.property(number(-0.06, 0.06), (share) => {
        fc.pre(Math.abs(share) > 0.012)
        const measured = beam.fluidSpeed_mps * (1 + share)
        const { causes } = judge(measured)
        const size = (id: string) => Number.parseFloat(causes.find((c) => c.id === id)?.size.replace('−', '-') ?? 'NaN')
        if (causes.some((c) => c.id === 'temperature'))
          expect(terms.speedAt(size('temperature'))).toBeCloseTo(measured, -0.5)
        for (const [id, key] of [
          ['wall', 'wall_mm'],
          ['diameter', 'od_mm'],
        ] as const)
          if (causes.some((c) => c.id === id))
            expect(
              Math.abs(measuredWith(beam, { ...beam, [key]: size(id) }, beam.fluidSpeed_mps) / measured - 1),
            ).toBeLessThan(0.003)
      }),
    )
  })
  it('ranks the likeliest first, and names gas only where it would slow the sound', () => {
    expect(judge(1520).causes[0]!.id).toBe('other-fluid')
    const slow = judge(1440).causes
    expect(slow.map((c) => c.strain)).toEqual([...slow.map((c) => c.strain)].sort((a, b) => a - b))
    expect(slow.some((c) => c.id === 'gas')).toBe(true)
    expect(judge(1530).causes.some((c) => c.id === 'gas')).toBe(false)
  })
  it('sees a wrong number of traverses', () => {
    const asIf = measuredWith(beam, { ...beam, traverses: 1 }, 1482)
    expect(judge(asIf).causes[0]!.id).toBe('traverses')
  })
})

describe('pairs', () => {
  it.each([
    ['M-11806A', 'M-11806B', true],
    ['m-11806b', 'M-11806 A', true],
    ['M-11806A', 'M-11807B', false],
    ['M-11806A', 'M-11806A', false],
    ['A', 'B', false],
    ['12', '13', false],
  ])('%s and %s: %s', (a, b, one) => expect(isMatchedPair(a, b)).toBe(one))
  it('suit a pipe only inside their own ranges, and say why not', () => {
    const all = transducersFor({ od_mm: 168.3, wall_mm: 7.1, metal: true, lined: false, temp_C: 15, medium: 'gas' })
    expect(all).toHaveLength(TRANSDUCERS.length)
    expect(all[0]!.transducer.family).toBe('wall-resonant')
    expect(all[0]!.against).toEqual([])
    for (const s of all) expect(s.against.length === 0).toBe(s.score > -5)
    const lined = transducersFor({ od_mm: 326, wall_mm: 7.4, metal: true, lined: true, temp_C: 8, medium: 'liquid' })
    expect(lined[0]!.transducer.family).toBe('general')
    expect(lined[0]!.transducer.temp_C[1]).toBe(120)
  })
  it('stand on one side unless the pipe speaks against it', () => {
    const pipe = { od_mm: 114, wall_mm: 3.6, metal: true, lined: false, temp_C: 20, medium: 'liquid' as const }
    expect(mountingFor({ ...pipe, id_mm: 107 }).traverses).toBe(2)
    expect(mountingFor({ ...pipe, id_mm: 30 }).traverses).toBe(4)
    expect(mountingFor({ ...pipe, id_mm: 1200 }).traverses).toBe(1)
    expect(mountingFor({ ...pipe, id_mm: 107, weak: true }).traverses).toBe(1)
  })
})

describe('the mounting', () => {
  const pipe = { od_mm: 60, wall_mm: 3, id_mm: 54, metal: true, lined: false, temp_C: 20, medium: 'gas' } as const
  const of = (two_mm: number, four_mm: number) => mountingFor({ ...pipe, pair: { body_mm: 50, two_mm, four_mm } })
  it.each([
    [60, 110, 2],
    [30, 55, 4],
    [15, 25, 1],
  ])('with two traverses %d mm and four %d mm apart, bodies of 50 mm: %d', (two, four, traverses) => {
    expect(of(two, four).traverses).toBe(traverses)
  })
  it('a small pipe takes four, of gas too', () => {
    for (const medium of ['gas', 'liquid'] as const)
      expect(mountingFor({ ...pipe, medium, id_mm: 40 }).traverses).toBe(4)
  })
})

describe('the straight run', () => {
  const pump = { medium: 'liquid', disturbance: 'pump', up_mm: 200, down_mm: 1100, id_mm: 100 } as const
  it.each(SCHOOLS.map((s) => s.id))('%s: enough is enough, and short is worse the shorter', (school) => {
    const at = (d: number) => straightRun({ ...pump, schoolId: school, up_mm: d * 100 })
    expect(at(200)).toMatchObject({ enough: true, likelyErrorPct: 0 })
    expect(at(2).enough).toBe(false)
    expect(at(2).likelyErrorPct).toBeGreaterThan(at(6).likelyErrorPct)
    expect(straightRun({ ...pump, schoolId: school, paths: 2 }).likelyErrorPct).toBeCloseTo(
      at(2).likelyErrorPct / 2,
      12,
    )
  })
  it('judges a gas by the rule for gases, whichever was asked for', () => {
    const by = (schoolId: string, medium: 'liquid' | 'gas') => straightRun({ ...pump, schoolId, medium })
    expect(by('plain', 'gas')).toEqual(by('gas-plain', 'gas'))
    expect(by('liquid', 'gas')).toEqual(by('gas', 'gas'))
    expect([by('plain', 'liquid').needUp_D, by('plain', 'gas').needUp_D]).toEqual([10, 20])
    expect(by('gas-plain', 'liquid').needUp_D).toBe(20)
    for (const { id } of SCHOOLS) expect(by(id, 'gas').school).toMatch(/gas/)
  })
  it.each([
    ['upstream', { up_mm: -1 }],
    ['downstream', { down_mm: -0.1 }],
    ['bore', { id_mm: 0 }],
  ])('refuses what cannot be: %s', (_, wrong) => {
    expect(() => straightRun({ ...pump, schoolId: 'plain', ...wrong })).toThrowError(/not below 0/)
  })
})

describe('trials and sensitivities', () => {
  const model = (tolerance: number): FlowModel => ({
    inputs: [
      { key: 'a', label: 'a', unit: 'm', value: 10, tolerance, distribution: 'rectangular' },
      { key: 'b', label: 'b', unit: 'm', value: 5, tolerance: tolerance / 2, distribution: 'normal' },
    ],
    outputs: [{ id: 'y', label: 'y', unit: 'm', decimals: 2 }],
    compute: ([a, b]) => [a! + 2 * b!],
  })
  const run = (m: FlowModel, n: number, seed = 1): Trials => {
    const steps = runTrials(m, n, seed)
    for (;;) {
      const step = steps.next()
      if (step.done) return step.value
    }
  }
  it('spread as the law of propagation says, where the model is straight', () => {
    const [y] = run(model(0.6), 40_000).results
    // Half-width 0.6 rectangular: 0.6/√3; twice b, whose 0.3 is two standard deviations: 0.3.
    expect(y!.spread).toBeCloseTo(Math.hypot(0.6 / Math.sqrt(3), 0.3), 2)
    expect(y!.mean).toBeCloseTo(20, 1)
    expect(y!.histogram.counts.reduce((a, b) => a + b, 0)).toBeGreaterThan(39_800)
  })
  it('are the same for the same seed, and others for another', () => {
    expect(run(model(1), 500)).toEqual(run(model(1), 500))
    expect(run(model(1), 500, 2)).not.toEqual(run(model(1), 500))
  })
  it('tell how far they are, and can be left off', () => {
    const steps = runTrials(model(1), 10_000, 1)
    expect([steps.next().value, steps.next().value]).toEqual([2000, 4000])
  })
  it('count what has no result', () => {
    const broken: FlowModel = { ...model(1), compute: ([a]) => [a! > 10 ? Number.NaN : a!] }
    const { refused } = run(broken, 2000)
    expect(refused).toBeGreaterThan(800)
    expect(refused).toBeLessThan(1200)
  })
  it('put the entry that moves most first', () => {
    const [first, second] = sensitivities(model(1))
    expect([first!.input.key, first!.change[0]]).toEqual(['a', 1])
    expect(second!.change[0]).toBeCloseTo(1, 12)
    expect(first!.changePct[0]).toBeCloseTo(5, 12)
  })
})
