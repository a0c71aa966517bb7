// What every device can be read by without a description of its own: its universal commands.
import { descriptionSchema, DESCRIPTION_FORMAT, type Description, type Parameter } from './schema.ts'

const at = (command: number, field: string) => ({ command, field })
const figure = { type: 'float', unitFrom: 'unit' } as const

export const UNIVERSAL: Description = descriptionSchema.parse({
  format: DESCRIPTION_FORMAT,
  id: 'universal',
  version: 1,
  name: 'Any device, by its universal commands',
  protocol: 'hart',
  matches: { expandedType: 0 },
  groups: [
    { id: 'names', label: 'Names' },
    { id: 'range', label: 'Range and output' },
    { id: 'sensor', label: 'Sensor' },
  ],
  parameters: [
    { id: 'tag', label: 'Tag', group: 'names', type: 'text', characters: 8, read: at(13, 'tag'), write: at(18, 'tag') },
    {
      id: 'descriptor',
      label: 'Descriptor',
      group: 'names',
      type: 'text',
      characters: 16,
      read: at(13, 'descriptor'),
      write: at(18, 'descriptor'),
    },
    { id: 'date', label: 'Date', group: 'names', type: 'date', read: at(13, 'date'), write: at(18, 'date') },
    {
      id: 'message',
      label: 'Message',
      group: 'names',
      type: 'text',
      characters: 32,
      read: at(12, 'message'),
      write: at(17, 'message'),
    },
    {
      id: 'unit',
      label: 'Unit of the primary variable',
      group: 'range',
      type: 'unit',
      read: at(15, 'unitCode'),
      write: at(44, 'unitCode'),
    },
    {
      ...figure,
      id: 'lrv',
      label: 'Value at 4 mA',
      group: 'range',
      read: at(15, 'lrv'),
      write: at(35, 'lrv'),
      movesOutput: true,
    },
    {
      ...figure,
      id: 'urv',
      label: 'Value at 20 mA',
      group: 'range',
      read: at(15, 'urv'),
      write: at(35, 'urv'),
      movesOutput: true,
    },
    {
      id: 'damping',
      label: 'Damping',
      group: 'range',
      type: 'float',
      unit: 's',
      least: 0,
      read: at(15, 'damping_s'),
      write: at(34, 'damping_s'),
    },
    {
      id: 'transfer',
      label: 'Transfer function',
      group: 'range',
      type: 'choice',
      choices: [
        { value: 0, label: 'linear' },
        { value: 1, label: 'square root' },
      ],
      read: at(15, 'transferFunction'),
    },
    {
      id: 'protection',
      label: 'Write protection',
      group: 'range',
      type: 'choice',
      choices: [
        { value: 0, label: 'off' },
        { value: 1, label: 'on' },
      ],
      read: at(15, 'writeProtect'),
    },
    { ...figure, id: 'lowerLimit', label: 'Lower limit', group: 'sensor', read: at(14, 'lowerLimit') },
    { ...figure, id: 'upperLimit', label: 'Upper limit', group: 'sensor', read: at(14, 'upperLimit') },
    { ...figure, id: 'minimumSpan', label: 'Smallest span', group: 'sensor', read: at(14, 'minimumSpan') },
    {
      id: 'sensorSerial',
      label: 'Serial number of the sensor',
      group: 'sensor',
      type: 'integer',
      read: at(14, 'serialNumber'),
    },
  ],
})

/** A description together with what every device has. */
export function withUniversal(own: Description | undefined): Description {
  if (!own) return UNIVERSAL
  const known = new Set(own.parameters.map((p: Parameter) => p.id))
  const groups = new Set(own.groups.map((g) => g.id))
  return {
    ...own,
    groups: [...UNIVERSAL.groups.filter((g) => !groups.has(g.id)), ...own.groups],
    parameters: [...UNIVERSAL.parameters.filter((p) => !known.has(p.id)), ...own.parameters],
  }
}
