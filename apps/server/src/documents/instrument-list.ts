// The list of instruments as it goes out, as XLSX and CSV: a line for each loop, a column for each entry that any of
// them has, headed so that it is known when it comes back.
import { headFor } from '@calm-loop/core/intake'
import { KINDS, kindOf, type Entries } from '@calm-loop/core/kinds'
import Excel from 'exceljs'
import { csvText } from '../services/register-text.ts'

export interface ListedLoop {
  readonly tag: string
  readonly service: string
  readonly area: string
  readonly kind: string
  readonly entries: Entries
}
/** Entries that are no line of a list: drawn, or tables of their own. */
const NO_COLUMN = new Set(['wiring', 'table'])

/** Heads and lines, the entries in the order of the kinds' own fields. */
export function listRows(loops: readonly ListedLoop[]): readonly (readonly string[])[] {
  const used = new Set(loops.flatMap((l) => Object.keys(l.entries)))
  const fields = new Map(
    KINDS.flatMap((k) => k.fields.flatMap((f) => (used.has(f.key) && !NO_COLUMN.has(f.type) ? [[f.key, f]] : []))),
  )
  const heads = ['Tag', 'Service', 'Area', 'Kind', ...[...fields.values()].map(headFor)]
  const lines = loops.map(({ tag, service, area, kind, entries }) => [
    ...[tag, service, area, kindOf(kind).name],
    ...[...fields.keys()].map((key) => entries[key]?.typed ?? ''),
  ])
  return [heads, ...lines]
}

/** Both files by their names. */
export async function instrumentList(loops: readonly ListedLoop[]): Promise<Record<string, Uint8Array>> {
  const [heads = [], ...lines] = listRows(loops)
  const book = new Excel.Workbook()
  const sheet = book.addWorksheet('Instruments', { views: [{ state: 'frozen', xSplit: 1, ySplit: 1 }] })
  sheet.addRow(heads).font = { bold: true }
  // Text as it was typed: no program is to make a date or a formula of it.
  for (const line of lines) sheet.addRow(line)
  sheet.columns.forEach((c, i) => (c.width = Math.min(40, Math.max(10, (heads[i] ?? '').length))))
  return {
    'instruments.xlsx': new Uint8Array(await book.xlsx.writeBuffer()),
    'instruments.csv': new TextEncoder().encode(`\ufeff${csvText(heads, lines)}`),
  }
}
