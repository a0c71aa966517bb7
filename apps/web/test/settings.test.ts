// What a site settles where schools of practice differ: set on Settings, begun with by a new loop, said where an entry
// is another.
import { describe, expect, it } from 'vitest'
import { barred, fill, openLoop, pagesFor, press, pressAt, read, see, stage, visit } from './visit.ts'
import { until } from './until.ts'

const row = (key: string) => `[data-practice="${key}"]`
const settings = () => visit('/settings', 'Settings of the site')

describe('schools of practice, for a reviewer', () => {
  pagesFor('magnus')
  it('are settled with their reasons, and an interval by kind', async () => {
    await settings()
    await see(row('faultAction'), 'The safe side of a trip decides')
    await see(row('healthOutput'), /Asked of: Flow, Coriolis/)
    await barred('Set for the site', 'section[aria-labelledby="practice-head"]')
    await press('low', row('faultAction'))
    await press('3 months', '[aria-label="Settle it by kind"] [data-kind="ph"]')
    await read('pH: 3 months. The others: 12 months.')
    await pressAt('save-practice')
    await until(() => barred('Set for the site', 'section[aria-labelledby="practice-head"]'))
    await settings()
    await see(`${row('faultAction')} [aria-pressed="true"]`, 'low')
    await read('pH: 3 months. The others: 12 months.')
  })
})

describe('schools of practice, for a technician', () => {
  pagesFor('ailsa')
  it('are read, and new loops begin with them', async () => {
    await settings()
    await see(row('faultAction'), 'low')
    await see(row('decimal-mark'), 'point, 3.2')
    await see('[data-test="logo"]', 'No logo')
    await visit('/loops/new', 'New loop')
    ;(await see('input[value="ph"]')).click()
    await fill(/^Tag/, 'AT-7811')
    await fill(/^Service/, 'Rinse')
    await fill(/^Area/, 'Test')
    await press('Create this loop')
    await see('[data-entry="interval"] [aria-pressed="true"]', '3 months')
    await stage('range')
    await see('[data-entry="faultAction"] [aria-pressed="true"]', 'low')
    await press('high', '[data-entry="faultAction"]')
    await see('[data-entry="faultAction"]', 'This site settled on: low.')
    await press('low', '[data-entry="faultAction"]')
    await until(() => expect(document.querySelector('[data-entry="faultAction"]')?.textContent).not.toMatch(/settled/))
  })
})

describe('a loop at which something is asked for', () => {
  pagesFor('ailsa')
  it('says so in its folder', async () => {
    await openLoop('LT-112')
    await see('[data-test="open-jobs"]', /Look into the gland of the head, by .*\(Rona Teague\).*In the round/)
  })
})
