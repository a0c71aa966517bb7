// Runs of sheets that are verifications: what each is held against, and what it comes to.
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { judgeLines, type RunFigure, type RunGiven } from '../../sheet/index.ts'
import { currentKindOf } from '../index.ts'
import { study as studied } from '../../loop/index.ts'
import { demoEntries } from '../demo-entries.fixture.ts'

const judge = (kind: string, sheet: string, given: RunGiven, more = {}) =>
  studied(currentKindOf(kind), demoEntries(kind, more)).sheets!().find((s) => s.id === sheet)!.judge!(given)
const given = (figures: Record<string, readonly [number, string]>): RunGiven => ({
  figures: new Map(Object.entries(figures).map(([k, [value, unit]]): [string, RunFigure] => [k, { value, unit }])),
})
const offs = (judged: ReturnType<typeof judge>) => judged!.lines.map((l) => l.off)

describe('a thermal meter against its baseline', () => {
  const expected = () => judge('thermal-insertion', 'verify', given({ temp: [20, 'degC'] }))!.lines
  const shown = (factor: number) =>
    given({
      temp: [20, 'degC'],
      ...Object.fromEntries(expected().map((l, i) => [`point-${i + 1}`, [l.expected * factor, l.unit] as const])),
    })
  it('passes where every step is shown within the limit, and not where one is further off', () => {
    const right = judge('thermal-insertion', 'verify', shown(1.015))!
    expect(right.pass).toBe(true)
    for (const off of offs(right)) expect(off).toBeCloseTo(1.5, 9)
    const wrong = shown(1)
    const { value, unit } = wrong.figures.get('point-3')!
    const figures = new Map([...wrong.figures, ['point-3', { value: value * 0.97, unit }]])
    expect(judge('thermal-insertion', 'verify', { figures })).toMatchObject({ pass: false })
  })
  it('is undecided while a step is not read', () => {
    const judged = judge('thermal-insertion', 'verify', given({ temp: [20, 'degC'], 'point-1': [10, 'kg/h'] }))!
    expect(judged.pass).toBeUndefined()
    expect(judged.lines.filter((l) => l.read === undefined)).toHaveLength(3)
  })
  it('reads each figure in its own unit', () => {
    const [first] = expected()
    const other = { figures: new Map([['point-1', { value: first!.expected / 3600, unit: 'kg/s' }]]) }
    const twenty = judge('thermal-insertion', 'verify', {
      figures: new Map([...other.figures, ['temp', { value: 68, unit: 'degF' }]]),
    })
    expect(twenty!.lines[0]!.off).toBeCloseTo(0, 6)
  })
  it('says that nothing can be judged without a baseline', () =>
    expect(judge('thermal-insertion', 'verify', given({}), { throat: '' })).toBeUndefined())
  it('names the certificates that it rests on, those that are entered', () => {
    const rule = (typed: Record<string, string>) =>
      judge('thermal-insertion', 'verify', given({ temp: [20, 'degC'] }), typed)!.rule
    expect(rule({ baseline: 'B-0417', certificate: 'T1-C' })).toContain(
      'By their certificates: baseline B-0417, meter T1-C.',
    )
    expect(rule({ baseline: '', certificate: '', nozzleCertificate: '' })).toMatch(/%\.$/)
  })
})

describe('the density of a Coriolis meter', () => {
  it.each([
    [997.05, 25, true, 'Clean water'],
    [999.5, 25, false, 'Clean water'],
    [1.2, 20, true, 'Dry air'],
    [3.5, 20, false, 'Dry air'],
  ])('shown as %d kg/m³ at %d °C: %s, as %s', (density, temp, pass, of) => {
    const judged = judge('coriolis', 'density', given({ temperature: [temp, 'degC'], density: [density, 'kg/m3'] }))!
    expect(judged.pass).toBe(pass)
    expect(judged.rule).toContain(of)
  })
  it('waits for the temperature', () =>
    expect(judge('coriolis', 'density', given({ density: [998, 'kg/m3'] }))).toBeUndefined())
  it('is nothing beyond where water is liquid', () =>
    expect(
      judge('coriolis', 'density', given({ temperature: [5000, 'degC'], density: [998, 'kg/m3'] })),
    ).toBeUndefined())
})

describe('the health of a Coriolis meter', () => {
  const of = (left_pct: number, right_pct: number) =>
    judge('coriolis', 'health', {
      figures: new Map(),
      health: { found: { left_pct, right_pct }, reference: { left_pct: 98, right_pct: 99 } },
    })!
  it('is as good as its worse side', () => {
    expect(of(98, 99).pass).toBe(true)
    expect(of(98, 90).pass).toBe(false)
    expect(offs(of(98, 99))).toEqual([0, 0])
  })
  it('needs a check within the run', () => expect(judge('coriolis', 'health', given({}))).toBeUndefined())
})

describe('lines of a verification', () => {
  const words = { rule: 'By a rule.', notChecked: 'The rest.' }
  const line = (read: number | undefined, offUnit: string) => ({
    ...{ name: 'One', at: '', expected: 50, unit: 'kg/h', decimals: 1, limit: 2, offUnit, read },
  })
  it('belong to the limit at both its ends', () => {
    for (const [read, inside] of [
      [49, true],
      [51, true],
      [48.99, false],
      [51.01, false],
    ] as const)
      expect(judgeLines([line(read, '%')], words)!.lines[0]!.inside).toBe(inside)
    for (const [read, inside] of [
      [48, true],
      [52, true],
      [52.01, false],
    ] as const)
      expect(judgeLines([line(read, 'kg/h')], words)!.lines[0]!.inside).toBe(inside)
  })
  it('pass together only where each passes alone (property)', () => {
    fc.assert(
      fc.property(fc.array(fc.option(fc.double({ min: 45, max: 55, noNaN: true })), { minLength: 1 }), (reads) => {
        const judged = judgeLines(
          reads.map((r) => line(r ?? undefined, '%')),
          words,
        )!
        const alone = reads.map((r) => judgeLines([line(r ?? undefined, '%')], words)!.pass)
        expect(judged.pass).toBe(alone.includes(undefined) ? undefined : alone.every(Boolean))
      }),
    )
  })
  it('are none where there are none', () => expect(judgeLines([], words)).toBeUndefined())
})
