import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  clampOnFlow,
  clampOnGeometry,
  coriolisDensity,
  coriolisMassFlow,
  expansibility,
  orificeFlow,
  profileFactor,
  pulseOutput,
  sonicNozzle,
  type BeamInput,
} from './index.ts'

const real = (min: number, max: number) => fc.double({ min, max, noNaN: true })
const beam: fc.Arbitrary<BeamInput> = fc.record({
  od_mm: real(40, 1200),
  wall_mm: real(1, 15),
  wallSpeed_mps: real(1500, 3300),
  liner_mm: fc.constantFrom(0, 4),
  linerSpeed_mps: real(1800, 2600),
  fluidSpeed_mps: real(1000, 2000),
  wedgeSpeed_mps: real(2200, 2800),
  wedgeAngle_deg: real(15, 38),
  traverses: fc.constantFrom(1 as const, 2 as const, 3 as const, 4 as const),
})

describe('the profile', () => {
  it('never falls as the flow grows, and does not jump', () => {
    fc.assert(
      fc.property(real(0, 1e7), (re) => {
        const [a, b] = [profileFactor(re), profileFactor(re * 1.001 + 1e-6)]
        expect(b).toBeGreaterThanOrEqual(a - 1e-12)
        expect(b - a).toBeLessThan(0.01)
        expect(a).toBeGreaterThanOrEqual(0.75)
        expect(a).toBeLessThan(1)
      }),
    )
  })
})

describe('the beam', () => {
  it('needs a wider spacing on a larger pipe, and crosses it in time with its length', () => {
    fc.assert(
      fc.property(beam, real(1, 50), (b, more) => {
        const [near, far] = [clampOnGeometry(b), clampOnGeometry({ ...b, od_mm: b.od_mm + more })]
        expect(far.spacing_mm).toBeGreaterThan(near.spacing_mm)
        expect(near.fluidTransit_us * b.fluidSpeed_mps).toBeCloseTo(near.fluidPath_mm * 1000, 6)
        expect(near.side).toBe(b.traverses % 2 ? 'opposite' : 'same')
      }),
    )
  })
  it('obeys Snell’s law at the fluid whatever lies between', () => {
    fc.assert(
      fc.property(beam, (b) => {
        const sine = (deg: number) => Math.sin((deg * Math.PI) / 180)
        expect(sine(clampOnGeometry(b).fluidAngle_deg) / b.fluidSpeed_mps).toBeCloseTo(
          sine(b.wedgeAngle_deg) / b.wedgeSpeed_mps,
          12,
        )
      }),
    )
  })
  it.each([
    [{ wallSpeed_mps: 6000 }, 'no-transmission'],
    [{ wall_mm: 60 }, 'no-bore'],
  ])('refuses %j: %s', (changed, code) => {
    const plain: BeamInput = {
      od_mm: 100,
      wall_mm: 5,
      wallSpeed_mps: 3200,
      fluidSpeed_mps: 1480,
      wedgeSpeed_mps: 2700,
      wedgeAngle_deg: 38,
      traverses: 2,
    }
    expect(() => clampOnGeometry({ ...plain, ...changed })).toThrowError(expect.objectContaining({ code }))
  })
})

describe('clamp-on flow', () => {
  /** Transit times with and against a flow, to first order. */
  const timesAt = (b: BeamInput, velocity: number) => {
    const { fluidPath_mm, fluidAngle_deg } = clampOnGeometry(b)
    const along = velocity * Math.sin((fluidAngle_deg * Math.PI) / 180)
    return {
      upTime_us: (1000 * fluidPath_mm) / (b.fluidSpeed_mps - along),
      downTime_us: (1000 * fluidPath_mm) / (b.fluidSpeed_mps + along),
    }
  }
  it('gives back velocity and sound speed, and turns its sign with the flow', () => {
    fc.assert(
      fc.property(beam, real(0.05, 8), real(0.3, 80), (b, v, viscosity) => {
        const times = timesAt(b, v)
        const read = clampOnFlow({ ...b, ...times, kinematicViscosity_cSt: viscosity })
        expect(read.pathVelocity_mps / v).toBeCloseTo(1, 9)
        expect(read.measuredSoundSpeed_mps / b.fluidSpeed_mps).toBeCloseTo(1, 9)
        expect(read.profileFactor).toBeCloseTo(profileFactor(read.reynolds), 8)
        const swapped = clampOnFlow({
          ...b,
          upTime_us: times.downTime_us,
          downTime_us: times.upTime_us,
          kinematicViscosity_cSt: viscosity,
        })
        expect(swapped.volumeFlow_m3ph).toBeCloseTo(-read.volumeFlow_m3ph, 6)
      }),
    )
  })
  it('reads nothing while nothing flows', () => {
    const b: BeamInput = {
      od_mm: 100,
      wall_mm: 5,
      wallSpeed_mps: 3200,
      fluidSpeed_mps: 1480,
      wedgeSpeed_mps: 2700,
      wedgeAngle_deg: 38,
      traverses: 2,
    }
    const still = clampOnFlow({ ...b, ...timesAt(b, 0), kinematicViscosity_cSt: 1 })
    expect([still.volumeFlow_m3ph, still.reynolds, still.profileFactor]).toEqual([0, 0, 0.75])
  })
})

