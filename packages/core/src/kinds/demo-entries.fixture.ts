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
  thermocouple: {
    device: 'head',
    serial: '1',
    supply: '24 V',
    liftOff: '10 V',
    shunt: '250 Ohm',
    conductor: '1 mm2',
    cableLength: '85 m',
    damping: '2 s',
    faultAction: 'high',
    faultCurrent: '21.5 mA',
    countsLow: '13107',
    countsHigh: '65535',
    type: 'K',
    cable: 'matching',
    head: '60 degC',
    terminals: '28 degC',
    lowest: '20 degC',
    highest: '780 degC',
    lrv: '0 degC',
    urv: '800 degC',
    receiverLow: '0 degC',
    receiverHigh: '800 degC',
  },
  'pulse-flow': {
    device: 'head',
    serial: '1',
    supply: '24 V',
    liftOff: '10 V',
    shunt: '250 Ohm',
    conductor: '1 mm2',
    cableLength: '85 m',
    damping: '2 s',
    faultAction: 'high',
    faultCurrent: '21.5 mA',
    countsLow: '13107',
    countsHigh: '65535',
    principle: 'magnetic',
    pulses: '2.5',
    perVolume: '1 l',
    inputMost: '1000 Hz',
    lrv: '0 m3/h',
    urv: '120 m3/h',
    cutoff: '1 m3/h',
    receiverLow: '0 m3/h',
    receiverHigh: '120 m3/h',
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
  // 1.03 · (200 + 300) − 1.05 · 2900 = −2530 mmH2O at empty; 1.03 · 2600 mm of span: 2678 mmH2O.
  'level-dp': {
    ...direct('mbar', 600),
    arrangement: 'wet-leg', sg: '1.03', emptyHeight: '200 mm', fullHeight: '2800 mm', belowTap: '300 mm', legSg: '1.05', legHeight: '2900 mm',
    sensorLow: '-620 mbar', sensorHigh: '620 mbar', lrv: '-2530 mmH2O', urv: '148 mmH2O', receiverLow: '0 mm', receiverHigh: '2600 mm',
  },
}) // prettier-ignore

const flow = (unit: string, urv: number) => ({
  ...direct(unit, urv),
  sensorLow: undefined,
  sensorHigh: undefined,
})
const filled = (entries: Record<string, string | undefined>): Record<string, string> =>
  Object.fromEntries(Object.entries(entries).flatMap(([k, v]) => (v === undefined ? [] : [[k, v]])))
Object.assign(TYPED, {
  'clamp-on': filled({
    ...flow('m3/h', 500),
    od: '326 mm', wall: '7.4 mm', material: 'ductile-iron', liner: 'cement-mortar', linerThickness: '4 mm',
    liquid: 'seawater', salinity: '34 g/kg', fluidTemp: '8 degC', fluidPressure: '2.5 bar',
    transducer: 'S3', serialA: 'M-11806A', serialB: 'M-11806B', disturbance: 'one bend', upstream: '4 m', downstream: '2 m',
  }),
  coriolis: filled({
    ...flow('kg/h', 9000),
    size: 'DN 25', sensorSerial: 'S-1', flowCalTag: '72.384', flowTempTag: '4.26', lowPeriodTag: '9105.431', lowDensityTag: '1.18',
    highPeriodTag: '10322.772', highDensityTag: '998.2', periodTempTag: '4.4', fluidTemp: '45 degC', fluidDensity: '1060 kg/m3', cutoff: '20 kg/h',
    pulseBy: 'pulses per kilogram', pulsesPerKg: '100',
  }),
  'thermal-insertion': filled({
    ...flow('kg/h', 400),
    od: '219.1 mm', wall: '4 mm', branch: '70 mm', valve: '118 mm', fitting: '95 mm', stem: '500 mm', rods: 'none', gas: 'raw-biogas',
    fluidTemp: '32 degC', fluidPressure: '0.05 bar', dtZero: '60 K', dtFull: '18 K', fullFlow: '400 kg/h',
    throat: '2.4 mm', discharge: '0.992', baseTemp: '20 degC',
    base1Pressure: '1.5 bar', base1Reading: '61.2 kg/h', base2Pressure: '3 bar', base2Reading: '98.4 kg/h',
    base3Pressure: '4.5 bar', base3Reading: '135.1 kg/h', base4Pressure: '6 bar', base4Reading: '171.5 kg/h',
  }),
  'orifice-dp': filled({
    ...flow('kg/h', 2500), sensorHigh: '600 mbar',
    pipeBore: '102.26 mm', bore: '61.5 mm', fluid: 'steam', fluidTemp: '190 degC', fluidPressure: '8 bar', rootAt: 'transmitter', cutoff: '125 kg/h',
  }),
}) // prettier-ignore

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
