// Entries of a clamp-on point: pipe, fluid, pair and mounting, the place.
import { GAS_PRESETS, LIQUIDS } from '../../fluid/index.ts'
import { pipeSize, LINERS, MATERIALS, PIPE_TABLES } from '../../pipe/index.ts'
import { amount, choice, words } from '../flow/shared.ts'
import type { Entries, Field } from '../kind.ts'
import { named, only, OWN, WANTED } from './parts.ts'
import { pairFields } from './pair-fields.ts'
import { carriedRange, carriedTrips } from '../flow/carried.ts'
import { CARRIED, REFERENCES } from './carried.ts'
import { identifyFields, wireFields } from '../two-wire/index.ts'

const typed = (entries: Entries, key: string) => entries[key]?.typed.trim() ?? ''
const tableOf = (entries: Entries) => PIPE_TABLES.find((t) => t.standard === typed(entries, 'pipeStandard'))
const sizeOf = (entries: Entries) => pipeSize(tableOf(entries), typed(entries, 'pipeSize'))

/** Schedules of a size, the thinnest wall first. */
const byWall = (walls: Readonly<Record<string, number>> = {}): string[] =>
  Object.entries(walls)
    .sort(([, a], [, b]) => a - b)
    .map(([schedule]) => schedule)

export const fields: readonly Field[] = [
  ...identifyFields,
  ...wireFields,
  choice({
    key: 'diameterBy',
    group: 'Pipe',
    label: 'Diameter from',
    options: ['outside diameter', 'circumference', 'table'],
    help: 'A tape round the pipe gives the circumference; a table gives nominal sizes.',
    default: 'outside diameter',
  }),
  amount({
    key: 'od',
    group: 'Pipe',
    label: 'Outside diameter',
    quantity: 'length',
    unit: 'mm',
    help: 'Outside, without paint.',
    ...WANTED,
    when: only('diameterBy', 'outside diameter'),
  }),
  amount({
    key: 'circumference',
    group: 'Pipe',
    label: 'Circumference',
    quantity: 'length',
    unit: 'mm',
    help: 'Tape round the bare pipe; divided by π.',
    ...WANTED,
    when: only('diameterBy', 'circumference'),
  }),
  choice({
    key: 'pipeStandard',
    group: 'Pipe',
    label: 'Pipe standard',
    options: PIPE_TABLES.map((t) => t.standard),
    help: 'The table that the size is looked up in.',
    ...WANTED,
    when: only('diameterBy', 'table'),
  }),
  words({
    key: 'pipeSize',
    group: 'Pipe',
    label: 'Size',
    help: 'As the standard writes it: NPS 6, DN 300, OD 110.',
    ...WANTED,
    when: only('diameterBy', 'table'),
  }),
  words({
    key: 'pipeSchedule',
    group: 'Pipe',
    label: 'Schedule or wall',
    help: 'As the standard writes it: 40, STD, K9, SDR 11.',
    ...WANTED,
    when: only('diameterBy', 'table'),
  }),
  amount({
    key: 'wall',
    group: 'Pipe',
    label: 'Wall thickness',
    quantity: 'length',
    unit: 'mm',
    help: 'Gauged at the place of the pair; left empty, the table’s nominal wall is taken.',
  }),
  choice({
    key: 'material',
    group: 'Pipe',
    label: 'Pipe material',
    options: [...named(MATERIALS), OWN],
    help: 'Decides how fast the beam goes through the wall.',
    ...WANTED,
  }),
  amount({
    key: 'wallSpeed',
    group: 'Pipe',
    label: 'Wave speed in the wall',
    quantity: 'velocity',
    unit: 'm/s',
    help: 'Shear wave in metal, longitudinal in plastic.',
    ...WANTED,
    when: only('material', 'own'),
  }),
  choice({
    key: 'liner',
    group: 'Pipe',
    label: 'Liner',
    options: [{ value: 'none', label: 'none' }, ...named(LINERS), OWN],
    help: 'Mortar, rubber or plastic bonded inside. A loose liner lets no beam through.',
    default: 'none',
  }),
  amount({
    key: 'linerThickness',
    group: 'Pipe',
    label: 'Liner thickness',
    quantity: 'length',
    unit: 'mm',
    help: 'From the pipe’s papers.',
    ...WANTED,
    when: only('liner', ...LINERS.map((l) => l.id), 'own'),
  }),
  amount({
    key: 'linerSpeed',
    group: 'Pipe',
    label: 'Wave speed in the liner',
    quantity: 'velocity',
    unit: 'm/s',
    help: 'From the liner’s maker.',
    ...WANTED,
    when: only('liner', 'own'),
  }),

  choice({
    key: 'medium',
    group: 'Fluid',
    label: 'Liquid or gas',
    options: ['liquid', 'gas'],
    help: 'A gas needs pressure, a damping film and transducers made for it.',
    default: 'liquid',
  }),
  choice({
    key: 'liquid',
    group: 'Fluid',
    label: 'Liquid',
    options: [{ value: 'water', label: 'water' }, { value: 'seawater', label: 'seawater' }, ...named(LIQUIDS), OWN],
    help: 'Water and seawater come from their international equations.',
    ...WANTED,
    when: only('medium', 'liquid'),
  }),
  amount({
    key: 'salinity',
    group: 'Fluid',
    label: 'Salinity',
    quantity: 'ratio',
    unit: 'g/kg',
    help: 'Grams of salt in a kilogram: open ocean about 35.',
    ...WANTED,
    when: only('liquid', 'seawater'),
  }),
  choice({
    key: 'gas',
    group: 'Fluid',
    label: 'Gas',
    options: [...named(GAS_PRESETS), { value: 'own', label: 'own composition' }],
    help: 'A preset, or the analysis of the real gas.',
    ...WANTED,
    when: only('medium', 'gas'),
  }),
  words({
    key: 'composition',
    group: 'Fluid',
    label: 'Composition',
    help: 'Mole shares: methane 97.2 %, carbonDioxide 1.8 %, nitrogen 1 %.',
    ...WANTED,
    when: only('gas', 'own'),
  }),
  amount({
    key: 'fluidTemp',
    group: 'Fluid',
    label: 'Fluid temperature',
    quantity: 'temperature',
    unit: 'degC',
    help: 'In the pipe, as it runs.',
    required: true,
  }),
  amount({
    key: 'fluidPressure',
    group: 'Fluid',
    label: 'Pressure at the pipe, gauge',
    quantity: 'pressure',
    unit: 'bar',
    help: 'Above the atmosphere, which is added.',
    required: true,
  }),
  choice({
    key: 'reference',
    group: 'Fluid',
    label: 'Reference conditions',
    options: REFERENCES,
    help: 'What the site counts gas at: this temperature and the standard atmosphere.',
    practice: 'The same gas is some per cent more or fewer cubic metres by the temperature it is counted at.',
    default: '0 °C',
    when: only('medium', 'gas'),
  }),
  choice({
    key: 'gasState',
    group: 'Fluid',
    label: 'Pressure and temperature reach the meter',
    options: ['as live inputs', 'fixed in the meter'],
    help: 'Live from transmitters at its inputs; what they may be off by stands under Doubt.',
    default: 'fixed in the meter',
    when: [only('medium', 'gas'), only('carries', ...Object.keys(CARRIED.others))],
  }),
  amount({
    key: 'ownSpeed',
    group: 'Fluid',
    label: 'Sound speed of the fluid',
    quantity: 'velocity',
    unit: 'm/s',
    help: 'At the working temperature.',
    ...WANTED,
    when: only('liquid', 'own'),
  }),
  amount({
    key: 'ownDensity',
    group: 'Fluid',
    label: 'Density',
    quantity: 'density',
    unit: 'kg/m3',
    help: 'At the working temperature.',
    ...WANTED,
    when: only('liquid', 'own'),
  }),
  amount({
    key: 'ownViscosity',
    group: 'Fluid',
    label: 'Viscosity, adjusted',
    quantity: 'dynamic-viscosity',
    unit: 'mPa.s',
    help: 'Takes the place of the computed one.',
  }),

  ...pairFields,
  choice({
    key: 'carries',
    group: 'Transmitter',
    label: 'The meter reports',
    help: 'A gas is traded at reference conditions or as mass; both ends of the loop are then in that.',
    options: [CARRIED.usual, ...Object.keys(CARRIED.others)],
    default: CARRIED.usual,
  }),
  ...carriedRange(CARRIED),
  amount({
    key: 'cutoff',
    group: 'Range',
    label: 'Low-flow cutoff',
    quantity: 'volume-flow',
    unit: 'm3/h',
    help: 'Below it the meter reports no flow. Above 0, always; left empty, twice what its zero is unsure by.',
  }),
  ...carriedTrips(CARRIED),
].map((f): Field => {
  if (f.key === 'cutoff' || f.key === 'carries') return { ...f, stage: 'range', group: 'Transmitter' }
  if (f.key === 'pipeSize')
    return { ...f, type: 'text', suggest: (entries) => Object.keys(tableOf(entries)?.sizes ?? {}) }
  if (f.key === 'pipeSchedule') return { ...f, type: 'text', suggest: (entries) => byWall(sizeOf(entries)?.walls) }
  return f
})
