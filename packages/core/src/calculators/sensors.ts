// Calculators of pH electrodes and temperature sensors.
import { z } from 'zod'
import { BUFFER_SETS, phBuffer, phCalibration } from '../analysis/index.ts'
import {
  rtdResistance,
  rtdTemperature,
  THERMOCOUPLE_TYPES,
  thermocoupleEmf,
  thermocoupleTemperature,
} from '../temperature/index.ts'
import { Refusal } from '../refusal/index.ts'
import { calculator, number, oneOf, size } from './calculator.ts'
import { sure } from '../sure/index.ts'

export const sensorCalculators = [
  calculator(
    'ph-buffer',
    'pH of a buffer at a temperature',
    z.strictObject({ set: z.enum(BUFFER_SETS), nominal: number, temp_C: number }),
    phBuffer,
  ),
  calculator(
    'ph-calibration',
    'Slope, offset and verdict of a pH electrode from two to five buffers',
    z.strictObject({
      points: z
        .array(z.strictObject({ ph: number, mV: number }))
        .min(2)
        .max(5),
      temp_C: z.number().gt(-273.15),
    }),
    phCalibration,
  ),
  calculator(
    'rtd',
    'Platinum thermometer: resistance from temperature or back (IEC 60751)',
    z.strictObject({ r0_Ohm: size.optional(), temp_C: number.optional(), ohm: number.optional() }),
    ({ r0_Ohm = 100, temp_C, ohm }) => {
      if ((temp_C === undefined) === (ohm === undefined))
        throw new Refusal('invalid-input', 'Give exactly one of temp_C and ohm.')
      return temp_C !== undefined
        ? { temp_C, ohm: rtdResistance(temp_C, r0_Ohm) }
        : { temp_C: rtdTemperature(sure(ohm), r0_Ohm), ohm: sure(ohm) }
    },
  ),
  calculator(
    'thermocouple',
    'Thermocouple: emf from temperature or back, with its cold junction (IEC 60584-1)',
    z
      .strictObject({
        type: z.enum(THERMOCOUPLE_TYPES),
        coldJunction_C: number.optional(),
        temp_C: number.optional(),
        emf_mV: number.optional(),
      })
      .refine(oneOf('temp_C', 'emf_mV'), 'exactly one of temp_C and emf_mV'),
    ({ type, coldJunction_C, temp_C, emf_mV }) =>
      temp_C === undefined
        ? { temp_C: thermocoupleTemperature(type, sure(emf_mV), coldJunction_C), emf_mV: sure(emf_mV) }
        : { temp_C, emf_mV: thermocoupleEmf(type, temp_C, coldJunction_C) },
  ),
]
