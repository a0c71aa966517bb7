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
]

const termsOf = (r: Reader) => {
  const { temp_C, slope_mVperPh, offset_mV } = electrodeLine(r)
  return { temp: temp_C, offset: offset_mV, slope: slope_mVperPh }
}

export const electrode = {
  fields,
  sensor(r: Reader): { knot: Knot; stages: readonly [Stage, Stage] } {
    const { slope, offset } = termsOf(r)
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
    if (slope === undefined) {
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
              `${slope.toFixed(2)} mV × (${ph.toFixed(2)} − 7) + ${show(offset, 'mV')} = ` +
              `${show(slope * (ph - 7) + offset, 'mV')}`,
            source: 'Nernst; slope and offset of the last calibration',
          }),
        }),
        straightStage({
          title: 'Calibration in the device',
          causes: ['buffer or temperature wrong', 'calibrated in exchanged buffers'],
          from: [offset, offset + slope],
          to: [7, 8],
          working: (mV) => ({
            title: 'Reported pH',
            formula: 'pH = 7 + (E − offset)/slope',
            numbers:
              `7 + (${show(mV, 'mV')} − ${show(offset, 'mV')}) / ${slope.toFixed(2)} mV = ` +
              `${(7 + (mV - offset) / slope).toFixed(3)}`,
            source: 'Slope and offset that the device holds',
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
                numbers: `${((100 * slope) / idealSlope_mV(temp)).toFixed(1)} % × ${idealSlope_mV(temp).toFixed(2)} mV`,
                source: 'Nernst, CODATA 2018 constants',
              }),
            }),
      },
    ]
  },
  findings(r: Reader): readonly Finding[] {
    const share = r.in('slopePercent', '%')
    const { offset } = termsOf(r)
    if (share === undefined || (share >= 90 && share <= 105 && Math.abs(offset) <= 30)) return []
    return [
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
