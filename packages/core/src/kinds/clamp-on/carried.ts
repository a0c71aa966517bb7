// What a clamp-on point reports: flow as it runs, at reference conditions, or as mass; and what each makes of the
// others.
import { gasReferenceFlow, REFERENCE_PRESSURE_kPa, REFERENCE_TEMPERATURES_C, type GasFlow } from '../../fluid/index.ts'
import { convertUnit, formatQuantity } from '../../quantity/index.ts'
import { attempt, Refusal } from '../../refusal/index.ts'
import { carriedReader, otherOf, type Carried } from '../flow/carried.ts'
import { loopUnit } from '../flow/shared.ts'
import type { Reader } from '../reader.ts'
import { knownFluid, type ClampOn } from './setup.ts'

export const USUAL = 'm3/h'
export const REFERENCE = 'volume at reference conditions'
export const MASS = 'mass'
export const CARRIED = {
  by: 'carries',
  usual: 'volume as it flows',
  quantity: 'volume-flow',
  unit: USUAL,
  others: {
    [REFERENCE]: {
      ...{ stem: 'reference', quantity: 'reference-flow', unit: 'Nm3/h@0C', decimals: 1 },
      name: 'Reference volume flow',
    },
    [MASS]: { stem: 'mass', quantity: 'mass-flow', unit: 'kg/h', decimals: 1, name: 'Mass flow' },
  },
} as const satisfies Carried

/** Reference temperatures that can be chosen, as they are written, with the unit of a flow at them. */
const CONDITIONS = [
  { choice: '0 °C', unit: 'Nm3/h@0C', temp_C: REFERENCE_TEMPERATURES_C[0] },
  { choice: '15 °C', unit: 'Sm3/h@15C', temp_C: REFERENCE_TEMPERATURES_C[1] },
  { choice: '60 °F', unit: 'SCFM@60F', temp_C: REFERENCE_TEMPERATURES_C[2] },
  { choice: '20 °C', unit: 'Nm3/h@20C', temp_C: REFERENCE_TEMPERATURES_C[3] },
] as const
export const REFERENCES = CONDITIONS.map((c) => c.choice)
/** Units of a reference flow and the temperature that each is counted at, °C. */
const TEMPERATURE_OF: Readonly<Record<string, number>> = {
  ...Object.fromEntries(CONDITIONS.map((c) => [c.unit, c.temp_C])),
  'Sm3/h@20C': 20,
  'SCFM@68F': 20,
}
/** Temperature of the conditions that a unit of reference flow names, °C; undefined of another unit. */
export const temperatureOf = (unit: string): number | undefined => TEMPERATURE_OF[unit]

/** The conditions that are chosen. */
export const referenceChosen = (r: Reader) => CONDITIONS.find((c) => c.choice === r.text('reference')) ?? CONDITIONS[0]

/** The conditions that count: those of the range’s own unit, else those chosen. */
export function conditionsOf(r: Reader): { readonly unit: string; readonly temp_C: number } {
  const chosen = referenceChosen(r)
  const unit = r.text('carries') === REFERENCE ? loopUnit(carriedReader(CARRIED, r), chosen.unit) : chosen.unit
  const temp_C = temperatureOf(unit)
  return temp_C === undefined ? chosen : { unit, temp_C }
}

/** All three flows of the gas for 1 m³/h as it flows; undefined of a liquid, or while the gas is not known. */
export function gasFlowOf(r: Reader, c: ClampOn): GasFlow | undefined {
  const fluid = knownFluid(c)
  if (!fluid?.composition) return undefined
  const { composition, temp_C, pressure_kPa } = fluid
  const { temp_C: refTemp_C } = conditionsOf(r)
  const made = attempt(() => gasReferenceFlow({ composition, temp_C, pressure_kPa, refTemp_C, actualFlow_m3ph: 1 }))
  return made instanceof Refusal ? undefined : made
}

/** Between the loop's value and the flow through the bore. */
export interface Reported {
  /** The loop's unit. */
  readonly unit: string
  /** Per m³/h as it flows, in `of`; 1 where the loop carries that. */
  readonly factor: number | undefined
  readonly of: string
  readonly m3ph: (v: number) => number
  readonly own: (m3ph: number) => number
}

/** How the loop's value hangs on the flow through the bore; `factor` is undefined while the fluid is not known. */
export function reportedOf(r: Reader, c: ClampOn): Reported {
  const other = otherOf(CARRIED, r)
  const unit = loopUnit(carriedReader(CARRIED, r), other?.unit ?? USUAL)
  const made = (of: string, factor: number | undefined): Reported => ({
    unit,
    factor,
    of,
    m3ph: (v) => convertUnit(v, unit, of) / (factor ?? NaN),
    own: (m3ph) => convertUnit(m3ph * (factor ?? NaN), of, unit),
  })
  if (!other) return made(USUAL, 1)
  if (other === CARRIED.others[MASS]) return made('kg/h', knownFluid(c)?.density_kgm3)
  // A unit of another reference temperature than the gas was brought to would be off by its compressibility.
  return made(conditionsUnit(r), referencePer(r, c))
}

const conditionsUnit = (r: Reader): string => conditionsOf(r).unit
/** Flow at reference conditions, in the unit of the conditions, for 1 m³/h as it flows. */
export function referencePer(r: Reader, c: ClampOn): number | undefined {
  const flow = gasFlowOf(r, c)
  return flow && perReference(flow.referenceFlow_m3ph, conditionsUnit(r))
}
/** m³/h at the conditions of a unit, in that unit: SCFM counts cubic feet a minute. */
export const perReference = (m3ph: number, unit: string): number =>
  unit.startsWith('SCFM') ? convertUnit(m3ph, 'm3/h', 'ft3/min') : m3ph

export const conditionsWords = (): string =>
  `at ${formatQuantity(REFERENCE_PRESSURE_kPa / 100, 'bar', { decimals: 5 })} absolute`
