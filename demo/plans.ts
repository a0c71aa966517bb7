// The loops of the made-up plant: what was typed for each, and what its checks have found.
import type { Wiring } from '@calm-loop/core/wiring'

export interface History {
  readonly at: string
  /** Errors of the loop on that day, % of span. */
  readonly zero: number
  readonly span: number
}

export interface Plan {
  readonly tag: string
  readonly service: string
  readonly area: string
  readonly kind: string
  readonly created: string
  readonly typed: Readonly<Record<string, string>>
  readonly gear: readonly string[]
  readonly history: readonly History[]
  /** How the wiring was found, where it is not as proposed. */
  readonly wrong?: (wiring: Wiring) => Wiring
  readonly note?: string
  /** Practice case that its device at the bench begins with. */
  readonly bench?: string
  /** Points of the chain as found: applied, digital, meter, receiver, each as typed. */
  readonly found?: readonly (readonly [string, string, string, string])[]
  /** Whether a month of its cycles is on record. */
  readonly counts?: boolean
}

const wired = {
  supply: '24 V',
  liftOff: '12 V',
  shunt: '250 Ω',
  conductor: '1 mm2',
  countsLow: '13107',
  countsHigh: '65535',
}

const standard = (unit: string, low: number, high: number) => ({
  lrv: `${low} ${unit}`,
  urv: `${high} ${unit}`,
  receiverLow: `${low} ${unit}`,
  receiverHigh: `${high} ${unit}`,
  damping: '2 s',
  faultAction: 'high',
  faultCurrent: '21.5 mA',
  highestCurrent: '22 mA',
  tolerance: '0.5 %',
})
const commissioned = (plan: Omit<Plan, 'created' | 'gear' | 'history'> & Partial<Plan>): Plan => ({
  created: '2024-05-06T09:00:00.000Z',
  gear: [],
  history: [],
  ...plan,
})

