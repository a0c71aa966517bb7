// A pH electrode: the voltage that a pH makes, by its slope and offset of the last calibration.
import { idealSlope_mV } from '../../analysis/index.ts'
import type { Finding } from '../../findings/index.ts'
import { formatQuantity as show } from '../../quantity/index.ts'
import { straightStage, type Knot, type Stage } from '../../thread/index.ts'
import type { Field, Figure } from '../kind.ts'
import type { Reader } from '../reader.ts'
import { electrodeLine } from './electrode-line.ts'

const point = { stage: 'point', group: 'Electrode', type: 'quantity' } as const
const fields: readonly Field[] = [
  {
    ...point,
    key: 'phTemp',
    quantity: 'temperature',
    unit: 'degC',
    label: 'Temperature of the liquid',
    help: 'The slope of an electrode goes with its absolute temperature.',
    default: '25 degC',
  },
  {
    ...point,
    key: 'slopePercent',
    quantity: 'ratio',
    unit: '%',
    label: 'Slope of the electrode',
    help: 'Per cent of the ideal, from its last calibration.',
    default: '100 %',
  },
  {
    ...point,
    key: 'electrodeOffset',
    quantity: 'voltage',
    unit: 'mV',
    label: 'Offset at pH 7',
    help: 'From its last calibration.',
    default: '0 mV',
  },
  {
    stage: 'point',
    group: 'Electrode',
    type: 'choice',
    key: 'compensation',
    label: 'Temperature compensation',
    help: 'Whether the device measures the temperature of the liquid, or reckons with one that is set.',
    options: [
      { value: 'measured', label: 'by the measured temperature' },
      { value: 'fixed', label: 'at a temperature that is set' },
    ],
    default: 'measured',
  },
  {
    ...point,
    key: 'compTemp',
    quantity: 'temperature',
    unit: 'degC',
    label: 'Temperature that is set',
    help: 'What the device reckons with, whatever the liquid has.',
    default: '25 degC',
    when: { key: 'compensation', is: ['fixed'] },
  },
  {
    stage: 'point',
    group: 'Electrode',
    type: 'text',
    key: 'electrodeSerial',
    label: 'Serial number of the electrode',
    help: 'Of the electrode itself, not of its transmitter: its history goes with it.',
  },
]

const termsOf = (r: Reader) => {
  const line = electrodeLine(r)
  return { ...line, temp: line.temp_C, offset: line.offset_mV, slope: line.slope_mVperPh }
}

const KELVIN = 273.15
const mV2 = (v: number) => show(v, 'mV', { decimals: 2 })
/** How a slope follows from its share of the ideal at 25 °C and a temperature. */
const slopeWords = (share: number, temp_C: number, slope: number): string =>
  `${share.toFixed(1)} % × ${mV2(idealSlope_mV(25))} × (${temp_C.toFixed(1)} + ${KELVIN}) K / 298.15 K = ` +
  `${mV2(slope)} per pH`

/** A device that reckons with another temperature than the liquid has, where that is more than its tolerance. */
function uncompensated(r: Reader): Finding[] {
  const { temp, reckons_C, slope, reckoned_mVperPh: reckoned } = termsOf(r)
  const [lrv, urv, tolerance] = [r.in('lrv', 'pH'), r.in('urv', 'pH'), r.in('tolerance', '%')]
  if (slope === undefined || reckoned === undefined || lrv === undefined || urv === undefined) return []
  const off = [lrv, urv].map((ph) => ({ ph, shows: 7 + ((ph - 7) * slope) / reckoned }))
  const worst = off.reduce((a, b) => (Math.abs(b.shows - b.ph) > Math.abs(a.shows - a.ph) ? b : a))
  const error = worst.shows - worst.ph
  if (Math.abs(error) <= (Math.abs(urv - lrv) * (tolerance ?? 0.5)) / 100) return []
  return [
    {
      code: 'temperature-not-compensated',
      grade: 'look',
      fields: ['compTemp', 'phTemp'],
      what:
        `The liquid has ${show(temp, 'degC', { trim: true })}, the device reckons with ` +
        `${show(reckons_C, 'degC', { trim: true })}: at pH ${worst.ph} it shows ` +
        `${show(worst.shows, 'pH', { decimals: 2 })}.`,
      why: `That is ${Math.abs(error).toFixed(2)} pH off, more than the tolerance; at pH 7 it is right.`,
      sure: 'Certain: Nernst.',
      action: 'Let the device measure the temperature, or set it to what the liquid has.',
    },
  ]
}

