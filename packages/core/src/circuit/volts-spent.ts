// Where the volts of a loop go at a current: into each named resistance, and what is left for the transmitter.

export interface VoltsSpent {
  readonly mA: number
  readonly parts: readonly { readonly name: string; readonly V: number }[]
  /** What is left for the transmitter, V; below 0 by how much the supply falls short. */
  readonly leftV: number
}
export interface VoltsInput {
  /** Loop supply as the transmitter would see it with no current, V. */
  readonly supplyV: number
  /** The resistances that are known by name, Ω; one that is not known, or not above 0, takes nothing. */
  readonly named: readonly { readonly name: string; readonly ohm: number | undefined }[]
  /** All resistance outside the transmitter as drawn, Ω: what the named ones leave of it is called `other`. */
  readonly outsideOhm?: number | undefined
  readonly currents_mA: readonly number[]
}
/** Less than this is no part, but what the clamps and the solving leave, Ω. */
const LEAST_OHM = 0.5

/**
 * Ohm's law at each current, one row for each. What is left is by the loop as drawn where that is known: where it has
 * less than the named parts come to, one of them is not in it, and the whole is told as one part.
 * Source: Kirchhoff's voltage law.
 */
export function voltsSpent({ supplyV, named, outsideOhm, currents_mA }: VoltsInput): VoltsSpent[] {
  const known = named.flatMap(({ name, ohm }) => (ohm !== undefined && ohm > 0 ? [{ name, ohm }] : []))
  const sum = known.reduce((all, p) => all + p.ohm, 0)
  const total = outsideOhm ?? sum
  const rest = total - sum
  const parts =
    rest < -LEAST_OHM
      ? [{ name: 'as drawn', ohm: total }]
      : rest > LEAST_OHM
        ? [...known, { name: 'other', ohm: rest }]
        : known
  return currents_mA.map((mA) => ({
    mA,
    parts: parts.map(({ name, ohm }) => ({ name, V: (mA * ohm) / 1000 })),
    leftV: supplyV - (mA * total) / 1000,
  }))
}
