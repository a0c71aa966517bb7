// The kinds of stand-in that there are: what each is, and what its sensors feel.
import type { DeviceMake, DeviceMemory, OwnParameter } from '@calm-loop/core/hart'
import { mapSchema, type RegisterMap } from '@calm-loop/core/modbus'

export interface HartKind {
  readonly protocol: 'hart'
  readonly make: DeviceMake
  readonly memory: Pick<DeviceMemory, 'tag' | 'range'> & Partial<DeviceMemory>
  /** What feeds the sensor when it is switched on, in the make’s unit. */
  readonly input: number
  /** The other variables at a primary value. */
  others(primary: number): readonly number[]
}
export interface ModbusKind {
  readonly protocol: 'modbus'
  readonly map: RegisterMap
  readonly unit: string
  readonly input: number
  /** Range of the loop’s current, in `unit`. */
  readonly range: { readonly lrv: number; readonly urv: number }
  /** Values of what nobody writes, by register’s name. */
  live(primary: number, mA: number): Readonly<Record<string, number>>
  readonly kept: Readonly<Record<string, number>>
}
export type Kind = HartKind | ModbusKind

const base = {
  historian: true,
  deviceRevision: 3,
  softwareRevision: 12,
  hardwareRevision: 2,
  profile: 1,
}
type Ends = readonly [least?: number, most?: number]
const float = (id: number, [name, unit]: readonly [string, string], initial: number, [least, most]: Ends = []) =>
  ({ id, name, type: 'float', unit, initial, least, most }) satisfies OwnParameter

