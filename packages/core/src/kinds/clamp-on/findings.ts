// What can be wrong with a clamp-on point.
import type { Finding } from '../../findings/index.ts'
import type { Reader } from '../reader.ts'
import { fluidFindings } from './fluid-findings.ts'
import { pairFindings } from './pair-findings.ts'
import { pipeFindings } from './pipe-findings.ts'
import { placeFindings } from './place-findings.ts'
import type { ClampOn } from './setup.ts'
export { GAS_FLOOR_bar, gasFloor, normalisedWords } from './fluid-findings.ts'

export const clampOnFindings = (c: ClampOn, r: Reader): Finding[] => [
  ...pipeFindings(c, r),
  ...fluidFindings(c, r),
  ...pairFindings(c, r),
  ...placeFindings(c, r),
]
