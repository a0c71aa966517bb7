// Entries of a thermocouple with its cable and transmitter.
import { THERMOCOUPLE_TYPES } from '../../temperature/index.ts'
import type { Field } from '../kind.ts'
import { processFields } from '../temperature/process-range.ts'
import { identifyFields, rangeFields, tripFields, wireFields } from '../two-wire/index.ts'

const TYPES = THERMOCOUPLE_TYPES.map((value) => ({ value, label: `type ${value}` }))
const point = { stage: 'point' } as const
const temperature = { ...point, type: 'quantity', quantity: 'temperature', unit: 'degC' } as const

export const fields: readonly Field[] = [
  ...identifyFields,
  ...wireFields,
  {
    ...point,
    key: 'type',
    group: 'Element',
    type: 'choice',
    label: 'Thermocouple',
    help: 'Its letter stands on the element, its plug or its head (IEC 60584-1).',
    options: TYPES,
    required: true,
  },
  {
    ...temperature,
    key: 'head',
    group: 'Cable',
    label: 'Temperature in the head',
    help: 'Where the element ends and the cable begins.',
    default: '20 degC',
  },
  {
    ...point,
    key: 'cable',
    group: 'Cable',
    type: 'choice',
    label: 'Cable from head to transmitter',
    help: 'Extension or compensating cable must be of the element’s own type.',
    options: [
      { value: 'none', label: 'none: the transmitter sits in the head' },
      { value: 'matching', label: 'of the element’s type' },
      { value: 'other', label: 'of another type' },
      { value: 'copper', label: 'copper' },
    ],
    required: true,
  },
  {
    ...point,
    key: 'cableType',
    group: 'Cable',
    type: 'choice',
    label: 'Type of the cable',
    help: 'By its letter or its colour; name the convention with the colour.',
    options: TYPES,
    required: true,
    when: { key: 'cable', is: ['other'] },
  },
  {
    ...point,
    key: 'crossed',
    group: 'Cable',
    type: 'choice',
    label: 'Cores of the cable',
    help: 'Plus to plus at both ends; crossed at both ends the error hides until the head warms.',
    options: [
      { value: 'right', label: 'plus to plus at both ends' },
      { value: 'both', label: 'crossed at both ends' },
      { value: 'one', label: 'crossed at one end' },
    ],
    default: 'right',
    when: { key: 'cable', is: ['matching', 'other', 'copper'] },
  },
  {
    ...temperature,
    key: 'terminals',
    group: 'Cold junction',
    label: 'Temperature at the transmitter’s terminals',
    help: 'The cold junction: where thermocouple metal ends.',
    default: '20 degC',
  },
  {
    ...point,
    key: 'compensation',
    group: 'Cold junction',
    type: 'choice',
    label: 'Cold junction',
    help: 'Measured by the transmitter, or taken as a fixed temperature.',
    options: [
      { value: 'measured', label: 'measured at the terminals' },
      { value: 'fixed', label: 'fixed' },
    ],
    default: 'measured',
  },
  {
    ...temperature,
    key: 'fixedAt',
    group: 'Cold junction',
    label: 'Fixed at',
    help: 'What the transmitter adds for, whatever the terminals are at.',
    required: true,
    when: { key: 'compensation', is: ['fixed'] },
  },
  ...processFields,
  ...rangeFields('temperature', 'degC'),
  ...tripFields('temperature', 'degC'),
]
