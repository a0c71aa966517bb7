// Entries of a clamp-on point: pipe, fluid, pair and mounting, the place.
import { GAS_PRESETS, LIQUIDS } from '../../fluid/index.ts'
import { DISTURBANCES, SCHOOLS, TRANSDUCERS } from '../../flow/index.ts'
import { pipeSize, LINERS, MATERIALS, PIPE_TABLES } from '../../pipe/index.ts'
import { amount, choice, words } from '../flow/shared.ts'
import type { Entries, Field } from '../kind.ts'
import { identifyFields, rangeFields, tripFields, wireFields } from '../two-wire/index.ts'

const named = (rows: readonly { readonly id: string; readonly name: string }[]) =>
  rows.map(({ id, name }) => ({ value: id, label: name }))
const OWN = { value: 'own', label: 'own figures' }
const only = (key: string, ...is: string[]) => ({ key, is })
const WANTED = { required: true }

const typed = (entries: Entries, key: string) => entries[key]?.typed.trim() ?? ''
const tableOf = (entries: Entries) => PIPE_TABLES.find((t) => t.standard === typed(entries, 'pipeStandard'))
const sizeOf = (entries: Entries) => pipeSize(tableOf(entries), typed(entries, 'pipeSize'))

export const fields: readonly Field[] = [
  ...identifyFields,
  ...wireFields,
  choice(
    'diameterBy',
    'Pipe',
    'Diameter from',
    ['outside diameter', 'circumference', 'table'],
    'A tape round the pipe gives the circumference; a table gives nominal sizes.',
    { default: 'outside diameter' },
  ),
  amount('od', 'Pipe', 'Outside diameter', 'length', 'mm', 'Outside, without paint.', {
    ...WANTED,
    when: only('diameterBy', 'outside diameter'),
  }),
  amount('circumference', 'Pipe', 'Circumference', 'length', 'mm', 'Tape round the bare pipe; divided by π.', {
    ...WANTED,
    when: only('diameterBy', 'circumference'),
  }),
  choice(
    'pipeStandard',
    'Pipe',
    'Pipe standard',
    PIPE_TABLES.map((t) => t.standard),
    'The table that the size is looked up in.',
    { ...WANTED, when: only('diameterBy', 'table') },
  ),
  words('pipeSize', 'Pipe', 'Size', 'As the standard writes it: NPS 6, DN 300, OD 110.', {
    ...WANTED,
    when: only('diameterBy', 'table'),
  }),
  words('pipeSchedule', 'Pipe', 'Schedule or wall', 'As the standard writes it: 40, STD, K9, SDR 11.', {
    ...WANTED,
    when: only('diameterBy', 'table'),
  }),
  amount(
    'wall',
    'Pipe',
    'Wall thickness',
    'length',
    'mm',
    'Gauged at the place of the pair; left empty, the table’s nominal wall is taken.',
    {},
  ),
  choice(
    'material',
    'Pipe',
    'Pipe material',
    [...named(MATERIALS), OWN],
    'Decides how fast the beam goes through the wall.',
    WANTED,
  ),
  amount(
    'wallSpeed',
    'Pipe',
    'Wave speed in the wall',
    'velocity',
    'm/s',
    'Shear wave in metal, longitudinal in plastic.',
    { ...WANTED, when: only('material', 'own') },
  ),
  choice(
    'liner',
    'Pipe',
    'Liner',
    [{ value: 'none', label: 'none' }, ...named(LINERS), OWN],
    'Mortar, rubber or plastic bonded inside. A loose liner lets no beam through.',
    { default: 'none' },
  ),
  amount('linerThickness', 'Pipe', 'Liner thickness', 'length', 'mm', 'From the pipe’s papers.', {
    ...WANTED,
    when: only('liner', ...LINERS.map((l) => l.id), 'own'),
  }),
  amount('linerSpeed', 'Pipe', 'Wave speed in the liner', 'velocity', 'm/s', 'From the liner’s maker.', {
    ...WANTED,
    when: only('liner', 'own'),
  }),

  choice(
    'medium',
    'Fluid',
    'Liquid or gas',
    ['liquid', 'gas'],
    'A gas needs pressure, a damping film and transducers made for it.',
    { default: 'liquid' },
  ),
  choice(
    'liquid',
    'Fluid',
    'Liquid',
    [{ value: 'water', label: 'water' }, { value: 'seawater', label: 'seawater' }, ...named(LIQUIDS), OWN],
    'Water and seawater come from their international equations.',
    { ...WANTED, when: only('medium', 'liquid') },
  ),
  amount('salinity', 'Fluid', 'Salinity', 'ratio', 'g/kg', 'Grams of salt in a kilogram: open ocean about 35.', {
    ...WANTED,
    when: only('liquid', 'seawater'),
  }),
  choice(
    'gas',
    'Fluid',
    'Gas',
    [...named(GAS_PRESETS), { value: 'own', label: 'own composition' }],
    'A preset, or the analysis of the real gas.',
    { ...WANTED, when: only('medium', 'gas') },
  ),
  words('composition', 'Fluid', 'Composition', 'Mole shares: methane 97.2 %, carbonDioxide 1.8 %, nitrogen 1 %.', {
    ...WANTED,
    when: only('gas', 'own'),
  }),
  amount('fluidTemp', 'Fluid', 'Fluid temperature', 'temperature', 'degC', 'In the pipe, as it runs.'),
  amount(
    'fluidPressure',
    'Fluid',
    'Pressure at the pipe, gauge',
    'pressure',
    'bar',
    'Above the atmosphere, whose 1.013 bar are added.',
    { required: true },
  ),
  amount('ownSpeed', 'Fluid', 'Sound speed of the fluid', 'velocity', 'm/s', 'At the working temperature.', {
    ...WANTED,
    when: only('liquid', 'own'),
  }),
  amount('ownDensity', 'Fluid', 'Density', 'density', 'kg/m3', 'At the working temperature.', {
    ...WANTED,
    when: only('liquid', 'own'),
  }),
  amount(
    'ownViscosity',
    'Fluid',
    'Viscosity, adjusted',
    'dynamic-viscosity',
    'mPa.s',
    'Takes the place of the computed one.',
    {},
  ),

  choice(
    'transducer',
    'Pair',
    'Transducer pair',
    [...named(TRANSDUCERS), OWN],
    'Type and size; the recommendation stands in the drawing.',
    WANTED,
  ),
  amount('wedgeSpeed', 'Pair', 'Sound speed in the wedge', 'velocity', 'm/s', 'From the pair’s plate or data sheet.', {
    ...WANTED,
    when: only('transducer', 'own'),
  }),
  amount('wedgeAngle', 'Pair', 'Angle in the wedge', 'angle', 'deg', 'From the normal to the pipe.', {
    ...WANTED,
    when: only('transducer', 'own'),
  }),
  words('serialA', 'Pair', 'Serial number, upstream', 'As printed, ending in A or B.', WANTED),
  words('serialB', 'Pair', 'Serial number, downstream', 'As printed, ending in the other letter.', WANTED),
  choice(
    'traverses',
    'Pair',
    'Traverses',
    [
      { value: '1', label: '1, opposite sides' },
      { value: '2', label: '2, same side' },
      { value: '3', label: '3, opposite sides' },
      { value: '4', label: '4, same side' },
    ],
    'How often the beam crosses the pipe.',
    { default: '2' },
  ),
  choice('paths', 'Pair', 'Paths', ['1', '2'], 'Two paths, 90° apart, average a disturbed profile.', { default: '1' }),
  amount(
    'faceOffset',
    'Pair',
    'Beam’s exit to spacing mark',
    'length',
    'mm',
    'Where the maker measures the spacing from other marks: added at both ends.',
    { default: '0 mm' },
  ),
  amount('barPitch', 'Pair', 'Index bar pitch', 'length', 'mm', 'Distance from hole to hole of the mounting bar.', {
    default: '10 mm',
  }),
  amount('leadLength', 'Pair', 'Cable of each transducer', 'length', 'm', 'Entered where the meter asks for it.', {
    default: '10 m',
  }),

  choice(
    'school',
    'Place',
    'Straight run by',
    SCHOOLS.map((s) => ({ value: s.id, label: s.name })),
    'The rule your site follows.',
    { default: 'plain' },
  ),
  choice(
    'disturbance',
    'Place',
    'What stands upstream',
    DISTURBANCES,
    'The nearest thing that disturbs the flow.',
    WANTED,
  ),
  amount('upstream', 'Place', 'Straight pipe upstream', 'length', 'm', 'From it to the pair.'),
  amount('downstream', 'Place', 'Straight pipe downstream', 'length', 'm', 'From the pair to the next fitting.'),
  choice(
    'run',
    'Place',
    'The pipe runs',
    ['horizontal', 'upward', 'downward', 'downward to an open end'],
    'A pipe must be full even without flow.',
    { default: 'horizontal' },
  ),
  choice(
    'position',
    'Place',
    'The pair sits',
    ['at the side', 'on top', 'at the bottom'],
    'On top sits gas, at the bottom sediment.',
    { default: 'at the side' },
  ),

  amount('odDoubt', 'Doubt', 'Diameter, ±', 'length', 'mm', 'How far it may be off.', { default: '0.5 mm' }),
  amount(
    'wallDoubt',
    'Doubt',
    'Wall, ±',
    'length',
    'mm',
    'Gauged: 0.1 mm; from a table: up to an eighth of the wall.',
    { default: '0.1 mm' },
  ),
  amount('linerDoubt', 'Doubt', 'Liner, ±', 'length', 'mm', 'How far it may be off.', { default: '1 mm' }),
  choice(
    'tempDoubt',
    'Doubt',
    'Fluid temperature, ±',
    ['0.5 °C', '1 °C', '2 °C', '5 °C', '10 °C'],
    'How far it may be off.',
    { default: '2 °C' },
  ),
  amount('viscosityDoubt', 'Doubt', 'Viscosity, ±', 'ratio', '%', 'Of its value.', { default: '10 %' }),
  amount('spacingDoubt', 'Doubt', 'Spacing as mounted, ±', 'length', 'mm', 'How near the pair was set.', {
    default: '1 mm',
  }),
  amount('timeDoubt', 'Doubt', 'Time difference, ±', 'time', 'ns', 'Zero and noise of the meter.', {
    default: '0.5 ns',
  }),
  ...rangeFields('volume-flow', 'm3/h'),
  amount(
    'cutoff',
    'Range',
    'Low-flow cutoff',
    'volume-flow',
    'm3/h',
    'Below it the meter reports no flow. Above 0, always.',
    { default: '0.5 m3/h' },
  ),
  ...tripFields('volume-flow', 'm3/h'),
].map((f): Field => {
  if (f.key === 'cutoff') return { ...f, stage: 'range', group: 'Transmitter' }
  if (f.key === 'pipeSize')
    return { ...f, type: 'text', suggest: (entries) => Object.keys(tableOf(entries)?.sizes ?? {}) }
  if (f.key === 'pipeSchedule')
    return { ...f, type: 'text', suggest: (entries) => Object.keys(sizeOf(entries)?.walls ?? {}) }
  return f
})
