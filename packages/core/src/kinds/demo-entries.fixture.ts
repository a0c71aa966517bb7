// Complete entries of one loop of each kind, for tests.
import { entryFrom } from '../quantity/index.ts'
import { kindOf, type Entries } from './index.ts'

const TYPED: Record<string, Record<string, string>> = {
  'level-from-above': {
    device: 'head',
    serial: '1',
    supply: '24 V',
    liftOff: '12 V',
    shunt: '250 Ohm',
    conductor: '1 mm2',
    cableLength: '140 m',
    tankDepth: '3200 mm',
    emptyDistance: '3600 mm',
    fullDistance: '600 mm',
    blanking: '300 mm',
    lrv: '0 mm',
    urv: '3000 mm',
    damping: '2 s',
    faultAction: 'high',
    faultCurrent: '21.5 mA',
    countsLow: '13107',
    countsHigh: '65535',
    receiverLow: '0 mm',
    receiverHigh: '3000 mm',
  },
  'rtd-head': {
    device: 'head',
    serial: '1',
    supply: '24 V',
    liftOff: '10 V',
    shunt: '250 Ohm',
    conductor: '1 mm2',
    cableLength: '85 m',
    leads: '3',
    lowest: '20 degC',
    highest: '140 degC',
    lrv: '0 degC',
    urv: '150 degC',
    damping: '1 s',
    faultAction: 'low',
    faultCurrent: '3.5 mA',
    countsLow: '13107',
    countsHigh: '65535',
    receiverLow: '0 degC',
    receiverHigh: '150 degC',
  },
}

TYPED['discrete-sensor'] = {
  device: 'sensor',
  serial: '1',
  output: 'PNP',
  contact: 'NO',
  supplyLeast: '10 V',
  supplyMost: '30 V',
  maxOut: '200 mA',
  residual: '1.8 V',
  leakage: '0.1 mA',
  supply: '24 V',
  common: 'negative',
  sensing: 'inductive, metal target',
  rated: '8 mm',
  metal: 'steel',
  face: '18 mm',
  targetSide: '24 mm',
  mountedAt: '5 mm',
  pointName: 'GATE_CLOSED',
  meansTrue: 'gate closed',
  meansFalse: 'gate open',
  idealCycle: '20 s',
  longCycle: '30 s',
  shifts: 'Early 06:00–14:00',
  days: 'Mon–Fri',
}

const direct = (unit: string, urv: number) => ({
  device: 'transmitter',
  serial: '1',
  supply: '24 V',
  liftOff: '12 V',
  shunt: '250 Ohm',
  conductor: '1 mm2',
  cableLength: '100 m',
  sensorLow: `0 ${unit}`,
  sensorHigh: `${urv * 2} ${unit}`,
  lrv: `0 ${unit}`,
  urv: `${urv} ${unit}`,
  damping: '1 s',
  faultAction: 'high',
  faultCurrent: '21.5 mA',
  countsLow: '13107',
  countsHigh: '65535',
  receiverLow: `0 ${unit}`,
  receiverHigh: `${urv} ${unit}`,
})
Object.assign(TYPED, {
  pressure: direct('mbar', 600),
  'volume-flow': direct('m3/h', 400),
  'mass-flow': direct('kg/h', 9000),
  'level-in-contact': direct('mm', 2000),
  ph: direct('pH', 14),
})

/** Entries as a person would have typed them, with some changed. */
export function demoEntries(kindId: string, changed: Record<string, string> = {}): Entries {
  const { fields } = kindOf(kindId)
  return Object.fromEntries(
    Object.entries({ ...TYPED[kindId], ...changed }).map(([key, typed]) => {
      const field = fields.find((f) => f.key === key)
      if (!field) throw new Error(`no field ${key}`)
      return [key, field.type === 'quantity' ? entryFrom(typed, field) : { typed }]
    }),
  )
}