const pressure: HartKind = {
  protocol: 'hart',
  make: {
    ...base,
    expandedType: 0x3d11,
    deviceId: 0x03a7c2,
    unit: 'kPa',
    upperLimit: 1000,
    lowerLimit: -100,
    minimumSpan: 10,
    serialNumber: 239_554,
    others: [{ name: 'Sensor temperature', unit: 'degC' }],
    parameters: [
      float(1, ['Low-flow cut-off of the root', '%'], 6, [0, 25]),
      float(2, ['Display: value at 0 %', 'kPa'], 0),
      float(3, ['Display: value at 100 %', 'kPa'], 600),
      { id: 4, name: 'Fill of the cell', type: 'text', initial: 'SILICONE', readOnly: true },
      { id: 5, name: 'Failure current', type: 'integer', initial: 1, least: 0, most: 1 },
    ],
  },
  memory: { tag: 'PT-104', descriptor: 'WASH WATER', date: '2026-03-02', range: { unit: 'kPa', lrv: 0, urv: 600 } },
  input: 240,
  others: () => [24.6],
}
const level: HartKind = {
  protocol: 'hart',
  make: {
    ...base,
    expandedType: 0x3d22,
    deviceId: 0x04b118,
    unit: 'm',
    upperLimit: 20,
    lowerLimit: 0,
    minimumSpan: 0.2,
    serialNumber: 307_480,
    others: [
      { name: 'Distance', unit: 'm' },
      { name: 'Echo', unit: 'mV' },
    ],
    parameters: [
      float(1, ['Empty distance', 'm'], 6.2, [0.1, 20]),
      float(2, ['Upper dead zone', 'm'], 0.12, [0, 2]),
      float(3, ['Sound or wave speed factor', '%'], 100, [90, 110]),
      { id: 4, name: 'Loss of echo', type: 'integer', initial: 1, least: 0, most: 2 },
      float(5, ['Time to loss of echo', 's'], 30, [1, 600]),
    ],
  },
  memory: { tag: 'LT-112', descriptor: 'WASH TANK LEVEL', date: '2026-05-18', range: { unit: 'm', lrv: 0, urv: 6 } },
  input: 2.4,
  others: (primary) => [6.2 - primary, 640],
}
const temperature: HartKind = {
  protocol: 'hart',
  make: {
    ...base,
    expandedType: 0x3d33,
    deviceId: 0x0511e0,
    unit: 'degC',
    upperLimit: 850,
    lowerLimit: -200,
    minimumSpan: 10,
    serialNumber: 332_256,
    others: [
      { name: 'Terminal temperature', unit: 'degC' },
      { name: 'Sensor resistance', unit: 'Ohm' },
    ],
    parameters: [
      { id: 1, name: 'Sensor type', type: 'text', initial: 'PT100 4-WIRE' },
      { id: 2, name: 'Wires', type: 'integer', initial: 4, least: 2, most: 4 },
      float(3, ['Sensor offset', 'degC'], 0, [-10, 10]),
      { id: 4, name: 'Failure current', type: 'integer', initial: 1, least: 0, most: 1 },
    ],
  },
  memory: { tag: 'TT-205', descriptor: 'KILN FEED', date: '2026-01-21', range: { unit: 'degC', lrv: 0, urv: 200 } },
  input: 86,
  others: (primary) => [27.3, 100 * (1 + 3.9083e-3 * primary - 5.775e-7 * primary * primary)],
}
const coriolis: HartKind = {
  protocol: 'hart',
  make: {
    ...base,
    expandedType: 0x3d44,
    deviceId: 0x0622af,
    unit: 'kg/h',
    upperLimit: 80_000,
    lowerLimit: -80_000,
    minimumSpan: 800,
    serialNumber: 402_095,
    others: [
      { name: 'Density', unit: 'kg/m3' },
      { name: 'Temperature', unit: 'degC' },
      { name: 'Volume flow', unit: 'm3/h' },
    ],
    parameters: [
      float(1, ['Flow factor', ''], 427.31, [0.001, 100_000]),
      float(2, ['Temperature coefficient of flow', '%'], 4.26, [0, 20]),
      float(3, ['Density constant D1', 'g/cm3'], 0.0012, [0, 5]),
      float(4, ['Density constant D2', 'g/cm3'], 0.9982, [0, 5]),
      float(5, ['Period K1', ''], 8291.42, [1, 100_000]),
      float(6, ['Period K2', ''], 9817.06, [1, 100_000]),
      float(7, ['Temperature coefficient of density', '%'], 4.12, [0, 20]),
      float(8, ['Low-flow cut-off', 'kg/h'], 120, [0, 8000]),
      { id: 9, name: 'Direction', type: 'integer', initial: 0, least: 0, most: 2 },
      float(10, ['Slug: lower density', 'g/cm3'], 0.6, [0, 5]),
      float(11, ['Slug: upper density', 'g/cm3'], 1.4, [0, 5]),
      float(12, ['Slug: held for', 's'], 1, [0, 60]),
      { id: 13, name: 'Sensor serial', type: 'text', initial: 'S-402095', readOnly: true },
      { id: 14, name: 'Zero at last zeroing', type: 'float', unit: 's', initial: 0.013, readOnly: true },
    ],
  },
  memory: {
    tag: 'FT-310',
    descriptor: 'SYRUP TO MIXER',
    date: '2026-06-09',
    range: { unit: 'kg/h', lrv: 0, urv: 20_000 },
  },
  input: 8600,
  others: (primary) => [998.4, 31.2, primary / 998.4],
}
const ph: HartKind = {
  protocol: 'hart',
  make: {
    ...base,
    expandedType: 0x3d55,
    deviceId: 0x0733bc,
    unit: 'pH',
    upperLimit: 14,
    lowerLimit: 0,
    minimumSpan: 1,
    serialNumber: 471_996,
    others: [
      { name: 'Electrode', unit: 'mV' },
      { name: 'Temperature', unit: 'degC' },
    ],
    parameters: [
      float(1, ['Slope', 'mV'], 58.2, [40, 65]),
      float(2, ['Asymmetry', 'mV'], 4, [-60, 60]),
      { id: 3, name: 'Temperature compensation', type: 'integer', initial: 1, least: 0, most: 1 },
    ],
  },
  memory: { tag: 'AT-402', descriptor: 'NEUTRALISATION', date: '2026-04-27', range: { unit: 'pH', lrv: 0, urv: 14 } },
  input: 7.4,
  others: (primary) => [-58.2 * (primary - 7) + 4, 25],
}

