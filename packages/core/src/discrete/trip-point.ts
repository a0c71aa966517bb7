// A trip on a measured value: when a controller's relay changes, with set point and band.

export const TRIP_KINDS = ['near', 'far', 'inside', 'outside'] as const
export type TripKind = (typeof TRIP_KINDS)[number]

export interface Trip {
  readonly kind: TripKind
  /** In the unit of the measured value. */
  readonly set: number
  /** 0 or more, in the same unit. */
  readonly band: number
}

/**
 * Readings are compared with a spare of one part in 10¹²: a sum of two decimals is not always the decimal it looks
 * like.
 */
const spare = (a: number, b: number) => 1e-12 * Math.max(Math.abs(a), Math.abs(b))
const atMost = (a: number, b: number) => a <= b + spare(a, b)
const atLeast = (a: number, b: number) => a >= b - spare(a, b)

/**
 * The trip's state after one more reading.
 *
 * near: on at set and below, until set + band. far: on at set + band and above, until set. Where both conditions hold
 * (band 0),
 * on wins. inside: on from set to set + band; outside: its complement.
 */
export function tripAfter({ kind, set, band }: Trip, before: boolean, reading: number): boolean {
  const top = set + band
  switch (kind) {
    case 'near':
      return atMost(reading, set) || (before && !atLeast(reading, top))
    case 'far':
      return atLeast(reading, top) || (before && !atMost(reading, set))
    case 'inside':
      return atLeast(reading, set) && atMost(reading, top)
    case 'outside':
      return !(atLeast(reading, set) && atMost(reading, top))
  }
}

/** The trip's state after each reading. */
export function tripPoint(
  input: Trip & { readonly readings: readonly number[]; readonly initial?: boolean | undefined },
): {
  states: boolean[]
} {
  let state = input.initial ?? false
  return { states: input.readings.map((reading) => (state = tripAfter(input, state, reading))) }
}
