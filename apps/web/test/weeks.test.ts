// The weeks ahead on their page: load drawn, visits settled, a calendar opened and taken back, the site's week set.
import { describe, expect, it } from 'vitest'
import { barred, fill, gone, pagesFor, press, read, see, visit } from './visit.ts'
import { until } from './until.ts'

const weeks = () => visit('/weeks', 'Weeks ahead')
const visits = () => [...document.querySelectorAll<HTMLElement>('.visit')]

describe('the weeks ahead, for a technician', () => {
  pagesFor('ailsa')
  it('are drawn by their load, each check on a day and a person', async () => {
    await weeks()
    await see('[data-test="weeks-summary"]', /\d+ checks until .* late/)
    await see('[data-test="weeks-load"] svg[role=img]')
    await until(() => expect(visits().length).toBeGreaterThan(5))
    await read('Gas: stands still')
    await read('Ailsa Fenn')
  })
  it('stand round what is settled: a day, and who goes', async () => {
    await weeks()
    const first = await see('.visit')
    const tag = first.textContent.trim()
    first.click()
    await read('the plan puts it on')
    await fill('On which day', '2099-12-24')
    await read('this day is late')
    await fill('On which day', '2026-12-23')
    await press('Settle it')
    await see('.visit.pinned', tag)
    ;(await see('.visit.pinned', tag)).click()
    await press('Leave it to the plan')
    await gone('.visit.pinned')
  })
  it('are read in another calendar under an address, until it is taken back', async () => {
    await weeks()
    await press('In another calendar')
    await press('Make an address')
    await see('.address', /\/api\/calendar\/feeds\/[\w-]{43}\.ics/)
    await press('Take the address back')
    await gone('.address')
    await see('a[href="/api/calendar.ics?of=mine"]')
  })
  it('have their working days and shutdowns read in the settings, and not set', async () => {
    await visit('/settings', 'Settings of the site')
    await read('Mon, Tue, Wed, Thu, Fri; 180 min of checks in a day; up to 30 days before it is due.')
    await read(/Gas: .*checks are moved into it; Cleaning of the gas line/)
  })
})

describe('the weeks ahead, for an administrator', () => {
  pagesFor('rona')
  it('without a working day say so, and name what is put on no day', async () => {
    await visit('/settings', 'Settings of the site')
    for (const day of ['Mon', 'Tue', 'Wed', 'Thu', 'Fri']) await press(day)
    await read('Without a working day nothing can be planned.')
    await fill('Minutes of checks in a day, for each person', '5')
    await read('lie between 15 and 1440')
    await barred('Set the weeks')
    await fill('Minutes of checks in a day, for each person', '200')
    await press('Set the weeks')
    await until(() => barred('Set the weeks'))
    await weeks()
    await see('[data-test="unplaced"]', 'No day of the week is set')
    await visit('/settings', 'Settings of the site')
    for (const day of ['Mon', 'Tue', 'Wed', 'Thu', 'Fri']) await press(day)
    await press('Add a shutdown')
    await press('Set the weeks')
    await until(() => barred('Set the weeks'))
    await weeks()
    await gone('[data-test="unplaced"]')
  })
})
