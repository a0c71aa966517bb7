// The thread of a Coriolis loop: from mass flow over the time between the tube’s ends to the controller.
import { convertUnit, formatQuantity as show } from '../../quantity/index.ts'
import { withCutoff, type Knot, type Stage, type Thread } from '../../thread/index.ts'
import { inSentence } from '../../words/index.ts'
import { carriedReader, otherOf, type Variable } from '../flow/carried.ts'
import { flowKnot, loopUnit } from '../flow/shared.ts'
import type { Reader } from '../reader.ts'
import { currentTail, cutoffIn, stageOr } from '../two-wire/index.ts'
import { tagKey } from './constants.ts'
import { slopeOf, type Coriolis } from './setup.ts'
import { USUAL } from './usual.ts'
import { CARRIED } from './variables.ts'
import { sure } from '../../sure/index.ts'

/** Whether the device calls flow in the pipe negative. */
export const isBackward = (r: Reader): boolean =>
  (r.text('runs') === 'against the arrow') !== (r.text('direction') === 'against the arrow')

/** Sign of the flow by the arrow, sign that the device gives it, and what it then reports of it. */
function directionOf(r: Reader) {
  const mounted = r.text('runs') === 'against the arrow' ? -1 : 1
  const set = r.text('direction') === 'against the arrow' ? -1 : 1
  const both = r.text('direction') === 'both ways'
  return { mounted, set, reported: (v: number) => (both ? v : Math.max(0, set * v)) }
}

/** The thread of another variable than mass flow: what the process has, what the device reports, the loop. */
function otherThread(r: Reader, variable: Variable): Thread {
  const own = carriedReader(CARRIED, r)
  const unit = loopUnit(own, variable.unit)
  const knot = { quantity: variable.quantity, unit, decimals: variable.decimals }
  const digital: Knot = {
    ...{ id: 'digital', role: 'digital', name: `Reported ${inSentence(variable.name)}` },
    ...{ explains: 'The transmitter’s own digital value.', ...knot },
  }
  const process: Knot = {
    ...{ id: 'process', role: 'process', name: variable.name },
    ...{ explains: `True ${inSentence(variable.name)} in the tube.`, ...knot },
  }
  const causes = ['constants entered wrong in the transmitter', 'tube coated or worn', 'gas in the liquid']
  const tail = currentTail(own, digital)
  // A flow has a direction; density and temperature have none.
  const { mounted, set, reported } =
    variable === CARRIED.others['volume flow'] ? directionOf(r) : { mounted: 1, set: 1, reported: (v: number) => v }
  const measures: Stage = {
    title: 'Meter',
    causes,
    ready: true,
    forward: (v) => reported(mounted * v),
    inverse: (v) => mounted * set * v,
    working: (v) => ({
      title: digital.name,
      formula: 'reported = true',
      numbers: `${show(v, unit, { trim: true })} = ${show(reported(mounted * v), unit, { trim: true })}`,
      source: 'A meter that is as it should be, and the direction set in it',
    }),
  }
  return { knots: [process, digital, ...tail.knots], stages: [measures, ...tail.stages], ends: tail.ends }
}

export function threadOf(r: Reader, c: Coriolis): Thread {
  const other = otherOf(CARRIED, r)
  if (other) return otherThread(r, other)
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
  // The sign of the delay is that of the arrow; the device turns it, or drops what runs the other way.
  const { mounted, set, reported } = directionOf(r)
  const stages: Stage[] = [
    stageOr('Tube', tube, needs, () => ({
      title: 'Tube',
      causes: tube,
      ready: true,
      forward: (v) => (mounted * gps(v)) / sure(slope),
      inverse: (d) => mounted * own(d * sure(slope)),
      working: (v) => ({
        title: 'Time delay',
        formula: 'Δt = ṁ / (cal · (1 − coeff·t))',
        numbers:
          `${show(gps(v), 'g/s', { decimals: 2 })} / (${r.text(tagKey('flowCal'))} g/s per µs × (1 − ` +
          `${r.text(tagKey('flowTemp'))} % × ${show(sure(c.temp_C), 'degC', { trim: true })}/100 °C)) = ` +
          `${show((mounted * gps(v)) / sure(slope), 'us', { decimals: 3 })}` +
          (mounted < 0 ? ', against the arrow' : ''),
        source: 'Coriolis force twists the tube in proportion to the mass flow; constants from the tag',
      }),
    })),
    withCutoff(
      stageOr('Transmitter', reckons, needs, () => ({
        title: 'Transmitter',
        causes: reckons,
        ready: true,
        forward: (d) => reported(own(d * sure(slope))),
        inverse: (v) => gps(v * set) / sure(slope),
      })),
      cutoffIn(r, unit),
    ),
  ]
  const tail = currentTail(r, digital)
  return { knots: [...knots, ...tail.knots], stages: [...stages, ...tail.stages], ends: tail.ends }
}
