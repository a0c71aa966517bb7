// Entries of a level measured by its pressure: the liquid, the vessel, what the low side is joined to, the cell.
import { LEG_FLUIDS } from '../../level/index.ts'
import { unitsOf } from '../../quantity/index.ts'
import type { Field, FieldBase } from '../kind.ts'
import { identifyFields, manifoldField, rangeFields, tripFields, wireFields } from '../two-wire/index.ts'
import { shownFields, vesselFields } from '../vessel/index.ts'

const point = { stage: 'point', type: 'quantity' } as const
const WET = 'wet-leg'
const SEALS = 'seals'
const ONE_SEAL = 'one-seal'
const SUBMERSIBLE = 'submersible'
const joined = (...is: string[]) => ({ key: 'arrangement', is })
const own = (key: string) => ({ key, is: ['own'] })

type More = Pick<FieldBase, 'key' | 'group' | 'label' | 'help'> & Partial<FieldBase>
const length = (more: More): Field => ({ ...point, quantity: 'length', unit: 'mm', required: true, ...more })
const gravity = (more: More): Field => ({ ...point, quantity: 'ratio', unit: '1', required: true, ...more })
const temperature = (more: More): Field => ({
  ...point,
  quantity: 'temperature',
  unit: 'degC',
  default: '20 degC',
  ...more,
})
const fluid = (more: More): Field => ({
  stage: 'point',
  type: 'choice',
  options: [{ value: 'own', label: 'own figure' }, ...LEG_FLUIDS.map(({ id, name }) => ({ value: id, label: name }))],
  default: 'own',
  ...more,
})

const PRESSURES = ['mbar', 'kPa', 'bar', 'mmH2O', 'inH2O', 'psi', 'mmHg'] as const

export const fields: readonly Field[] = [
  ...identifyFields,
  ...wireFields,
  {
    key: 'arrangement',
    stage: 'point',
    group: 'Arrangement',
    type: 'choice',
    required: true,
    label: 'Low side',
    help: 'What the low side of the cell is joined to.',
    options: [
      { value: 'open', label: 'open to air' },
      { value: SUBMERSIBLE, label: 'submersible: vent tube in its cable' },
      { value: 'dry-leg', label: 'dry leg: gas of the vessel' },
      { value: WET, label: 'wet leg: filled' },
      { value: ONE_SEAL, label: 'one remote seal, open to air' },
      { value: SEALS, label: 'two remote seals' },
    ],
    resets: ['legSg', 'legHeight', 'lrv', 'urv'],
  },
  length({
    key: 'emptyHeight',
    group: 'Arrangement',
    label: 'Liquid above the lower tap at 0 %',
    help: 'The level that counts as empty; above the lower seal, or above a submersible’s membrane.',
  }),
  length({
    key: 'fullHeight',
    group: 'Arrangement',
    label: 'Liquid above the lower tap at 100 %',
    help: 'The level that counts as full.',
  }),
  length({
    key: 'belowTap',
    group: 'Arrangement',
    label: 'Transmitter below the lower tap',
    help: 'Negative when it hangs above the tap.',
    when: joined('open', 'dry-leg', WET, ONE_SEAL),
  }),
  length({
    key: 'sealsApart',
    group: 'Arrangement',
    label: 'Upper seal above the lower one',
    help: 'Membrane to membrane. Where the transmitter itself hangs does not matter: both capillaries hold the same.',
    when: joined(SEALS),
  }),
  {
    key: 'vent',
    stage: 'point',
    group: 'Arrangement',
    type: 'choice',
    label: 'Vent tube',
    help: 'The air in its cable is the low side: wet or closed, the weather is measured too.',
    options: [
      { value: 'dry', label: 'dry, open to the air of the site' },
      { value: 'closed', label: 'closed, wet or not led out' },
    ],
    default: 'dry',
    when: joined(SUBMERSIBLE),
  },
  fluid({
    key: 'liquid',
    group: 'Liquid',
    label: 'Liquid',
    help: 'Of the table with its temperature, or by its own specific gravity.',
  }),
  gravity({
    key: 'sg',
    group: 'Liquid',
    label: 'Specific gravity of the liquid',
    help: 'At its temperature: 1 is 1000 kg/m³.',
    when: own('liquid'),
  }),
  temperature({
    key: 'liquidTemp',
    group: 'Liquid',
    label: 'Temperature of the liquid',
    help: 'Warm liquid weighs less: the level reads low.',
    when: { key: 'liquid', is: LEG_FLUIDS.map((f) => f.id) },
  }),
  fluid({
    key: 'legFill',
    group: 'Fill',
    label: 'Fill of leg or capillaries',
    help: 'What stands in the wet leg, or in the capillaries of the seals.',
    when: joined(WET, SEALS, ONE_SEAL),
  }),
  gravity({
    key: 'legSg',
    group: 'Fill',
    label: 'Specific gravity of the fill',
    help: 'At its temperature: 1 is 1000 kg/m³.',
    when: [joined(WET, SEALS, ONE_SEAL), own('legFill')],
  }),
  temperature({
    key: 'legTemp',
    group: 'Fill',
    label: 'Temperature of the fill',
    help: 'A leg stands in the air beside the vessel, not in it.',
    when: [joined(WET, SEALS, ONE_SEAL), { key: 'legFill', is: LEG_FLUIDS.map((f) => f.id) }],
  }),
  length({
    key: 'legHeight',
    group: 'Fill',
    label: 'Fill above the transmitter',
    help: 'Height of the wet leg on the low side.',
    when: joined(WET),
  }),
  manifoldField,
  ...(['Low', 'High'] as const).map((end): Field => ({
    ...point,
    key: `sensor${end}`,
    group: 'Sensor',
    quantity: 'pressure',
    unit: 'mbar',
    label: `${end === 'Low' ? 'Lower' : 'Upper'} sensor limit`,
    help:
      `${end === 'Low' ? 'Lowest' : 'Highest'} differential pressure that the cell measures; below zero with a ` +
      'wet leg.',
    required: true,
  })),
  {
    key: 'gaugeUnit',
    stage: 'point',
    group: 'Sensor',
    type: 'choice',
    label: 'The calibrator reads',
    help: 'Unit of the gauge that pressure is given with: what it must show at each point is listed in it.',
    options: PRESSURES.map((symbol) => ({
      value: symbol,
      label: unitsOf('pressure').find((u) => u.symbol === symbol)?.label ?? symbol,
    })),
    default: 'mbar',
  },
  length({
    key: 'tapAbove',
    group: 'Vessel',
    label: 'Lower tap above the vessel’s lowest point',
    help: 'What lies below it is never measured.',
    required: false,
    default: '0 mm',
  }),
  length({
    key: 'tankDepth',
    group: 'Vessel',
    label: 'Vessel, inside height',
    help: 'From the lowest inside point to its top or overflow.',
    required: false,
  }),
  ...vesselFields,
  ...rangeFields('pressure', 'mbar', { quantity: 'length', unit: 'mm' }),
  ...shownFields,
  ...tripFields('length', 'mm'),
]