/** Loops whose measurement is entered as its value; the wiring is complete. */
export const WIRED: readonly Plan[] = [
  commissioned({
    tag: 'FT-101', service: 'Seawater intake flow', area: 'Intake', kind: 'clamp-on',
    typed: {
      ...wired, ...standard('m3/h', 0, 500),
      device: 'Clamp pair M with wall transmitter, ultrasonic', serial: 'M-11806', controls: 'Intake pump speed; low flow stops the screen wash',
      tell: 'Wash house operator, radio channel 3', output: 'four-wire active', power: 'mains', receiver: 'passive card', maxV: '15 V',
      cableLength: '220 m', cableTemp: '35 °C', conductor: '1.5 mm2',
      diameterBy: 'table', pipeStandard: 'EN 545', pipeSize: 'DN 300', pipeSchedule: 'K9', wall: '7.4 mm', material: 'ductile-iron', liner: 'cement-mortar', linerThickness: '4 mm',
      medium: 'liquid', liquid: 'seawater', salinity: '34.2 g/kg', fluidTemp: '7.5 °C', fluidPressure: '2.4 bar', transducer: 'S3', serialA: 'M-11806A', serialB: 'M-11806B', traverses: '2',
      school: 'liquid', disturbance: 'pump', upstream: '4.5 m', downstream: '2.2 m', run: 'horizontal', position: 'at the side', cutoff: '2 m3/h',
    },
  }),
  commissioned({
    tag: 'PDT-118', service: 'Wash-water filter, differential pressure', area: 'Wash house', kind: 'pressure',
    bench: 'mounting-shift',
    found: [
      ['0 mbar', '7.6 mbar', '4.206 mA', '7.6 mbar'], ['150 mbar', '157.5 mbar', '8.202 mA', '157.6 mbar'], ['300 mbar', '307.7 mbar', '12.209 mA', '307.7 mbar'],
      ['450 mbar', '457.6 mbar', '16.205 mA', '457.6 mbar'], ['600 mbar', '607.7 mbar', '20.208 mA', '607.8 mbar'],
    ],
    typed: {
      ...wired, ...standard('mbar', 0, 600), sensorLow: '-1000 mbar', sensorHigh: '1000 mbar', manifold: 'three-valve',
      device: 'Pressure cell P4, two-wire, three-valve manifold', serial: 'P4-20773', controls: 'Filter backwash at 450 mbar',
      tell: 'Wash house operator, radio channel 3', cableLength: '60 m', cableTemp: '35 °C', otherSeries: '250 Ω',
    },
  }),
  commissioned({
    tag: 'LT-205', service: 'Hot condensate receiver level', area: 'Concentration', kind: 'level-in-contact',
    typed: {
      ...wired, ...standard('mm', 0, 1400), sensorLow: '0 mm', sensorHigh: '2000 mm',
      device: 'Guided-wave probe G3 on a cable', serial: 'G3-00412', sensing: 'rod or cable probe', probeLength: '1850 mm', topDeadZone: '220 mm', bottomDeadZone: '190 mm', emptyDistance: '1700 mm', fullDistance: '300 mm', controls: 'Condensate pump; high level alarm',
      tell: 'Boiler operator, radio channel 4', between: 'barrier', otherSeries: '120 Ω', cableLength: '110 m', cableTemp: '55 °C',
    },
  }),
  commissioned({
    tag: 'LT-208', service: 'Soda day tank level', area: 'Extraction', kind: 'level-dp',
    typed: {
      ...wired, ...standard('mm', 0, 2600), sensorLow: '-620 mbar', sensorHigh: '620 mbar', lrv: '-2530 mmH2O', urv: '148 mmH2O', manifold: 'five-valve',
      arrangement: 'wet-leg', sg: '1.03', emptyHeight: '200 mm', fullHeight: '2800 mm', belowTap: '300 mm', legSg: '1.05', legHeight: '2900 mm',
      device: 'Pressure cell P4, wet leg', serial: 'P4-20790', controls: 'Soda make-up; low level stops dosing FT-214',
      tell: 'Extraction operator, radio channel 2', second: 'loop indicator', indicatorLow: '0 mm', indicatorHigh: '2600 mm', cableLength: '90 m', cableTemp: '35 °C',
    },
  }),
  commissioned({
    tag: 'FT-210', service: 'Alginate liquor mass flow', area: 'Concentration', kind: 'coriolis',
    typed: {
      ...wired, ...standard('kg/h', 0, 9000),
      device: 'Coriolis meter C2, two-wire', serial: 'C2-55019', controls: 'Evaporator feed',
      tell: 'Boiler operator, radio channel 4', between: 'isolator', receiver: 'passive card', cableLength: '130 m', cableTemp: '40 °C',
      size: 'DN 25', sensorSerial: 'C2-S-20771', flowCalTag: '72.3841', flowCalCert: '72.3841', flowCalLetters: 'CAL', flowTempTag: '4.26', flowTempCert: '4.26', flowTempLetters: 'FT',
      lowPeriodTag: '9105.431', lowPeriodCert: '9105.431', lowPeriodLetters: 'P1', lowDensityTag: '1.18', lowDensityLetters: 'D1', highPeriodTag: '10322.772', highPeriodCert: '10322.772', highPeriodLetters: 'P2',
      highDensityTag: '998.2', highDensityLetters: 'D2', periodTempTag: '4.40', periodTempLetters: 'DT', direction: 'with the arrow', display: 'lit',
      fluidTemp: '62 °C', fluidDensity: '1058 kg/m3', cutoff: '20 kg/h', pulseBy: 'pulses per kilogram', pulsesPerKg: '100', receiverLimit: '5000 Hz', total1: 'mass flow', total2: 'volume flow',
    },
  }),
  commissioned({
    tag: 'FT-214', service: 'Soda dosing', area: 'Extraction', kind: 'coriolis',
    typed: {
      ...wired, ...standard('kg/h', 0, 600),
      device: 'Coriolis meter C2, separate transmitter', serial: 'C2-55102', controls: 'Soda dosing pump',
      tell: 'Extraction operator, radio channel 2', output: 'isolated, fed by jumper', power: 'mains', receiver: 'passive card',
      cableLength: '75 m', cableTemp: '35 °C',
      size: 'DN 6', sensorSerial: 'C2-S-20893', driveClass: 'high, 150 Hz and above', flowCalTag: '2.31750', flowCalLetters: 'CAL', flowTempTag: '4.31', flowTempLetters: 'FT',
      lowPeriodTag: '5211.048', lowPeriodLetters: 'P1', lowDensityTag: '1.20', lowDensityLetters: 'D1', highPeriodTag: '5983.310', highPeriodLetters: 'P2', highDensityTag: '998.1', highDensityLetters: 'D2',
      periodTempTag: '4.37', periodTempLetters: 'DT', fluidTemp: '24 °C', fluidDensity: '1219 kg/m3', cutoff: '1.5 kg/h', pulseBy: 'kilograms per pulse', kgPerPulse: '0.01', receiverLimit: '100 Hz',
    },
    wrong: (w) => ({ ...w, conductors: w.conductors.filter((c) => c.from !== 'TX:A+') }),
    note: 'Wired as found: display works, output dead',
  }),
  commissioned({
    tag: 'AT-221', service: 'Extractor pH', area: 'Extraction', kind: 'ph', bench: 'worn-electrode',
    typed: {
      ...wired, ...standard('pH', 2, 12), sensorLow: '0 pH', sensorHigh: '14 pH',
      device: 'pH transmitter E1, three-wire', serial: 'E1-07741', controls: 'Soda dosing set point',
      tell: 'Extraction operator, radio channel 2', output: 'three-wire', receiver: 'passive card', cableLength: '40 m', cableTemp: '35 °C',
    },
  }),
  commissioned({
    tag: 'FT-310', service: 'Raw biogas flow', area: 'Gas', kind: 'thermal-insertion',
    typed: {
      ...wired, ...standard('kg/h', 0, 400),
      device: 'Thermal insertion meter T1 through a ball valve', serial: 'T1-31120', controls: 'Flare valve',
      tell: 'Gas plant operator, radio channel 6', output: 'four-wire passive', receiver: 'card supplies loop', cableLength: '160 m', cableTemp: '45 °C',
      od: '219.1 mm', wall: '4.0 mm', branch: '68 mm', valve: '118 mm', fitting: '92 mm', tip: '15 mm', stem: '500 mm', rods: 'none', gas: 'raw-biogas', fluidTemp: '32 °C', fluidPressure: '45 mbar',
      dtZero: '60.0 K', dtFull: '18.4 K', fullFlow: '400 kg/h', throat: '2.40 mm', discharge: '0.992', testGas: 'nitrogen', baseTemp: '19.6 °C', repeat: '2 %',
      base1Pressure: '1.5 bar', base1Reading: '74.1 kg/h', base2Pressure: '3.0 bar', base2Reading: '121.6 kg/h', base3Pressure: '4.5 bar', base3Reading: '168.9 kg/h', base4Pressure: '6.0 bar', base4Reading: '217.3 kg/h', cutoff: '2 kg/h',
    },
  }),
  commissioned({
    tag: 'FT-330', service: 'Biomethane export flow', area: 'Gas', kind: 'clamp-on',
    typed: {
      ...wired, ...standard('m3/h', 0, 900),
      device: 'Clamp pair G with wall transmitter, ultrasonic, two paths', serial: 'G-00219', controls: 'Export metering; low flow shuts the compressor down',
      tell: 'Gas plant operator, radio channel 6', output: 'four-wire active', receiver: 'passive card', maxV: '18 V', between: 'isolator',
      cableLength: '190 m', cableTemp: '45 °C',
      diameterBy: 'table', pipeStandard: 'ASME B36.10M', pipeSize: 'NPS 6', pipeSchedule: '40', wall: '7.05 mm', material: 'carbon-steel',
      medium: 'gas', gas: 'biomethane', fluidTemp: '14 °C', fluidPressure: '18 bar', transducer: 'W4', serialA: 'G-00219A', serialB: 'G-00219B', traverses: '2', paths: '2',
      school: 'gas', disturbance: 'two bends in one plane', upstream: '5.1 m', downstream: '2.4 m', run: 'horizontal', position: 'at the side', cutoff: '5 m3/h',
    },
  }),
  commissioned({
    tag: 'FT-402', service: 'Steam to dryer', area: 'Drying', kind: 'orifice-dp',
    typed: {
      ...wired, ...standard('kg/h', 0, 2500),
      device: 'Pressure cell P4 at an orifice', serial: 'P4-20811', controls: 'Dryer steam valve TV-405',
      tell: 'Dryer operator, radio channel 5', cableLength: '95 m', cableTemp: '60 °C',
      sensorHigh: '600 mbar', pipeBore: '102.26 mm', bore: '61.50 mm', taps: 'flange', fluid: 'steam', fluidTemp: '190 °C', fluidPressure: '8.0 bar', rootAt: 'transmitter', cutoff: '125 kg/h',
    },
  }),
  commissioned({
    tag: 'FT-410', service: 'Wash water return, clamp-on survey', area: 'Wash house', kind: 'clamp-on',
    typed: {
      ...wired, ...standard('m3/h', 0, 120),
      device: 'Clamp pair M, portable', serial: 'M-11830', controls: 'Nothing; a day’s survey',
      tell: 'Wash house operator, radio channel 3', output: 'four-wire active', power: 'mains', receiver: 'passive card', junction: 'no', maxV: '15 V',
      cableLength: '12 m', cableTemp: '30 °C',
      diameterBy: 'circumference', circumference: '359.1 mm', wall: '2.1 mm', material: 'stainless-steel', medium: 'liquid', liquid: 'water', fluidTemp: '22 °C', fluidPressure: '1.2 bar',
      transducer: 'W2', serialA: 'M-11830A', serialB: 'M-11830B', traverses: '2', school: 'liquid', disturbance: 'two bends in two planes', upstream: '3.1 m', downstream: '1.1 m', cutoff: '0.5 m3/h',
    },
  }),
  commissioned({
    tag: 'LY-133', service: 'Brine buffer level through the converter', area: 'Extraction', kind: 'level-in-contact',
    typed: {
      ...wired, ...standard('m', 0, 2.2), sensorLow: '0 m', sensorHigh: '3 m',
      device: 'Converter K2, channel 1 of two', serial: 'K2-01180', controls: 'Brine buffer display',
      tell: 'Extraction operator, radio channel 2', receiver: 'converter, channel 1', channelLow: '0 m', channelHigh: '2.5 m', receiverHigh: '2.5 m', cableLength: '70 m', cableTemp: '35 °C', shunt: '100 Ω', otherSeries: '150 Ω',
    },
  }),
] // prettier-ignore

