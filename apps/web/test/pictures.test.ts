// Photographs and papers in a folder: added, looked at, said anew with marks, taken out of view and shown again.
import { describe, expect, it, vi } from 'vitest'
import type { ReadPlate } from '../src/pictures/read-plate.ts'
import { ask, barred, choose, fill, gone, key, loopId, network, openLoop, pagesFor, press, read, see } from './visit.ts'

/** One point, as a PNG. */
const POINT = 'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg=='
const bytes = Uint8Array.from(atob(POINT), (c) => c.charCodeAt(0))
async function add(...files: File[]): Promise<void> {
  const input = await see('.pictures input[type="file"]')
  for (const file of files) {
    Object.defineProperty(input, 'files', { value: [file], configurable: true })
    input.dispatchEvent(new Event('change'))
  }
}
const kept = async () =>
  ask<{ name: string; note: { marks: unknown[]; words: string; hidden: string | null } }[]>(
    `/api/loops/${await loopId('TT-407')}/attachments`,
  )

/** What the plate says; reading itself is tested with the machine that reads. */
let plate: () => Promise<ReadPlate>
vi.mock('../src/pictures/read-plate.ts', () => ({ readPlate: () => plate() }))
const word = (text: string, x: number, doubted = -1) => ({
  ...{ text, doubt: [...text].map((_, i) => i === doubted) },
  box: { x0: x, y0: 10, x1: x + 10 * text.length, y1: 30 },
})
const line = (...words: ReturnType<typeof word>[]) => ({ words, box: { x0: 0, y0: 10, x1: 400, y1: 30 } })

describe('the kit that a loop was checked with', () => {
  pagesFor('magnus')
  it('stands by its papers, with each certificate a press away', async () => {
    await openLoop('LT-112', '/identify')
    const kit = await see('[data-test="kit-behind"]', 'LM-0417')
    const opens = [...kit.querySelectorAll('a')].find((a) => a.textContent.startsWith('KV-'))!
    expect(opens.getAttribute('aria-label')).toMatch(/^Open certificate KV-\d\d-\d+ of /)
    // Those of before are one press further.
    expect(kit.querySelectorAll('li')).toHaveLength(2)
    await press(/^Show \d earlier$/)
    await see('[data-test="kit-behind"]', 'KV-23-0417')
    const file = await fetch(opens.getAttribute('href')!)
    expect(file.headers.get('content-type')).toBe('application/pdf')
  })
})

describe('a plate in a photograph, for a technician', () => {
  pagesFor('ailsa')
  const openPlate = async (tag: string) => {
    await openLoop(tag, '/identify')
    await add(new File([bytes], 'plate.png'))
    ;(await see('[data-attachment="plate.png"] button')).click()
    vi.stubGlobal('createImageBitmap', () => Promise.resolve({ width: 400, height: 300, close: () => undefined }))
    await press('Read the plate')
  }
  it('proposes values, of which each is entered only when it is taken; what is doubtful is marked', async () => {
    plate = () =>
      Promise.resolve({
        times: 1,
        lines: [line(word('SERIAL', 0), word('NO', 80), word('P4-20778', 120, 7)), line(word('IP', 0), word('67', 40))],
      })
    await openPlate('PDT-118')
    await see('[data-value="P4-20778"] mark', '8')
    await see('[data-value="P4-20778"]', 'one sign to look at')
    await see('[data-value="67"]', 'to be chosen')
    expect(document.querySelectorAll('[data-test="take-value"]:disabled')).toHaveLength(1)
    await fill('SERIAL NO, as it stands on the plate', 'P4-20773')
    // It is what stands in the entry already.
    await see('[data-value="P4-20778"]', 'Entered.')
    await fill('SERIAL NO, as it stands on the plate', 'P4-20779')
    await see('[data-value="P4-20778"] .now', 'Now: P4-20773')
    ;(await see('[data-value="P4-20778"] [data-test="take-value"]')).click()
    await see('[data-value="P4-20778"]', 'Entered.')
  })
  it('holds the two serials of a pair against each other', async () => {
    plate = () =>
      Promise.resolve({
        times: 1,
        lines: [line(word('S/N', 0), word('M-11806A', 80)), line(word('S/N', 0), word('M-11809B', 80))],
      })
    await openPlate('FT-101')
    await see('[data-test="plate-pair"]', 'M-11806A and M-11806B are one pair.')
    ;(await see('[data-value="M-11809B"] [data-test="take-value"]')).click()
    await see('[data-test="plate-pair"]', 'M-11806A and M-11809B are not one matched pair.')
  })
  it('says so where nothing is found, and where it cannot be read here', async () => {
    plate = () => Promise.resolve({ times: 1, lines: [] })
    await openPlate('TT-405')
    await see('[data-test="plate-reading"]', 'No figures were found.')
    plate = () => Promise.reject(new Error('not there'))
    await openPlate('TT-405')
    await see('[data-test="plate-reading"] [role=alert]', 'It could not be read here')
  })
})

