// A kind of point: mass flow and density by a Coriolis meter.
import { insteadOf, otherOf } from '../flow/carried.ts'
import { linesOf, OUTPUT_KEYS } from '../flow/setup-lines.ts'
import { MANUAL } from '../flow/shared.ts'
import type { SetupLine } from '../kind.ts'
import { flowKind } from '../flow/flow-kind.ts'
import type { Reader } from '../reader.ts'
import { coriolisMeter } from './bench.ts'
import { CONSTANTS, tagKey } from './constants.ts'
import { fields } from './fields.ts'
import { coriolisOf, slopeOf } from './setup.ts'
import { coriolisSheets } from './sheets.ts'
import { figuresOf, modelOf } from './figures.ts'
import { findingsOf } from './findings.ts'
import { threadOf } from './thread.ts'
import { readConstants, tagTexts } from './tag.ts'
import { USUAL } from './usual.ts'
import { CARRIED } from './variables.ts'
export { ALERTS } from './alerts.ts'
export { referenceDensity } from './figures.ts'
export { DENSITY_LIMIT_kgm3 } from './sheets.ts'

export { CONSTANTS, certificateKey, lettersKey, tagKey, type Constant } from './constants.ts'
export { coriolisOf, type Coriolis } from './setup.ts'

/** Lines of what a device need not have: there where they were entered. */
const NOT_EVERYWHERE = ['total1Way', 'total2Way', 'displayLanguage', 'displayTurned']

function setupOf(r: Reader): SetupLine[] {
  return everyLine(r).filter((l) => l.text || !NOT_EVERYWHERE.includes(l.key))
}

function everyLine(r: Reader): SetupLine[] {
  return [
    ...linesOf(r, ['Sensor:', 'size', 'sensorSerial', 'driveClass']),
    ...CONSTANTS.filter((c) => !c.optional || r.text(tagKey(c.key))).map((c) => ({
      key: c.key,
      group: 'Constants',
      label: `${c.label}${c.unit ? `, ${c.unit}` : ''}`,
      text: r.text(tagKey(c.key)),
    })),
    ...linesOf(r, [
      'Units:',
      'massUnit',
      'volumeUnit',
      'densityUnit',
      'tempUnit',
      'direction',
      'Totals:',
      'total1',
      'total1Way',
      'total2',
      'total2Way',
      'Output:',
      'source',
    ]),
    ...linesOf(
      r,
      OUTPUT_KEYS.map((key) => insteadOf(CARRIED, r)[key] ?? key),
    ),
    ...linesOf(r, [
      'Pulse output:',
      'pulseBy',
      'pulseRate',
      'pulseFrequency',
      'pulsesPerKg',
      'kgPerPulse',
      'Display:',
      'display',
      'displayLanguage',
      'displayTurned',
    ]),
  ]
}

export const coriolis = flowKind({
  id: 'coriolis',
  name: 'Flow, Coriolis',
  // Before, the lift-off voltage was asked for with the display lit.
  version: 2,
  migrate: (entries) =>
    entries['display']?.typed === 'lit' && !entries['displayVolts']
      ? { ...entries, displayVolts: { typed: '0 V', value: 0, unit: 'V' } }
      : entries,
  listed: ['coriolis', 'coriolis mass flow', 'coriolis flow'],
  summary: 'A vibrating tube that measures mass flow and density; 4–20 mA and pulses.',
  fields,
  usual: USUAL,
  carried: CARRIED,
  check: {
    works: ['loop-check', 'mass-meter'],
    trueInput: 'True mass flow reached',
    reference: 'reference meter or the meter’s own simulation',
    process: 'Mass flow',
    cautions: [
      MANUAL,
      'Hot or corrosive contents under pressure: nothing is opened or blocked in without the site’s procedure.',
    ],
  },
  known: coriolisOf,
  thread: threadOf,
  figures: figuresOf,
  findings: findingsOf,
  sheets: (r) => coriolisSheets(r, setupOf(r)),
  doubt: modelOf,
  setup: (r) => setupOf(r),
  meter(r, c, keyed, unit) {
    const cutoff_gps = r.in('cutoff', 'g/s')
    // The bench’s meter moves a mass flow; another variable is moved as any transmitter’s value.
    if (otherOf(CARRIED, r)) return undefined
    if (slopeOf(c) === undefined || c.temp_C === undefined || cutoff_gps === undefined) return undefined
    return coriolisMeter({
      tag: tagTexts(r),
      read: readConstants(r),
      keyed,
      temp_C: c.temp_C,
      density_kgm3: r.in('fluidDensity', 'kg/m3') ?? 1000,
      cutoff_gps,
      unit,
    })
  },
})