export const PLANS: readonly Plan[] = [
  ...WIRED,
  {
    tag: 'LT-112',
    service: 'Wash tank level',
    area: 'Wash house',
    kind: 'level-from-above',
    created: '2023-03-06T09:10:00.000Z',
    gear: ['Loop meter L1', 'Dip gauge D2'],
    typed: {
      ...wired,
      device: 'Level head A2, ultrasonic, two-wire',
      serial: 'A2-30418',
      controls: 'Wash water inlet valve LV-112; high level stops the wash pump',
      tell: 'Wash house operator, radio channel 3',
      interval: '6 months',
      cableLength: '140 m',
      cableTemp: '45 °C',
      tankDepth: '3200 mm',
      emptyDistance: '3600 mm',
      fullDistance: '600 mm',
      blanking: '300 mm',
      reports: 'level',
      airTemp: '18 °C',
      compensation: 'measured',
      lrv: '0 mm',
      urv: '3000 mm',
      damping: '2 s',
      faultAction: 'high',
      faultCurrent: '21.5 mA',
      highestCurrent: '22 mA',
      tolerance: '0.5 %',
      receiverLow: '0 mm',
      receiverHigh: '3000 mm',
    },
    history: [
      { at: '2024-03-12T08:31:00.000Z', zero: 0.04, span: -0.02 },
      { at: '2024-09-10T09:02:00.000Z', zero: 0.06, span: 0.01 },
      { at: '2025-03-11T08:47:00.000Z', zero: 0.03, span: -0.05 },
      { at: '2025-09-16T10:15:00.000Z', zero: 0.09, span: -0.02 },
      { at: '2026-03-10T08:20:00.000Z', zero: 0.07, span: 0.03 },
      { at: '2026-09-15T09:40:00.000Z', zero: 0.11, span: -0.01 },
    ],
  },
  {
    tag: 'LT-133',
    service: 'Brine buffer level',
    area: 'Extraction',
    kind: 'level-from-above',
    created: '2026-10-19T07:55:00.000Z',
    gear: [],
    history: [],
    typed: {
      device: 'Level head A2, ultrasonic, two-wire',
      serial: 'A2-31977',
      controls: 'Two brine pumps, staged',
      supply: '24 V',
      liftOff: '12 V',
      shunt: '250 Ω',
      conductor: '1 mm2',
      shape: 'horizontal, dished ends',
      diameter: '2.4 m',
      tankLength: '5.5 m',
      tankDepth: '2.4 m',
      emptyDistance: '2.75 m',
      fullDistance: '0.55 m',
      lrv: '0 m',
      urv: '2.2 m',
      reports: 'level',
      faultAction: 'high',
      faultCurrent: '21.5 mA',
      trips: '2',
      trip1Drives: 'brine pump A',
      trip1Kind: 'far',
      trip1Set: '0.8 m',
      trip1Band: '0.6 m',
      trip1Contact: 'NO',
      trip1PowerLost: 'stands',
      trip1SensorLost: 'runs',
      trip2Drives: 'brine pump B',
      trip2Kind: 'far',
      trip2Set: '1.2 m',
      trip2Band: '0.5 m',
      trip2Contact: 'NO',
      trip2PowerLost: 'stands',
      trip2SensorLost: 'either',
    },
  },
  {
    tag: 'TT-405',
    service: 'Dryer outlet temperature',
    area: 'Drying',
    kind: 'rtd-head',
    created: '2023-02-14T13:20:00.000Z',
    gear: ['Loop meter L1', 'Dry block B1'],
    bench: 'output-error',
    typed: {
      ...wired,
      liftOff: '10 V',
      device: 'Head transmitter H1 with Pt100 insert',
      serial: 'H1-08852',
      controls: 'Dryer steam valve TV-405; high temperature trips the dryer fan',
      tell: 'Dryer operator, radio channel 5',
      interval: '12 months',
      cableLength: '85 m',
      cableTemp: '60 °C',
      element: 'Pt100',
      leads: '3',
      lowest: '20 °C',
      highest: '140 °C',
      immersion: '180 mm',
      well: '9 mm',
      lrv: '0 °C',
      urv: '150 °C',
      damping: '1 s',
      faultAction: 'low',
      faultCurrent: '3.5 mA',
      highestCurrent: '22 mA',
      tolerance: '0.5 %',
      receiverLow: '0 °C',
      receiverHigh: '150 °C',
    },
    history: [
      { at: '2023-10-04T12:05:00.000Z', zero: 0.08, span: 0.05 },
      { at: '2024-10-08T12:30:00.000Z', zero: 0.17, span: 0.09 },
      { at: '2025-10-07T11:50:00.000Z', zero: 0.27, span: 0.13 },
    ],
  },
]
