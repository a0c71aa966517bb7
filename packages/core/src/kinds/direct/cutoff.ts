// Low-flow cutoff of a flow that comes as its value: below it the meter reports none.
import type { Finding } from '../../findings/index.ts'
import { formatQuantity as show, type QuantityName } from '../../quantity/index.ts'
import type { Field, Figure } from '../kind.ts'
import type { Reader } from '../reader.ts'
import { sure } from '../../sure/index.ts'

export const cutoff = (quantity: QuantityName, unit: string) => {
  const ends = (r: Reader) => ['cutoff', 'lrv', 'urv'].map((key) => r.in(key, unit)) as [number?, number?, number?]
  const fields: readonly Field[] = [
    {
      key: 'cutoff',
      stage: 'range',
      group: 'Transmitter',
      type: 'quantity',
      quantity,
      unit,
      label: 'Low-flow cutoff',
      help: 'Below it the meter reports no flow.',
      default: `0 ${unit}`,
    },
  ]
  return {
    fields,
    figures(r: Reader): readonly Figure[] {
      const [low, lrv, urv] = ends(r)
      const known = low !== undefined && lrv !== undefined && urv !== undefined && lrv !== urv
      const mA = known ? 4 + (16 * (low - lrv)) / (urv - lrv) : undefined
      return [
        {
          id: 'current-cutoff',
          stage: 'range',
          label: 'Current at the cutoff',
          unit: 'mA',
          decimals: 3,
          ...(mA === undefined || !Number.isFinite(mA)
            ? { needs: r.missing('lrv', 'urv'), says: 'the range has no span' }
            : {
                value: mA,
                working: () => ({
                  title: 'Current at the cutoff',
                  formula: 'I = 4 mA + 16 mA · (cutoff − lower)/(upper − lower)',
                  numbers:
                    `${show(sure(low), unit, { trim: true })} of ${show(sure(lrv), unit, { trim: true })} … ` +
                    `${show(sure(urv), unit, { trim: true })} = ${show(mA, 'mA')}`,
                  source: 'IEC 60381-1, the 4–20 mA signal',
                }),
              }),
        },
      ]
    },
    findings(r: Reader): readonly Finding[] {
      const [low, lrv, urv] = ends(r)
      if (low === undefined || lrv === undefined || urv === undefined || lrv === urv) return []
      const share = (100 * low) / Math.abs(urv - lrv)
      if (low < 0)
        return [
          {
            code: 'cutoff-negative',
            grade: 'stop',
            fields: ['cutoff'],
            what: 'The low-flow cutoff is below 0.',
            why: 'No flow lies below it.',
            sure: 'Certain.',
            action: 'Enter 0 or more.',
          },
        ]
      if (share > 10)
        return [
          {
            code: 'cutoff-high',
            grade: 'look',
            fields: ['cutoff'],
            what: `The cutoff hides the lowest ${share.toFixed(0)} % of the range.`,
            why: 'Below it real flow is neither shown nor totalled.',
            sure: 'Probable.',
            action: 'Lower it to 1 to 5 % of the range.',
          },
        ]
      return []
    },
  }
}
