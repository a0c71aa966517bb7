// A kind of point: mass flow and density by a Coriolis meter.
import { type Finding } from '../../findings/index.ts'
import { gasProperties, GAS_PRESETS, waterProperties } from '../../fluid/index.ts'
import { CORIOLIS_SIZES, compareDigits, lostDecimal, type FlowModel } from '../../flow/index.ts'
import { convertUnit, formatQuantity as show } from '../../quantity/index.ts'
import { Refusal } from '../../refusal/index.ts'
import { withCutoff, type Stage } from '../../thread/index.ts'
import { linesOf, OUTPUT_KEYS } from '../flow/setup-lines.ts'
import { ATMOSPHERE_kPa, figure, finding, flowKnot, loopUnit, MANUAL } from '../flow/shared.ts'
import type { Figure, SetupLine } from '../kind.ts'
import { flowKind } from '../flow/flow-kind.ts'
import type { Reader } from '../reader.ts'
import { currentTail, cutoffIn, stageOr } from '../two-wire/index.ts'
import { coriolisMeter } from './bench.ts'
import { certificateKey, CONSTANTS, tagKey } from './constants.ts'
import { fields } from './fields.ts'
import { coriolisOf, known, slopeOf, type Coriolis } from './setup.ts'
import { coriolisSheets } from './sheets.ts'

export { CONSTANTS, certificateKey, lettersKey, tagKey, type Constant } from './constants.ts'
export { coriolisOf, type Coriolis } from './setup.ts'

const USUAL = 'kg/h'

function threadOf(r: Reader, c: Coriolis) {
  const unit = loopUnit(r, USUAL)
  const slope = slopeOf(c)
  const digital = flowKnot(
    'digital',
    'digital',
    'Reported mass flow',
    'The transmitter’s own digital value.',
    'mass-flow',
    unit,
    1,
  )
  const knots = [
    flowKnot('flow', 'process', 'Mass flow', 'True mass flow through the tube.', 'mass-flow', unit, 1),
    flowKnot('delay', 'sensor', 'Time delay', 'Between the two ends of the tube.', 'time', 'us', 3),
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
      forward: (v) => gps(v) / slope!,
      inverse: (d) => own(d * slope!),
      working: (v) => ({
        title: 'Time delay',
        formula: 'Δt = ṁ / (cal · (1 − coeff·t))',
        numbers:
          `${show(gps(v), 'g/s', { decimals: 2 })} / (${r.text(tagKey('flowCal'))} g/s per µs × (1 − ` +
          `${r.text(tagKey('flowTemp'))} % × ${show(c.temp_C!, 'degC', { trim: true })}/100 °C)) = ` +
          `${show(gps(v) / slope!, 'us', { decimals: 3 })}`,
        source: 'Coriolis force twists the tube in proportion to the mass flow; constants from the tag',
      }),
    })),
    withCutoff(
      stageOr('Transmitter', reckons, needs, () => ({
        title: 'Transmitter',
        causes: reckons,
        ready: true,
        forward: (d) => own(d * slope!),
        inverse: (v) => gps(v) / slope!,
      })),
      cutoffIn(r, unit),
    ),
  ]
  const tail = currentTail(r, digital)
  return { knots: [...knots, ...tail.knots], stages: [...stages, ...tail.stages], ends: tail.ends }
}

/**
 * Density of the reference at a temperature, kg/m³: clean water, or dry air, at atmospheric pressure. @throws Refusal
 */
export function referenceDensity(of: 'water' | 'air', temp_C: number): { density_kgm3: number; model: string } {
  if (of === 'water') return { density_kgm3: waterProperties(temp_C, ATMOSPHERE_kPa).density_kgm3, model: 'IAPWS-95' }
  const air = GAS_PRESETS.find((p) => p.id === 'air')!
  return {
    density_kgm3: gasProperties(air.composition, temp_C, ATMOSPHERE_kPa).density_kgm3,
    model: 'AGA Report No. 8 Part 1, DETAIL',
  }
}

