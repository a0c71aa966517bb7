// The wiring of a loop as it stands on record: devices with their terminals, cables, and conductors from terminal to
// terminal.
import { z } from 'zod'
import { Refusal, type RefusalCode } from '../refusal/index.ts'

/** What a terminal is for. */
export const FUNCTIONS = {
  'loop+': { words: 'loop current in', domain: 'dc' },
  'loop-': { words: 'loop current out', domain: 'dc' },
  'out+': { words: 'current output, plus', domain: 'dc' },
  'out-': { words: 'current output, return', domain: 'dc' },
  'in+': { words: 'current input, plus', domain: 'dc' },
  'in-': { words: 'current input, return', domain: 'dc' },
  'feeds+': { words: 'gives DC power, plus', domain: 'dc' },
  'feeds-': { words: 'gives DC power, minus', domain: 'dc' },
  'supply+': { words: 'takes DC power, plus', domain: 'dc' },
  'supply-': { words: 'takes DC power, minus', domain: 'dc' },
  'test+': { words: 'test terminal, plus', domain: 'dc' },
  through: { words: 'passes through', domain: 'any' },
  live: { words: 'mains live', domain: 'ac' },
  neutral: { words: 'mains neutral', domain: 'ac' },
  earth: { words: 'protective earth', domain: 'earth' },
  shield: { words: 'cable shield', domain: 'earth' },
  'bus+': { words: 'bus, the line that is higher when idle', domain: 'dc' },
  'bus-': { words: 'bus, the line that is lower when idle', domain: 'dc' },
  'bus-common': { words: 'bus common', domain: 'dc' },
  'signal-out': { words: 'switched output', domain: 'dc' },
  'signal-in': { words: 'discrete input', domain: 'dc' },
  common: { words: 'common of the inputs', domain: 'dc' },
  'coil+': { words: 'relay coil, plus for its diode', domain: 'dc' },
  'coil-': { words: 'relay coil, minus for its diode', domain: 'dc' },
  contact: { words: 'relay contact', domain: 'any' },
  load: { words: 'load', domain: 'dc' },
  coax: { words: 'coaxial core of the sensor', domain: 'dc' },
  'coax-screen': { words: 'coaxial screen of the sensor', domain: 'dc' },
  'sensor-lead': { words: 'lead of the sensor', domain: 'dc' },
} as const
export type TerminalFunction = keyof typeof FUNCTIONS
const FunctionSchema = z.enum(Object.keys(FUNCTIONS) as [TerminalFunction, ...TerminalFunction[]])

const plain = (most: number) =>
  z
    .string()
    .min(1)
    .max(most)
    .regex(/^[^\p{Cc}:]*$/u, 'no colon or control character')
const Id = z.string().regex(/^[A-Za-z][A-Za-z0-9-]{0,15}$/, 'a letter, then letters, figures or hyphens, at most 16')
const TerminalId = plain(10)
/** A device’s terminal, such as `PS:+`; empty for an end that is cut back and insulated. */
const Ref = z.string().max(30)

/** A value of a part inside a device: a figure, or the name of one of the device’s or the loop’s figures. */
const Value = z.union([z.number(), z.string().min(1).max(30)])

