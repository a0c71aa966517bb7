// The straight pipe before and after a pair, as entered, by the rule of what flows.
import { straightRun, type StraightRun } from '../../flow/index.ts'
import type { Reader } from '../reader.ts'
import { beamOf, type ClampOn } from './setup.ts'

/** Above so many diameters a length was meant in another unit. */
export const MOST_D = 1000

/** What is there against what is asked for; undefined while it is not all entered, or cannot be. */
export function runOf(c: ClampOn, r: Reader): StraightRun | undefined {
  const [beam, up, down] = [beamOf(c), r.in('upstream', 'mm'), r.in('downstream', 'mm')]
  const disturbance = r.text('disturbance')
  if (!beam || !disturbance || up === undefined || down === undefined || up < 0 || down < 0) return undefined
  return straightRun({
    schoolId: r.text('school'),
    medium: r.text('medium') === 'gas' ? 'gas' : 'liquid',
    disturbance,
    up_mm: up,
    down_mm: down,
    id_mm: beam.id_mm,
    paths: r.text('paths') === '2' ? 2 : 1,
  })
}
