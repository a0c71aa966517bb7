import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  biasResistor,
  coilPole,
  fitOf,
  fixesOf,
  INPUT_TYPES,
  isMismatch,
  largestE12,
  readInput,
  relayFit,
  solveSwitch,
  verdictOf,
  verdictWith,
  type SwitchCase,
  type SwitchCircuit,
} from './index.ts'

const pole = fc.constantFrom('positive' as const, 'negative' as const)
const stage = fc.constantFrom('PNP' as const, 'NPN' as const, 'push-pull' as const, 'two-wire' as const)
const real = (min: number, max: number) => fc.double({ min, max, noNaN: true })
const circuit: fc.Arbitrary<SwitchCircuit> = fc.record({
  sensor: fc.record({
    output: stage,
    contact: fc.constantFrom('NO' as const, 'NC' as const),
    residualV: real(0, 8),
    leakage_mA: fc.oneof(fc.constant(0), real(0.01, 3)),
  }),
  supplyV: real(10, 30),
  input: fc.record({ common: pole, ohm: real(1000, 20_000), onMinV: real(8, 16), offMaxV: real(2, 7) }),
  extraResistor: fc.option(fc.record({ to: pole, ohm: real(300, 20_000) }), { nil: undefined }),
})
const clearOf = (limit: number, v: number) => Math.abs(v - limit) > 1e-3

describe('what the formula says', () => {
  it('is what the circuit solver says, for every stage, contact, common and target', () => {
    fc.assert(
      fc.property(circuit, fc.boolean(), (c, target) => {
        const read = readInput(c, target)
        const solved = solveSwitch(c, target)
        expect(solved.signalV).toBeCloseTo(read.signalV, 3)
        if (clearOf(c.input.onMinV, read.inputV) && clearOf(c.input.offMaxV, read.inputV))
          expect(solved.inputV >= c.input.onMinV).toBe(read.state === 'on')
      }),
      { numRuns: 2000 },
    )
  })
  it('never tells a plain mismatch apart, and always tells a plain fit apart', () => {
    const plain = { residualV: 1.5, leakage_mA: 0.1 }
    const input = { ohm: 3300, onMinV: 11, offMaxV: 5 }
    for (const contact of ['NO', 'NC'] as const)
      for (const output of ['PNP', 'NPN', 'push-pull'] as const)
        for (const common of ['positive', 'negative'] as const) {
          const fit = fitOf({ sensor: { output, contact, ...plain }, supplyV: 24, input: { common, ...input } })
          expect(fit.compatible).toBe(!isMismatch({ output }, { common }))
          if (output !== 'push-pull' && fit.compatible) expect(fit.inverted).toBe(false)
        }
  })
  it('calls an input that is never sure undefined', () => {
    const leaky: SwitchCircuit = {
      sensor: { output: 'two-wire', contact: 'NC', residualV: 5, leakage_mA: 1.7 },
      supplyV: 24,
      input: { common: 'negative', ohm: 4700, onMinV: 15, offMaxV: 5 },
    }
    expect(verdictOf(fitOf(leaky))).toBe('undefined')
    const input = { ...leaky.input, common: 'positive' as const }
    expect(
      verdictOf(fitOf({ ...leaky, input, sensor: { output: 'PNP', contact: 'NO', residualV: 1, leakage_mA: 0 } })),
    ).toBe('cannot-work')
  })
})

