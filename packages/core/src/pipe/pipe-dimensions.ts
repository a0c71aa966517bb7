// Pipe by table: diameter and wall from standard, size and schedule.
import { Refusal } from '../refusal/index.ts'
import rows from './pipe-tables.json' with { type: 'json' }

interface Size {
  readonly od: number
  /** The same size by its other name, as `DN 100` for `NPS 4`. */
  readonly also?: string
  readonly walls: Readonly<Record<string, number>>
}
export interface PipeTable {
  readonly standard: string
  readonly source: string
  /** Of its figures, mm. */
  readonly unit_mm: number
  readonly sizes: Readonly<Record<string, Size>>
}
export const PIPE_TABLES = rows as unknown as readonly PipeTable[]
export const PIPE_STANDARDS = ['ASME B36.10M', 'ASME B36.19M', 'EN 10220', 'ASTM B88'] as const
export type PipeStandard = (typeof PIPE_STANDARDS)[number]

export interface PipeDimensions {
  readonly od_mm: number
  /** Nominal: a real wall is gauged. */
  readonly wall_mm: number
  readonly id_mm: number
}

/** The row of a size, by either of the names that it goes by; undefined for a size that the table has not. */
export function pipeSize(table: PipeTable | undefined, size: string): PipeTable['sizes'][string] | undefined {
  const sizes = table?.sizes ?? {}
  return Object.hasOwn(sizes, size) ? sizes[size] : Object.values(sizes).find((s) => s.also === size)
}

/** Diameter and nominal wall. @throws Refusal `not-in-table` */
export function pipeDimensions(standard: PipeStandard, size: string, schedule: string): PipeDimensions {
  const table = PIPE_TABLES.find((t) => t.standard === standard)
  const found = pipeSize(table, size)
  const wall = found && Object.hasOwn(found.walls, schedule) ? found.walls[schedule] : undefined
  if (!table || !found || wall === undefined)
    throw new Refusal('not-in-table', `${standard} has no ${size} with the wall “${schedule}”.`)
  const [od_mm, wall_mm] = [found.od * table.unit_mm, wall * table.unit_mm]
  return { od_mm, wall_mm, id_mm: od_mm - 2 * wall_mm }
}
