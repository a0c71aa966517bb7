// What the current of a Coriolis meter follows: mass flow, or another variable with a range and scales of its own.
import type { Carried } from '../flow/carried.ts'
import { USUAL } from './usual.ts'

export const CARRIED = {
  by: 'source',
  usual: 'mass flow',
  quantity: 'mass-flow',
  unit: USUAL,
  others: {
    'volume flow': { stem: 'volume', quantity: 'volume-flow', unit: 'm3/h', decimals: 2, name: 'Volume flow' },
    density: { stem: 'density', quantity: 'density', unit: 'kg/m3', decimals: 1, name: 'Density' },
    temperature: { stem: 'temperature', quantity: 'temperature', unit: 'degC', decimals: 1, name: 'Temperature' },
  },
} as const satisfies Carried
export const VARIABLES = [CARRIED.usual, ...Object.keys(CARRIED.others)]