const Inside = z.discriminatedUnion('part', [
  z.strictObject({
    part: z.literal('transmitter'),
    plus: TerminalId,
    minus: TerminalId,
    reverse: z.enum(['blocks', 'conducts']),
  }),
  z.strictObject({ part: z.literal('drives'), plus: TerminalId, minus: TerminalId, maxV: Value }),
  z.strictObject({ part: z.literal('repeats'), of: z.string(), plus: TerminalId, minus: TerminalId, maxV: Value }),
  z.strictObject({ part: z.literal('feeds'), plus: TerminalId, minus: TerminalId, volts: Value }),
  z.strictObject({
    part: z.literal('resists'),
    id: z.string().min(1).max(20),
    a: TerminalId,
    b: TerminalId,
    ohm: Value,
  }),
  z.strictObject({ part: z.literal('joins'), a: TerminalId, b: TerminalId }),
  z.strictObject({
    part: z.literal('fuse'),
    a: TerminalId,
    b: TerminalId,
    mA: z.number().positive(),
    ohm: z.number().positive(),
  }),
  z.strictObject({ part: z.literal('diode'), anode: TerminalId, cathode: TerminalId }),
  z.strictObject({ part: z.literal('earths'), a: TerminalId }),
  /** The output stage of a discrete sensor; a two-wire one stands between plus and signal. */
  z.strictObject({
    part: z.literal('outputs'),
    stage: z.enum(['PNP', 'NPN', 'push-pull', 'two-wire']),
    contact: z.enum(['NO', 'NC']),
    plus: TerminalId,
    minus: TerminalId,
    signal: TerminalId,
  }),
  /** Open or closed at rest, and the other way while the coil (a `resists` of this device) is picked up. */
  z.strictObject({
    part: z.literal('contact'),
    of: z.string(),
    a: TerminalId,
    b: TerminalId,
    rest: z.enum(['open', 'closed']),
  }),
])
export type Inside = z.infer<typeof Inside>

/** What a channel of a device can be set to. */
export const CHANNEL_KINDS = [
  'current, active',
  'current, passive',
  'pulse or frequency, passive',
  'relay contact',
  'resistance thermometer input',
  'off',
] as const
export type ChannelKind = (typeof CHANNEL_KINDS)[number]

/** A pair of terminals that a plate lists with several uses; what is inside follows from what it is set to. */
const Channel = z.strictObject({
  id: z.string().min(1).max(10),
  plus: TerminalId,
  minus: TerminalId,
  can: z.array(z.enum(CHANNEL_KINDS)).min(1, 'a channel can be set to something'),
})

const Power = z.discriminatedUnion('from', [
  z.strictObject({
    from: z.literal('dc'),
    plus: TerminalId,
    minus: TerminalId,
    leastV: z.number().positive(),
    mostV: z.number().positive(),
    /** What it draws, as a resistance. */
    ohm: z.number().positive(),
  }),
  z.strictObject({
    from: z.literal('ac'),
    live: TerminalId,
    neutral: TerminalId,
    /** Of its AC supply, V effective. */
    leastV: z.number().positive().optional(),
    mostV: z.number().positive().optional(),
  }),
])

/** A kind of device: its terminals as data, what is inside between them, and what powers it. */
export const DeviceType = z
  .strictObject({
    id: Id,
    name: z.string().min(1).max(60),
    /** Where it stands: at the process, on the way, or in the cabinet. */
    place: z.enum(['field', 'way', 'cabinet']),
    role: z.enum([
      'transmitter',
      'receiver',
      'supply',
      'mains',
      'joint',
      'barrier',
      'isolator',
      'earth',
      'bus',
      'resistor',
      'fuse',
      'sensor',
      'relay',
      'load',
    ]),
    terminals: z
      .array(z.strictObject({ id: TerminalId, does: FunctionSchema }))
      .min(1, 'a device has at least one terminal')
      .max(64),
    inside: z.array(Inside).max(64),
    channels: z.array(Channel).max(16).optional(),
    power: Power.optional(),
    figures: z.record(z.string().max(30), z.number()).optional(),
  })
  .superRefine((type, ctx) => {
    const names = type.terminals.map((t) => t.id)
    const twice = names.find((n, i) => names.indexOf(n) !== i)
    if (twice !== undefined)
      ctx.addIssue({ code: 'custom', path: ['terminals'], message: `two terminals are called “${twice}”` })
    const inner = type.inside.flatMap((p) =>
      Object.entries(p).flatMap(([k, v]) =>
        ['plus', 'minus', 'signal', 'a', 'b', 'anode', 'cathode'].includes(k) ? [v as string] : [],
      ),
    )
    const power = type.power
      ? Object.entries(type.power).flatMap(([k, v]) =>
          ['plus', 'minus', 'live', 'neutral'].includes(k) ? [v as string] : [],
        )
      : []
    const channels = (type.channels ?? []).flatMap((c) => [c.plus, c.minus])
    const lost = [...inner, ...power, ...channels].find((n) => !names.includes(n))
    if (lost !== undefined)
      ctx.addIssue({ code: 'custom', path: ['inside'], message: `there is no terminal “${lost}”` })
  })