function figuresOf(r: Reader, c: Coriolis): Figure[] {
  const slope = slopeOf(c)
  const unit = loopUnit(r, USUAL)
  const urv = r.in('urv', 'g/s')
  const cutoff = r.in('cutoff', 'g/s')
  const unused = r.text('pulseBy') === 'none'
  const pulse = c.pulse instanceof Refusal ? undefined : c.pulse
  const pulseNeeds = r.missing('pulseRate', 'pulseFrequency', 'pulsesPerKg', 'kgPerPulse', 'urv')
  const delay = (gps: number | undefined) => (slope === undefined || gps === undefined ? undefined : gps / slope)
  const from = (formula: string, numbers: string) => ({
    needs: [...c.flowNeeds, ...r.missing('urv')],
    says: 'the constants give no usable factor',
    working: () => ({ formula, numbers, source: 'Constants from the tag, at the working temperature' }),
  })
  return [
    figure('slope', 'Factor at temperature, g/s per µs', '1', 4, slope, {
      ...from(
        'cal · (1 − coeff/100 · t/100 °C), g/s per µs',
        `${r.text(tagKey('flowCal'))} × (1 − ${r.text(tagKey('flowTemp'))}/100 × ${c.temp_C ?? ''}/100)`,
      ),
      needs: c.flowNeeds,
    }),
    figure(
      'delay-full',
      'Time delay at the upper range value',
      'us',
      3,
      delay(urv),
      from(
        'Δt = ṁ / factor',
        `${urv === undefined ? '' : show(urv, 'g/s', { decimals: 2 })} / ${slope?.toFixed(4)} g/s per µs`,
      ),
    ),
    figure('cutoff-delay', 'Time delay at the cutoff', 'us', 4, delay(cutoff), {
      ...from(
        'Δt = cutoff / factor',
        `${cutoff === undefined ? '' : show(cutoff, 'g/s', { decimals: 3 })} / ${slope?.toFixed(4)} g/s per µs`,
      ),
      needs: [...c.flowNeeds, ...r.missing('cutoff')],
    }),
    ...(unused
      ? []
      : [
          figure('pulse-frequency', 'Frequency at the upper range value', 'Hz', 2, pulse?.frequency_Hz, {
            needs: pulseNeeds,
            says: 'needs a scaling above 0',
            working: () => ({
              formula: 'f = ṁ / (mass per pulse), held at the receiver’s limit',
              numbers:
                `${show(r.in('urv', 'kg/s')!, 'kg/s', { decimals: 4 })} / ` +
                `${pulse!.unitsPerPulse.toPrecision(5)} kg`,
              source: 'The scaling as entered',
            }),
          }),
          figure('kg-per-pulse', 'Mass for each pulse, kg', '1', 6, pulse?.unitsPerPulse, {
            needs: pulseNeeds,
            says: 'needs a scaling above 0',
            working: () => ({
              formula: 'kilograms of each pulse',
              numbers: 'from the scaling',
              source: 'The scaling as entered',
            }),
          }),
          figure(
            'flow-at-limit',
            'Flow at the receiver’s limit',
            unit,
            1,
            pulse && convertUnit(pulse.flowAtMax, 'kg/s', unit),
            {
              needs: pulseNeeds,
              says: 'needs a scaling above 0',
              working: () => ({
                formula: 'ṁ = limit × mass per pulse',
                numbers:
                  `${show(r.in('receiverLimit', 'Hz')!, 'Hz', { trim: true })} × ` +
                  `${pulse!.unitsPerPulse.toPrecision(5)} kg`,
                source: 'The scaling as entered',
              }),
            },
          ),
        ]),
  ]
}

