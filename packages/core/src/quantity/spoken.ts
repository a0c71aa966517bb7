// The units that a loop is spoken of in: what a figure is shown in, whatever it is computed in.
import { feetInchesText } from './feet-and-inches.ts'
import { unitOf } from './units.ts'

/** What is measured in units of one size, and the units that it may be shown in, the usual one first. */
export const SPOKEN_CLASSES = {
  size: { name: 'Sizes', help: 'Walls, diameters, spacings.', units: ['mm', 'cm', 'in'] },
  distance: { name: 'Distances', help: 'Straight pipe, cables, tanks.', units: ['m', 'ft', 'ft-in'] },
  pressure: { name: 'Pressure', help: 'Of a process, gauge or absolute.', units: ['bar', 'kPa', 'MPa', 'psi'] },
  draught: {
    name: 'Low pressure',
    help: 'Differential pressure, draught, a column of liquid.',
    units: ['mbar', 'Pa', 'mmH2O', 'inH2O'],
  },
  temperature: { name: 'Temperature', help: 'And differences of temperatures.', units: ['degC', 'degF', 'K'] },
  'volume-flow': { name: 'Volume flow', help: 'As it flows.', units: ['m3/h', 'l/min', 'l/s', 'gpm', 'ft3/min'] },
  'mass-flow': {
    name: 'Mass flow',
    help: 'Of liquids, gases and steam.',
    units: ['kg/h', 't/h', 'kg/s', 'lb/h', 'lb/min'],
  },
  volume: { name: 'Volume', help: 'Of vessels and totals.', units: ['m3', 'l', 'gal', 'ft3'] },
  velocity: { name: 'Speed', help: 'Of flow and of sound.', units: ['m/s', 'ft/s'] },
  density: { name: 'Density', help: 'Of liquids and gases.', units: ['kg/m3', 'g/cm3', 'lb/ft3'] },
} as const
export type SpokenClass = keyof typeof SPOKEN_CLASSES

/** Units that are of a class by their size; every other unit stays what it is. */
const CLASS_OF: Readonly<Record<string, SpokenClass>> = {
  ...{ mm: 'size', cm: 'size', in: 'size', m: 'distance', ft: 'distance' },
  ...{ bar: 'pressure', kPa: 'pressure', MPa: 'pressure', psi: 'pressure', 'kgf/cm2': 'pressure', atm: 'pressure' },
  ...{ mbar: 'draught', Pa: 'draught', mmH2O: 'draught', inH2O: 'draught' },
  ...{ degC: 'temperature', degF: 'temperature', K: 'temperature' },
  ...{ 'm3/h': 'volume-flow', 'm3/s': 'volume-flow', 'm3/min': 'volume-flow', gpm: 'volume-flow' },
  ...{ 'l/min': 'volume-flow', 'l/s': 'volume-flow', 'l/h': 'volume-flow', 'ft3/min': 'volume-flow' },
  ...{ 'kg/s': 'mass-flow', 'g/s': 'mass-flow', 'kg/h': 'mass-flow', 't/h': 'mass-flow' },
  ...{ 'lb/h': 'mass-flow', 'lb/min': 'mass-flow' },
  ...{ l: 'volume', m3: 'volume', gal: 'volume', ft3: 'volume', 'm/s': 'velocity', 'ft/s': 'velocity' },
  ...{ 'kg/m3': 'density', 'g/cm3': 'density', 'lb/ft3': 'density' },
}
/** A difference of temperatures goes with the temperature. */
const DIFFERENCE: Readonly<Record<string, string>> = { degC: 'delta_K', degF: 'delta_degF', K: 'delta_K' }

/** By class; a class that is not there keeps the units that figures are computed in. */
export type Spoken = Readonly<Partial<Record<SpokenClass, string>>>

export const US_CUSTOMARY: Spoken = {
  ...{ size: 'in', distance: 'ft', pressure: 'psi', draught: 'inH2O', temperature: 'degF' },
  ...{ 'volume-flow': 'gpm', 'mass-flow': 'lb/h', volume: 'gal', velocity: 'ft/s', density: 'lb/ft3' },
}

let now: Spoken | undefined

/** Does something in which every figure is shown in these units; undefined for those that it is computed in. */
export function speaking<T>(spoken: Spoken | undefined, work: () => T): T {
  const before = now
  now = spoken
  try {
    return work()
  } finally {
    now = before
  }
}
/** The same over something that takes time; only where nothing else is done meanwhile. */
export async function speakingUntil<T>(spoken: Spoken | undefined, work: () => T | Promise<T>): Promise<T> {
  const before = now
  now = spoken
  try {
    return await work()
  } finally {
    now = before
  }
}
export const spokenNow = (): Spoken | undefined => now

let mark: '.' | ',' = '.'
/**
 * Does something in which decimals are written with this mark, where whoever formats a figure says none: the papers of
 * a site. Only where nothing else is done meanwhile.
 */
export async function markingUntil<T>(wanted: '.' | ',' | undefined, work: () => T | Promise<T>): Promise<T> {
  const before = mark
  mark = wanted ?? '.'
  try {
    return await work()
  } finally {
    mark = before
  }
}
export const markNow = (): '.' | ',' => mark

/** Where feet stand with inches beside them, and not with decimals. */
const FEET_AND_INCHES = 'ft-in'

/** The unit that a figure in `unit` is shown in. */
export function spokenUnit(unit: string, spoken: Spoken | undefined = now): string {
  if (!spoken) return unit
  if (unit.startsWith('delta_')) return DIFFERENCE[spoken.temperature ?? ''] ?? unit
  const cls = CLASS_OF[unit]
  const wanted = cls && spoken[cls]
  return wanted === undefined ? unit : wanted === FEET_AND_INCHES ? 'ft' : wanted
}

/** A figure as it is shown: decimals that tell as much as they did. */
export function spokenFigure(
  value: number,
  unit: string,
  decimals: number | undefined,
  spoken: Spoken | undefined = now,
): { readonly value: number; readonly unit: string; readonly decimals: number | undefined } {
  const to = spokenUnit(unit, spoken)
  if (to === unit) return { value, unit, decimals }
  const [a, b] = [unitOf(unit), unitOf(to)]
  const shown = (value + a.offset) * (a.scale / b.scale) - b.offset
  const finer = Math.log10(b.scale / a.scale)
  return {
    value: Number(shown.toPrecision(12)),
    unit: to,
    decimals: decimals === undefined ? undefined : Math.min(9, Math.max(0, Math.ceil(decimals + finer - 0.05))),
  }
}

/** A distance in feet, inches and sixteenths, where that is how it is spoken of; undefined where it is not. */
export const spokenInFeet = (value: number, unit: string): string | undefined =>
  now?.distance === FEET_AND_INCHES && CLASS_OF[unit] === 'distance'
    ? feetInchesText((value * unitOf(unit).scale) / unitOf('ft').scale)
    : undefined
