// The entries that every two-wire 4–20 mA point has: identity, wiring, range at both ends.
import type { QuantityName } from '../../quantity/index.ts'
import type { Field } from '../kind.ts'
import { receiverFields, type Shown } from './receiver-fields.ts'
import { unitFields } from './unit-fields.ts'
import { carriesCurrent } from './wire-fields.ts'
export { wireFields } from './wire-fields.ts'

/** Entries of Identify, the same for every kind. */
export const identifyFields: readonly Field[] = [
  {
    key: 'device',
    stage: 'identify',
    group: 'Device',
    type: 'text',
    label: 'Device',
    help: 'What is mounted, in plain words.',
    required: true,
  },
  {
    key: 'serial',
    stage: 'identify',
    group: 'Device',
    type: 'text',
    label: 'Serial number',
    help: 'As printed on the nameplate.',
    required: true,
  },
  {
    key: 'controls',
    stage: 'identify',
    group: 'Consequences',
    type: 'text',
    label: 'What it controls or trips',
    help: 'What moves when this signal moves.',
  },
  {
    key: 'tell',
    stage: 'identify',
    group: 'Consequences',
    type: 'text',
    label: 'Who must be told',
    help: 'Whom to call before the loop is disturbed.',
  },
  {
    key: 'interval',
    stage: 'identify',
    group: 'Consequences',
    type: 'choice',
    label: 'Check every',
    help: 'The next check falls due this long after the last one is signed.',
    options: [
      { value: '3 months', label: '3 months' },
      { value: '6 months', label: '6 months' },
      { value: '12 months', label: '12 months' },
      { value: '24 months', label: '24 months' },
    ],
    default: '12 months',
  },
  ...unitFields,
]

/** The valve manifold in front of a pressure cell. */
export const manifoldField: Field = {
  key: 'manifold',
  stage: 'point',
  group: 'Mounting',
  type: 'choice',
  label: 'Manifold',
  help: 'Valves between the process and the cell; their order is drawn when the cell is taken out of service.',
  options: [
    { value: 'none', label: 'none' },
    { value: 'three-valve', label: 'three-valve: two blocks, equalizing' },
    { value: 'five-valve', label: 'five-valve: two blocks, equalizing, two vents' },
  ],
  default: 'none',
}

const onBus = (label: string, help: string) => ({ when: { key: 'output', is: ['digital bus'] }, label, help })

/** Entries of Range at both ends of the wire, for a point that measures `quantity`, in `unit`. */
export function rangeFields(quantity: QuantityName, unit: string, shown: Shown = { quantity, unit }): Field[] {
  return [
    {
      key: 'lrv',
      stage: 'range',
      group: 'Transmitter',
      type: 'quantity',
      quantity,
      unit,
      label: 'Lower range value (4 mA)',
      help: 'The transmitter’s own value at which it drives 4 mA.',
      named: onBus('Lower range value', 'The low end of its scale; a bus carries the value itself.'),
      required: true,
    },
    {
      key: 'urv',
      stage: 'range',
      group: 'Transmitter',
      type: 'quantity',
      quantity,
      unit,
      label: 'Upper range value (20 mA)',
      help: 'The transmitter’s own value at which it drives 20 mA.',
      named: onBus('Upper range value', 'The high end of its scale; a bus carries the value itself.'),
      required: true,
    },
    {
      key: 'damping',
      stage: 'range',
      group: 'Transmitter',
      type: 'quantity',
      quantity: 'time',
      unit: 's',
      label: 'Damping',
      help: 'Time constant: after a step the reading is 63 % of the way there.',
      default: '0 s',
    },
    {
      key: 'faultAction',
      stage: 'range',
      group: 'Transmitter',
      type: 'choice',
      label: 'On a fault, drive the current',
      help: 'What the controller sees when the transmitter knows that it cannot measure.',
      options: [
        { value: 'low', label: 'low' },
        { value: 'high', label: 'high' },
      ],
      required: true,
      practice: 'The safe side of a trip decides; sites settle one direction, so that nobody has to guess.',
      when: carriesCurrent,
    },
    {
      key: 'faultCurrent',
      stage: 'range',
      group: 'Transmitter',
      type: 'quantity',
      quantity: 'current',
      unit: 'mA',
      label: 'Fault current',
      help: 'At most 3.6 mA when low, at least 21 mA when high (NAMUR NE 43).',
      required: true,
      when: carriesCurrent,
    },
    {
      key: 'highestCurrent',
      stage: 'range',
      group: 'Transmitter',
      type: 'quantity',
      quantity: 'current',
      unit: 'mA',
      label: 'Highest current it can drive',
      help: 'The voltage budget must hold at this current.',
      default: '22 mA',
      when: carriesCurrent,
    },
    {
      key: 'tolerance',
      stage: 'range',
      group: 'Transmitter',
      type: 'quantity',
      quantity: 'ratio',
      unit: '%',
      label: 'Tolerance, ± of span',
      help: 'Largest error the process can live with.',
      default: '0.5 %',
    },
    {
      key: 'controllerTolerance',
      stage: 'range',
      group: 'Transmitter',
      type: 'quantity',
      quantity: 'ratio',
      unit: '%',
      label: 'Tolerance of what the controller shows, ± of span',
      help: 'Empty: the same.',
    },
    ...receiverFields(shown),
  ]
}
