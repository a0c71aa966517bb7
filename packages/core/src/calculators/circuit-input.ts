// What a circuit looks like when it comes from outside.
import { z } from 'zod'

const name = z.string().min(1).max(80)
const positive = z.number().positive()

const part = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('source'),
    id: name,
    plus: name,
    minus: name,
    volts: z.number(),
    seriesOhm: positive.optional(),
  }),
  z.strictObject({ kind: z.literal('resistor'), id: name, a: name, b: name, ohm: positive }),
  z.strictObject({ kind: z.literal('switch'), id: name, a: name, b: name, closed: z.boolean() }),
  z.strictObject({ kind: z.literal('ammeter'), id: name, plus: name, minus: name, ohm: positive, fusemA: positive }),
  z.strictObject({ kind: z.literal('voltmeter'), id: name, plus: name, minus: name, ohm: positive }),
  z.strictObject({ kind: z.literal('diode'), id: name, anode: name, cathode: name }),
  z.strictObject({
    kind: z.literal('loop-transmitter'),
    id: name,
    plus: name,
    minus: name,
    mA: z.number().nonnegative(),
    liftOffV: positive,
    reverse: z.enum(['blocks', 'conducts']),
  }),
  z.strictObject({
    kind: z.literal('current-output'),
    id: name,
    plus: name,
    minus: name,
    mA: z.number().nonnegative(),
    maxV: positive,
  }),
])

export const circuitInput = z.strictObject({ ground: name, parts: z.array(part).max(5000) })
