// Entries of a level measured by a probe in the liquid: the probe as cut, its dead zones, the liquid, the vessel.
import { DIELECTRIC_LIQUIDS } from '../../level/index.ts'
import { limits } from '../direct/limits.ts'
import type { Field, FieldBase } from '../kind.ts'
import { identifyFields, rangeFields, tripFields, wireFields } from '../two-wire/index.ts'
import { shownFields, vesselFields } from '../vessel/index.ts'

export const WAVE = 'rod or cable probe'
export const CAPACITANCE = 'capacitance rod'
const onProbe = { key: 'sensing', is: [WAVE, CAPACITANCE] }
const onWave = { key: 'sensing', is: [WAVE] }

type Length = Pick<FieldBase, 'key' | 'label' | 'help'> & Partial<FieldBase>
const length = (group: string, field: Length): Field => ({
  stage: 'point',
  type: 'quantity',
  quantity: 'length',
  unit: 'mm',
  when: onProbe,
  ...field,
  group,
})

const probeFields: readonly Field[] = [
  {
    key: 'sensing',
    stage: 'point',
    group: 'Probe',
    type: 'choice',
    label: 'Measured by',
    help: 'A probe loses a piece at either end; a pressure does not, and has a kind of its own with leg and density.',
    options: [
      { value: 'hydrostatic pressure', label: 'hydrostatic pressure' },
      { value: WAVE, label: 'guided wave along a probe' },
      { value: CAPACITANCE, label: 'capacitance of a rod' },
    ],
    default: 'hydrostatic pressure',
  },
  {
    key: 'probeType',
    stage: 'point',
    group: 'Probe',
    type: 'choice',
    label: 'Probe',
    help: 'A coaxial tube hears weak liquids and builds up soonest; a cable carries a weight at its end.',
    options: [
      { value: 'rod', label: 'rod' },
      { value: 'cable', label: 'cable' },
      { value: 'coaxial', label: 'coaxial tube' },
    ],
    default: 'rod',
    when: onWave,
  },
  length('Probe', {
    key: 'probeLength',
    label: 'Length of the probe',
    help: 'From the reference face to its end, as it hangs now: it is what the device is told.',
    required: true,
  }),
  length('Probe', {
    key: 'plateLength',
    label: 'Length on the plate',
    help: 'As it was delivered, before anything was cut off.',
  }),
  length('Probe', { key: 'cutOff', label: 'Piece cut off', help: 'Measured on the piece itself.', default: '0 mm' }),
  {
    key: 'lengthBy',
    stage: 'point',
    group: 'Probe',
    type: 'choice',
    label: 'How the length was measured',
    help: 'A wrong length shifts the empty end by as much.',
    options: [
      { value: 'tape along it', label: 'tape along the probe, stretched' },
      { value: 'plate less the piece', label: 'plate less the piece cut off' },
      { value: 'end echo', label: 'by the device, from the echo of its end' },
      { value: 'not measured', label: 'not measured, by the plate' },
    ],
    default: 'not measured',
    when: onProbe,
  },
  length('Probe', {
    key: 'weightLength',
    label: 'Length of the weight',
    help: 'At the cable’s end: nothing is told apart along it.',
    default: '0 mm',
    when: [onWave, { key: 'probeType', is: ['cable'] }],
  }),
  length('Probe', {
    key: 'topDeadZone',
    label: 'Upper dead zone',
    help: 'From the reference face down, by the data sheet: no echo is told apart there.',
    required: true,
  }),
  length('Probe', {
    key: 'bottomDeadZone',
    label: 'Lower dead zone',
    help: 'From the end of the probe up, by the data sheet; a cable’s weight belongs to it.',
    required: true,
  }),
  length('Probe', {
    key: 'emptyDistance',
    label: 'Distance wanted at 0 %',
    help: 'From the reference face down to the empty level.',
    required: true,
  }),
  length('Probe', {
    key: 'fullDistance',
    label: 'Distance wanted at 100 %',
    help: 'From the reference face down to the full level.',
    required: true,
  }),
  {
    key: 'head',
    stage: 'point',
    group: 'Probe',
    type: 'choice',
    label: 'The head is',
    help: 'Lifted off, or the probe drawn, it goes on reading: what it reads then is void.',
    options: [
      { value: 'on the process', label: 'on the process' },
      { value: 'off the process', label: 'off the process: readings are void' },
    ],
    default: 'on the process',
    when: onProbe,
  },
  {
    key: 'liquid',
    stage: 'point',
    group: 'Liquid',
    type: 'choice',
    label: 'Liquid',
    help: 'Its dielectric constant says how strongly the pulse comes back.',
    options: [
      ...DIELECTRIC_LIQUIDS.map(({ id, name }) => ({ value: id, label: name })),
      { value: 'own', label: 'another: own figure' },
    ],
    when: onProbe,
  },
  {
    key: 'dielectric',
    stage: 'point',
    group: 'Liquid',
    type: 'quantity',
    quantity: 'ratio',
    unit: '1',
    label: 'Dielectric constant',
    help: 'Relative permittivity at the liquid’s temperature: 1 is vacuum, water 80.',
    required: true,
    when: [onProbe, { key: 'liquid', is: ['own'] }],
  },
  {
    key: 'liquidTemp',
    stage: 'point',
    group: 'Liquid',
    type: 'quantity',
    quantity: 'temperature',
    unit: 'degC',
    label: 'Temperature of the liquid',
    help: 'Hot liquids send back less.',
    default: '20 degC',
    when: onProbe,
  },
]

const standing: readonly Field[] = [
  {
    key: 'mounting',
    stage: 'point',
    group: 'Vessel',
    type: 'choice',
    label: 'The probe hangs in',
    help: 'A standpipe calms the surface; its ends may lie above and below those of the vessel.',
    options: [
      { value: 'vessel', label: 'the vessel itself' },
      { value: 'standpipe', label: 'a standpipe beside it' },
    ],
    default: 'vessel',
    when: onProbe,
  },
  length('Vessel', {
    key: 'tankDepth',
    label: 'Vessel, inside height',
    help: 'From the lowest inside point to its top or overflow.',
  }),
  length('Vessel', {
    key: 'faceAbove',
    label: 'Reference face above the vessel’s top',
    help: 'Height of the nozzle, or by how much the column stands above the vessel so that it can be read full.',
    default: '0 mm',
  }),
  length('Vessel', {
    key: 'nozzleWidth',
    label: 'Nozzle, inside diameter',
    help: 'A narrow, tall nozzle gives echoes.',
  }),
]

const displayField: Field = {
  key: 'displays',
  stage: 'range',
  group: 'Transmitter',
  type: 'choice',
  label: 'Its display shows',
  help: 'What the figure on the head itself means; the current is set apart from it.',
  options: [
    { value: 'level', label: 'level above empty' },
    { value: 'distance', label: 'distance from the face' },
    { value: 'percent', label: '% of range' },
    { value: 'current', label: 'output, mA' },
    { value: 'volume', label: 'volume' },
  ],
  default: 'level',
}

export const MEASURED = { quantity: 'length', unit: 'mm', process: 'Level' } as const

export const fields: readonly Field[] = [
  ...identifyFields,
  ...wireFields,
  ...probeFields,
  ...standing,
  ...vesselFields,
  ...limits(MEASURED),
  ...rangeFields('length', 'mm'),
  displayField,
  ...shownFields,
  ...tripFields('length', 'mm'),
]
