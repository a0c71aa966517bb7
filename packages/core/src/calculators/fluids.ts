// Calculators of pipes and fluids.
import { z } from 'zod'
import {
  GAS_COMPONENTS,
  gasProperties,
  gasReferenceFlow,
  seawaterProperties,
  waterProperties,
  REFERENCE_TEMPERATURES_C,
} from '../fluid/index.ts'
import { PIPE_STANDARDS, pipeDimensions } from '../pipe/index.ts'
import { calculator, notNegative, number, oneOf, size } from './calculator.ts'

const composition = z.partialRecord(z.enum(GAS_COMPONENTS), notNegative)

export const fluidCalculators = [
  calculator(
    'pipe-dimensions',
    'Diameter and wall of a pipe from standard, size and schedule',
    z.strictObject({ standard: z.enum(PIPE_STANDARDS), size: z.string().max(20), schedule: z.string().max(10) }),
    ({ standard, size, schedule }) => pipeDimensions(standard, size, schedule),
  ),
  calculator(
    'water-properties',
    'Liquid water: density, sound speed (IAPWS-95), viscosity (IAPWS 2008)',
    z.strictObject({ temp_C: number, pressure_kPa: number }),
    ({ temp_C, pressure_kPa }) => waterProperties(temp_C, pressure_kPa),
  ),
  calculator(
    'seawater-properties',
    'Seawater: density and sound speed (TEOS-10)',
    z.strictObject({ salinity_gkg: number, temp_C: number, pressure_kPa: number }),
    ({ salinity_gkg, temp_C, pressure_kPa }) => seawaterProperties(salinity_gkg, temp_C, pressure_kPa),
  ),
  calculator(
    'gas-properties',
    'Gas mixture: compressibility, density, sound speed (AGA Report No. 8 DETAIL)',
    z.strictObject({
      composition: z.partialRecord(z.enum(GAS_COMPONENTS), notNegative),
      temp_C: number,
      pressure_kPa: size,
    }),
    ({ composition, temp_C, pressure_kPa }) => gasProperties(composition, temp_C, pressure_kPa),
  ),
  calculator(
    'gas-reference-flow',
    'Actual, reference and mass flow of a gas, each from any one of them',
    z
      .strictObject({
        composition,
        temp_C: number,
        pressure_kPa: size,
        actualFlow_m3ph: notNegative.optional(),
        referenceFlow_m3ph: notNegative.optional(),
        massFlow_kgph: notNegative.optional(),
        refTemp_C: z.union(REFERENCE_TEMPERATURES_C.map((t) => z.literal(t))),
        refPressure_kPa: size.optional(),
      })
      .refine(oneOf('actualFlow_m3ph', 'referenceFlow_m3ph', 'massFlow_kgph'), 'exactly one flow'),
    gasReferenceFlow,
  ),
]
