// Calculators of the loop’s electrical side.
import { z } from 'zod'
import { analogHookup, loopBudget, solveCircuit, wireResistance } from '../circuit/index.ts'
import { calculator, number } from './calculator.ts'
import { circuitInput } from './circuit-input.ts'

export const electricalCalculators = [
  calculator(
    'wire-resistance',
    'Resistance of a copper pair, there and back',
    z.strictObject({ awg: number.optional(), area_mm2: number.optional(), length_m: number, temp_C: number }),
    wireResistance,
  ),
  calculator(
    'loop-budget',
    'Voltage left for a two-wire transmitter',
    z.strictObject({ supplyV: number, liftOffV: number, seriesOhms: z.array(number), maxmA: number.optional() }),
    loopBudget,
  ),
  calculator('solve-circuit', 'Every voltage and current of a loop’s circuit', circuitInput, solveCircuit),
  calculator(
    'analog-hookup',
    'Whether a loop has one and only one supply',
    z.strictObject({
      transmitter: z.enum(['two-wire', 'three-wire', 'four-wire-active', 'four-wire-passive']),
      card: z.enum(['supplies-loop', 'passive']),
      loopSupply: z.boolean(),
      devicePower: z.boolean(),
    }),
    analogHookup,
  ),
]
