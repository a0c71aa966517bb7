// What a Coriolis meter comes to: density, pulses, zero, pressure, and its doubt.
import { gasProperties, GAS_PRESETS, waterProperties } from '../../fluid/index.ts'
import type { FlowModel } from '../../flow/index.ts'
import { convertUnit, formatQuantity as show } from '../../quantity/index.ts'
import { Refusal } from '../../refusal/index.ts'
import { ATMOSPHERE_kPa, figure, loopUnit } from '../flow/shared.ts'
import type { Figure } from '../kind.ts'
import type { Reader } from '../reader.ts'
import { tagKey } from './constants.ts'
import { known, slopeOf, type Coriolis } from './setup.ts'
import { USUAL } from './usual.ts'
import { sure } from '../../sure/index.ts'

/**
 * Density of the reference at a temperature, kg/m³: clean water, or dry air, at atmospheric pressure. @throws Refusal
 */
export function referenceDensity(of: 'water' | 'air', temp_C: number): { density_kgm3: number; model: string } {
  if (of === 'water') return { density_kgm3: waterProperties(temp_C, ATMOSPHERE_kPa).density_kgm3, model: 'IAPWS-95' }
  const air = sure(GAS_PRESETS.find((p) => p.id === 'air'))
  return {
    density_kgm3: gasProperties(air.composition, temp_C, ATMOSPHERE_kPa).density_kgm3,
    model: 'AGA Report No. 8 Part 1, DETAIL',
  }
}

export function figuresOf(r: Reader, c: Coriolis): Figure[] {
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
    figure({
      id: 'slope',
      label: 'Factor at temperature, g/s per µs',
      unit: '1',
      decimals: 4,
      value: slope,
      from: {
        ...from(
          'cal · (1 − coeff/100 · t/100 °C), g/s per µs',
          `${r.text(tagKey('flowCal'))} × (1 − ${r.text(tagKey('flowTemp'))}/100 × ${c.temp_C ?? ''}/100)`,
        ),
        needs: c.flowNeeds,
      },
    }),
    figure({
      id: 'delay-full',
      label: 'Time delay at the upper range value',
      unit: 'us',
      decimals: 3,
      value: delay(urv),
      from: from(
        'Δt = ṁ / factor',
        `${urv === undefined ? '' : show(urv, 'g/s', { decimals: 2 })} / ${slope?.toFixed(4)} g/s per µs`,
      ),
    }),
    figure({
      id: 'cutoff-delay',
      label: 'Time delay at the cutoff',
      unit: 'us',
      decimals: 4,
      value: delay(cutoff),
      from: {
        ...from(
          'Δt = cutoff / factor',
          `${cutoff === undefined ? '' : show(cutoff, 'g/s', { decimals: 3 })} / ${slope?.toFixed(4)} g/s per µs`,
        ),
        needs: [...c.flowNeeds, ...r.missing('cutoff')],
      },
    }),
    ...(unused
      ? []
      : [
          figure({
            id: 'pulse-frequency',
            label: 'Frequency at the upper range value',
            unit: 'Hz',
            decimals: 2,
            value: pulse?.frequency_Hz,
            from: {
              needs: pulseNeeds,
              says: 'needs a scaling above 0',
              working: () => ({
                formula: 'f = ṁ / (mass per pulse), held at the receiver’s limit',
                numbers:
                  `${show(sure(r.in('urv', 'kg/s')), 'kg/s', { decimals: 4 })} / ` +
                  `${sure(pulse).unitsPerPulse.toPrecision(5)} kg`,
                source: 'The scaling as entered',
              }),
            },
          }),
          figure({
            id: 'kg-per-pulse',
            label: 'Mass for each pulse, kg',
            unit: '1',
            decimals: 6,
            value: pulse?.unitsPerPulse,
            from: {
              needs: pulseNeeds,
              says: 'needs a scaling above 0',
              working: () => ({
                formula: 'kilograms of each pulse',
                numbers: 'from the scaling',
                source: 'The scaling as entered',
              }),
            },
          }),
          figure({
            id: 'flow-at-limit',
            label: 'Flow at the receiver’s limit',
            unit,
            decimals: 1,
            value: pulse && convertUnit(pulse.flowAtMax, 'kg/s', unit),
            from: {
              needs: pulseNeeds,
              says: 'needs a scaling above 0',
              working: () => ({
                formula: 'ṁ = limit × mass per pulse',
                numbers:
                  `${show(sure(r.in('receiverLimit', 'Hz')), 'Hz', { trim: true })} × ` +
                  `${sure(pulse).unitsPerPulse.toPrecision(5)} kg`,
                source: 'The scaling as entered',
              }),
            },
          }),
        ]),
  ]
}

/** Mass flow at mid range with every doubt of constants and zero. */
export function modelOf(r: Reader, c: Coriolis): FlowModel | undefined {
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
    compute: (v) => [
      (3.6 * sure(v[0]) * (sure(v[4]) - sure(v[3])) * (1 - (sure(v[1]) / 100) * (sure(v[2]) / 100))) / 1000,
    ],
  }
}
