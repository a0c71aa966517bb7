// What is known of a level by pressure from its entries, made once for thread, figures and findings.
import type { Vessel } from '../../level/index.ts'
import { Refusal } from '../../refusal/index.ts'
import type { Reader } from '../reader.ts'
import { vesselNeeds, vesselOf } from '../vessel/index.ts'
import { dpLevelOf, KEYS, type Hydrostatics } from './hydrostatics.ts'

export interface Known {
  readonly range: Hydrostatics | undefined
  /** Why there is no range although nothing is missing. */
  readonly refused: Refusal | undefined
  /** Labels of what the range still needs. */
  readonly needs: readonly string[]
  readonly vessel: Vessel | Refusal | undefined
  readonly shapeNeeds: readonly string[]
  /** Heights of 0 and of 100 % above the vessel's lowest point, and of its top, mm. */
  readonly zeroAbove: number | undefined
  readonly fullAbove: number | undefined
  readonly depth: number | undefined
  /** Units of the level that is shown and of the pressure. */
  readonly levelUnit: string
  readonly dpUnit: string
}

export function knownOf(r: Reader): Known {
  const made = dpLevelOf(r)
  const tap = r.in('tapAbove', 'mm') ?? 0
  const above = (key: string) => {
    const height = r.in(key, 'mm')
    return height === undefined ? undefined : height + tap
  }
  return {
    range: made instanceof Refusal ? undefined : made,
    refused: made instanceof Refusal ? made : undefined,
    needs: r.missing(...KEYS),
    vessel: vesselOf(r, r.in('tankDepth', 'm')),
    shapeNeeds: vesselNeeds(r, 'tankDepth'),
    zeroAbove: above('emptyHeight'),
    fullAbove: above('fullHeight'),
    depth: r.in('tankDepth', 'mm'),
    levelUnit: r.missing('receiverHigh').length ? 'mm' : r.unit('receiverHigh'),
    dpUnit: r.missing('urv').length ? 'mbar' : r.unit('urv'),
  }
}
