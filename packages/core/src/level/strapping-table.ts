// A strapping table: the volume of a vessel at measured levels, and what lies between them.
import { Refusal } from '../refusal/index.ts'
import { sure } from '../sure/index.ts'

export interface StrappingRow {
  readonly level_mm: number
  readonly volume_m3: number
}
export interface Strapped {
  readonly level_mm: number
  readonly volume_m3: number
  /** Of the last row's volume. */
  readonly percent: number
}

/**
 * Volume at a level or level at a volume, linear between the rows (two or more, both columns strictly rising). What
 * is given comes back as given.
 * @throws Refusal `invalid-input`, `rows-not-ascending`, `outside-table`
 */
export function strapping(
  rows: readonly StrappingRow[],
  at: { readonly level_mm?: number | undefined; readonly volume_m3?: number | undefined },
): Strapped {
  const { level_mm, volume_m3 } = at
  if (rows.length < 2) throw new Refusal('invalid-input', 'A strapping table needs at least two rows.')
  if ((level_mm === undefined) === (volume_m3 === undefined))
    throw new Refusal('invalid-input', 'Give exactly one of level_mm and volume_m3.')
  const bad = rows.findIndex((row, i) => {
    const before = rows[i - 1]
    return before && !(row.level_mm > before.level_mm && row.volume_m3 > before.volume_m3)
  })
  if (bad > 0)
    throw new Refusal('rows-not-ascending', `Row ${bad + 1} of the table does not rise above the one before it.`)
  const full = sure(rows.at(-1)).volume_m3
  const [x, from, to] =
    level_mm === undefined
      ? ([sure(volume_m3), 'volume_m3', 'level_mm'] as const)
      : ([level_mm, 'level_mm', 'volume_m3'] as const)
  const upper = rows.findIndex((row, i) => i > 0 && x <= row[from])
  if (upper < 0 || x < sure(rows[0])[from])
    throw new Refusal('outside-table', `The table runs from ${sure(rows[0])[from]} to ${sure(rows.at(-1))[from]}.`)
  const [a, b] = [rows[upper - 1]!, rows[upper]!]
  const found = a[to] + ((x - a[from]) / (b[from] - a[from])) * (b[to] - a[to])
  const volume = volume_m3 ?? found
  return { level_mm: level_mm ?? found, volume_m3: volume, percent: (100 * volume) / full }
}
