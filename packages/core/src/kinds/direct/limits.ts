// The limits of a sensor from its nameplate, and the range within them.
import type { Finding } from '../../findings/index.ts'
import { formatQuantity as show, type QuantityName } from '../../quantity/index.ts'
import { inSentence } from '../../words/index.ts'
import type { Field } from '../kind.ts'
import type { Reader } from '../reader.ts'

interface Measured {
  readonly quantity: QuantityName
  readonly unit: string
  /** What stands at the process, e.g. `Pressure`. */
  readonly process: string
}

/** Entries of the limits of the sensor itself. */
export const limits = ({ quantity, unit, process }: Measured): Field[] =>
  (['Low', 'High'] as const).map((end) => ({
    key: `sensor${end}`,
    stage: 'point',
    group: 'Sensor',
    type: 'quantity',
    quantity,
    unit,
    label: `${end === 'Low' ? 'Lower' : 'Upper'} sensor limit`,
    help:
      `${end === 'Low' ? 'Lowest' : 'Highest'} ${inSentence(process)} that the sensor itself can measure, from ` +
      'the nameplate.',
    required: true,
  }))

/** The limits against one another, and the range against them. */
export function limitFindings(r: Reader, unit: string): Finding[] {
  const [low, high, lrv, urv] = ['sensorLow', 'sensorHigh', 'lrv', 'urv'].map((key) => r.in(key, unit))
  if (low === undefined || high === undefined) return []
  if (low >= high)
    return [
      {
        code: 'sensor-limits-reversed',
        grade: 'stop',
        fields: ['sensorLow', 'sensorHigh'],
        what: 'The lower sensor limit is not below the upper one.',
        why: 'No value could be inside them.',
        sure: 'Certain.',
        action: 'Exchange or correct the two.',
      },
    ]
  if (lrv === undefined || urv === undefined || (Math.min(lrv, urv) >= low && Math.max(lrv, urv) <= high)) return []
  const n = (v: number) => show(v, unit, { trim: true })
  return [
    {
      code: 'range-beyond-sensor',
      grade: 'stop',
      fields: ['lrv', 'urv', 'sensorLow', 'sensorHigh'],
      what: `The range ${n(lrv)} to ${n(urv)} reaches beyond the sensor, ${n(low)} to ${n(high)}.`,
      why: 'The current stands at the sensor’s limit while the process goes on.',
      sure: 'Certain, if the nameplate was copied right.',
      action: 'Keep the range within the sensor, or mount another one.',
    },
  ]
}
