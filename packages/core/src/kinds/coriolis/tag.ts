// What stands on a sensor's tag, read in the units in which it is printed.
import { constantValue } from '../../flow/index.ts'
import { convertUnit, parseQuantity } from '../../quantity/index.ts'
import { attempt, Refusal } from '../../refusal/index.ts'
import type { Reader } from '../reader.ts'
import { CONSTANTS, tagKey } from './constants.ts'

/** How flow factor and temperature coefficient stand on the tag. */
export const [TWO_FIGURES, ONE_FIGURE] = ['two figures', 'one, factor first'] as const
/** Units of the reference densities, as tags print them. */
export const TAG_DENSITIES = { 'kg/m³': 'kg/m3', 'g/cm³': 'g/cm3', 'lb/ft³': 'lb/ft3' } as const
/** What a temperature coefficient is printed for, and how many of it make one for 100 °C. */
export const TAG_COEFFICIENTS = { '100 °C': 1, '100 °F': 1.8, '1 °C': 100 } as const

/** Factor and coefficient printed as one, as in `123.45 4.75` or `123.45/4.75`; undefined of a plain number. */
export function combinedFactor(text: string): readonly [string, string] | undefined {
  const [, factor, coefficient] = /^\s*([+-]?\d+[.,]\d+)\s*[ /;|]\s*([+-]?\d+[.,]\d+)\s*$/.exec(text) ?? []
  return factor === undefined || coefficient === undefined ? undefined : [factor, coefficient]
}

/** Of each constant, what its printed figure is multiplied by: to kg/m³, and to % for 100 °C. */
function scales(r: Reader): Readonly<Record<string, number>> {
  const unit = TAG_DENSITIES[r.text('tagDensityIn') as keyof typeof TAG_DENSITIES] ?? 'kg/m3'
  const density = convertUnit(1, unit, 'kg/m3')
  const per = TAG_COEFFICIENTS[r.text('tagCoefficientFor') as keyof typeof TAG_COEFFICIENTS] ?? 1
  return { lowDensity: density, highDensity: density, flowTemp: per, periodTemp: per }
}

/** The texts of a set of constants, a factor and coefficient that are printed as one taken apart. */
function apart(r: Reader, texts: Readonly<Record<string, string>>): Readonly<Record<string, string>> {
  const both = r.text('tagFactorForm') === ONE_FIGURE ? combinedFactor(texts['flowCal'] ?? '') : undefined
  return both ? { ...texts, flowCal: both[0], flowTemp: both[1] } : texts
}

export type ConstantsRead = Readonly<Record<string, number | Refusal | undefined>>
/** Constants as printed or held, in the units that flow and density are computed in. */
export function readConstants(r: Reader): (texts: Readonly<Record<string, string>>) => ConstantsRead {
  const scale = scales(r)
  return (texts) => {
    const each = apart(r, texts)
    return Object.fromEntries(
      CONSTANTS.map(({ key }) => {
        const value = attempt(() => constantValue(each[key] ?? ''))
        return [key, typeof value === 'number' ? Number((value * (scale[key] ?? 1)).toPrecision(15)) : value]
      }),
    )
  }
}
export const tagTexts = (r: Reader): Readonly<Record<string, string>> =>
  Object.fromEntries(CONSTANTS.map((c) => [c.key, r.text(tagKey(c.key))]))

/** Kilograms that a pulse stands for; a bare number is in kg. A refusal where it is none above 0. */
export function pulseMass(text: string): number | Refusal | undefined {
  if (!text.trim()) return undefined
  const read = parseQuantity(text, { quantity: 'mass', unit: 'kg' })
  if (!read.ok) return new Refusal('not-a-number', `“${text}” is no mass: ${read.says}`)
  const kg = convertUnit(read.value, read.unit, 'kg')
  return kg > 0 ? kg : new Refusal('not-positive', `A pulse stands for more than “${text}”.`)
}