function findingsOf(r: Reader, c: Coriolis): Finding[] {
  const found: Finding[] = []
  for (const constant of CONSTANTS) {
    const value = c.constants[constant.key]
    if (value instanceof Refusal)
      found.push(
        finding(
          'stop',
          `not-a-number-${constant.key}`,
          [tagKey(constant.key)],
          `${constant.label}: ${value.message}`,
          'A constant that cannot be read cannot be keyed in.',
          'Type it digit by digit as it is printed.',
          'Certain.',
        ),
      )
    const [tag, cert] = [r.text(tagKey(constant.key)), r.text(certificateKey(constant.key))]
    if (tag && cert && !compareDigits(tag, cert).same)
      found.push(
        finding(
          compareDigits(tag, cert).equalValue ? 'note' : 'stop',
          `tag-against-certificate-${constant.key}`,
          [tagKey(constant.key), certificateKey(constant.key)],
          `${constant.label}: the tag says ${tag}, the certificate ${cert}.`,
          compareDigits(tag, cert).equalValue
            ? 'The same value, written differently.'
            : 'One of the two belongs to another sensor, or was miscopied.',
          'Read both again; the certificate with the sensor’s serial number counts.',
          'Certain, if both were copied right.',
        ),
      )
  }
  const cal = known(c.constants['flowCal'])
  const size = r.text('size')
  if (cal !== undefined && size) {
    const { usual, factor } = lostDecimal(cal, size)
    const row = CORIOLIS_SIZES.find((s) => s.id === size)
    if (!usual)
      found.push(
        finding(
          'stop',
          'lost-decimal',
          [tagKey('flowCal'), 'size'],
          `A flow calibration factor of ${r.text(tagKey('flowCal'))} is not one of a ${size} sensor, whose ` +
            `are about ${row?.flowCal.join(' to ')}.`,
          factor
            ? `With the decimal point moved it would be ${Number((cal * factor).toPrecision(6))}: a point was ` +
                'lost. Every flow would be wrong by that much.'
            : 'Every flow would be wrong by that much.',
          'Read the tag again, and the size.',
          factor ? 'Very likely.' : 'Likely; the size may be wrong instead.',
        ),
      )
  }
  if (cal !== undefined && cal <= 0)
    found.push(
      finding(
        'stop',
        'flow-cal-not-positive',
        [tagKey('flowCal')],
        'The flow calibration factor is not above 0.',
        'No sensor has such a one.',
        'Read the tag again.',
        'Certain.',
      ),
    )
  const [p1, p2, d1, d2] = ['lowPeriod', 'highPeriod', 'lowDensity', 'highDensity'].map((k) => known(c.constants[k]))
  if (p1 !== undefined && p1 === p2)
    found.push(
      finding(
        'stop',
        'equal-periods',
        [tagKey('lowPeriod'), tagKey('highPeriod')],
        'The two reference periods are equal.',
        'Between them there is no density.',
        'Read them again: the heavier reference has the longer period.',
        'Certain.',
      ),
    )
  else if (p1 !== undefined && p2 !== undefined && d1 !== undefined && d2 !== undefined && p1 > p2 === d1 < d2)
    found.push(
      finding(
        'look',
        'periods-swapped',
        [tagKey('lowPeriod'), tagKey('highPeriod'), tagKey('lowDensity'), tagKey('highDensity')],
        'The heavier reference has the shorter period.',
        'A fuller tube swings slower: two constants are swapped.',
        'Read the four again.',
        'Nearly certain.',
      ),
    )
  const cutoff = r.in('cutoff', 'kg/h')
  if (cutoff !== undefined && cutoff <= 0)
    found.push(
      finding(
        'stop',
        'cutoff-not-positive',
        ['cutoff'],
        'The low-flow cutoff is not above 0.',
        'Without one the total creeps while nothing flows: vibration and noise are counted as mass.',
        'Enter the smallest flow that means anything, at least the zero’s stability.',
        'Certain.',
      ),
    )
  if (c.pulse && !(c.pulse instanceof Refusal) && c.pulse.saturated)
    found.push(
      finding(
        'stop',
        'pulses-lost',
        ['pulseBy', 'receiverLimit', 'urv'],
        'At the upper range value the output would need more than ' +
          `${show(r.in('receiverLimit', 'Hz')!, 'Hz', { trim: true })}.`,
        `Above ${show(convertUnit(c.pulse.flowAtMax, 'kg/s', 'kg/h'), 'kg/h', { decimals: 0 })} pulses are ` +
          'lost, and with them the total.',
        'Let each pulse stand for more, or take a faster receiver.',
        'Certain.',
      ),
    )
  if (r.text('source') !== 'mass flow')
    found.push(
      finding(
        'look',
        'source-not-mass',
        ['source'],
        `The current follows the ${r.text('source')}, while the range here is a mass flow.`,
        'The controller would show one as if it were the other.',
        'Let the current follow the mass flow, or keep a folder of its own for the other variable.',
        'Certain.',
      ),
    )
  if (r.text('display') === 'lit' && r.text('output') === 'two-wire')
    found.push(
      finding(
        'note',
        'display-takes-volts',
        ['display', 'liftOff'],
        'A lit display takes about 1 V more of the loop.',
        'At a short supply the current clips at the top of the range.',
        'Enter the lift-off voltage with the display lit, or leave it dark.',
        'Usual for two-wire meters.',
      ),
    )
  const max = CORIOLIS_SIZES.find((s) => s.id === size)?.fullFlow_kgph
  const urv = r.in('urv', 'kg/h')
  if (max !== undefined && urv !== undefined && urv > max)
    found.push(
      finding(
        'look',
        'beyond-size',
        ['urv', 'size'],
        `The range reaches ${show(urv, 'kg/h', { trim: true })}; a ${size} sensor is usual to ${max} kg/h.`,
        'At the top the pressure drop is large and the tube is driven hard.',
        'Check size and range.',
        'Usual figures.',
      ),
    )
  return found
}