describe('photographs and papers, for a technician', () => {
  pagesFor('ailsa')
  it('are added, and refused with words where they are none', async () => {
    await openLoop('TT-407', '/identify')
    await see('.pictures', 'None yet. A photograph of the plate')
    await add(new File(['words'], 'plate.jpg'))
    await see('.pictures [role=alert]', /plate\.jpg: This file is no photograph/)
    await add(new File([bytes], 'head.png'))
    await see('[data-attachment="head.png"]', 'Ailsa Fenn')
    await gone('.pictures [role=alert]')
    await add(new File(['%PDF-1.7'], 'data sheet.pdf'))
    await see('[data-attachment="data sheet.pdf"] .paper', 'PDF')
    const large = new File(['x'], 'large.jpg')
    Object.defineProperty(large, 'size', { value: 60e6 })
    await add(large)
    await see('.pictures [role=alert]', 'large.jpg is larger than 25 MB')
  })
  it('may be a link to a paper elsewhere, a press away', async () => {
    await openLoop('TT-407', '/identify')
    await fill('Its address, from https:// on', 'papers.example')
    await barred('Keep the link')
    await fill('Its address, from https:// on', 'https://papers.example/a2')
    await press('Keep the link')
    await see('[data-attachment="papers.example/a2"] .paper', 'link')
    const to = await see('[data-attachment="papers.example/a2"] a.goto', 'Open it, elsewhere')
    expect([to.getAttribute('href'), to.getAttribute('rel')]).toEqual([
      'https://papers.example/a2',
      'noopener noreferrer',
    ])
    await see('[data-attachment="data sheet.pdf"] a.goto', 'Open it')
  })
  it('wait on this device where the server is not reached, and are sent once it is', async () => {
    await openLoop('TT-407', '/identify')
    await see('[data-attachment="head.png"]')
    network(false)
    await add(new File([bytes], 'far.png'))
    await see('[data-test="waiting-pictures"]', 'far.png: waits on this device')
    await see('[data-attachment="head.png"]')
    // Opened anew it still waits.
    network(true)
    await gone('[data-test="waiting-pictures"]')
    await see('[data-attachment="far.png"]')
    expect((await kept()).filter((a) => a.name === 'far.png')).toHaveLength(1)
  })
  it('are said anew, with an arrow that keys move and words', async () => {
    await openLoop('TT-407', '/identify')
    ;(await see('[data-attachment="head.png"] button')).click()
    await read('without where and by what it was taken')
    await choose('.sheet form .entry', 'terminals')
    await fill('In words', 'of the head')
    await press('Add an arrow')
    await key('[aria-label^="Arrow 1, its tip"]', 'ArrowRight')
    await press('Add words')
    await fill('Words 2', '')
    await see('.sheet form [type=submit]:disabled')
    await fill('Words 2', 'loose')
    await key('[aria-label^="Words 2"]', 'ArrowDown')
    await press('Keep what is said')
    await see('.pictures', 'terminals: of the head')
    const photograph = (await kept()).find((a) => a.name === 'head.png')
    expect(photograph!.note).toMatchObject({ words: 'of the head', hidden: null })
    expect(photograph!.note.marks).toEqual([
      { draw: 'arrow', x: 0.3, y: 0.3, toX: 0.51, toY: 0.5 },
      { draw: 'words', x: 0.3, y: expect.closeTo(0.21, 6) as number, words: 'loose' },
    ])
  })
  it('are taken out of view with a reason, stay on record, and come back', async () => {
    await openLoop('TT-407', '/identify')
    ;(await see('[data-attachment="data sheet.pdf"] button')).click()
    await read('Take it out of view')
    await fill('Why', 'of another head')
    await press('Take it out of view')
    await read('1 taken out of view')
    await gone('[data-attachment="data sheet.pdf"]')
    expect((await kept()).find((a) => a.name === 'data sheet.pdf')).toMatchObject({
      note: { hidden: 'of another head' },
    })
    await press('data sheet.pdf')
    await press('Show it again')
    await see('[data-attachment="data sheet.pdf"]')
  })
})

describe('photographs and papers, for a reviewer', () => {
  pagesFor('magnus')
  it('are looked at, and not changed', async () => {
    await openLoop('TT-407', '/identify')
    await see('[data-attachment="head.png"] img[alt="terminals: of the head"]')
    await gone('.pictures input[type="file"]')
    ;(await see('[data-attachment="head.png"] button')).click()
    await see('text.words', 'loose')
    await gone('.sheet form [type=submit]')
    await press('Close')
  })
})
