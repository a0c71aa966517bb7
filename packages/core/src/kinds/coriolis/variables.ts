// What the current of a Coriolis meter follows: mass flow, or another variable with a range and scales of its own.
import type { QuantityName } from '../../quantity/index.ts'
import type { Condition, Field } from '../kind.ts'
import type { Reader } from '../reader.ts'
import { rangeFields } from '../two-wire/index.ts'

interface Variable {
  readonly stem: string
  readonly quantity: QuantityName
  readonly unit: string
  readonly decimals: number
  /** What the process value and what the device makes of it are called. */
  readonly name: string
}
export const MASS = 'mass flow'
export const OTHERS: Readonly<Record<string, Variable>> = {
  'volume flow': { stem: 'volume', quantity: 'volume-flow', unit: 'm3/h', decimals: 2, name: 'Volume flow' },
  density: { stem: 'density', quantity: 'density', unit: 'kg/m3', decimals: 1, name: 'Density' },
  temperature: { stem: 'temperature', quantity: 'temperature', unit: 'degC', decimals: 1, name: 'Temperature' },
}
export const VARIABLES = [MASS, ...Object.keys(OTHERS)]

/** Entries of Range that speak of the variable itself, at each end of the wire. */
const OF_VARIABLE = [
  ...['lrv', 'urv', 'receiverLow', 'receiverHigh'],
  ...['channelLow', 'channelHigh', 'indicatorLow', 'indicatorHigh'],
]
const keyOf = (stem: string, key: string) => `${stem}${key[0]?.toUpperCase() ?? ''}${key.slice(1)}`

const also = (field: Field, condition: Condition): Field => ({
  ...field,
  when: [...(field.when === undefined ? [] : 'key' in field.when ? [field.when] : field.when), condition],
})

/** What a change makes the device forget is forgotten of every variable. */
const withTwins = (field: Field): Field =>
  field.resets
    ? {
        ...field,
        resets: field.resets.flatMap((key) =>
          OF_VARIABLE.includes(key) ? [key, ...Object.values(OTHERS).map((v) => keyOf(v.stem, key))] : [key],
        ),
      }
    : field

/** Range at both ends for each variable, of which the one that the current follows is asked for. */
export function variableFields(): Field[] {
  const plain = rangeFields('mass-flow', 'kg/h')
  return plain.flatMap((field) => {
    if (!OF_VARIABLE.includes(field.key)) return [withTwins(field)]
    const own = also(field, { key: 'source', is: [MASS] })
    return [
      own,
      ...Object.entries(OTHERS).flatMap(([source, { stem, quantity, unit }]) => {
        const twin = rangeFields(quantity, unit).find((f) => f.key === field.key)
        return twin ? [also({ ...twin, key: keyOf(stem, field.key) }, { key: 'source', is: [source] })] : []
      }),
    ]
  })
}

/** Entries that stand in place of those of mass flow; none where the current follows that. */
export function insteadOf(r: Reader): Record<string, string> {
  const variable = OTHERS[r.text('source')]
  return variable ? Object.fromEntries(OF_VARIABLE.map((key) => [key, keyOf(variable.stem, key)])) : {}
}
