// Calculators of flow.
import { z } from 'zod'
import {
  clampOnFlow,
  clampOnGeometry,
  coriolisDensity,
  coriolisMassFlow,
  NOZZLE_GASES,
  orificeFlow,
  profileFactor,
  pulseOutput,
  sonicNozzle,
} from '../flow/index.ts'
import { calculator, notNegative, number, size } from './calculator.ts'

const beam = z.strictObject({
  od_mm: size,
  wall_mm: size,
  wallSpeed_mps: size,
  liner_mm: notNegative.optional(),
  linerSpeed_mps: size.optional(),
  fluidSpeed_mps: size,
  wedgeSpeed_mps: size,
  wedgeAngle_deg: z.number().positive().max(90),
  traverses: z.union([z.literal(1), z.literal(2), z.literal(3), z.literal(4)]),
})
const linerHasSpeed = (b: { liner_mm?: number | undefined; linerSpeed_mps?: number | undefined }) =>
  !b.liner_mm || b.linerSpeed_mps !== undefined

export const flowCalculators = [
  calculator(
    'profile-factor',
    'Mean velocity of a pipe over the velocity on a diametric path',
    z.strictObject({ reynolds: notNegative }),
    ({ reynolds }) => ({ factor: profileFactor(reynolds) }),
  ),
  calculator(
    'clamp-on-geometry',
    'Beam of a clamp-on pair: angles, spacing, way in the fluid',
    beam.refine(linerHasSpeed, 'a liner needs its speed'),
    clampOnGeometry,
  ),
  calculator(
    'clamp-on-flow',
    'Flow and sound speed from the two transit times of a clamp-on pair',
    beam
      .extend({ upTime_us: size, downTime_us: size, kinematicViscosity_cSt: size })
      .refine(linerHasSpeed, 'a liner needs its speed'),
    clampOnFlow,
  ),
  calculator(
    'coriolis-density',
    'Density from the period of a Coriolis meter',
    z.strictObject({
      lowPeriod_us: size,
      lowDensity_kgm3: number,
      highPeriod_us: size,
      highDensity_kgm3: number,
      periodTempCoeff: number,
      period_us: size,
      temp_C: number,
    }),
    coriolisDensity,
  ),
  calculator(
    'coriolis-mass-flow',
    'Mass flow from the time delay of a Coriolis meter',
    z.strictObject({
      flowCal_gps_per_us: size,
      timeDelay_us: number,
      zero_us: number,
      flowTempCoeff: number,
      temp_C: number,
      cutoff_gps: number,
    }),
    coriolisMassFlow,
  ),
  calculator(
    'pulse-output',
    'Frequency of a pulse output, scaled in any of three ways',
    z.strictObject({
      scaling: z.discriminatedUnion('method', [
        z.strictObject({ method: z.literal('rate'), atRate: size, frequency_Hz: size }),
        z.strictObject({ method: z.literal('pulses-per-unit'), pulses: size }),
        z.strictObject({ method: z.literal('units-per-pulse'), units: size }),
      ]),
      flow: number,
      maxFrequency_Hz: size.optional(),
    }),
    pulseOutput,
  ),
  calculator(
    'sonic-nozzle',
    'Flow of gas through a sonic nozzle',
    z.strictObject({
      throat_mm: size,
      dischargeCoefficient: size,
      gas: z.enum(NOZZLE_GASES),
      pressure_kPa: size,
      temp_C: z.number().gt(-273.15),
      refTemp_C: z.number().gt(-273.15).optional(),
      refPressure_kPa: size.optional(),
    }),
    sonicNozzle,
  ),
  calculator(
    'orifice-flow',
    'Mass flow through an orifice plate from its differential pressure',
    z.strictObject({
      pipe_mm: size,
      bore_mm: size,
      taps: z.enum(['corner', 'flange', 'D-D/2']),
      density_kgm3: size,
      viscosity_mPas: size,
      dp_kPa: size,
      compressible: z.strictObject({ pressure_kPa: size, isentropicExponent: size }).optional(),
    }),
    orificeFlow,
  ),
]
