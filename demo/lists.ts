// Makes the made-up instrument list of 300 lines, with the usual sins, as XLSX and CSV:
// `node --import tsx demo/lists.ts`
import Excel from 'exceljs'
import { mkdirSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import Papa from 'papaparse'

const AREAS = ['Intake', 'Wash house', 'Extraction', 'Evaporation', 'Drying', 'Gas', 'Bagging'] as const
/** By turns: letters of the tag, its words, the range and its unit, the device. */
const TURNS = [
  ['LT', 'Level radar', 'tank level', 0, 3000, 'mm', 'Level head A2'],
  ['PT', 'Pressure', 'line pressure', 0, 10, 'bar', 'Pressure cell P4'],
  ['TT', 'Pt100', 'temperature', 0, 150, '°C', 'Head T2'],
  ['PDT', 'DP', 'filter difference', 0, 500, 'mbar', 'Pressure cell P4'],
  ['FT', 'Mass flow', 'feed flow', 0, 12_000, 'kg/h', 'Meter C2'],
  ['AT', 'pH', 'liquor pH', 2, 12, 'pH', 'Electrode head G1'],
] as const
const LINES = 300

type Cell = string | number | { formula: string; result?: number }
function lines(): Cell[][] {
  return Array.from({ length: LINES }, (_, i) => {
    const [letters, kind, what, low, high, unit, device] = TURNS[i % TURNS.length]!
    const area = AREAS[Math.floor((i * AREAS.length) / LINES)]!
    const tag = `${letters}-${5000 + i}`
    return [
      tag,
      `${area} ${what} ${1 + (i % 40)}`,
      area,
      kind,
      low,
      high,
      unit,
      device,
      `${letters}${20_000 + 7 * i}`,
      24,
    ]
  })
}
/** What people do to a list over the years. */
function sinned(all: Cell[][]): Cell[][] {
  const change = (line: number, column: number, to: Cell) => (all[line]![column] = to)
  change(3, 0, 'pdt 5003')
  change(17, 0, 'TT_5017')
  change(40, 0, '')
  change(58, 0, 'LT-5048')
  change(71, 1, '')
  change(90, 4, 'see sheet')
  change(104, 5, '500 mm')
  change(118, 3, 'Gas detector')
  change(131, 0, 'spare')
  change(150, 5, { formula: 'E151*2', result: 3000 })
  change(166, 5, { formula: 'Sheet9!A1' })
  change(180, 9, 'TBD')
  change(199, 4, '-')
  change(222, 8, '=cmd')
  change(245, 0, 'LT-112')
  change(260, 6, 'm')
  change(261, 9, '24 V')
  return all
}
const HEADS = ['Tag', 'Description', 'Area', 'Type', 'Range', 'Range', 'Unit', 'Model', 'Serial no', 'Supply (V)']
const BELOW = ['', '', '', '', 'low', 'high', '', '', '', '']

const into = join(import.meta.dirname, '..', 'apps', 'web', 'public', 'examples')
mkdirSync(into, { recursive: true })
const rows = sinned(lines())
const book = new Excel.Workbook()
book.created = book.modified = new Date('2026-11-01T00:00:00Z')
const sheet = book.addWorksheet('Instruments')
sheet.addRow(['Holmsay Kelp Works, instruments, issue 7'])
sheet.addRow([])
sheet.addRow(HEADS)
sheet.addRow(BELOW)
sheet.mergeCells('E3:F3')
for (const [i, row] of rows.entries()) {
  sheet.addRow(row)
  // A gap where somebody wanted one.
  if (i % 60 === 59) sheet.addRow([])
}
book.addWorksheet('Notes').addRow(['Serial numbers as read in March.'])
writeFileSync(join(into, 'instruments.xlsx'), Buffer.from(await book.xlsx.writeBuffer()))
const text = (cell: Cell) => (typeof cell === 'object' ? String(cell.result ?? `=${cell.formula}`) : String(cell))
const csv = [['Holmsay Kelp Works, instruments, issue 7'], [], HEADS, BELOW, ...rows.map((row) => row.map(text))]
writeFileSync(join(into, 'instruments.csv'), `\ufeff${Papa.unparse(csv, { delimiter: ';' })}\r\n`)
