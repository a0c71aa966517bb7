// Calculators of discrete points.
import { z } from 'zod'
import { biasResistor, cycleMetrics, discreteInput, TRIP_KINDS, tripPoint } from '../discrete/index.ts'
import { calculator, notNegative, number, size } from './calculator.ts'

const pole = z.enum(['positive', 'negative'])
const switchInput = z.strictObject({ common: pole, ohm: size, onMinV: size, offMaxV: notNegative })
const stage = z.enum(['PNP', 'NPN', 'push-pull', 'two-wire'])

export const discreteCalculators = [
  calculator(
    'discrete-input',
    'A discrete sensor on an input: volts, current, what the controller reads, and whether the two fit',
    z.strictObject({
      sensor: z.strictObject({
        output: stage,
        contact: z.enum(['NO', 'NC']),
        residualV: notNegative,
        leakage_mA: notNegative,
      }),
      supplyV: size,
      input: switchInput,
      target: z.boolean(),
      extraResistor: z.strictObject({ to: pole, ohm: size }).optional(),
    }),
    discreteInput,
  ),
  calculator(
    'bias-resistor',
    'Resistor from the signal wire that makes a mismatched sensor usable',
    z.strictObject({
      supplyV: size,
      sensor: z.strictObject({ output: stage, residualV: notNegative, maxOut_mA: size }),
      input: switchInput,
    }),
    biasResistor,
  ),
  calculator(
    'trip-point',
    'When a trip on a measured value changes',
    z.strictObject({
      kind: z.enum(TRIP_KINDS),
      set: number,
      band: notNegative,
      readings: z.array(number).max(100_000),
      initial: z.boolean().optional(),
    }),
    tripPoint,
  ),
  calculator(
    'cycle-metrics',
    'Cycles, cycle time and OEE from the edges of a sensor',
    z.strictObject({
      edges: z
        .array(z.strictObject({ t_s: number, state: z.boolean() }))
        .max(200_000)
        .refine((edges) => edges.every((e, i) => i === 0 || e.t_s >= edges[i - 1]!.t_s), 'must be in time order'),
      plannedTime_s: notNegative,
      stops: z
        .array(
          z.strictObject({ from_s: number, to_s: number }).refine((s) => s.to_s >= s.from_s, 'ends before it begins'),
        )
        .max(10_000),
      idealCycle_s: notNegative,
      rejected: notNegative,
      longCycle_s: notNegative.optional(),
    }),
    cycleMetrics,
  ),
]
