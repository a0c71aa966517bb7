// What can be wrong with the fluid of a clamp-on point.
import { compositionWords, normalised } from '../../fluid/index.ts'
import type { Finding } from '../../findings/index.ts'
import { formatQuantity as show, unitOf } from '../../quantity/index.ts'
import { attempt, Refusal } from '../../refusal/index.ts'
import { finding } from '../../findings/index.ts'
import { notPositive } from '../not-positive.ts'
import type { Reader } from '../reader.ts'
import { carriedReader, insteadOf } from '../flow/carried.ts'
import { CARRIED, REFERENCE, referenceChosen, temperatureOf } from './carried.ts'
import { compositionOf } from './fluid.ts'
import { knownFluid, type ClampOn } from './setup.ts'

/** Pressure below which little of a gas’s signal comes through the wall, bar gauge. */
export const GAS_FLOOR_bar = 7
export const gasFloor = (): string => show(GAS_FLOOR_bar, 'bar', { decimals: 1, trim: true })

/** What a change of a state that the meter is told, and does not measure, does to the flow it reports, %. */
function shareOf(c: ClampOn, change: { readonly temp_C?: number; readonly pressure_kPa?: number }): string {
  const fluid = knownFluid(c)
  const moved = fluid && attempt(() => fluid.otherwise(change).density_kgm3)
  return !fluid || moved === undefined || moved instanceof Refusal
    ? ''
    : show((100 * (moved - fluid.density_kgm3)) / fluid.density_kgm3, '%', { decimals: 1, sign: true })
}

const stateWords = (bar: string, warmer: string): string =>
  `${show(1, 'bar', { trim: true })} more is ${bar} of what flows, ${show(5, 'delta_K', { trim: true })} more ` +
  `${warmer}: the meter would not see it.`

/** A gas brought to other conditions than it flows at. */
function reportedFindings(c: ClampOn, r: Reader): Finding[] {
  const carries = r.text('carries')
  if (carries === CARRIED.usual) return []
  const found: Finding[] = []
  const gas = r.text('medium') === 'gas'
  if (carries === REFERENCE && !gas)
    found.push(
      finding({
        grade: 'stop',
        code: 'reference-of-liquid',
        fields: ['carries', 'medium'],
        what: 'The meter is to report a liquid at reference conditions of a gas.',
        why: 'There is no such flow: nothing can be shown or sent.',
        action: 'Let it report the volume as it flows, or mass.',
        sure: 'Certain.',
      }),
    )
  if (!gas) return found
  const own = carriedReader(CARRIED, r)
  const chosen = referenceChosen(r)
  const ends = carries === REFERENCE ? ['urv', 'receiverHigh'].filter((key) => !own.missing(key).length) : []
  const apart = ends.filter((key) => temperatureOf(own.unit(key)) !== chosen.temp_C)
  if (apart.length)
    found.push(
      finding({
        grade: 'look',
        code: 'reference-apart',
        fields: ['reference', ...apart.map((key) => insteadOf(CARRIED, r)[key] ?? key)],
        what:
          `The site counts gas at ${chosen.choice}; ` +
          `${apart.map((key) => `${own.label(key)}: ${unitOf(own.unit(key)).label}`).join('; ')}.`,
        why: 'From the coldest reference in use to the warmest one and the same gas differs by 7 % of volume.',
        action: 'Use one reference at both ends, and the one of the contract.',
        sure: 'Certain.',
      }),
    )
  if (r.text('gasState') === 'fixed in the meter') {
    const [bar, warmer] = [shareOf(c, { pressure_kPa: 100 }), shareOf(c, { temp_C: 5 })]
    found.push(
      finding({
        grade: 'look',
        code: 'gas-state-fixed',
        fields: ['gasState', 'fluidPressure', 'fluidTemp'],
        what: 'Pressure and temperature of the gas are fixed figures in the meter.',
        why: bar && warmer ? stateWords(bar, warmer) : '',
        action: 'Wire a pressure and a temperature transmitter to the meter’s inputs, or state how far both may swing.',
        sure: 'By the gas equation.',
      }),
    )
  }
  return found
}

export function fluidFindings(c: ClampOn, r: Reader): Finding[] {
  const found: Finding[] = []
  const gas = r.text('medium') === 'gas'
  if (c.fluid instanceof Refusal && c.fluid.code !== 'composition-sum')
    found.push(
      finding({
        grade: 'stop',
        code: c.fluid.code,
        fields: gas ? ['composition', 'fluidTemp', 'fluidPressure'] : ['liquid', 'fluidTemp', 'fluidPressure'],
        what: c.fluid.message,
        why: 'The beam needs one sound speed; a fluid in two phases has none.',
        action: gas
          ? 'Check pressure and temperature; below the dew point this meter cannot be used.'
          : 'Check pressure and temperature; a boiling liquid cannot be metered.',
        sure: 'Certain by the fluid’s equation.',
      }),
    )
  if (gas) {
    const read = compositionOf(r)
    if (read && !(read instanceof Refusal) && Math.abs(read.sum - 1) > 1e-4)
      found.push(
        finding({
          grade: 'stop',
          code: 'composition-sum',
          fields: ['composition'],
          what: `The shares add up to ${Number((100 * read.sum).toPrecision(6))} %, not to 100 %.`,
          why: 'A component is missing or mistyped: the sound speed would be that of another gas.',
          action: 'Correct the analysis, or have the shares brought to 100 % (the button stands under the drawing).',
          sure: 'Certain.',
        }),
      )
    const bar = r.in('fluidPressure', 'bar')
    if (bar !== undefined && bar < GAS_FLOOR_bar)
      found.push(
        finding({
          grade: 'look',
          code: 'gas-pressure-low',
          fields: ['fluidPressure'],
          what:
            `The gas stands at ${show(bar, 'bar', { decimals: 1, trim: true })} gauge, below the floor of ` +
            `${gasFloor()}.`,
          why: 'A thin gas carries little sound out of the wall: the signal may be lost.',
          action: 'Raise the pressure for the measurement, or take another kind of meter.',
          sure: 'Usual floor; thin plastic walls need less.',
        }),
      )
    const fluid = knownFluid(c)
    if (fluid?.dewRisk !== undefined && fluid.dewRisk > 0.9)
      found.push(
        finding({
          grade: 'look',
          code: 'near-dew-point',
          fields: ['composition', 'fluidTemp', 'fluidPressure'],
          what: 'At this temperature and pressure part of the gas condenses, or nearly does.',
          why: 'Drops scatter the beam, and a gas in two phases has no one sound speed.',
          action: 'Check temperature, pressure and composition; move to a warmer place.',
          sure: 'Estimated by a simple rule.',
        }),
      )
  }
  found.push(
    ...notPositive(r, { ownSpeed: 'm/s', ownDensity: 'kg/m3', ownViscosity: 'mPa.s' }, 'No fluid has such a one.'),
    ...reportedFindings(c, r),
  )
  return found
}

/** The shares brought to 100 %, in words, when that can be offered. */
export function normalisedWords(r: Reader): string | undefined {
  const read = r.text('gas') === 'own' ? compositionOf(r) : undefined
  if (!read || read instanceof Refusal || Math.abs(read.sum - 1) <= 1e-4 || !(read.sum > 0)) return undefined
  return compositionWords(normalised(read.composition))
}
