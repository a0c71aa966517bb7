// Calculators of trim and check.
import { z } from 'zod'
import {
  calibrationInterval,
  checkVerdict,
  conformity,
  CONFORMITY_RULES,
  DISTRIBUTIONS,
  instrumentUncertainty,
  multiPointCheck,
  uncertaintyBudget,
} from '../check/index.ts'
import { chainDiagnosis, trimEffect } from '../trim/index.ts'
import { calculator, notNegative, number, size } from './calculator.ts'

export const verdictCalculators = [
  calculator(
    'chain-diagnosis',
    'Error of a chain split by stage, and the least work that mends it',
    z.strictObject({
      lrv: number,
      urv: number,
      points: z
        .array(z.strictObject({ applied: number, digital: number, mA: number, receiver: number.optional() }))
        .min(2)
        .max(10_000),
      tolerancePct: notNegative,
    }),
    chainDiagnosis,
  ),
  calculator(
    'multi-point-check',
    'Errors, hysteresis, linearity and verdict of a check',
    z.strictObject({
      lrv: number,
      urv: number,
      outputLow: number.optional(),
      outputHigh: number.optional(),
      points: z
        .array(z.strictObject({ applied: number, output: number, direction: z.enum(['up', 'down']) }))
        .min(1)
        .max(10_000),
      tolerancePct: number,
    }),
    multiPointCheck,
  ),
  calculator(
    'uncertainty-budget',
    'Combined and expanded uncertainty of several contributions (GUM)',
    z.strictObject({
      contributions: z
        .array(
          z.strictObject({
            value: notNegative,
            distribution: z.enum(DISTRIBUTIONS),
            coverage: size.optional(),
            sensitivity: number.optional(),
            dof: size.optional(),
          }),
        )
        .min(1)
        .max(1000),
    }),
    ({ contributions }) => uncertaintyBudget(contributions),
  ),
  calculator(
    'conformity',
    'Whether an error conforms to a tolerance, with its uncertainty (JCGM 106)',
    z.strictObject({
      measuredError: number,
      tolerance: number,
      standardUncertainty: number,
      rule: z.enum(CONFORMITY_RULES),
    }),
    conformity,
  ),
  calculator(
    'instrument-uncertainty',
    'What a reading is worth by the figures of the instrument it was read from',
    z.strictObject({
      reading: number,
      pctOfReading: notNegative.optional(),
      pctOfRange: notNegative.optional(),
      digits: notNegative.optional(),
      fixed: notNegative.optional(),
      range: size.optional(),
      resolution: size.optional(),
      coverage: size.optional(),
    }),
    ({ reading, ...figures }) => instrumentUncertainty(reading, figures),
  ),
  calculator(
    'check-verdict',
    'Verdict of a loop at current and controller, with uncertainty, and which departs first',
    z.strictObject({
      lrv: number,
      urv: number,
      root: z.enum(['none', 'transmitter', 'receiver']),
      cutoff: notNegative.optional(),
      controllerLow: number.optional(),
      controllerHigh: number.optional(),
      points: z
        .array(
          z.strictObject({
            applied: number,
            direction: z.enum(['up', 'down']),
            mA: number.optional(),
            controller: number.optional(),
            u_applied: notNegative.optional(),
            u_mA: notNegative.optional(),
            u_controller: notNegative.optional(),
          }),
        )
        .min(1)
        .max(10_000),
      tolerancePct: size,
      rule: z.enum(CONFORMITY_RULES),
    }),
    checkVerdict,
  ),
  calculator(
    'calibration-interval',
    'When a point is due again, from its drift',
    z.strictObject({
      history: z
        .array(z.strictObject({ day: z.number().int(), asFoundPct: number, asLeftPct: number }))
        .min(2)
        .max(10_000),
      tolerancePct: size,
      current_days: size,
      min_days: notNegative.optional(),
      max_days: size.optional(),
    }),
    calibrationInterval,
  ),
  calculator(
    'trim-effect',
    'What a zero or two-point trim leaves at the points read',
    z
      .strictObject({
        errorsPct: z
          .array(z.strictObject({ atPct: number, errorPct: number }))
          .min(2)
          .max(10_000),
        trim: z.enum(['zero', 'two-point']),
        lowPct: number.optional(),
        highPct: number.optional(),
        tolerancePct: size,
      })
      .refine((t) => t.trim === 'zero' || (t.lowPct ?? 0) < (t.highPct ?? 100), 'lowPct must lie below highPct'),
    trimEffect,
  ),
]
