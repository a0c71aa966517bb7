// Random circuits of every kind of part, right or wrong, for tests.
import fc from 'fast-check'
import type { Part } from './parts.ts'

type Draft = Part extends infer P ? (P extends Part ? Omit<P, 'id'> : never) : never

const ohm = fc.oneof(fc.double({ min: 0.01, max: 1000, noNaN: true }), fc.constantFrom(250, 1e6, 1e9))
const mA = fc.oneof(fc.constantFrom(0, 4, 12, 20, 22), fc.double({ min: 0, max: 25, noNaN: true }))

/** Circuits of up to `most` parts on `nodes` nodes, the first of which is ground. */
export const randomCircuit = (nodes: number, most: number): fc.Arbitrary<Part[]> => {
  const node = fc.integer({ min: 0, max: nodes - 1 }).map((n) => `n${n}`)
  const two = fc.record({ plus: node, minus: node })
  const ab = fc.record({ a: node, b: node })
  const part: fc.Arbitrary<Draft> = fc.oneof(
    fc
      .tuple(two, fc.double({ min: -30, max: 30, noNaN: true }))
      .map(([t, volts]) => ({ kind: 'source' as const, ...t, volts })),
    { weight: 4, arbitrary: fc.tuple(ab, ohm).map(([t, o]) => ({ kind: 'resistor' as const, ...t, ohm: o })) },
    fc.tuple(ab, fc.boolean()).map(([t, closed]) => ({ kind: 'switch' as const, ...t, closed })),
    fc.tuple(two, ohm).map(([t, o]) => ({ kind: 'ammeter' as const, ...t, ohm: o, fusemA: 400 })),
    two.map((t) => ({ kind: 'voltmeter' as const, ...t, ohm: 1e7 })),
    fc.tuple(node, node).map(([anode, cathode]) => ({ kind: 'diode' as const, anode, cathode })),
    {
      weight: 2,
      arbitrary: fc
        .tuple(two, mA, fc.constantFrom('blocks' as const, 'conducts' as const))
        .map(([t, i, reverse]) => ({ kind: 'loop-transmitter' as const, ...t, mA: i, liftOffV: 10.5, reverse })),
    },
    fc.tuple(two, mA).map(([t, i]) => ({ kind: 'current-output' as const, ...t, mA: i, maxV: 15 })),
  )
  return fc
    .array(part, { minLength: 1, maxLength: most })
    .map((drafts) => drafts.map((d, i) => ({ ...d, id: `p${i}` })))
}
