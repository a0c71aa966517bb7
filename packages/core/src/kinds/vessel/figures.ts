// Figures of a vessel: what it holds at the levels that matter.
import { formatQuantity as show } from '../../quantity/index.ts'
import { Refusal } from '../../refusal/index.ts'
import type { Vessel } from '../../level/index.ts'
import type { Finding } from '../../findings/index.ts'
import type { Figure } from '../kind.ts'
import type { Reader } from '../reader.ts'
import { shapeWords, volumeIn } from './vessel.ts'
import { SHAPES } from './fields.ts'

export interface VolumeAt {
  readonly id: string
  readonly label: string
  /** Level above the lowest point, mm; undefined while something is missing. */
  readonly level_mm: number | undefined
  readonly needs: readonly string[]
}

/** Volumes at levels; none of a vessel that is a level only. */
export function volumeFigures(
  r: Reader,
  vessel: Vessel | Refusal | undefined,
  shapeNeeds: readonly string[],
  levels: readonly VolumeAt[],
): Figure[] {
  if (r.text('shape') === SHAPES.none) return []
  return levels.map(({ id, label, level_mm, needs }): Figure => {
    const base = { id, stage: 'point', label, unit: 'm3', decimals: 2 } as const
    const lacks = [...needs, ...shapeNeeds]
    const value = level_mm === undefined ? undefined : volumeIn(vessel, level_mm)
    if (lacks.length) return { ...base, needs: lacks }
    if (vessel instanceof Refusal) return { ...base, says: vessel.message }
    if (value === undefined || level_mm === undefined) return { ...base, says: 'that level lies outside the tank' }
    return {
      ...base,
      value,
      working: () => ({
        title: label,
        formula: 'V(level) of the vessel',
        numbers: `${shapeWords(r)} at ${show(level_mm, 'mm', { trim: true })} = ${show(value, 'm3', { decimals: 2 })}`,
        source:
          r.text('shape') === SHAPES.strapped
            ? 'The strapping table as entered, linear between its rows'
            : 'Solid geometry of the vessel as entered',
      }),
    }
  })
}

/** A vessel that cannot be, as a finding. */
export const vesselFindings = (vessel: Vessel | Refusal | undefined): Finding[] =>
  vessel instanceof Refusal
    ? [
        {
          code: vessel.code,
          grade: 'stop',
          fields: ['shape', 'diameter', 'strapping'],
          what: vessel.message,
          why: 'No volume follows from such a vessel.',
          sure: 'Certain.',
          action: 'Correct its sizes, or its table.',
        },
      ]
    : []
