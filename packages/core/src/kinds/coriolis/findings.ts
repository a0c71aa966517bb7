// What is wrong or unwise about a Coriolis meter, its constants and its outputs.
import { isBackward } from './thread.ts'
import type { Finding } from '../../findings/index.ts'
import { CORIOLIS_SIZES, compareDigits, lostDecimal } from '../../flow/index.ts'
import { convertUnit, formatQuantity as show } from '../../quantity/index.ts'
import { Refusal } from '../../refusal/index.ts'
import { finding } from '../../findings/index.ts'
import type { Reader } from '../reader.ts'
import { certificateKey, CONSTANTS, tagKey } from './constants.ts'
import { known, type Coriolis } from './setup.ts'
import { combinedFactor, ONE_FIGURE, pulseMass } from './tag.ts'
import { sure } from '../../sure/index.ts'

/** Each constant by itself, and its tag against its certificate. */
function constantFindings(r: Reader, c: Coriolis): Finding[] {
  const found: Finding[] = []
  for (const constant of CONSTANTS) {
    const value = c.constants[constant.key]
    if (value instanceof Refusal)
      found.push(
        finding({
          grade: 'stop',
          code: `not-a-number-${constant.key}`,
          fields: [tagKey(constant.key)],
          what: `${constant.label}: ${value.message}`,
          why: 'A constant that cannot be read cannot be keyed in.',
          action: 'Type it digit by digit as it is printed.',
          sure: 'Certain.',
        }),
      )
    const [tag, cert] = [r.text(tagKey(constant.key)), r.text(certificateKey(constant.key))]
    if (tag && cert && !compareDigits(tag, cert).same)
      found.push(
        finding({
          grade: compareDigits(tag, cert).equalValue ? 'note' : 'stop',
          code: `tag-against-certificate-${constant.key}`,
          fields: [tagKey(constant.key), certificateKey(constant.key)],
          what: `${constant.label}: the tag says ${tag}, the certificate ${cert}.`,
          why: compareDigits(tag, cert).equalValue
            ? 'The same value, written differently.'
            : 'One of the two belongs to another sensor, or was miscopied.',
          action: 'Read both again; the certificate with the sensor’s serial number counts.',
          sure: 'Certain, if both were copied right.',
        }),
      )
  }
  return found
}

/** The constants against the size of the sensor and against one another. */
function calibrationFindings(r: Reader, c: Coriolis): Finding[] {
  const found: Finding[] = []
  const cal = known(c.constants['flowCal'])
  const size = r.text('size')
  if (cal !== undefined && size) {
    const { usual, factor } = lostDecimal(cal, size)
    const row = CORIOLIS_SIZES.find((s) => s.id === size)
    if (!usual)
      found.push(
        finding({
          grade: 'stop',
          code: 'lost-decimal',
          fields: [tagKey('flowCal'), 'size'],
          what:
            `A flow calibration factor of ${r.text(tagKey('flowCal'))} is not one of a ${size} sensor, whose ` +
            `are about ${row?.flowCal.join(' to ')}.`,
          why: factor
            ? `With the decimal point moved it would be ${Number((cal * factor).toPrecision(6))}: a point was ` +
              'lost. Every flow would be wrong by that much.'
            : 'Every flow would be wrong by that much.',
          action: 'Read the tag again, and the size.',
          sure: factor ? 'Very likely.' : 'Likely; the size may be wrong instead.',
        }),
      )
  }
  if (cal !== undefined && cal <= 0)
    found.push(
      finding({
        grade: 'stop',
        code: 'flow-cal-not-positive',
        fields: [tagKey('flowCal')],
        what: 'The flow calibration factor is not above 0.',
        why: 'No sensor has such a one.',
        action: 'Read the tag again.',
        sure: 'Certain.',
      }),
    )
  const [p1, p2, d1, d2] = ['lowPeriod', 'highPeriod', 'lowDensity', 'highDensity'].map((k) => known(c.constants[k]))
  if (p1 !== undefined && p1 === p2)
    found.push(
      finding({
        grade: 'stop',
        code: 'equal-periods',
        fields: [tagKey('lowPeriod'), tagKey('highPeriod')],
        what: 'The two reference periods are equal.',
        why: 'Between them there is no density.',
        action: 'Read them again: the heavier reference has the longer period.',
        sure: 'Certain.',
      }),
    )
  else if (p1 !== undefined && p2 !== undefined && d1 !== undefined && d2 !== undefined && p1 > p2 === d1 < d2)
    found.push(
      finding({
        grade: 'look',
        code: 'periods-swapped',
        fields: [tagKey('lowPeriod'), tagKey('highPeriod'), tagKey('lowDensity'), tagKey('highDensity')],
        what: 'The heavier reference has the shorter period.',
        why: 'A fuller tube swings slower: two constants are swapped.',
        action: 'Read the four again.',
        sure: 'Nearly certain.',
      }),
    )
  return [...found, ...densityFindings(r, d1, d2), ...unusualConstants(r, c)]
}