export const electrode = {
  fields,
  sensor(r: Reader): { knot: Knot; stages: readonly [Stage, Stage] } {
    const { slope, offset, temp, slopePercent: share, reckons_C, reckoned_mVperPh: reckoned } = termsOf(r)
    const causes = ['electrode worn', 'glass dirty or dry', 'reference poisoned']
    const knot: Knot = {
      id: 'electrode',
      role: 'sensor',
      name: 'Electrode',
      explains: 'Voltage of the electrode against its reference.',
      quantity: 'voltage',
      unit: 'mV',
      decimals: 1,
    }
    if (slope === undefined || reckoned === undefined) {
      const gap: Stage = { title: 'Electrode', causes, ready: false, needs: ['a slope and a temperature that can be'] }
      return { knot, stages: [gap, gap] }
    }
    return {
      knot,
      stages: [
        straightStage({
          title: 'Electrode',
          causes,
          from: [7, 8],
          to: [offset, offset + slope],
          working: (ph) => ({
            title: 'Electrode voltage',
            formula: 'E = slope · (pH − 7) + offset',
            numbers:
              `${slopeWords(share, temp, slope)}; ` +
              `${mV2(slope)} × (${ph.toFixed(2)} − 7) + ${show(offset, 'mV')} = ` +
              `${show(slope * (ph - 7) + offset, 'mV')}`,
            source: 'Nernst: the warmer, the more for each pH; slope and offset of its calibration',
          }),
        }),
        straightStage({
          title: 'Calibration in the device',
          causes: ['buffer or temperature wrong', 'calibrated in exchanged buffers'],
          from: [offset, offset + reckoned],
          to: [7, 8],
          working: (mV) => ({
            title: 'Reported pH',
            formula: 'pH = 7 + (E − offset)/slope',
            numbers:
              `${slopeWords(share, reckons_C, reckoned)}; ` +
              `7 + (${show(mV, 'mV')} − ${show(offset, 'mV')}) / ${mV2(reckoned)} = ` +
              `${(7 + (mV - offset) / reckoned).toFixed(3)}`,
            source:
              'Slope and offset that the device holds, brought to the temperature that it reckons with. What is ' +
              'compensated is the electrode: a liquid that has another pH when it is warm is shown with that pH.',
          }),
        }),
      ],
    }
  },
  figures(r: Reader): readonly Figure[] {
    const { temp, slope } = termsOf(r)
    return [
      {
        id: 'slope',
        stage: 'point',
        label: 'Slope at this temperature, per pH',
        unit: 'mV',
        decimals: 2,
        ...(slope === undefined
          ? { says: 'no electrode has such a slope' }
          : {
              value: slope,
              working: () => ({
                title: 'Slope',
                formula: 'share · −(R·T·ln 10/F)',
                numbers: `${((100 * slope) / idealSlope_mV(temp)).toFixed(1)} % × ${mV2(idealSlope_mV(temp))}`,
                source: 'Nernst, CODATA 2018 constants',
              }),
            }),
      },
    ]
  },
  findings(r: Reader): readonly Finding[] {
    const share = r.in('slopePercent', '%')
    const { offset } = termsOf(r)
    const found = uncompensated(r)
    if (share === undefined || (share >= 90 && share <= 105 && Math.abs(offset) <= 30)) return found
    return [
      ...found,
      {
        code: 'electrode-worn-out',
        grade: 'look',
        fields: ['slopePercent', 'electrodeOffset'],
        what: `The electrode gives ${share.toFixed(1)} % of the ideal slope, ${show(offset, 'mV')} off at pH 7.`,
        why: 'Such an electrode drifts from day to day; no calibration holds.',
        sure: 'Nearly certain.',
        action: 'Clean it and calibrate again; else replace it.',
      },
    ]
  },
}
