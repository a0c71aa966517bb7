// Ports to devices, what is found there, and a device as it has been read: what the pages of the link show.
import { descriptionSchema, parameterSchema } from '@calm-loop/core/description'
import { mapSchema, registerSchema } from '@calm-loop/core/modbus'
import { z } from 'zod'
import { Id, Instant } from './primitives.ts'

export const PortId = z.string().regex(/^[0-9a-f]{16}$/)
const words = z.string().max(400)

/** How a serial line is spoken on. */
export const PortSetup = z.strictObject({
  protocol: z.enum(['hart', 'modbus']),
  baud: z.number().int().min(300).max(921_600),
  parity: z.enum(['none', 'even', 'odd']),
})
export type PortSetup = z.infer<typeof PortSetup>

/** A way to devices: a serial adapter, a gateway on the network, or a stand-in of the bench. */
export const Port = z.strictObject({
  id: PortId,
  kind: z.enum(['serial', 'gateway', 'stand-in']),
  label: z.string().max(120),
  /** Where it is reached now: a path, or host and port. */
  at: z.string().max(200),
  /** Serial number of the adapter, by which it is known again; empty where it has none. */
  adapter: z.string().max(120),
  protocol: z.enum(['hart', 'modbus']),
  /** Speed and parity of a serial adapter; null where somebody else keeps them. */
  line: PortSetup.pick({ baud: true, parity: true }).nullable(),
  /** Where it was when it was used last; empty when it is there still, or was never used. */
  movedFrom: z.string().max(200),
  /** Held by another server of this installation, or another program. */
  taken: words,
})
export type Port = z.infer<typeof Port>

export const AddGateway = z.strictObject({
  label: z.string().trim().min(1).max(80),
  host: z
    .string()
    .trim()
    .regex(/^[a-zA-Z0-9.:_-]{1,120}$/),
  port: z.number().int().min(1).max(65_535),
  protocol: z.enum(['hart', 'modbus']),
})
export type AddGateway = z.infer<typeof AddGateway>

const Value = z.union([z.number(), z.string(), z.null()])
export const DeviceValues = z.record(z.string().max(40), Value)
export type DeviceValues = z.infer<typeof DeviceValues>

/** A device that answered, by what it says of itself. */
export const FoundDevice = z.strictObject({
  /** Manufacturer’s type and number, by which it is known wherever it hangs. */
  serial: z.string().max(40),
  /** Polling address; null where it was found otherwise and does not tell. */
  address: z.number().int().min(0).max(63).nullable(),
  longAddress: z.string().length(10),
  expandedType: z.number().int(),
  deviceRevision: z.number().int(),
  softwareRevision: z.number().int(),
  universalRevision: z.number().int(),
  configurationCounter: z.number().int().nullable(),
  /** Keeps writes in working memory until it is told to store them. */
  forgetful: z.boolean(),
  tag: z.string().max(40),
  /** Description that it is read by, and its version; “universal” where none is for it. */
  description: z.strictObject({ id: z.string(), version: z.number().int(), name: z.string() }),
})
export type FoundDevice = z.infer<typeof FoundDevice>

export const ProbeLine = z.strictObject({
  address: z.number().int(),
  /** What came: a device, nothing, bytes that are no frame, frames of others, busy. */
  outcome: z.enum(['device', 'silence', 'noise', 'others', 'busy']),
  tries: z.number().int(),
  took_ms: z.number(),
  tag: z.string().max(40),
})
export type ProbeLine = z.infer<typeof ProbeLine>

export const WriteState = z.enum(['queued', 'sent', 'held', 'differs', 'refused', 'unknown'])
/** One value that was written, or is to be. */
export const DeviceWrite = z.strictObject({
  id: Id,
  serial: z.string().max(40),
  parameter: z.string().max(40),
  label: z.string().max(80),
  from: Value,
  to: Value,
  /** What the device holds by its read-back; null where that was not done. */
  held: Value,
  state: WriteState,
  says: words,
  by: z.string().max(80),
  at: Instant,
})
export type DeviceWrite = z.infer<typeof DeviceWrite>

const LineCounts = z.strictObject({
  sent: z.number().int(),
  answered: z.number().int(),
  again: z.number().int(),
  unanswered: z.number().int(),
  junk: z.number().int(),
  bursts: z.number().int(),
  otherMaster: z.number().int(),
  strays: z.number().int(),
})

export const LiveValues = z.strictObject({
  at_ms: z.number(),
  /** As the device believes it. */
  mA: z.number().nullable(),
  variables: z.array(z.strictObject({ unit: z.string(), value: z.number().nullable() })).max(4),
  /** Flags of the second status byte. */
  flags: z.array(z.string()),
})
export type LiveValues = z.infer<typeof LiveValues>

/** A port as it is worked with: what it is doing, and the device at hand. */
export const LinkState = z.strictObject({
  portId: PortId,
  doing: z.enum(['closed', 'idle', 'probing', 'reading', 'writing', 'lost']),
  says: words,
  counts: LineCounts,
  /** Answers’ latency, ms: the newest. */
  latency_ms: z.number().nullable(),
  probed: z.array(ProbeLine),
  device: FoundDevice.nullable(),
  upload: z
    .strictObject({
      done: z.number().int(),
      of: z.number().int(),
      left_s: z.number().nullable(),
      /** Label of what is being read. */
      now: z.string(),
    })
    .nullable(),
  values: DeviceValues,
  readAt: Instant.nullable(),
  live: LiveValues.nullable(),
  writes: z.array(DeviceWrite),
  /** Written since, and not stored: lost when power fails. */
  unstored: z.boolean(),
  /** What to try, in order, when nothing answers. */
  tryNext: z.array(words),
})
export type LinkState = z.infer<typeof LinkState>

