// What the current of a flow meter follows: its usual variable, or another one with a range, scales and switch points
// of its own.
import type { QuantityName } from '../../quantity/index.ts'
import type { Condition, Field } from '../kind.ts'
import { readInstead, type Reader } from '../reader.ts'
import { rangeFields, TRIP_NUMBERS, tripFields } from '../two-wire/index.ts'

export interface Variable {
  /** Its entries begin with it. */
  readonly stem: string
  readonly quantity: QuantityName
  readonly unit: string
  readonly decimals: number
  /** What the process value and what the device makes of it are called. */
  readonly name: string
}
export interface Carried {
  /** The entry that says which one it is, and what it says of the usual one. */
  readonly by: string
  readonly usual: string
  readonly quantity: QuantityName
  readonly unit: string
  readonly others: Readonly<Record<string, Variable>>
}

/** Entries that speak of the variable itself, at each end of the wire and at the controller’s relays. */
const OF_VARIABLE = [
  ...['lrv', 'urv', 'receiverLow', 'receiverHigh'],
  ...['channelLow', 'channelHigh', 'indicatorLow', 'indicatorHigh'],
  ...TRIP_NUMBERS.flatMap((n) => [`trip${n}Set`, `trip${n}Band`]),
]
const keyOf = (stem: string, key: string) => `${stem}${key[0]?.toUpperCase() ?? ''}${key.slice(1)}`

const also = (field: Field, condition: Condition): Field => ({
  ...field,
  when: [...(field.when === undefined ? [] : 'key' in field.when ? [field.when] : field.when), condition],
})

/** Fields in which a variable stands, for each variable, of which the one that the current follows is asked for. */
function forEach(carried: Carried, make: (quantity: QuantityName, unit: string) => Field[]): Field[] {
  const others = Object.entries(carried.others).map(([value, variable]) => ({
    ...variable,
    value,
    fields: make(variable.quantity, variable.unit),
  }))
  /** What a change makes the device forget is forgotten of every variable. */
  const withTwins = (field: Field): Field =>
    field.resets
      ? {
          ...field,
          resets: field.resets.flatMap((key) =>
            OF_VARIABLE.includes(key) ? [key, ...others.map((v) => keyOf(v.stem, key))] : [key],
          ),
        }
      : field
  return make(carried.quantity, carried.unit).flatMap((field) => {
    if (!OF_VARIABLE.includes(field.key)) return [withTwins(field)]
    const twins = others.flatMap(({ value, stem, fields }) => {
      const twin = fields.find((f) => f.key === field.key)
      return twin ? [also({ ...twin, key: keyOf(stem, field.key) }, { key: carried.by, is: [value] })] : []
    })
    return [also(field, { key: carried.by, is: [carried.usual] }), ...twins]
  })
}

/** Range at both ends for each variable. */
export const carriedRange = (carried: Carried): Field[] => forEach(carried, (q, unit) => rangeFields(q, unit))
/** Switch points for each variable. */
export const carriedTrips = (carried: Carried): Field[] => forEach(carried, (q, unit) => tripFields(q, unit))

/** The other variable that the current follows; undefined where it follows the usual one. */
export const otherOf = (carried: Carried, r: Reader): Variable | undefined => carried.others[r.text(carried.by)]

/** Entries that stand in place of those of the usual variable; none where the current follows that. */
export function insteadOf(carried: Carried, r: Reader): Record<string, string> {
  const variable = otherOf(carried, r)
  return variable ? Object.fromEntries(OF_VARIABLE.map((key) => [key, keyOf(variable.stem, key)])) : {}
}

/** A reader of the range of whatever the current follows. */
export const carriedReader = (carried: Carried, r: Reader): Reader => readInstead(r, insteadOf(carried, r))
