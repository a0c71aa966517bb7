// Entries of a resistance thermometer with a transmitter in its head.
import type { Field } from '../kind.ts'
import { processFields } from '../temperature/process-range.ts'
import { identifyFields, rangeFields, tripFields, wireFields } from '../two-wire/index.ts'

export const fields: readonly Field[] = [
  ...identifyFields,
  ...wireFields,
  {
    key: 'element',
    stage: 'point',
    group: 'Sensor',
    type: 'choice',
    label: 'Element',
    help: 'Platinum element by its resistance at 0 °C (IEC 60751).',
    options: [
      { value: 'Pt100', label: 'Pt100' },
      { value: 'Pt500', label: 'Pt500' },
      { value: 'Pt1000', label: 'Pt1000' },
    ],
    default: 'Pt100',
  },
  {
    key: 'leads',
    stage: 'point',
    group: 'Sensor',
    type: 'choice',
    label: 'Sensor leads',
    help: 'Three or four wires let the transmitter take the leads’ resistance out.',
    options: [
      { value: '2', label: 'two wires' },
      { value: '3', label: 'three wires' },
      { value: '4', label: 'four wires' },
    ],
    required: true,
  },
  {
    key: 'leadOhm',
    stage: 'point',
    group: 'Sensor',
    type: 'quantity',
    quantity: 'resistance',
    unit: 'Ohm',
    label: 'Resistance of both leads',
    help: 'With two wires only: it adds to the element and is not taken out.',
    required: true,
    when: { key: 'leads', is: ['2'] },
  },
  ...processFields,
  {
    key: 'well',
    stage: 'point',
    group: 'Mounting',
    type: 'quantity',
    quantity: 'length',
    unit: 'mm',
    label: 'Diameter at the tip',
    help: 'Of the thermowell or the sheath, whichever the medium touches.',
  },
  ...rangeFields('temperature', 'degC'),
  ...tripFields('temperature', 'degC'),
]
