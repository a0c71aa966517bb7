// A kind of point: level measured in contact, by a guided wave along a probe, by the capacitance of a rod, or by a
// pressure that a device reports as a level.
import { formatQuantity as show } from '../../quantity/index.ts'
import { straightStage, type Knot, type Stage } from '../../thread/index.ts'
import { limitFindings } from '../direct/limits.ts'
import type { CurrentKind } from '../kind.ts'
import type { Reader } from '../reader.ts'
import { currentTail, rangeProcess } from '../two-wire/index.ts'
import { shownTail, vesselNeeds } from '../vessel/index.ts'
import { fields } from './fields.ts'
import { figuresOf } from './figures.ts'
import { findingsOf } from './findings.ts'
import { probeGeometry, type ProbeGeometry } from './geometry.ts'
import { setupOf, sheetsOf } from './sheets.ts'

export { probeGeometry, type ProbeGeometry } from './geometry.ts'

const unitOf = (r: Reader) => (r.missing('urv').length ? 'mm' : r.unit('urv'))

function threadOf(r: Reader, g: ProbeGeometry) {
  const unit = unitOf(r)
  const knot = (id: string, role: Knot['role'], name: string, explains: string): Knot => ({
    id,
    role,
    name,
    explains,
    quantity: 'length',
    unit,
    decimals: unit === 'm' ? 3 : 0,
  })
  const causes = ['probe or density data entered wrong', 'build-up on the probe', 'leg or impulse line not full']
  const sensor: Stage = g.off
    ? { title: 'Sensor', causes, ready: false, needs: ['the head on the process: off it, readings are void'] }
    : straightStage({
        title: 'Sensor',
        causes,
        from: [0, 1],
        to: [0, 1],
        working: (v) => ({
          title: 'Reported value',
          formula: 'reported = measured',
          numbers: `${show(v, unit)} = ${show(v, unit)}`,
          source: 'A sensor without error reports what is there',
        }),
      })
  const digital = knot('digital', 'digital', 'Reported value', 'The transmitter’s own digital value.')
  const at = {
    vessel: g.vessel,
    needs: [...vesselNeeds(r, 'tankDepth'), ...(g.make ? r.missing('tankDepth', 'emptyDistance') : [])],
    zero_mm: g.make ? (g.emptyAbove ?? 0) : 0,
  }
  const tail = shownTail(r, currentTail(r, digital), at)
  return {
    knots: [knot('process', 'process', 'Level', 'True level at the sensor.'), digital, ...tail.knots],
    stages: [sensor, ...tail.stages],
    ends: tail.ends,
  }
}

export const levelInContact: CurrentKind = {
  id: 'level-in-contact',
  name: 'Level by probe',
  listed: ['guided wave', 'guided radar', 'guided wave radar', 'capacitance', 'capacitive', 'level probe'],
  summary: 'A guided-wave probe, rod, cable or coaxial, or a capacitance rod, in the liquid; 4–20 mA.',
  family: 'current',
  fields,
  has: { meter: false, setup: true, doubt: false, sheets: true },
  look(r) {
    const g = probeGeometry(r)
    const unit = unitOf(r)
    const setup = () => setupOf(r, g)
    return {
      thread: threadOf(r, g),
      figures: figuresOf(r, g),
      findings: [...limitFindings(r, unit), ...findingsOf(r, g)],
      rangeUnit: unit,
      tripUnit: unit,
      procedures: ['zero-trim', 'sensor-trim'],
      sensorLimits: (of) => ({ low: r.in('sensorLow', of), high: r.in('sensorHigh', of) }),
      process: () => rangeProcess(r, unit),
      setup,
      sheets: () => sheetsOf(g, setup()),
    }
  },
  check: {
    works: ['loop-check', 'probe'],
    trueInput: 'True level reached',
    reference: 'dip gauge or sight glass',
    process: 'Level',
    cautions: [
      'Tell operations and put the loop in manual: a false value drives valves and trips.',
      'Hot or corrosive contents under pressure: nothing is opened without the site’s permit.',
    ],
  },
}
