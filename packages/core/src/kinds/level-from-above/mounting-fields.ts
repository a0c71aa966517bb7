// Entries of how a head hangs over its tank, of the air in its path, and of what it does when its echo is lost.
import { VAPOURS } from '../../level/index.ts'
import type { Field } from '../kind.ts'
import { onlyOfLiquid } from './target.ts'

const length = { type: 'quantity', quantity: 'length', stage: 'point', unit: 'mm' } as const

export const mountingFields: readonly Field[] = [
  {
    key: 'beamAngle',
    stage: 'point',
    group: 'Mounting',
    type: 'quantity',
    quantity: 'angle',
    unit: 'deg',
    label: 'Beam, whole angle',
    help: 'Where its strength is down to half, by the data sheet.',
    default: '8 deg',
  },
  {
    key: 'wallDistance',
    ...length,
    group: 'Mounting',
    label: 'Axis of the beam to the nearest wall',
    help: 'Or to a ladder, pipe, brace: whatever the beam could hear.',
  },
  ...onlyOfLiquid([
    {
      key: 'inletDistance',
      ...length,
      group: 'Mounting',
      label: 'Axis of the beam to the inlet’s stream',
      help: 'Falling liquid in the beam is heard as a level.',
    },
    {
      key: 'nozzleHeight',
      ...length,
      group: 'Mounting',
      label: 'Nozzle below the face',
      help: 'How far the face stands back in its nozzle; 0 where it hangs free.',
      default: '0 mm',
    },
    {
      key: 'nozzleWidth',
      ...length,
      group: 'Mounting',
      label: 'Nozzle, inside diameter',
      help: 'Its rim must not stand in the beam.',
    },
  ]),
]
export const pathFields: readonly Field[] = [
  ...onlyOfLiquid([
    {
      key: 'vapour',
      stage: 'point',
      group: 'Path',
      type: 'choice',
      label: 'Vapour above the liquid',
      help: 'A device that measures the temperature still reckons with dry air.',
      options: [
        { value: 'none', label: 'none to speak of' },
        ...VAPOURS.map(({ id, name }) => ({ value: id, label: `air full of ${name} vapour` })),
      ],
      default: 'none',
    },
  ]),
  {
    key: 'echoLost',
    stage: 'range',
    group: 'Transmitter',
    type: 'choice',
    label: 'When the echo is lost, it shows',
    help: 'Foam, steam or a beam in the way: what the current does then.',
    options: [
      { value: 'hold', label: 'its last value' },
      { value: 'fault', label: 'the fault current' },
      { value: 'full', label: 'full' },
      { value: 'empty', label: 'empty' },
    ],
    default: 'hold',
    practice: 'Holding rides out a splash; the fault current tells at once that nothing is measured.',
  },
  {
    key: 'fillRate',
    stage: 'range',
    group: 'Transmitter',
    type: 'quantity',
    quantity: 'velocity',
    unit: 'mm/s',
    label: 'Fastest rise of the level, or of the target',
    help: 'All pumps filling, nothing drawn: damping makes the reading lag behind it.',
  },
]
