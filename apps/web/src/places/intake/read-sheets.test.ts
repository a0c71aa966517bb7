// Lists as people keep them, and files that are none: each is read as it is seen, or refused in words.
import Excel from 'exceljs'
import { strToU8, zipSync } from 'fflate'
import { describe, expect, it } from 'vitest'
import { cellText, readSheets } from './read-sheets.ts'

async function xlsx(fill: (sheet: Excel.Worksheet, book: Excel.Workbook) => void) {
  const book = new Excel.Workbook()
  fill(book.addWorksheet('List'), book)
  return new Blob([await book.xlsx.writeBuffer()])
}
const first = async (file: Blob) => (await readSheets(file, 'list'))[0]!.rows
const text = (...parts: (string | Uint8Array<ArrayBuffer>)[]) => new Blob(parts)

describe('a spreadsheet', () => {
  it('is text as it is seen, line by line, gaps kept', async () => {
    const file = await xlsx((s) => {
      s.addRow(['Tag', 'Range', 0.1 + 0.2, true])
      s.addRow([])
      s.addRow([{ richText: [{ text: 'LT' }, { text: '-1' }] }, new Date('2026-11-03T00:00:00Z')])
    })
    expect(await first(file)).toEqual([['Tag', 'Range', '0.3', 'yes'], [], ['LT-1', '2026-11-03']])
  })
  it('gives a merged cell to each of its lines', async () => {
    const file = await xlsx((s) => {
      s.addRow(['LT-1', 'Drying'])
      s.addRow(['LT-2'])
      s.mergeCells('B1:B2')
    })
    expect(await first(file)).toEqual([
      ['LT-1', 'Drying'],
      ['LT-2', 'Drying'],
    ])
  })
  it('has of a formula what was worked out, and else no value', async () => {
    expect(cellText({ formula: 'A1*2', result: 6 })).toBe('6')
    expect(cellText({ formula: 'A1*2' })).toBe('=A1*2')
    expect(cellText({ error: '#N/A' })).toBe('=#N/A')
    expect(cellText({ text: 'see', hyperlink: 'x' })).toBe('see')
    expect(cellText(undefined)).toBe('')
  })
  it('of two hundred thousand empty lines is its two lines', async () => {
    const file = await xlsx((s) => {
      s.addRow(['Tag'])
      s.addRow(['LT-1'])
      for (let i = 3; i <= 200_000; i += 50) s.getRow(i).height = 15
      s.getRow(200_000).height = 15
    })
    expect(await first(file)).toEqual([['Tag'], ['LT-1']])
  })
  it('has each of its sheets, but those with nothing in them', async () => {
    const file = await xlsx((s, book) => {
      s.addRow(['Tag'])
      book.addWorksheet('Empty')
      book.addWorksheet('More').addRow(['x'])
    })
    expect((await readSheets(file, 'list')).map((s) => s.name)).toEqual(['List', 'More'])
  })
  it('is known by its content: macros in it are not looked at', async () => {
    const plain = await xlsx((s) => s.addRow(['Tag']))
    const parts = (await import('fflate')).unzipSync(new Uint8Array(await plain.arrayBuffer()))
    const file = new Blob([zipSync({ ...parts, 'xl/vbaProject.bin': strToU8('Sub Workbook_Open()') })])
    expect(await first(file)).toEqual([['Tag']])
  })
})

describe('text', () => {
  it('is read by any mark, with or without the sign that it is UTF-8', async () => {
    expect(await first(text('\ufeffTag;Service\r\nLT-1;"Tank; first"\r\n\r\n'))).toEqual([
      ['Tag', 'Service'],
      ['LT-1', 'Tank; first'],
    ])
    expect(await first(text('Tag\tService\nLT-1\tx'))).toEqual([
      ['Tag', 'Service'],
      ['LT-1', 'x'],
    ])
  })
  it('of Western Windows keeps its letters', async () => {
    expect(await first(text(Uint8Array.from([0x54, 0xb0, 0x43, 0x2c, 0xe4])))).toEqual([['T°C', 'ä']])
  })
})

/** An archive whose only file says that it unpacks to so many bytes. */
function saying(zip: Uint8Array<ArrayBuffer>, bytes: number): Uint8Array<ArrayBuffer> {
  const view = new DataView(zip.buffer, zip.byteOffset, zip.byteLength)
  for (let at = 0; at + 30 < zip.length; at++)
    if (view.getUint32(at, true) === 0x02014b50) view.setUint32(at + 24, bytes, true)
  return zip
}

describe('what is no list', () => {
  it.each([
    ['of an older form', () => text(Uint8Array.from([0xd0, 0xcf, 0x11, 0xe0])), 'save it as XLSX or CSV'],
    ['damaged', () => text(Uint8Array.from([0x50, 0x4b, 3, 4, 0, 0])), 'damaged'],
    ['another archive', () => new Blob([zipSync({ 'a.txt': strToU8('x') })]), 'no spreadsheet|Nothing stands'],
    ['empty', () => text(' \n \n'), 'Nothing stands in this file'],
    ['no text', () => text(Uint8Array.from([1, 0, 2, 0])), 'neither XLSX nor text'],
    ['a bomb', () => new Blob([saying(zipSync({ 'xl/worksheets/sheet1.xml': strToU8('x') }), 500e6)]), 'too much'],
    ['of too many lines', () => text('x\n'.repeat(60_002)), 'more than 60000 lines'],
  ])('%s is refused in words', async (_, file, says) => {
    await expect(readSheets(file(), 'list')).rejects.toThrow(new RegExp(says))
  })
  it('larger than a list can be is not opened', async () => {
    const file = new Blob(['x'])
    Object.defineProperty(file, 'size', { value: 26e6 })
    await expect(readSheets(file, 'big.xlsx')).rejects.toThrow('big.xlsx has more than 25 MB: divide it.')
  })
})
