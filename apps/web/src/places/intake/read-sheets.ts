// The sheets of a file as text: CSV of any mark, or XLSX known by its content. Formulas are never worked out, macros
// never looked at, and what is too much is refused before it is unpacked.
import { PLANT_LOOPS } from '@calm-loop/contract/limits'
import type { Sheet } from '@calm-loop/core/intake'
import type { CellValue } from 'exceljs'
import { unzip } from 'fflate'
import Papa from 'papaparse'

/** Why a file is not taken, in words. */
export class NotTaken extends Error {}

const MOST_MB = 25
/** Unpacked, and lines with something in them. */
const [MOST_UNPACKED_B, MOST_LINES] = [400e6, 3 * PLANT_LOOPS]

/** A figure as a person would write it: without what a computer adds behind the fifteenth digit. */
const figure = (value: number) => String(Number(value.toPrecision(15)))

/** What is seen in a cell. What nobody has worked out begins with “=”, as does what went wrong. */
export function cellText(value: CellValue | undefined): string {
  if (value === null || value === undefined) return ''
  if (typeof value === 'number') return figure(value)
  if (typeof value === 'boolean') return value ? 'yes' : 'no'
  if (value instanceof Date) return value.toISOString().slice(0, 10)
  if (typeof value === 'string') return value
  if ('richText' in value) return value.richText.map((r) => r.text).join('')
  if ('error' in value) return `=${value.error}`
  if ('hyperlink' in value) return typeof value.text === 'string' ? value.text : cellText(value.text)
  if ('result' in value && value.result !== undefined) return cellText(value.result)
  return `=${'formula' in value ? value.formula : ''}`
}

/** @throws NotTaken where it unpacks to too much, or is no whole ZIP file */
function looked(bytes: Uint8Array): Promise<void> {
  let sum = 0
  return new Promise((resolve, reject) =>
    unzip(
      bytes,
      {
        filter: ({ originalSize }) => {
          sum += originalSize
          return false
        },
      },
      (error) => {
        if (error) reject(new NotTaken('This file is damaged: it cannot be unpacked.'))
        else if (sum > MOST_UNPACKED_B) reject(new NotTaken('This file unpacks to too much: divide it.'))
        else resolve()
      },
    ),
  )
}

async function spreadsheet(bytes: Uint8Array<ArrayBuffer>): Promise<Sheet[]> {
  await looked(bytes)
  const { default: Excel } = await import('exceljs')
  const book = new Excel.Workbook()
  try {
    await book.xlsx.load(bytes.buffer, {
      ignoreNodes: ['dataValidations', 'conditionalFormatting', 'extLst', 'drawing', 'hyperlinks', 'pageSetup'],
    })
  } catch {
    throw new NotTaken('This is no spreadsheet that can be read: save it as XLSX or CSV.')
  }
  return book.worksheets.map((sheet): Sheet => {
    const rows: string[][] = []
    let lines = 0
    sheet.eachRow({ includeEmpty: false }, (row, number) => {
      const cells: string[] = []
      row.eachCell({ includeEmpty: false }, (cell, column) => {
        const text = cellText(cell.value)
        if (text) cells[column - 1] = text
      })
      if (!cells.length) return
      if (++lines > MOST_LINES) throw new NotTaken(`“${sheet.name}” has more than ${MOST_LINES} lines: divide it.`)
      while (rows.length < number - 1) rows.push([])
      rows.push(Array.from(cells, (c) => c ?? ''))
    })
    return { name: sheet.name, rows }
  })
}

/** Text as it was most probably written: UTF-8, else by the table of Western Windows. */
function decoded(bytes: Uint8Array): string {
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes)
  } catch {
    return new TextDecoder('windows-1252').decode(bytes)
  }
}
/** Marks between cells: of two that fit alike the first, as a comma may be within figures. */
const MARKS = [';', '\t', '|', ','] as const
const LOOK_AT = 30
/** The mark that stands equally often in the most of the first lines, outside of quotation marks. */
function markOf(text: string): string {
  const lines = text
    .replace(/"[^"]*"/g, '')
    .split(/\r\n|\r|\n/)
    .slice(0, LOOK_AT)
  const alike = MARKS.map((mark) => {
    const counts = lines.map((line) => line.split(mark).length - 1).filter((n) => n > 0)
    return Math.max(0, ...counts.map((n) => counts.filter((m) => m === n).length))
  })
  return MARKS[alike.indexOf(Math.max(...alike))] ?? ','
}
function separated(bytes: Uint8Array, name: string): Sheet[] {
  const text = decoded(bytes)
  if (text.includes('\u0000')) throw new NotTaken('This is no list: neither XLSX nor text.')
  const { data } = Papa.parse<string[]>(text.replace(/^\ufeff/, ''), { delimiter: markOf(text) })
  const last = data.findLastIndex((row) => row.some((c) => c.trim()))
  if (last >= MOST_LINES) throw new NotTaken(`This list has more than ${MOST_LINES} lines: divide it.`)
  return [{ name, rows: data.slice(0, last + 1) }]
}

/** The sheets of a file that have anything in them. @throws NotTaken */
export async function readSheets(file: Blob, name: string): Promise<Sheet[]> {
  if (file.size > MOST_MB * 1e6) throw new NotTaken(`${name} has more than ${MOST_MB} MB: divide it.`)
  const bytes = new Uint8Array(await file.arrayBuffer())
  const isZip = bytes[0] === 0x50 && bytes[1] === 0x4b
  if (bytes[0] === 0xd0 && bytes[1] === 0xcf)
    throw new NotTaken('This is a spreadsheet of an older form, or one with a password: save it as XLSX or CSV.')
  const found = (isZip ? await spreadsheet(bytes) : separated(bytes, name)).filter((s) => s.rows.length)
  if (!found.length) throw new NotTaken('Nothing stands in this file.')
  return found
}