/** From what to what the constants of meters lie, in the units that they are computed in: usual figures. */
const USUAL_CONSTANTS: Readonly<Record<string, readonly [number, number]>> = {
  ...{ flowTemp: [0.5, 12], periodTemp: [0.5, 12] },
  ...{ lowPeriod: [500, 50_000], highPeriod: [500, 50_000], lowDensity: [0, 900] },
}
/** Constants that no sensor of any size has: a point lost, or printed for other degrees. */
function unusualConstants(r: Reader, c: Coriolis): Finding[] {
  return Object.entries(USUAL_CONSTANTS).flatMap(([key, [low, high]]) => {
    const value = known(c.constants[key])
    if (value === undefined || (value >= low && value <= high)) return []
    const constant = sure(CONSTANTS.find((each) => each.key === key))
    const of = r.text(tagKey(key)) || r.text(tagKey('flowCal'))
    return [
      finding({
        grade: 'look',
        code: 'constant-unusual',
        fields: [tagKey(key), key.endsWith('Temp') ? 'tagCoefficientFor' : 'tagDensityIn'],
        what: `${constant.label} “${of}” would be ${Number(value.toPrecision(6))} ${constant.unit}.`,
        why: `Sensors have ${low} to ${high}: a point was lost, or it is printed in another unit.`,
        action: 'Read the tag again, and the unit that it prints.',
        sure: 'Likely.',
      }),
    ]
  })
}

/** No liquid that a meter is calibrated with is lighter or heavier, kg/m³. */
const [LIGHTEST, HEAVIEST] = [300, 3000]

/** The two reference densities: apart from one another, and in the unit that they are kept in. */
function densityFindings(r: Reader, low: number | undefined, high: number | undefined): Finding[] {
  const fields = [tagKey('lowDensity'), tagKey('highDensity')]
  if (low !== undefined && low === high)
    return [
      finding({
        grade: 'stop',
        code: 'equal-densities',
        fields,
        what: 'The two reference densities are equal.',
        why: 'Two periods of one density say nothing of another.',
        action: 'Read them again: one is usually of air, the other of water.',
        sure: 'Certain.',
      }),
    ]
  const usual = (v: number) => v >= LIGHTEST && v <= HEAVIEST
  const by = high === undefined || usual(high) ? undefined : [1000, 0.001].find((f) => usual(high * f))
  if (high === undefined || by === undefined) return []
  return [
    finding({
      grade: 'look',
      code: 'density-unit',
      fields,
      what:
        `A high reference density of ${r.text(tagKey('highDensity'))} ${r.text('tagDensityIn')} is far too ` +
        `${by > 1 ? 'small' : 'large'}.`,
      why:
        `Tags print it in kg/m³, g/cm³ or lb/ft³: a thousand times ${by > 1 ? 'more' : 'less'} it would be usual. ` +
        'Every density would be wrong.',
      action: 'Read the unit on the tag, and choose it above the constants.',
      sure: 'Nearly certain: meters are calibrated with water or a liquid like it.',
    }),
  ]
}

/** A pulse that stands for no mass, and a factor whose coefficient is not beside it. */
function unreadableFindings(r: Reader): Finding[] {
  const mass = r.text('pulseBy') === 'kilograms per pulse' ? pulseMass(r.text('kgPerPulse')) : undefined
  const form = r.text('tagFactorForm') === ONE_FIGURE ? r.text(tagKey('flowCal')) : ''
  return [
    ...(mass instanceof Refusal
      ? [
          finding({
            grade: 'stop',
            code: 'pulse-mass-unreadable',
            fields: ['kgPerPulse'],
            what: mass.message,
            why: 'Without it no frequency can be worked out, and the total counts nothing known.',
            action: 'Type it as a number of kilograms, or with its unit.',
            sure: 'Certain.',
          }),
        ]
      : []),
    ...(form && !combinedFactor(form)
      ? [
          finding({
            grade: 'stop',
            code: 'factor-not-combined',
            fields: [tagKey('flowCal'), 'tagFactorForm'],
            what: `“${form}” is no factor with its coefficient beside it.`,
            why: 'Without the coefficient the flow is wrong as soon as the tube is warm.',
            action: 'Type both as printed, with a blank or a slash between, or choose two figures.',
            sure: 'Certain.',
          }),
        ]
      : []),
  ]
}

