// The words and figures of Trim that several of its pages share.
import type { TrimAction } from '@calm-loop/core/trim'
import type { ProcedureId } from '@calm-loop/core/procedure'

export const STAGE_TITLES = { sensor: 'Sensor', output: 'Output current', receiver: 'Receiver' } as const
export const STAGE_SAYS = {
  sensor: 'digital value against what is applied',
  output: 'meter against what the digital value calls for',
  receiver: 'what it shows against what the current means',
} as const
export const ACTION_WORDS: Readonly<Record<TrimAction, { title: string; says: string; procedure?: ProcedureId }>> = {
  'range-change': {
    title: 'Set the range to that on record',
    says: 'Nothing is applied; it can be done from anywhere.',
    procedure: 'range-change',
  },
  'zero-trim': { title: 'Zero trim', says: 'True zero applied; no figure is typed.', procedure: 'zero-trim' },
  'sensor-trim': {
    title: 'Lower and upper sensor trim',
    says: 'A known value applied near each end of the range.',
    procedure: 'sensor-trim',
  },
  'sensor-service': { title: 'Clean, repair or replace the sensor', says: 'Then take as found again.' },
  'current-trim': {
    title: 'Current trim at 4 and 20 mA',
    says: 'A meter in the loop; its readings go back to the device.',
    procedure: 'current-trim',
  },
  'output-service': {
    title: 'Find what bends the current',
    says: 'Supply too short, leakage, a second receiver; then the output board.',
  },
  'receiver-scale': {
    title: 'Re-scale the receiver',
    says: 'Nothing is changed in the device.',
    procedure: 'receiver-scale',
  },
}
export const signed = (v: number, decimals = 2): string => {
  const text = Math.abs(v).toFixed(decimals)
  return `${Number(text) === 0 ? '' : v < 0 ? '−' : '+'}${text}`
}
export const PRACTICE_WORDS: Readonly<Record<string, string>> = { 'as-it-is': 'none: as it is' }