const rtu = { baud: 9600, parity: 'none' }
const levelModbus: ModbusKind = {
  protocol: 'modbus',
  map: mapSchema.parse({
    unit: 1,
    rtu,
    registers: [
      { name: 'Level', table: 'input', address: 0, type: 'float32', order: 'CDAB', unit: 'm', readOnly: true },
      { name: 'Distance', table: 'input', address: 2, type: 'float32', order: 'CDAB', unit: 'm', readOnly: true },
      { name: 'Loop current', table: 'input', address: 4, type: 'float32', order: 'ABCD', unit: 'mA', readOnly: true },
      { name: 'Temperature', table: 'input', address: 6, type: 'int16', unit: 'degC', scale: 0.1, readOnly: true },
      { name: 'Hours in service', table: 'input', address: 8, type: 'uint32', order: 'BADC', readOnly: true },
      { name: 'Level in mm', table: 'holding', address: 0, type: 'uint16', unit: 'mm', readOnly: true },
      {
        name: 'Damping',
        table: 'holding',
        address: 10,
        type: 'float32',
        order: 'ABCD',
        unit: 's',
        least: 0,
        most: 100,
      },
      {
        name: 'Level at 4 mA',
        table: 'holding',
        address: 12,
        type: 'float32',
        order: 'ABCD',
        unit: 'm',
        least: 0,
        most: 20,
      },
      {
        name: 'Level at 20 mA',
        table: 'holding',
        address: 14,
        type: 'float32',
        order: 'ABCD',
        unit: 'm',
        least: 0,
        most: 20,
      },
      { name: 'High alarm', table: 'holding', address: 16, type: 'uint16', unit: 'm', scale: 0.001, most: 20 },
      { name: 'Offset', table: 'holding', address: 17, type: 'int16', unit: 'm', scale: 0.001, least: -5, most: 5 },
      { name: 'Serial number', table: 'holding', address: 20, type: 'uint32', order: 'DCBA', readOnly: true },
      { name: 'Alarm horn', table: 'coil', address: 0, type: 'bit' },
      { name: 'Hold output', table: 'coil', address: 1, type: 'bit' },
      { name: 'High level', table: 'discrete', address: 0, type: 'bit', readOnly: true },
      { name: 'Echo lost', table: 'discrete', address: 1, type: 'bit', readOnly: true },
    ],
  }),
  unit: 'm',
  input: 2.4,
  range: { lrv: 0, urv: 6 },
  kept: {
    Damping: 0.4,
    'Level at 4 mA': 0,
    'Level at 20 mA': 6,
    'High alarm': 5.5,
    Offset: 0,
    'Alarm horn': 0,
    'Hold output': 0,
  },
  live: (primary, mA) => ({
    Level: primary,
    Distance: 6.2 - primary,
    'Loop current': mA,
    Temperature: 18.5,
    'Hours in service': 71_403,
    'Level in mm': Math.min(65_535, Math.max(0, primary * 1000)),
    'Serial number': 307_481,
    'High level': 0,
    'Echo lost': 0,
  }),
}
const flowModbus: ModbusKind = {
  protocol: 'modbus',
  map: mapSchema.parse({
    unit: 1,
    rtu,
    registers: [
      { name: 'Volume flow', table: 'input', address: 0, type: 'float32', order: 'ABCD', unit: 'm3/h', readOnly: true },
      { name: 'Velocity', table: 'input', address: 2, type: 'float32', order: 'ABCD', unit: 'm/s', readOnly: true },
      { name: 'Loop current', table: 'input', address: 4, type: 'float32', order: 'ABCD', unit: 'mA', readOnly: true },
      { name: 'Signal', table: 'input', address: 6, type: 'uint16', unit: '%', readOnly: true },
      {
        name: 'Flow, whole',
        table: 'input',
        address: 8,
        type: 'int32',
        order: 'CDAB',
        unit: 'm3/h',
        scale: 0.001,
        readOnly: true,
      },
      { name: 'Damping', table: 'holding', address: 0, type: 'float32', order: 'CDAB', unit: 's', least: 0, most: 100 },
      { name: 'Flow at 4 mA', table: 'holding', address: 2, type: 'float32', order: 'CDAB', unit: 'm3/h' },
      { name: 'Flow at 20 mA', table: 'holding', address: 4, type: 'float32', order: 'CDAB', unit: 'm3/h' },
      { name: 'Cut-off', table: 'holding', address: 6, type: 'uint16', unit: 'm3/h', scale: 0.01, most: 10 },
      { name: 'Pulse value', table: 'holding', address: 7, type: 'uint32', order: 'ABCD', unit: 'l', most: 1_000_000 },
      { name: 'Totalizer runs', table: 'coil', address: 0, type: 'bit' },
      { name: 'Empty pipe', table: 'discrete', address: 0, type: 'bit', readOnly: true },
    ],
  }),
  unit: 'm3/h',
  input: 42,
  range: { lrv: 0, urv: 120 },
  kept: { Damping: 1, 'Flow at 4 mA': 0, 'Flow at 20 mA': 120, 'Cut-off': 0.5, 'Pulse value': 10, 'Totalizer runs': 1 },
  live: (primary, mA) => ({
    'Volume flow': primary,
    Velocity: primary / 3600 / 0.00817,
    'Loop current': mA,
    Signal: 87,
    'Flow, whole': primary,
    'Empty pipe': 0,
  }),
}

export const KINDS: Readonly<Record<string, Kind>> = {
  pressure,
  level,
  temperature,
  coriolis,
  ph,
  'level-modbus': levelModbus,
  'flow-modbus': flowModbus,
}
