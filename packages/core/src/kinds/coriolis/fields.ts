// Entries of a Coriolis point: the sensor and its constants, units, totals, outputs, health check.
import { CORIOLIS_SIZES } from '../../flow/index.ts'
import { amount, choice, words } from '../flow/shared.ts'
import type { Field } from '../kind.ts'
import { identifyFields, rangeFields, tripFields, wireFields } from '../two-wire/index.ts'
import { certificateKey, CONSTANTS, lettersKey, tagKey } from './constants.ts'

const only = (key: string, ...is: string[]) => ({ key, is })
const VARIABLES = ['mass flow', 'volume flow', 'density', 'temperature']
const toRange = (f: Field): Field => ({ ...f, stage: 'range' })

export const fields: readonly Field[] = [
  ...identifyFields,
  ...wireFields,
  choice(
    'size',
    'Sensor',
    'Sensor size',
    CORIOLIS_SIZES.map((s) => ({ value: s.id, label: s.name })),
    'From the sensor’s tag; decides which constants are plausible.',
    { required: true },
  ),
  words(
    'sensorSerial',
    'Sensor',
    'Sensor serial number',
    'The sensor’s own, not the transmitter’s: the constants belong to it.',
    { required: true },
  ),
  choice(
    'driveClass',
    'Sensor',
    'Drive frequency class',
    ['low, below 150 Hz', 'high, 150 Hz and above'],
    'Asked for when the sensor’s memory is lost.',
    { default: 'low, below 150 Hz' },
  ),
  choice(
    'direction',
    'Sensor',
    'Flow runs',
    ['with the arrow', 'against the arrow', 'both ways'],
    'Against the arrow the reading is negative, or none.',
    { default: 'with the arrow' },
  ),
  choice(
    'display',
    'Sensor',
    'Display',
    ['dark', 'lit'],
    'On a two-wire meter a lit display takes about 1 V more of the loop.',
    { default: 'dark' },
  ),
  ...CONSTANTS.flatMap((c) => [
    words(
      tagKey(c.key),
      'Constants',
      `${c.label}, as on the tag`,
      `${c.help} Every digit as printed, in ${c.unit || 'its own unit'}.`,
      c.optional ? {} : { required: true },
    ),
    words(certificateKey(c.key), 'Constants', `${c.label}, as on the certificate`, 'Every digit as printed.'),
    words(lettersKey(c.key), 'Constants', `${c.label}: letters on your tag`, 'What the tag calls it.'),
  ]),
  choice(
    'massUnit',
    'Units and totals',
    'Mass flow unit',
    ['kg/h', 'kg/s', 't/h', 'g/s', 'lb/h'],
    'As the transmitter shows it.',
    { default: 'kg/h' },
  ),
  choice(
    'volumeUnit',
    'Units and totals',
    'Volume flow unit',
    ['m3/h', 'l/min', 'l/s'],
    'As the transmitter shows it.',
    { default: 'm3/h' },
  ),
  choice('densityUnit', 'Units and totals', 'Density unit', ['kg/m3', 'g/cm3'], 'As the transmitter shows it.', {
    default: 'kg/m3',
  }),
  choice('tempUnit', 'Units and totals', 'Temperature unit', ['degC', 'degF', 'K'], 'As the transmitter shows it.', {
    default: 'degC',
  }),
  choice('total1', 'Units and totals', 'First total counts', VARIABLES.slice(0, 2), 'What is added up.', {
    default: 'mass flow',
  }),
  choice(
    'total2',
    'Units and totals',
    'Second total counts',
    [...VARIABLES.slice(0, 2), 'nothing'],
    'What is added up.',
    { default: 'volume flow' },
  ),
  amount(
    'fluidTemp',
    'Fluid',
    'Fluid temperature',
    'temperature',
    'degC',
    'As it runs: the constants are corrected for it.',
  ),
  amount('fluidDensity', 'Fluid', 'Fluid density', 'density', 'kg/m3', 'About, as it runs.'),
  choice(
    'pulseBy',
    'Pulse output',
    'Scaled by',
    [{ value: 'none', label: 'not used' }, 'frequency at a rate', 'pulses per kilogram', 'kilograms per pulse'],
    'The three say the same; take the one that the receiver asks for.',
    { default: 'none' },
  ),
  amount('pulseRate', 'Pulse output', 'At this flow', 'mass-flow', 'kg/h', 'The flow that makes the frequency below.', {
    required: true,
    when: only('pulseBy', 'frequency at a rate'),
  }),
  amount('pulseFrequency', 'Pulse output', 'this frequency', 'frequency', 'Hz', 'At the flow above.', {
    required: true,
    when: only('pulseBy', 'frequency at a rate'),
  }),
  amount('pulsesPerKg', 'Pulse output', 'Pulses for each kilogram', 'count', 'counts', 'How many.', {
    required: true,
    when: only('pulseBy', 'pulses per kilogram'),
  }),
  words('kgPerPulse', 'Pulse output', 'Kilograms for each pulse', 'As a number: 0.1.', {
    required: true,
    when: only('pulseBy', 'kilograms per pulse'),
  }),
  amount(
    'receiverLimit',
    'Pulse output',
    'Fastest that the receiver counts',
    'frequency',
    'Hz',
    'Faster pulses are lost from the total.',
    { default: '10000 Hz' },
  ),
  choice(
    'healthOutput',
    'Health check',
    'While it checks itself, the output',
    ['holds its last value', 'goes to its fault current'],
    'About two minutes without measurement; operations must know which.',
    { default: 'holds its last value' },
  ),
  amount('healthLimit', 'Health check', 'Limit of the stiffness, ±', 'ratio', '%', 'Against the stored reference.', {
    default: '4 %',
  }),
  amount(
    'zeroLimit',
    'Health check',
    'Zero may scatter by, ±',
    'time',
    'ns',
    'Of the time between the ends, while blocked in.',
    { default: '0.5 ns' },
  ),
  toRange(
    choice('source', 'Transmitter', 'The current follows', VARIABLES, 'The variable that drives 4 to 20 mA.', {
      default: 'mass flow',
    }),
  ),
  ...rangeFields('mass-flow', 'kg/h'),
  toRange(
    amount(
      'cutoff',
      'Transmitter',
      'Low-flow cutoff',
      'mass-flow',
      'kg/h',
      'Below it the meter reports no flow. Above 0, always.',
      { required: true },
    ),
  ),
  ...tripFields('mass-flow', 'kg/h'),
]
