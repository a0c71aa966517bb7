// Figures that nothing can have at 0 or below.
import { finding, type Finding } from '../findings/index.ts'
import type { Reader } from './reader.ts'

/**
 * A stop for each entry at 0 or below. @param of unit by key; any of the quantity does @param why what has no such one
 */
export const notPositive = (r: Reader, of: Readonly<Record<string, string>>, why: string): Finding[] =>
  Object.entries(of)
    .filter(([key, unit]) => (r.in(key, unit) ?? 1) <= 0)
    .map(([key]) =>
      finding({
        grade: 'stop',
        code: `not-positive-${key}`,
        fields: [key],
        what: `The ${r.label(key)} is not above 0.`,
        why,
        action: 'Correct the figure.',
        sure: 'Certain.',
      }),
    )
