// The thread of a thermal insertion loop: from mass flow over the heated sensor to the controller.
import { thermalDifference, thermalFlow } from '../../flow/index.ts'
import { convertUnit, formatQuantity as show } from '../../quantity/index.ts'
import { Refusal } from '../../refusal/index.ts'
import { withCutoff, type Stage } from '../../thread/index.ts'
import { flowKnot, loopUnit } from '../flow/shared.ts'
import type { Reader } from '../reader.ts'
import { currentTail, cutoffIn, stageOr } from '../two-wire/index.ts'
import { USUAL } from './fields.ts'
import { lawOf } from './meter.ts'
import { sure } from '../../sure/index.ts'

export function threadOf(r: Reader) {
  const unit = loopUnit(r, USUAL)
  const law = lawOf(r)
  const digital = flowKnot({
    id: 'digital',
    role: 'digital',
    name: 'Reported mass flow',
    explains: 'The meter’s own digital value.',
    quantity: 'mass-flow',
    unit,
    decimals: 1,
  })
  const knots = [
    flowKnot({
      id: 'flow',
      role: 'process',
      name: 'Mass flow',
      explains: 'True mass flow in the pipe.',
      quantity: 'mass-flow',
      unit,
      decimals: 1,
    }),
    flowKnot({
      id: 'difference',
      role: 'sensor',
      name: 'Temperature difference',
      explains: 'Between the heated and the other thermometer.',
      quantity: 'temperature-difference',
      unit: 'delta_K',
      decimals: 2,
    }),
    digital,
  ]
  const wells = ['not at the centre line', 'deposits on the heated well', 'gas of another composition, or wet']
  const reckons = ['meter calibrated for another gas', 'pipe area entered wrong in the meter']
  const entered = r.missing('dtZero', 'dtFull', 'fullFlow')
  const needs = entered.length ? entered : law ? [] : ['a difference that falls with the flow']
  const usual = (v: number) => convertUnit(v, unit, USUAL)
  const own = (v: number) => convertUnit(v, USUAL, unit)
  const beyond = () => new Refusal('outside', 'A flow below none cools nothing')
  const forward = (v: number) => {
    if (v < 0) throw beyond()
    return thermalDifference(sure(law), usual(v))
  }
  const inverse = (d: number) => {
    if (!(d > 0)) throw beyond()
    return own(thermalFlow(sure(law), d))
  }
  const stages: Stage[] = [
    stageOr('Heated well', wells, needs, () => ({
      title: 'Heated well',
      causes: wells,
      ready: true,
      forward,
      inverse,
      working: (v) => ({
        title: 'Temperature difference',
        formula: 'ΔT = ΔT₀ / (1 + k·√ṁ)',
        numbers:
          `${show(sure(law).dtZero_K, 'K')} / ` +
          `(1 + (${show(sure(law).dtZero_K, 'K')}/${show(sure(law).dtFull_K, 'K')} − 1) × ` +
          `√(${show(usual(v), USUAL)} / ${show(sure(law).fullFlow, USUAL)})) = ${show(forward(v), 'K')}`,
        source: 'King’s law with exponent ½, through the two points of the certificate',
      }),
    })),
    withCutoff(
      stageOr('Meter', reckons, needs, () => ({
        title: 'Meter',
        causes: reckons,
        ready: true,
        forward: inverse,
        inverse: forward,
      })),
      cutoffIn(r, unit),
    ),
  ]
  const tail = currentTail(r, digital)
  return { knots: [...knots, ...tail.knots], stages: [...stages, ...tail.stages], ends: tail.ends }
}
