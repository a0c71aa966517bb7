// Calculators of level.
import { z } from 'zod'
import { airSoundSpeed, dpLevelRange, probeRange, strapping, tankVolume } from '../level/index.ts'
import { calculator, notNegative, number, oneOf, size } from './calculator.ts'

const head = z.enum(['ellipsoidal-2:1', 'hemispherical', 'torispherical'])
const radii = { crown_m: number.optional(), knuckle_m: number.optional() }
const hasRadii = (form: string | undefined, t: { crown_m?: number | undefined; knuckle_m?: number | undefined }) =>
  form !== 'torispherical' || (t.crown_m !== undefined && t.knuckle_m !== undefined)

export const levelCalculators = [
  calculator(
    'tank-volume',
    'Volume of a tank at a level',
    z.strictObject({
      tank: z.discriminatedUnion('shape', [
        z
          .strictObject({
            shape: z.literal('vertical-cylinder'),
            diameter_m: number,
            height_m: number,
            coneHeight_m: number.optional(),
            bottom: head.optional(),
            ...radii,
          })
          .refine((t) => !t.bottom || !t.coneHeight_m || t.coneHeight_m <= 0, 'a cone or a head, not both')
          .refine((t) => hasRadii(t.bottom, t), 'a torispherical head needs crown_m and knuckle_m'),
        z
          .strictObject({
            shape: z.literal('horizontal-cylinder'),
            diameter_m: number,
            length_m: number,
            heads: z.union([z.literal('flat'), head]),
            ...radii,
          })
          .refine((t) => hasRadii(t.heads, t), 'a torispherical head needs crown_m and knuckle_m'),
        z.strictObject({ shape: z.literal('box'), length_m: number, width_m: number, height_m: number }),
        z.strictObject({ shape: z.literal('sphere'), diameter_m: number }),
      ]),
      level_m: number,
    }),
    ({ tank, level_m }) => tankVolume(tank, level_m),
  ),
  calculator(
    'probe-range',
    'Range of a rod or cable probe within its dead zones',
    z.strictObject({
      probeLength_mm: size,
      topDeadZone_mm: notNegative,
      bottomDeadZone_mm: notNegative,
      emptyDistance_mm: number,
      fullDistance_mm: number,
    }),
    probeRange,
  ),
  calculator(
    'air-sound-speed',
    'Speed of sound in air at a temperature',
    z.strictObject({ temp_C: number }),
    ({ temp_C }) => ({ soundSpeed_mps: airSoundSpeed(temp_C) }),
  ),
  calculator(
    'dp-level-range',
    'Range of a differential pressure transmitter that measures a level',
    z.strictObject({
      arrangement: z.enum(['open', 'dry-leg', 'wet-leg']),
      sg: size,
      emptyHeight_mm: number,
      fullHeight_mm: number,
      transmitterBelowTap_mm: number,
      legSg: size.optional(),
      legHeight_mm: number.optional(),
    }),
    dpLevelRange,
  ),
  calculator(
    'strapping-table',
    'Volume at a level of a measured vessel, or back',
    z
      .strictObject({
        rows: z
          .array(z.strictObject({ level_mm: number, volume_m3: notNegative }))
          .min(2)
          .max(100_000),
        level_mm: number.optional(),
        volume_m3: number.optional(),
      })
      .refine(oneOf('level_mm', 'volume_m3'), 'exactly one of level_mm and volume_m3'),
    ({ rows, ...at }) => strapping(rows, at),
  ),
]
