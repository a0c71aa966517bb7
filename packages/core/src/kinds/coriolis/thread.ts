// The thread of a Coriolis loop: from mass flow over the time between the tube’s ends to the controller.
import { convertUnit, formatQuantity as show } from '../../quantity/index.ts'
import { withCutoff, type Stage } from '../../thread/index.ts'
import { flowKnot, loopUnit } from '../flow/shared.ts'
import type { Reader } from '../reader.ts'
import { currentTail, cutoffIn, stageOr } from '../two-wire/index.ts'
import { tagKey } from './constants.ts'
import { slopeOf, type Coriolis } from './setup.ts'
import { USUAL } from './usual.ts'
import { sure } from '../../sure/index.ts'

export function threadOf(r: Reader, c: Coriolis) {
  const unit = loopUnit(r, USUAL)
  const slope = slopeOf(c)
  const digital = flowKnot({
    id: 'digital',
    role: 'digital',
    name: 'Reported mass flow',
    explains: 'The transmitter’s own digital value.',
    quantity: 'mass-flow',
    unit,
    decimals: 1,
  })
  const knots = [
    flowKnot({
      id: 'flow',
      role: 'process',
      name: 'Mass flow',
      explains: 'True mass flow through the tube.',
      quantity: 'mass-flow',
      unit,
      decimals: 1,
    }),
    flowKnot({
      id: 'delay',
      role: 'sensor',
      name: 'Time delay',
      explains: 'Between the two ends of the tube.',
      quantity: 'time',
      unit: 'us',
      decimals: 3,
    }),
    digital,
  ]
  const tube = ['gas in the liquid', 'zero not taken, or taken with flow', 'tube coated or worn']
  const reckons = [
    'constant entered wrong in the transmitter',
    'direction set against the arrow',
    'low-flow cutoff too high',
  ]
  const needs = slope === undefined && !c.flowNeeds.length ? ['a usable flow calibration factor'] : c.flowNeeds
  const gps = (v: number) => convertUnit(v, unit, 'g/s')
  const own = (v: number) => convertUnit(v, 'g/s', unit)
  const stages: Stage[] = [
    stageOr('Tube', tube, needs, () => ({
      title: 'Tube',
      causes: tube,
      ready: true,
      forward: (v) => gps(v) / sure(slope),
      inverse: (d) => own(d * sure(slope)),
      working: (v) => ({
        title: 'Time delay',
        formula: 'Δt = ṁ / (cal · (1 − coeff·t))',
        numbers:
          `${show(gps(v), 'g/s', { decimals: 2 })} / (${r.text(tagKey('flowCal'))} g/s per µs × (1 − ` +
          `${r.text(tagKey('flowTemp'))} % × ${show(sure(c.temp_C), 'degC', { trim: true })}/100 °C)) = ` +
          `${show(gps(v) / sure(slope), 'us', { decimals: 3 })}`,
        source: 'Coriolis force twists the tube in proportion to the mass flow; constants from the tag',
      }),
    })),
    withCutoff(
      stageOr('Transmitter', reckons, needs, () => ({
        title: 'Transmitter',
        causes: reckons,
        ready: true,
        forward: (d) => own(d * sure(slope)),
        inverse: (v) => gps(v) / sure(slope),
      })),
      cutoffIn(r, unit),
    ),
  ]
  const tail = currentTail(r, digital)
  return { knots: [...knots, ...tail.knots], stages: [...stages, ...tail.stages], ends: tail.ends }
}
