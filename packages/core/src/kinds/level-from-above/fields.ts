// Entries of a level measured from above: the tank, the device over it, and what the device reports.
import type { Field } from '../kind.ts'
import { mountingFields, pathFields } from './mounting-fields.ts'
import { onlyOfLiquid, targetFields, watchedField } from './target.ts'
import { shownFields, vesselFields } from '../vessel/index.ts'
import { identifyFields, rangeFields, tripFields, wireFields } from '../two-wire/index.ts'

const length = { type: 'quantity', quantity: 'length', stage: 'point' } as const

export const fields: readonly Field[] = [
  ...identifyFields,
  ...wireFields,
  watchedField,
  ...onlyOfLiquid([
    {
      key: 'tankDepth',
      ...length,
      group: 'Vessel',
      unit: 'mm',
      label: 'Tank depth',
      help: 'From the inside bottom to the overflow edge.',
      required: true,
    },
  ]),
  {
    key: 'emptyDistance',
    ...length,
    group: 'Device',
    unit: 'mm',
    label: 'Empty distance',
    help: 'From the device’s face down to the level that counts as empty.',
    required: true,
  },
  {
    key: 'fullDistance',
    ...length,
    group: 'Device',
    unit: 'mm',
    label: 'Full distance',
    help: 'From the device’s face down to the level that counts as full.',
    required: true,
  },
  {
    key: 'emptyAboveBottom',
    ...length,
    group: 'Device',
    unit: 'mm',
    label: 'Empty level above the tank bottom',
    help: 'Where the empty level is not the bottom itself: a sump, a heel that is never drawn off.',
    default: '0 mm',
  },
  {
    key: 'blanking',
    ...length,
    group: 'Device',
    unit: 'mm',
    label: 'Blanking distance',
    help: 'Nearer than this to its face the device cannot hear its own echo.',
    required: true,
  },
  {
    key: 'reports',
    stage: 'point',
    group: 'Device',
    type: 'choice',
    label: 'The device reports',
    help: 'A device above the liquid measures a distance; a level grows upwards.',
    options: [
      { value: 'level', label: 'level above empty' },
      { value: 'distance', label: 'distance to surface' },
    ],
    default: 'level',
    practice: 'Tanks are read from the bottom, sumps and silos often by the free space above.',
    resets: ['lrv', 'urv', 'receiverLow', 'receiverHigh'],
  },
  ...mountingFields,
  ...targetFields,
  {
    key: 'airTemp',
    stage: 'point',
    group: 'Path',
    type: 'quantity',
    quantity: 'temperature',
    unit: 'degC',
    label: 'Air temperature in the path',
    help: 'Sound is faster in warm air: about 0.17 % for each °C.',
    default: '20 degC',
  },
  {
    key: 'compensation',
    stage: 'point',
    group: 'Path',
    type: 'choice',
    label: 'Temperature correction',
    help: 'Most devices measure the air temperature themselves; some reckon with a fixed figure.',
    options: [
      { value: 'measured', label: 'measured by the device' },
      { value: 'fixed', label: 'fixed figure' },
    ],
    default: 'measured',
  },
  ...pathFields,
  ...onlyOfLiquid(vesselFields),
  ...rangeFields('length', 'mm'),
  ...shownFields,
  ...tripFields('length', 'mm', true),
]
