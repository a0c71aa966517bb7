// Tables on their page: looked through, a row copied, changed after a look at what it would move, taken along as CSV.
import { describe, it } from 'vitest'
import { ask, barred, choose, click, fill, gone, loopId, pagesFor, press, pressAt, read, see, visit } from './visit.ts'

describe('tables, for a technician', () => {
  pagesFor('ailsa')
  it('say where each figure comes from, and are searched', async () => {
    await visit('/tables', 'Tables')
    await see('[data-test="source"]', 'Rounded handbook values at 20 °C')
    await read('carbon steel')
    await fill('Find in it', 'DN 300')
    await read('Nothing of that stands in it.')
    await see('[role=status]', 'It stands in: Pipes, ASME B36.10M')
    await choose('.find .entry', 'Pipes, ASME B36.10M')
    await see('tbody tr', /NPS 12.*DN 300/)
    await see('[data-test="source"]', 'ASME B36.10M')
  })
  it('have rows of the site’s own: copied from a built-in one, and changed after what would move is seen', async () => {
    await visit('/tables', 'Tables')
    ;(await see('tbody tr:first-child .do .v-btn')).click()
    await fill('Name', 'Steel of the north line')
    await barred('Keep the row')
    await fill('Where its figures come from', 'Gauged with block B2')
    await press('Keep the row')
    await see('[data-own-row="Steel of the north line"]', '3230 m/s')
    await press('Change', '[data-own-row="Steel of the north line"]')
    await fill(/^Wave speed in the wall/, '3300 m/s')
    await barred('Keep the row')
    await pressAt('what-moves')
    await see('[data-test="row-uses"]', 'No loop uses Steel of the north line.')
    await press('Keep the row')
    await see('[data-own-row="Steel of the north line"]', /3300 m\/s.*changed once/)
  })
  it('tell which loops use a row', async () => {
    await visit('/tables', 'Tables')
    await press('Loops that use carbon steel')
    await see('[data-test="row-uses"]', /loops? uses? carbon steel/)
    const tag = 'FT-101'
    const material = async () => {
      const folder = await ask<{ versions: { entries: Record<string, { typed: string }> }[] }>(
        `/api/loops/${await loopId(tag)}`,
      )
      return folder.versions.at(-1)?.entries['material']?.typed
    }
    if ((await material()) === 'carbon-steel') await see(`[data-uses="${tag}"]`)
    else await gone(`[data-uses="${tag}"]`)
  })
  it('bring rows in from CSV once, and refuse what is not whole', async () => {
    await visit('/tables', 'Tables')
    const pick = async (text: string) => {
      const input = await see('input[type="file"]')
      Object.defineProperty(input, 'files', { value: [new File([text], 'rows.csv')], configurable: true })
      input.dispatchEvent(new Event('change'))
    }
    await pick('name,wallSpeed,source\nBronze here,2300 m/s,measured\nCopper here,,measured')
    await read('Nothing was kept: line 3 lacks something.')
    await pick('name,wallSpeed,source\nBronze here,2300 m/s,measured\n')
    await read('1 of 1 rows were new or other than before')
    await see('[data-own-row="Bronze here"]', '2300 m/s')
    await pick('name,wallSpeed,source\nBronze here,2300 m/s,measured\n')
    await read('0 of 1 rows were new')
    await click(await see('[data-own-row="Bronze here"] .v-btn:last-child'))
    await see('[data-test="row-uses"]', 'No loop uses Bronze here.')
  })
})
