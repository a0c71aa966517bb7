// Out of coverage: the page opens again, folders of before open, and what is typed goes on and arrives.
import { enter, expect, openLoop, saved, signInAs, stage, test } from './steps.ts'
import type { Page } from '@playwright/test'

test.use({ serviceWorkers: 'allow' })
const coverage = (page: Page) => page.locator('[data-test="coverage"]')
/** Until this browser has everything that a page out of coverage needs. */
const kept = (page: Page) =>
  page.evaluate(async () => {
    await navigator.serviceWorker.ready
    const all = await caches.keys()
    const kept = await Promise.all(all.map(async (name) => (await (await caches.open(name)).keys()).length))
    return kept.reduce((a, b) => a + b, 0)
  })
const cut = (page: Page, off: boolean) => page.context().setOffline(off)

test('a reload out of coverage opens page and folder; what is typed arrives once it is back @both', async ({
  page,
  home,
}) => {
  test.slow()
  await signInAs(page, home, 'Ailsa Fenn')
  await openLoop(page, 'FT-118')
  await expect.poll(() => kept(page), { timeout: 60_000 }).toBeGreaterThan(60)
  await stage(page, 'identify')
  // What every folder needs of the site comes after the folder itself.
  await page.waitForTimeout(6000)
  await cut(page, true)
  await page.reload()
  await expect(page.getByRole('heading', { name: /FT-118/ })).toBeVisible()
  await expect(coverage(page)).toContainText('out of coverage; as of')
  await enter(page, { controls: 'Dosing valve, by hand' })
  await expect(coverage(page)).toContainText('out of coverage')
  // A tab that is closed and opened again loses nothing.
  await page.reload()
  await expect(page.locator('[data-entry="controls"] input')).toHaveValue('Dosing valve, by hand')
  // Another place says what it lacks, the register shows what would open.
  await page.goto(`${home}/loops`)
  await expect(page.getByRole('row').filter({ hasText: 'FT-118' })).toBeVisible()
  await openLoop(page, 'FT-118')
  await cut(page, false)
  await expect(coverage(page)).toContainText('saved', { timeout: 30_000 })
  await page.reload()
  await stage(page, 'identify')
  await expect(page.locator('[data-entry="controls"] input')).toHaveValue('Dosing valve, by hand')
  await saved(page)
})

test('a loop is taken along, and put back; signing out out of coverage leaves nothing to be seen', async ({
  page,
  home,
}) => {
  await signInAs(page, home, 'Ailsa Fenn')
  await openLoop(page, 'TT-407')
  await page.getByTestId('take-along').click()
  await expect(page.getByTestId('take-along')).toHaveText('taken along')
  await coverage(page).click()
  await expect(page.getByTestId('kept-here')).toContainText('TT-407')
  await expect(page.getByTestId('kept-here').getByRole('button', { name: 'Put back' })).toHaveCount(1)
  await page.getByRole('button', { name: 'Close' }).click()
  await expect.poll(() => kept(page), { timeout: 60_000 }).toBeGreaterThan(60)
  await cut(page, true)
  await page.getByRole('button', { name: 'Ailsa Fenn' }).click()
  await page.getByRole('menuitem', { name: 'Sign out' }).click()
  await expect(page).toHaveURL(/sign-in/)
  await page.goto(`${home}/loops`)
  await expect(page.getByText('TT-407')).toHaveCount(0)
  await cut(page, false)
})
