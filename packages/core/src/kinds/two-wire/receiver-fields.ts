// What is entered about the ends that read the loop: controller, card, converter channel, loop indicator.
import type { QuantityName } from '../../quantity/index.ts'
import type { Field } from '../kind.ts'
import { INPUT_TYPES, type InputTypeId } from './input-type.ts'
import { CONVERTERS, carriesCurrent, same } from './wire-fields.ts'

/** What a receiver shows, where it is another quantity than the transmitter's. */
export interface Shown {
  readonly quantity: QuantityName
  readonly unit: string
}

/** What a display may show of a current; the first is the standard one. */
export const SHOWS = ['engineering units', '%', 'mA', 'counts'] as const

const receiver = { stage: 'range', group: 'Receiver' } as const

/** Entries of what the operator reads, and of the card behind it. */
function displayFields({ quantity, unit }: Shown): Field[] {
  return [
    {
      key: 'cardCounts',
      ...receiver,
      type: 'choice',
      label: 'Raw number of the input',
      help: 'Whether anybody can see one. Many displays and converters have none.',
      options: same('shown', 'not shown'),
      default: 'shown',
      when: carriesCurrent,
    },
    ...(['Low', 'High'] as const).map((end): Field => ({
      key: `counts${end}`,
      ...receiver,
      type: 'quantity',
      quantity: 'count',
      unit: 'counts',
      label: `Counts at ${end === 'Low' ? 4 : 20} mA`,
      help: `The input card’s raw number at ${end === 'Low' ? 4 : 20} mA.`,
      required: true,
      when: { key: 'cardCounts', is: ['shown'] },
    })),
    {
      key: 'shows',
      ...receiver,
      type: 'choice',
      label: 'Controller or indicator shows',
      help: 'Some show per cent, the current itself or the raw number, and leave the meaning to the reader.',
      options: same(...SHOWS),
      default: 'engineering units',
      when: carriesCurrent,
    },
    ...(['Low', 'High'] as const).map((end): Field => ({
      key: `receiver${end}`,
      ...receiver,
      type: 'quantity',
      quantity,
      unit,
      label: `Controller shows at ${end === 'Low' ? 4 : 20} mA`,
      help: `${end} end of the controller’s scale; behind a converter, at the ${end.toLowerCase()} end of its channel.`,
      required: true,
      when: { key: 'shows', is: ['engineering units'] },
    })),
    ...(['Low', 'High'] as const).map((end): Field => ({
      key: `percent${end}`,
      ...receiver,
      type: 'quantity',
      quantity: 'ratio',
      unit: '%',
      label: `Per cent shown at ${end === 'Low' ? 4 : 20} mA`,
      help: 'Some displays run from 100 % down.',
      default: end === 'Low' ? '0 %' : '100 %',
      when: { key: 'shows', is: ['%'] },
    })),
  ]
}

/** Entries of the channel of a converter: its input, and what it takes the signal for. */
function channelFields({ quantity, unit }: Shown): Field[] {
  return [
    {
      key: 'inputType',
      stage: 'range',
      group: 'Converter channel',
      type: 'choice',
      label: 'Input type of the channel',
      help: 'Changing it makes the channel forget its scale. A voltage input needs the resistor across its terminals.',
      options: same(...(Object.keys(INPUT_TYPES) as InputTypeId[])),
      default: '4–20 mA',
      when: { key: 'receiver', is: CONVERTERS },
      resets: ['channelLow', 'channelHigh', 'countsLow', 'countsHigh'],
      forgets: true,
    },
    ...(['Low', 'High'] as const).map((end): Field => ({
      key: `channel${end}`,
      stage: 'range',
      group: 'Converter channel',
      type: 'quantity',
      quantity,
      unit,
      label: `Channel value at the ${end === 'Low' ? 'low' : 'high'} end of its input`,
      help:
        end === 'Low'
          ? 'What the converter shows at the first figure of its input type: 4 mA, 0 mA, 1 V or 0 V.'
          : 'What the converter shows at the second figure: 20 mA, 5 V or 10 V.',
      required: true,
      when: { key: 'receiver', is: CONVERTERS },
    })),
  ]
}

/** Entries of Range at the receiving end of the wire. */
export const receiverFields = (shown: Shown): Field[] => [
  ...displayFields(shown),
  ...channelFields(shown),
  ...(['Low', 'High'] as const).map((end): Field => ({
    key: `indicator${end}`,
    stage: 'range',
    group: 'Loop indicator',
    type: 'quantity',
    quantity: shown.quantity,
    unit: shown.unit,
    label: `Indicator shows at ${end === 'Low' ? 4 : 20} mA`,
    help: 'Its scale plate, or what is set in it.',
    required: true,
    when: { key: 'second', is: ['loop indicator'] },
  })),
]
