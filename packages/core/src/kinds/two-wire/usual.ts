// Figures of a wiring that no loop of a plant has: a unit or a decimal mark gone astray. They are asked about.
import { finding, type Finding } from '../../findings/index.ts'
import { formatQuantity as show } from '../../quantity/index.ts'
import type { Reader } from '../reader.ts'

/** From what to what an entry usually lies; beyond it is asked. */
const USUAL: readonly { readonly key: string; readonly unit: string; readonly low: number; readonly high: number }[] = [
  { key: 'supply', unit: 'V', low: 5, high: 60 },
  { key: 'liftOff', unit: 'V', low: 3, high: 40 },
  { key: 'maxV', unit: 'V', low: 3, high: 60 },
  { key: 'powerV', unit: 'V', low: 10, high: 500 },
  { key: 'powerLeast', unit: 'V', low: 5, high: 400 },
  { key: 'powerMost', unit: 'V', low: 10, high: 500 },
  { key: 'feedLeast', unit: 'V', low: 3, high: 40 },
  { key: 'feedMost', unit: 'V', low: 10, high: 60 },
  { key: 'shunt', unit: 'Ohm', low: 5, high: 1500 },
  { key: 'otherSeries', unit: 'Ohm', low: 0, high: 3000 },
  { key: 'cableLength', unit: 'm', low: 0, high: 20_000 },
]

/** Entries that lie outside of what loops have. */
export function unusualFindings(r: Reader): Finding[] {
  return USUAL.flatMap(({ key, unit, low, high }) => {
    const value = r.has(key) ? r.in(key, unit) : undefined
    // What is not above 0 is told so by what computes with it.
    if (value === undefined || value <= 0 || (value >= low && value <= high)) return []
    const words = (v: number) => show(v, unit, { trim: true })
    return [
      finding({
        code: 'figure-unusual',
        grade: 'look',
        fields: [key],
        what: `${r.label(key)}: ${words(value)}. Loops have ${words(low)} to ${words(high)}.`,
        why: 'A unit or a decimal mark may have gone astray, and everything in volts follows from it.',
        action: 'Look at what was typed, with its unit.',
        sure: 'Nearly certain.',
      }),
    ]
  })
}