function setupOf(r: Reader): SetupLine[] {
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
      'total1',
      'total2',
      'Output:',
      'source',
    ]),
    ...linesOf(r, OUTPUT_KEYS),
    ...linesOf(r, [
      'Pulse output:',
      'pulseBy',
      'pulseRate',
      'pulseFrequency',
      'pulsesPerKg',
      'kgPerPulse',
      'Display:',
      'display',
    ]),
  ]
}

/** Mass flow at mid range with every doubt of constants and zero. */
function modelOf(r: Reader, c: Coriolis): FlowModel | undefined {
  const [cal, coeff, slope] = [known(c.constants['flowCal']), known(c.constants['flowTemp']), slopeOf(c)]
  const [a, b] = [r.in('lrv', 'g/s'), r.in('urv', 'g/s')]
  if (
    cal === undefined ||
    coeff === undefined ||
    slope === undefined ||
    c.temp_C === undefined ||
    a === undefined ||
    b === undefined
  )
    return undefined
  const delay = (a + b) / 2 / slope
  return {
    inputs: [
      {
        key: tagKey('flowCal'),
        label: 'Flow calibration factor',
        unit: '1',
        value: cal,
        tolerance: cal * 0.001,
        distribution: 'normal',
      },
      {
        key: tagKey('flowTemp'),
        label: 'Flow temperature coefficient',
        unit: '%',
        value: coeff,
        tolerance: Math.abs(coeff) * 0.05,
        distribution: 'rectangular',
      },
      {
        key: 'fluidTemp',
        label: 'Tube temperature',
        unit: 'degC',
        value: c.temp_C,
        tolerance: 1,
        distribution: 'rectangular',
      },
      {
        key: 'zeroLimit',
        label: 'Zero',
        unit: 'ns',
        value: 0,
        tolerance: r.in('zeroLimit', 'ns') ?? 0,
        distribution: 'rectangular',
      },
      { key: 'delay', label: 'Time delay', unit: 'ns', value: 1000 * delay, tolerance: 0.05, distribution: 'normal' },
    ],
    outputs: [{ id: 'flow', label: 'Mass flow', unit: 'kg/h', decimals: 2 }],
    compute: (v) => [(3.6 * v[0]! * (v[4]! - v[3]!) * (1 - (v[1]! / 100) * (v[2]! / 100))) / 1000],
  }
}

export const coriolis = flowKind({
  id: 'coriolis',
  name: 'Flow, Coriolis',
  summary: 'A vibrating tube that measures mass flow and density; 4–20 mA and pulses.',
  fields,
  usual: USUAL,
  check: {
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
  sheets: coriolisSheets,
  doubt: modelOf,
  setup: (r) => setupOf(r),
  meter(r, c, keyed, unit) {
    const cutoff_gps = r.in('cutoff', 'g/s')
    if (slopeOf(c) === undefined || c.temp_C === undefined || cutoff_gps === undefined) return undefined
    const tag = Object.fromEntries(CONSTANTS.map((k) => [k.key, r.text(tagKey(k.key))]))
    return coriolisMeter({
      tag,
      keyed,
      temp_C: c.temp_C,
      density_kgm3: r.in('fluidDensity', 'kg/m3') ?? 1000,
      cutoff_gps,
      unit,
    })
  },
})