describe('fixes', () => {
  const someCase: fc.Arbitrary<SwitchCase> = fc.record({
    circuit: circuit.map(({ extraResistor: _, ...c }) => c),
    maxOut_mA: real(5, 400),
    load_mA: fc.option(real(1, 8000), { nil: undefined }),
  })
  it('make it compatible within the sensor’s rating, whenever they are proposed', () => {
    let proposed = 0
    fc.assert(
      fc.property(someCase, (c) => {
        const { possible, ruledOut } = fixesOf(c)
        proposed += possible.length
        expect(possible.length + ruledOut.length).toBeGreaterThan(0)
        const { sensor, supplyV, input } = c.circuit
        for (const fix of possible) {
          const again =
            fix.way === 'other-common'
              ? fitOf({ sensor, supplyV, input: { ...input, common: fix.common } })
              : fix.way === 'bias-resistor' || fix.way === 'bleeder'
                ? fitOf({ sensor, supplyV, input, extraResistor: fix })
                : fix.way === 'relay'
                  ? relayFit({ sensor, supplyV, input }, fix.relay)
                  : { ...fix.after, compatible: true }
          expect(again.compatible).toBe(true)
          expect(new Set([fix.after.present.state, fix.after.absent.state])).toEqual(new Set(['on', 'off']))
          expect(Math.max(fix.after.present.sensor_mA, fix.after.absent.sensor_mA)).toBeLessThanOrEqual(c.maxOut_mA)
          if (fix.way === 'bias-resistor') {
            expect(fix.after.inverted).toBe(true)
            const solved = solveSwitch({ sensor, supplyV, input, extraResistor: fix }, sensor.contact === 'NC')
            expect(solved.inputV).toBeGreaterThanOrEqual(input.onMinV - 1e-3)
          }
        }
      }),
      { numRuns: 2000 },
    )
    expect(proposed).toBeGreaterThan(800)
  })
  it('offer both ways for NPN on a sinking card: resistor (inverted) and relay (right way round first)', () => {
    const c: SwitchCase = {
      circuit: {
        sensor: { output: 'NPN', contact: 'NO', residualV: 1.5, leakage_mA: 0.1 },
        supplyV: 24,
        input: { common: 'negative', ohm: 3300, onMinV: 15, offMaxV: 5 },
      },
      maxOut_mA: 200,
    }
    expect(verdictWith(c)).toBe('cannot-work')
    const { possible } = fixesOf(c)
    expect(possible.map((f) => f.way)).toEqual(['other-common', 'other-sensor', 'bias-resistor', 'relay', 'relay'])
    const relay = possible.find((f) => f.way === 'relay')!
    expect(relay).toMatchObject({ coilTo: 'positive', contactCommon: 'positive', after: { inverted: false } })
    expect(possible.find((f) => f.way === 'bias-resistor')).toMatchObject({ ohm: 1500, to: 'positive' })
  })
  it('send a load too heavy for the sensor to a relay, and one too heavy for its contact to a contactor', () => {
    const beacon = (load_mA: number): SwitchCase => ({
      circuit: {
        sensor: { output: 'PNP', contact: 'NO', residualV: 1.8, leakage_mA: 0.1 },
        supplyV: 24,
        input: { common: 'negative', ohm: 24_000 / load_mA, onMinV: 19.2, offMaxV: 4.8 },
      },
      maxOut_mA: 200,
      load_mA,
    })
    expect(verdictWith(beacon(300))).toBe('overloaded')
    expect(verdictWith(beacon(100))).toBe('works')
    expect(fixesOf(beacon(300)).possible.map((f) => f.way)).toEqual(['relay', 'relay'])
    expect(fixesOf(beacon(9000)).ruledOut[0]!.why).toMatch(/contactor/)
  })
  it('say why not: a coil of another voltage, or more coil current than the sensor may switch', () => {
    const c: SwitchCase = {
      circuit: {
        sensor: { output: 'NPN', contact: 'NO', residualV: 1.5, leakage_mA: 0.1 },
        supplyV: 24,
        input: { common: 'negative', ohm: 3300, onMinV: 15, offMaxV: 5 },
      },
      maxOut_mA: 50,
    }
    const why = (coilV: number, coil_mA: number) =>
      fixesOf(c, { coilV, coil_mA, contactMax_mA: 6000 }).ruledOut.find((f) => f.way === 'relay')?.why
    expect(why(12, 10)).toMatch(/coil of 12 V/)
    expect(why(24, 120)).toMatch(/120 mA/)
    expect(why(24, 20)).toBeUndefined()
  })
})

describe('bias resistor', () => {
  it('picks a preferred value that meets both limits', () => {
    fc.assert(
      fc.property(real(0, 4), real(20, 300), real(1000, 20_000), real(8, 16), (residualV, maxOut_mA, ohm, onMinV) => {
        const b = biasResistor({
          supplyV: 24,
          sensor: { output: 'NPN', residualV, maxOut_mA },
          input: { common: 'negative', ohm, onMinV, offMaxV: 5 },
        })
        if (b.pickOhm === null) return
        expect(b.pickOhm).toBeGreaterThanOrEqual(b.minOhm * (1 - 1e-9))
        expect((24 * ohm) / (ohm + b.pickOhm)).toBeGreaterThanOrEqual(onMinV)
        expect(largestE12(b.pickOhm, b.pickOhm)).toBe(b.pickOhm)
      }),
    )
  })
  it.each([
    [1500, 1584, 1500],
    [1501, 1584, null],
    [0.5, 0.99, 0.82],
    [100, 100, 100],
    [1, 0, null],
  ])('largest E12 in [%d, %d] is %s', (least, most, found) => expect(largestE12(least, most)).toBe(found))
})

it('knows three input types, each of which takes a three-wire sensor of either stage', () => {
  for (const row of INPUT_TYPES)
    for (const common of ['positive', 'negative'] as const) {
      const output = common === 'negative' ? 'PNP' : 'NPN'
      const sensor = { output, contact: 'NO', residualV: 2, leakage_mA: 0.1 } as const
      expect(verdictOf(fitOf({ sensor, supplyV: 24, input: { common, ...row } }))).toBe('works')
      expect(row.onMinV / row.ohm).toBeGreaterThanOrEqual((row.least_mA / 1000) * 0.999)
    }
  expect(coilPole('NPN')).toBe('positive')
})