/** What the outputs make of it. */
function outputFindings(r: Reader, c: Coriolis): Finding[] {
  const found: Finding[] = []
  const cutoff = r.in('cutoff', 'kg/h')
  if (cutoff !== undefined && cutoff <= 0)
    found.push(
      finding({
        grade: 'stop',
        code: 'cutoff-not-positive',
        fields: ['cutoff'],
        what: 'The low-flow cutoff is not above 0.',
        why: 'Without one the total creeps while nothing flows: vibration and noise are counted as mass.',
        action: 'Enter the smallest flow that means anything, at least the zero’s stability.',
        sure: 'Certain.',
      }),
    )
  if (c.pulse && !(c.pulse instanceof Refusal) && c.pulse.saturated)
    found.push(
      finding({
        grade: 'stop',
        code: 'pulses-lost',
        fields: ['pulseBy', 'receiverLimit', 'urv'],
        what:
          'At the upper range value the output would need more than ' +
          `${show(sure(r.in('receiverLimit', 'Hz')), 'Hz', { trim: true })}.`,
        why:
          `Above ${show(convertUnit(c.pulse.flowAtMax, 'kg/s', 'kg/h'), 'kg/h', { decimals: 0 })} pulses are ` +
          'lost, and with them the total.',
        action: 'Let each pulse stand for more, or take a faster receiver.',
        sure: 'Certain.',
      }),
    )
  if (isBackward(r) && r.text('source') !== 'density' && r.text('source') !== 'temperature') {
    const both = r.text('direction') === 'both ways'
    found.push(
      finding({
        grade: both ? 'note' : 'stop',
        code: 'against-arrow',
        fields: ['runs', 'direction'],
        what: both
          ? 'Flow in the pipe runs against the arrow: the device reports it as negative.'
          : `Flow in the pipe runs ${r.text('runs')}; set to ${r.text('direction')}, the device reports none.`,
        why: both
          ? 'The range must reach below zero, or the current stands at its low end.'
          : 'The loop shows no flow however much runs, and its totals stand still.',
        action: both
          ? 'Set the lower range value below zero.'
          : 'Set the direction as the pipe runs, or turn the sensor.',
        sure: 'Certain, if the mounting was looked at.',
      }),
    )
  }
  if (r.text('display') === 'lit' && r.text('output') === 'two-wire')
    found.push(
      finding({
        grade: 'note',
        code: 'display-takes-volts',
        fields: ['display', 'displayVolts', 'liftOff'],
        what:
          `The lit display takes ${show(r.in('displayVolts', 'V') ?? 0, 'V', { trim: true })} more of the loop; ` +
          'the budget counts it.',
        why: 'At a short supply the current clips at the top of the range.',
        action: 'Enter the lift-off voltage of the dark device; where volts are short, leave the display dark.',
        sure: 'Usual for two-wire meters.',
      }),
    )
  const size = r.text('size')
  const max = CORIOLIS_SIZES.find((s) => s.id === size)?.fullFlow_kgph
  const urv = r.in('urv', 'kg/h')
  if (max !== undefined && urv !== undefined && urv > max)
    found.push(
      finding({
        grade: 'look',
        code: 'beyond-size',
        fields: ['urv', 'size'],
        what: `The range reaches ${show(urv, 'kg/h', { trim: true })}; a ${size} sensor is usual to ${max} kg/h.`,
        why: 'At the top the pressure drop is large and the tube is driven hard.',
        action: 'Check size and range.',
        sure: 'Usual figures.',
      }),
    )
  return found
}

export const findingsOf = (r: Reader, c: Coriolis): Finding[] => [
  ...constantFindings(r, c),
  ...calibrationFindings(r, c),
  ...outputFindings(r, c),
  ...unreadableFindings(r),
]
