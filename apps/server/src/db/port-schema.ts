// Tables of the link: gateways, adapters used, descriptions, files and writes of devices.
import type { DeviceFile, WriteState } from '@calm-loop/contract'
import type { Description } from '@calm-loop/core/description'
import { boolean, index, integer, jsonb, pgTable, primaryKey, text, timestamp, uuid } from 'drizzle-orm/pg-core'
import type { z } from 'zod'

const at = () => timestamp('at', { withTimezone: true, precision: 3, mode: 'date' }).notNull().defaultNow()

/** Gateways on the network. */
export const gateways = pgTable('gateways', {
  id: text('id').primaryKey(),
  label: text('label').notNull(),
  host: text('host').notNull(),
  port: integer('port').notNull(),
  protocol: text('protocol').$type<'hart' | 'modbus'>().notNull(),
})

/** What a serial adapter speaks, where that is not the usual. */
export const portSetups = pgTable('port_setups', {
  portId: text('port_id').primaryKey(),
  protocol: text('protocol').$type<'hart' | 'modbus'>().notNull(),
  baud: integer('baud').notNull(),
  parity: text('parity').$type<'none' | 'even' | 'odd'>().notNull(),
  byId: uuid('by').notNull(),
  at: at(),
})

/** Where an adapter was when it was used last. */
export const adaptersUsed = pgTable('adapters_used', {
  adapter: text('adapter').primaryKey(),
  path: text('path').notNull(),
  at: at(),
})

/** Descriptions that were imported; a version once there stays as it is. */
export const deviceDescriptions = pgTable(
  'device_descriptions',
  {
    id: text('id').notNull(),
    version: integer('version').notNull(),
    body: jsonb('body').$type<Description>().notNull(),
    byId: uuid('by').notNull(),
    at: at(),
  },
  (t) => [primaryKey({ columns: [t.id, t.version] })],
)

/** Configurations as they were saved, by the device’s serial. */
export const deviceFiles = pgTable(
  'device_files',
  {
    id: uuid('id').primaryKey(),
    serial: text('serial').notNull(),
    body: jsonb('body').$type<DeviceFile>().notNull(),
    at: at(),
  },
  (t) => [index('device_files_serial').on(t.serial, t.at)],
)

/** Values written to devices, and what became of each. */
export const deviceWrites = pgTable(
  'device_writes',
  {
    id: uuid('id').notNull(),
    parameter: text('parameter').notNull(),
    serial: text('serial').notNull(),
    label: text('label').notNull(),
    from: jsonb('from').$type<number | string | null>(),
    to: jsonb('to').$type<number | string | null>(),
    held: jsonb('held').$type<number | string | null>(),
    state: text('state').$type<z.infer<typeof WriteState>>().notNull(),
    says: text('says').notNull(),
    byId: uuid('by').notNull(),
    byName: text('by_name').notNull(),
    at: at(),
  },
  (t) => [primaryKey({ columns: [t.id, t.parameter] }), index('device_writes_serial').on(t.serial, t.at)],
)

/** Which device, on which port, is a loop’s own. */
export const loopDevices = pgTable('loop_devices', {
  loopId: uuid('loop_id').primaryKey(),
  portId: text('port_id').notNull(),
  port: text('port').notNull(),
  serial: text('serial').notNull(),
  address: integer('address'),
  simulated: boolean('simulated').notNull(),
  byId: uuid('by').notNull(),
  at: at(),
})