describe('a Coriolis meter', () => {
  const constants = {
    lowPeriod_us: 8500,
    lowDensity_kgm3: 1.2,
    highPeriod_us: 9800,
    highDensity_kgm3: 998.2,
    periodTempCoeff: 4.25,
  }
  it('gives each constant’s density at its own period', () => {
    expect(coriolisDensity({ ...constants, period_us: 8500, temp_C: 0 }).density_kgm3).toBeCloseTo(1.2, 9)
    expect(coriolisDensity({ ...constants, period_us: 9800, temp_C: 0 }).density_kgm3).toBeCloseTo(998.2, 9)
  })
  it('counts a flow either way, and none below its cutoff', () => {
    const flow = (timeDelay_us: number) =>
      coriolisMassFlow({
        flowCal_gps_per_us: 4,
        timeDelay_us,
        zero_us: 0.01,
        flowTempCoeff: 4,
        temp_C: 25,
        cutoff_gps: 0.5,
      }).massFlow_gps
    expect(flow(5.01)).toBeCloseTo(-flow(-4.99), 9)
    expect(flow(0.1)).toBe(0)
  })
})

describe('a pulse output', () => {
  it('means the same flow by each of its three scalings', () => {
    fc.assert(
      fc.property(real(0.001, 1000), real(0.001, 500), (units, flow) => {
        const by = [
          pulseOutput({ scaling: { method: 'units-per-pulse', units }, flow }),
          pulseOutput({ scaling: { method: 'pulses-per-unit', pulses: 1 / units }, flow }),
          pulseOutput({ scaling: { method: 'rate', atRate: units * 100, frequency_Hz: 100 }, flow }),
        ]
        for (const b of by) {
          expect(b.frequency_Hz / by[0]!.frequency_Hz).toBeCloseTo(1, 9)
          expect(b.frequency_Hz).toBeLessThanOrEqual(10_000)
        }
      }),
    )
  })
})

it('a sonic nozzle passes in proportion to pressure, and less of a hot gas', () => {
  const flow = (pressure_kPa: number, temp_C: number) =>
    sonicNozzle({ throat_mm: 1, dischargeCoefficient: 0.98, gas: 'nitrogen', pressure_kPa, temp_C })
  expect(flow(800, 20).massFlow_kgph / flow(400, 20).massFlow_kgph).toBeCloseTo(2, 12)
  expect(flow(400, 60).massFlow_kgph).toBeLessThan(flow(400, 20).massFlow_kgph)
})

describe('an orifice', () => {
  const plate = fc.record({
    pipe_mm: real(50, 600),
    beta: real(0.2, 0.74),
    taps: fc.constantFrom('corner' as const, 'flange' as const, 'D-D/2' as const),
    density_kgm3: real(600, 1200),
    viscosity_mPas: real(0.2, 5),
    dp_kPa: real(0.5, 60),
  })
  it('is its own inverse: the differential pressure that a flow needs gives that flow', () => {
    fc.assert(
      fc.property(plate, real(0.3, 0.9), ({ beta, ...p }, share) => {
        const input = { ...p, bore_mm: beta * p.pipe_mm }
        const wanted = orificeFlow(input).massFlow_kgps * share
        let [low, high] = [0, p.dp_kPa]
        for (let i = 0; i < 60; i++) {
          const mid = (low + high) / 2
          if (orificeFlow({ ...input, dp_kPa: mid }).massFlow_kgps < wanted) low = mid
          else high = mid
        }
        expect(orificeFlow({ ...input, dp_kPa: high }).massFlow_kgps / wanted).toBeCloseTo(1, 8)
      }),
      { numRuns: 60 },
    )
  })
  it('settles on the Reynolds number of its own flow', () => {
    fc.assert(
      fc.property(plate, ({ beta, ...p }) => {
        const r = orificeFlow({ ...p, bore_mm: beta * p.pipe_mm })
        const re = (4 * r.massFlow_kgps) / (Math.PI * (p.viscosity_mPas / 1000) * (p.pipe_mm / 1000))
        expect(r.reynolds / re).toBeCloseTo(1, 9)
        expect(r.dischargeCoefficient).toBeGreaterThan(0.57)
        expect(r.dischargeCoefficient).toBeLessThan(0.75)
      }),
    )
  })
  it('expands a gas the more, the more pressure it loses', () => {
    expect(expansibility(0.5, 1, 1000, 1.3)).toBeGreaterThan(expansibility(0.5, 100, 1000, 1.3))
    expect(expansibility(0.5, 0, 1000, 1.3)).toBe(1)
  })
  it('refuses a pressure that the line does not have', () =>
    expect(() =>
      orificeFlow({
        pipe_mm: 100,
        bore_mm: 50,
        taps: 'corner',
        density_kgm3: 5,
        viscosity_mPas: 0.02,
        dp_kPa: 600,
        compressible: { pressure_kPa: 500, isentropicExponent: 1.3 },
      }),
    ).toThrowError(expect.objectContaining({ code: 'out-of-range' })))
})
