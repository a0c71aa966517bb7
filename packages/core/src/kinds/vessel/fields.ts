// Entries of a vessel: its shape and sizes, or its strapping table, and what the controller makes of the level.
import type { Field } from '../kind.ts'

const length = { type: 'quantity', quantity: 'length', stage: 'point', group: 'Vessel', unit: 'm' } as const

/** Shapes by the words that stand on record. */
export const SHAPES = {
  none: 'level only',
  upright: 'upright cylinder',
  flat: 'horizontal, flat ends',
  dished: 'horizontal, dished ends',
  halfSphere: 'horizontal, half-sphere ends',
  torispherical: 'horizontal, torispherical ends',
  tilted: 'tilted cylinder',
  box: 'box',
  sphere: 'sphere',
  strapped: 'strapping table',
} as const
const LYING = [SHAPES.flat, SHAPES.dished, SHAPES.halfSphere, SHAPES.torispherical]
const ROUND = [SHAPES.upright, ...LYING, SHAPES.tilted, SHAPES.sphere]

const is = (...shapes: string[]) => ({ key: 'shape', is: shapes })
const asksRadii = { key: 'dish', is: ['own radii'] }

/** Shape and sizes; the depth is an entry of the kind, for it says where it is measured. */
export const vesselFields: readonly Field[] = [
  {
    key: 'shape',
    stage: 'point',
    group: 'Vessel',
    type: 'choice',
    label: 'Vessel shape',
    help: 'For the volume beside the level.',
    options: [
      { value: SHAPES.none, label: 'level only' },
      { value: SHAPES.upright, label: 'upright cylinder' },
      { value: SHAPES.flat, label: 'horizontal, flat ends' },
      { value: SHAPES.dished, label: 'horizontal, dished ends (2:1)' },
      { value: SHAPES.halfSphere, label: 'horizontal, half-sphere ends' },
      { value: SHAPES.torispherical, label: 'horizontal, torispherical ends' },
      { value: SHAPES.tilted, label: 'horizontal, not level' },
      { value: SHAPES.box, label: 'box' },
      { value: SHAPES.sphere, label: 'sphere' },
      { value: SHAPES.strapped, label: 'by its strapping table' },
    ],
    default: SHAPES.none,
  },
  {
    key: 'diameter',
    ...length,
    label: 'Inside diameter',
    help: 'Inside, across.',
    required: true,
    when: is(...ROUND),
  },
  {
    key: 'tankLength',
    ...length,
    label: 'Inside length',
    help: 'Straight part, without the ends.',
    required: true,
    when: is(...LYING, SHAPES.tilted, SHAPES.box),
  },
  {
    key: 'tankWidth',
    ...length,
    label: 'Inside width',
    help: 'Inside, across.',
    required: true,
    when: is(SHAPES.box),
  },
  {
    key: 'bottom',
    stage: 'point',
    group: 'Vessel',
    type: 'choice',
    label: 'Bottom',
    help: 'What closes the cylinder below; the depth is counted from its lowest point.',
    options: [
      { value: 'flat', label: 'flat' },
      { value: 'cone', label: 'cone to a point' },
      { value: 'dished', label: 'dished (2:1)' },
      { value: 'half-sphere', label: 'half-sphere' },
      { value: 'DIN 28011', label: 'torispherical, DIN 28011: R = D, r = D/10' },
      { value: 'DIN 28013', label: 'torispherical, DIN 28013: R = 0.8 D, r = 0.154 D' },
    ],
    default: 'flat',
    when: is(SHAPES.upright),
  },
  {
    key: 'coneHeight',
    ...length,
    label: 'Height of the cone',
    help: 'From its point to where the straight wall begins.',
    required: true,
    when: [is(SHAPES.upright), { key: 'bottom', is: ['cone'] }],
  },
  {
    key: 'dish',
    stage: 'point',
    group: 'Vessel',
    type: 'choice',
    label: 'Torispherical ends by',
    help: 'Radii of dish and knuckle, by standard or as drawn.',
    options: [
      { value: 'DIN 28011', label: 'DIN 28011: R = D, r = D/10' },
      { value: 'DIN 28013', label: 'DIN 28013: R = 0.8 D, r = 0.154 D' },
      { value: 'own radii', label: 'own radii' },
    ],
    default: 'DIN 28011',
    when: is(SHAPES.torispherical),
  },
  {
    key: 'crown',
    ...length,
    label: 'Radius of the dish',
    help: 'Inside, of the crown.',
    required: true,
    when: [is(SHAPES.torispherical), asksRadii],
  },
  {
    key: 'knuckle',
    ...length,
    label: 'Radius of the knuckle',
    help: 'Inside, where the dish meets the straight wall.',
    required: true,
    when: [is(SHAPES.torispherical), asksRadii],
  },
  {
    key: 'slope',
    stage: 'point',
    group: 'Vessel',
    type: 'quantity',
    quantity: 'ratio',
    unit: '%',
    label: 'Slope of the axis',
    help: 'Rise for its length: 2 % are 20 mm for each metre.',
    required: true,
    when: is(SHAPES.tilted),
  },
  {
    key: 'gaugeFrom',
    ...length,
    label: 'Level is read this far from the low end',
    help: 'Along the straight part. Below it the low end holds liquid that the level does not show.',
    required: true,
    when: is(SHAPES.tilted),
  },
  {
    key: 'strapping',
    stage: 'point',
    group: 'Vessel',
    type: 'table',
    label: 'Strapping table',
    help: 'Volume at measured levels, from a CSV file: level and volume in each line.',
    required: true,
    when: is(SHAPES.strapped),
  },
]

/** What the controller makes of the level that it is sent. */
export const shownFields: readonly Field[] = [
  {
    key: 'shownAs',
    stage: 'range',
    group: 'Receiver',
    type: 'choice',
    label: 'The controller shows',
    help: 'A volume comes from its table of the vessel: the vessel’s shape is entered under Point.',
    options: [
      { value: 'level', label: 'level' },
      { value: 'volume', label: 'volume, from the level' },
      { value: 'mass', label: 'mass, from the volume' },
    ],
    default: 'level',
  },
  {
    key: 'massDensity',
    stage: 'range',
    group: 'Receiver',
    type: 'quantity',
    quantity: 'density',
    unit: 'kg/m3',
    label: 'Density that the controller reckons with',
    help: 'Mass is volume times this; the liquid’s own may be another at another temperature.',
    required: true,
    when: { key: 'shownAs', is: ['mass'] },
  },
]
