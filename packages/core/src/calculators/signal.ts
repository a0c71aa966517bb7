// Calculators of the signal, and of units.
import { z } from 'zod'
import { convertUnit } from '../quantity/index.ts'
import { scaleSignal } from '../signal/index.ts'
import { calculator, number, size } from './calculator.ts'

export const signalCalculators = [
  calculator(
    'scale-signal',
    'Process value, per cent, mA, shunt volts and counts of a 4–20 mA signal from any one of them',
    z.strictObject({
      lrv: number,
      urv: number,
      transfer: z.enum(['linear', 'square-root']),
      shuntOhm: size.optional(),
      countsLow: number.optional(),
      countsHigh: number.optional(),
      pv: number.optional(),
      mA: number.optional(),
      percent: number.optional(),
      shuntVolts: number.optional(),
      countsRead: number.optional(),
    }),
    scaleSignal,
  ),
  calculator(
    'convert-unit',
    'A reading in another unit of the same quantity',
    z.strictObject({ value: number, from: z.string(), to: z.string() }),
    ({ value, from, to }) => ({ value: convertUnit(value, from, to) }),
  ),
]