export type DeviceType = z.infer<typeof DeviceType>

const Device = z.strictObject({
  id: Id,
  /** Id of a built-in type, unless the device brings its own. */
  type: z.string().max(30),
  name: z.string().min(1).max(60),
  own: DeviceType.optional(),
  /** What each channel is set to; the first of what it can be where nothing is said. */
  set: z.record(z.string().max(10), z.enum(CHANNEL_KINDS)).optional(),
  figures: z.record(z.string().max(30), z.number()).optional(),
})
export type Device = z.infer<typeof Device>

/** A legend of a cable’s own: what each colour means in it. */
export const OwnLegend = z
  .array(z.strictObject({ colour: z.string().min(1).max(20), means: z.string().min(1).max(30) }))
  .min(1, 'a legend names at least one colour')
  .max(24)
  .superRefine((rows, ctx) => {
    const names = rows.map((r) => r.colour)
    const twice = names.find((n, i) => names.indexOf(n) !== i)
    if (twice !== undefined) ctx.addIssue({ code: 'custom', message: `the colour “${twice}” is there twice` })
  })

const Cable = z.strictObject({
  id: Id,
  name: z.string().max(60),
  /** Id of the colour convention that its cores follow. */
  legend: z.string().max(30),
  /** In its place where the cable follows none. */
  own: OwnLegend.optional(),
  /** One way, m; its share of the loop’s cable length where not given. */
  length_m: z.number().nonnegative().optional(),
  share: z.number().min(0).max(1).optional(),
})
export type Cable = z.infer<typeof Cable>

const Conductor = z.strictObject({
  id: Id,
  from: Ref,
  to: Ref,
  cable: z.string().max(16).optional(),
  core: z.string().max(12).optional(),
  colour: z.string().max(20).optional(),
  ferrule: z.string().max(24).optional(),
})
export type Conductor = z.infer<typeof Conductor>

export const Wiring = z
  .strictObject({
    format: z.literal('calm-loop/wiring-1'),
    devices: z.array(Device).max(400),
    cables: z.array(Cable).max(200),
    conductors: z.array(Conductor).max(2000),
  })
  .superRefine((w, ctx) => {
    for (const [what, list] of Object.entries({ devices: w.devices, cables: w.cables, conductors: w.conductors })) {
      const ids = list.map((x) => x.id)
      const twice = ids.find((id, i) => ids.indexOf(id) !== i)
      if (twice !== undefined) ctx.addIssue({ code: 'custom', path: [what], message: `“${twice}” is there twice` })
    }
  })
export type Wiring = z.infer<typeof Wiring>

function parsed<T>(schema: z.ZodType<T>, text: string, code: RefusalCode, what: string): T {
  let json: unknown
  try {
    json = JSON.parse(text)
  } catch {
    throw new Refusal(code, `${what} is not JSON.`)
  }
  const result = schema.safeParse(json)
  if (result.success) return result.data
  // What should not be there first: it is what the writer of the file can see.
  const issues = [...result.error.issues].sort(
    (a, b) => Number(b.code === 'unrecognized_keys') - Number(a.code === 'unrecognized_keys'),
  )
  const says = issues.slice(0, 4).map((i) => `${i.path.join('.') || what}: ${i.message}`)
  throw new Refusal(code, `${what} cannot be read: ${says.join('; ')}.`)
}

/** Wiring from its text. @throws Refusal `wiring-unreadable` with what is wrong and where */
export const readWiring = (text: string): Wiring => parsed(Wiring, text, 'wiring-unreadable', 'The wiring')

/** Wiring as the text that stands on record. */
export const writeWiring = (wiring: Wiring): string => JSON.stringify(wiring)

/**
 * A device type from a file. @throws Refusal `device-unreadable`; unknown fields, no terminals and equal names are
 * refused by name
 */
export const readDeviceType = (text: string): DeviceType =>
  parsed(DeviceType, text, 'device-unreadable', 'The device file')
