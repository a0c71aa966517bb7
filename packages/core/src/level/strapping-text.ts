// A strapping table as a file gives it, and as it stands on record.
import { convertUnit, findUnit, parseNumber } from '../quantity/index.ts'
import { attempt, Refusal } from '../refusal/index.ts'
import { sure } from '../sure/index.ts'
import type { StrappingRow } from './strapping-table.ts'

/** More rows than this are not kept: linear between two of them is closer than any gauge. */
export const MOST_ROWS = 1000

/** What is wrong with a line of the file; lines are counted from 1, 0 is the file as a whole. */
export interface LineError {
  readonly line: number
  readonly code: 'invalid-input' | 'rows-not-ascending'
  readonly says: string
}
export interface StrappingRead {
  readonly rows: readonly StrappingRow[]
  readonly errors: readonly LineError[]
  /** Units that the columns were read in. */
  readonly units: readonly [level: string, volume: string]
}

/** The unit that a heading names, such as `level (mm)`, `Volume, m³` or `mm`. */
const unitIn = (heading: string, quantity: 'length' | 'volume'): string | undefined =>
  heading
    .split(/[\s,;()[\]/]+/)
    .map((word) => findUnit(word))
    .findLast((unit) => unit?.quantity === quantity)?.symbol

/**
 * A strapping table from the cells of a file: level, then volume; a heading may name the units, mm and m³ are taken
 * where it does not. Every line that cannot be is named; rows must rise in both columns.
 * @param lines cells by line, as a reader of CSV gives them; empty lines are passed over
 */
export function readStrapping(lines: readonly (readonly string[])[]): StrappingRead {
  const errors: LineError[] = []
  const rows: StrappingRow[] = []
  let units: readonly [string, string] = ['mm', 'm3']
  let before: { readonly line: number; readonly row: StrappingRow } | undefined
  const number = (cell: string) => {
    const read = parseNumber(cell.trim())
    return 'value' in read ? read.value : undefined
  }
  const cannot = (cell = '') =>
    'plainly' in parseNumber(cell.trim()) ? `“${cell}” may be read in two ways` : `“${cell}” is no number`
  lines.forEach((cells, i) => {
    const line = i + 1
    const wrong = (says: string, code: LineError['code'] = 'invalid-input') => void errors.push({ line, code, says })
    if (cells.every((c) => !c.trim())) return
    const [level, volume] = [number(cells[0] ?? ''), number(cells[1] ?? '')]
    if (level === undefined && volume === undefined && !rows.length && !errors.length) {
      units = [unitIn(cells[0] ?? '', 'length') ?? 'mm', unitIn(cells[1] ?? '', 'volume') ?? 'm3']
      return
    }
    if (level === undefined) return wrong(`Level: ${cannot(cells[0])}.`)
    if (volume === undefined) return wrong(`Volume: ${cannot(cells[1])}.`)
    if (volume < 0) return wrong(`A volume of ${volume} is below 0.`)
    const row = { level_mm: convertUnit(level, units[0], 'mm'), volume_m3: convertUnit(volume, units[1], 'm3') }
    if (before && !(row.level_mm > before.row.level_mm))
      return wrong(`The level does not rise: ${level} after line ${before.line}.`, 'rows-not-ascending')
    if (before && !(row.volume_m3 > before.row.volume_m3))
      return wrong(`The volume does not rise: ${volume} after line ${before.line}.`, 'rows-not-ascending')
    before = { line, row }
    rows.push(row)
  })
  if (rows.length < 2 && !errors.length)
    errors.push({ line: 0, code: 'invalid-input', says: 'A strapping table has two rows or more.' })
  if (rows.length > MOST_ROWS) {
    const every = Math.ceil(rows.length / MOST_ROWS)
    const says = `At most ${MOST_ROWS} rows are kept, not ${rows.length}: take every ${every}th and both ends.`
    errors.push({ line: 0, code: 'invalid-input', says })
  }
  return { rows, errors, units }
}

const figure = (v: number) => `${Number(v.toPrecision(10))}`
/** A table as it stands on record: a line for each row, level in mm and volume in m³. */
export const strappingText = (rows: readonly StrappingRow[]): string =>
  rows.map((r) => `${figure(r.level_mm)} ${figure(r.volume_m3)}`).join('; ')

/**
 * A table on record; undefined where none stands there.
 * @throws Refusal `invalid-input`, `rows-not-ascending` for what is none
 */
export function strappingOf(text: string): StrappingRow[] | undefined {
  if (!text.trim()) return undefined
  const { rows, errors } = readStrapping(text.split(';').map((line) => line.trim().split(' ')))
  const [first] = errors
  if (first) {
    const where = first.line ? `Row ${first.line}: ` : ''
    throw new Refusal(first.code, `${where}${first.says}`)
  }
  return [...rows]
}

/** What stands on record, in words. */
export function strappingWords(text: string): string {
  const rows = attempt(() => strappingOf(text))
  if (rows instanceof Refusal) return rows.message
  if (!rows) return 'no table'
  const [low, high] = [sure(rows[0]), sure(rows.at(-1))]
  return `${rows.length} rows, ${low.level_mm} to ${high.level_mm} mm, up to ${high.volume_m3} m³`
}
