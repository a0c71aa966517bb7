// A part of every temperature point: what the process can come to, how deep the sensor stands in it, and whether the
// range holds it.
import type { Finding } from '../../findings/index.ts'
import { formatQuantity as show } from '../../quantity/index.ts'
import type { Field } from '../kind.ts'
import type { Reader } from '../reader.ts'

const celsius = (v: number) => show(v, 'degC', { decimals: 1, trim: true })

const extreme = (key: 'lowest' | 'highest'): Field => ({
  key,
  stage: 'point',
  group: 'Process',
  type: 'quantity',
  quantity: 'temperature',
  unit: 'degC',
  label: `${key === 'lowest' ? 'Lowest' : 'Highest'} process temperature`,
  help: 'What the process can really come to.',
  required: true,
})

export const processFields: readonly Field[] = [
  extreme('lowest'),
  extreme('highest'),
  {
    key: 'immersion',
    stage: 'point',
    group: 'Mounting',
    type: 'quantity',
    quantity: 'length',
    unit: 'mm',
    label: 'Immersion',
    help: 'How deep the sensor stands in the flow; too short reads the wall.',
  },
]

/** Whether the process is one that can be, and lies inside the range. */
export function processFindings(r: Reader): Finding[] {
  const [lrv, urv, lowest, highest] = ['lrv', 'urv', 'lowest', 'highest'].map((k) => r.in(k, 'degC'))
  if (lowest === undefined || highest === undefined) return []
  if (lowest >= highest)
    return [
      {
        code: 'process-range-reversed',
        grade: 'stop',
        fields: ['lowest', 'highest'],
        what: 'The lowest process temperature is not below the highest.',
        why: 'The process could never be inside it.',
        sure: 'Certain.',
        action: 'Exchange or correct the two.',
      },
    ]
  if (lrv === undefined || urv === undefined) return []
  if (Math.min(lrv, urv) <= lowest && Math.max(lrv, urv) >= highest) return []
  return [
    {
      code: 'range-inside-process',
      grade: 'look',
      fields: ['lrv', 'urv', 'lowest', 'highest'],
      what:
        `The range ${celsius(lrv)} to ${celsius(urv)} does not hold the process, ${celsius(lowest)} to ` +
        `${celsius(highest)}.`,
      why: 'The current would stand at its limit while the temperature still moves.',
      sure: 'Certain, if the process entries are right.',
      action: 'Widen the range.',
    },
  ]
}
