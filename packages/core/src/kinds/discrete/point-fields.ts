// What is entered about where a discrete sensor switches, what its point is called, and what is counted.
import { TARGET_METALS } from '../../discrete/index.ts'
import type { Field } from '../kind.ts'

const same = (...values: string[]) => values.map((value) => ({ value, label: value }))
const point = { stage: 'switch-point', group: 'Operating distance' } as const
const name = { stage: 'count', group: 'The point’s name' } as const
const count = { stage: 'count', group: 'Counting' } as const
const mm = { type: 'quantity', quantity: 'length', unit: 'mm' } as const
const seconds = { type: 'quantity', quantity: 'time', unit: 's' } as const
const INDUCTIVE = { key: 'sensing', is: ['inductive, metal target'] }

/** Entries of Switch point and Count. */
export const pointFields: readonly Field[] = [
  {
    key: 'sensing',
    ...point,
    type: 'choice',
    label: 'How it senses',
    required: true,
    help: 'Only metal targets have correction factors.',
    options: same(
      'inductive, metal target',
      'magnet, light or other',
      'magnet on a piston',
      'light beam',
      'lever or contact',
    ),
  },
  {
    key: 'rated',
    ...point,
    ...mm,
    label: 'Rated operating distance',
    required: true,
    help: 'For the standard steel target.',
    when: { key: 'sensing', is: ['inductive, metal target', 'magnet, light or other'] },
  },
  {
    key: 'metal',
    ...point,
    type: 'choice',
    label: 'Target’s metal',
    required: true,
    help: 'Shortens the distance by its factor.',
    options: TARGET_METALS.map((m) => ({ value: m.id, label: m.name })),
    when: INDUCTIVE,
  },
  {
    key: 'face',
    ...point,
    ...mm,
    label: 'Diameter of the sensing face',
    help: 'Makes the standard target’s size.',
    when: INDUCTIVE,
  },
  {
    key: 'targetSide',
    ...point,
    ...mm,
    label: 'Target’s smallest side',
    help: 'A target smaller than standard is seen later.',
    when: INDUCTIVE,
  },
  {
    key: 'mountedAt',
    ...point,
    ...mm,
    label: 'Target passes at',
    help: 'Distance from the face as it is mounted.',
    when: { key: 'sensing', is: ['inductive, metal target', 'magnet, light or other'] },
  },
  {
    key: 'distanceTolerance',
    ...point,
    type: 'quantity',
    quantity: 'ratio',
    unit: '%',
    label: 'Tolerance of the distance',
    help: 'Of the expected distance.',
    default: '10 %',
    when: { key: 'sensing', is: ['inductive, metal target', 'magnet, light or other'] },
  },
  {
    key: 'differentialMost',
    ...point,
    type: 'quantity',
    quantity: 'ratio',
    unit: '%',
    label: 'Differential at most',
    help: 'Of the operate distance.',
    default: '20 %',
    when: { key: 'sensing', is: ['inductive, metal target', 'magnet, light or other'] },
  },

  {
    key: 'pointName',
    ...name,
    type: 'text',
    label: 'Name in the controller',
    required: true,
    help: 'Every other system will see it.',
  },
  {
    key: 'nameMost',
    ...name,
    type: 'quantity',
    quantity: 'count',
    unit: 'counts',
    label: 'Longest name it takes',
    help: 'Characters that the controller allows; empty: no limit known.',
  },
  {
    key: 'nameSigns',
    ...name,
    type: 'choice',
    label: 'Characters it takes',
    help: 'Most controllers take letters, figures and the underscore, a letter first.',
    options: same('letters, figures, _', 'those and . -', 'any'),
    default: 'any',
    practice: 'By what the controllers of the site take.',
  },
  {
    key: 'meansTrue',
    ...name,
    type: 'text',
    label: 'True means',
    required: true,
    help: 'In the operator’s words, such as gate closed.',
  },
  {
    key: 'meansFalse',
    ...name,
    type: 'text',
    label: 'False means',
    required: true,
    help: 'Such as gate open or on its way.',
  },
  {
    key: 'idealCycle',
    ...count,
    ...seconds,
    label: 'Ideal cycle',
    help: 'The shortest time the machine is built for.',
  },
  { key: 'longCycle', ...count, ...seconds, label: 'Long cycle above', help: 'What takes longer is marked.' },
  { key: 'shifts', ...count, type: 'text', label: 'Shifts', help: 'Such as Early 06:00–14:00, Late 14:00–22:00.' },
  { key: 'days', ...count, type: 'text', label: 'Days worked', help: 'Such as Mon–Fri, or every day.' },
]