export const ProbePort = z.strictObject({
  from: z.number().int().min(0).max(63).default(0),
  to: z.number().int().min(0).max(63).default(15),
  /** Ask for this tag directly, instead. */
  tag: z.string().max(8).optional(),
  /** The loop that the device belongs to: its circuit says what to try when nothing answers. */
  loopId: Id.optional(),
})
export const ConnectDevice = z.strictObject({ address: z.number().int().min(0).max(63) })
export const WriteValues = z.strictObject({
  id: Id,
  values: DeviceValues.refine((v) => Object.keys(v).length >= 1 && Object.keys(v).length <= 64, '1 to 64 values'),
  /** Said before anything that moves the current: loop in manual, trips defeated, area looked after. */
  cautions: z
    .array(z.enum(['manual', 'trips', 'area']))
    .max(3)
    .default([]),
  /** Ids of constants that are to be overwritten although they are another meter’s. */
  constants: z.array(z.string().max(40)).max(200).default([]),
})
export type WriteValues = z.infer<typeof WriteValues>
export const CommandDevice = z.discriminatedUnion('do', [
  z.strictObject({ do: z.literal('store') }),
  z.strictObject({ do: z.literal('fix'), mA: z.number().min(0).max(25), cautions: z.array(z.string()).max(3) }),
  z.strictObject({ do: z.literal('release') }),
  z.strictObject({ do: z.literal('seen') }),
  z.strictObject({ do: z.literal('read-again') }),
])
export type CommandDevice = z.infer<typeof CommandDevice>

export const LineLogEntry = z.strictObject({
  seq: z.number().int(),
  at_ms: z.number(),
  way: z.enum(['out', 'in', 'note']),
  hex: z.string(),
  says: z.string(),
})
export type LineLogEntry = z.infer<typeof LineLogEntry>

export const DescriptionHead = z.strictObject({
  id: z.string(),
  version: z.number().int(),
  name: z.string(),
  expandedType: z.number().int(),
  parameters: z.number().int(),
  /** Came with the application, or was imported. */
  origin: z.enum(['shipped', 'imported']),
})
export type DescriptionHead = z.infer<typeof DescriptionHead>
/** What a description says of the device at hand. */
export const Parameters = z.strictObject({
  groups: descriptionSchema.shape.groups,
  parameters: z.array(parameterSchema),
})
export { descriptionSchema as DescriptionFile }

/** A configuration as it was saved. */
export const DeviceFile = z.strictObject({
  format: z.literal('calm-loop/device-file/1'),
  id: Id,
  serial: z.string().max(40),
  expandedType: z.number().int(),
  tag: z.string().max(40),
  description: z.strictObject({ id: z.string().max(60), version: z.number().int() }),
  at: Instant,
  by: z.string().max(80),
  note: z.string().max(400),
  loopId: Id.nullable(),
  values: DeviceValues,
  /** Ids of those that belong to this one meter. */
  characterization: z.array(z.string().max(40)).max(2000),
})
export type DeviceFile = z.infer<typeof DeviceFile>
export const SaveDeviceFile = z.strictObject({
  id: Id,
  note: z.string().max(400).default(''),
  loopId: Id.nullable().default(null),
})

export const ScanBus = z.strictObject({
  from: z.number().int().min(1).max(247).default(1),
  to: z.number().int().min(1).max(247).default(32),
})
export const BusLine = z.strictObject({
  unitId: z.number().int(),
  outcome: z.enum(['device', 'exception', 'silence', 'damaged', 'other-unit']),
  took_ms: z.number(),
  says: words,
})
export type BusLine = z.infer<typeof BusLine>
export const BusReport = z.strictObject({ lines: z.array(BusLine), diagnosis: z.array(words) })
export type BusReport = z.infer<typeof BusReport>
export const ReadRegisters = z.strictObject({ map: mapSchema })
/** One register, or two that make a figure; read back and compared. */
export const WriteRegister = z.strictObject({
  unit: z.number().int().min(1).max(247),
  register: registerSchema,
  value: z.number(),
  cautions: z.array(z.enum(['manual', 'trips', 'area'])).max(3),
})
export type WriteRegister = z.infer<typeof WriteRegister>
export const RegisterValue = z.strictObject({
  name: z.string(),
  number: z.number().int(),
  unit: z.string(),
  value: z.number().nullable(),
  registers: z.array(z.number().int()),
  says: words,
})
export type RegisterValue = z.infer<typeof RegisterValue>

export const HistoryWish = z.strictObject({
  from_s: z.number().int().min(0),
  hours: z
    .number()
    .positive()
    .max(24 * 400),
  every_s: z.number().positive().max(86_400),
})
/** A device’s own past, as far as it has been read. */
export const DeviceHistory = z.strictObject({
  /** Null where the device keeps none. */
  info: z
    .strictObject({
      rows: z.number().int(),
      interval_s: z.number().int(),
      newest_s: z.number().int(),
      events: z.number().int(),
    })
    .nullable(),
  /** Of the line: time of a byte, and of an exchange besides, ms. */
  line: z.strictObject({ byte_ms: z.number(), exchange_ms: z.number() }),
  unit: z.string(),
  events: z.array(
    z.strictObject({ t_s: z.number().int(), kind: z.enum(['event', 'alarm', 'change']), says: z.string() }),
  ),
  /** Time in s and value, in time order; what has been read so far. */
  rows: z.array(z.tuple([z.number(), z.number().nullable()])),
  /** Rows of the wish under way that are still missing. */
  missing: z.number().int(),
})
export type DeviceHistory = z.infer<typeof DeviceHistory>
