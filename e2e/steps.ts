// What a technician does, in words the journeys share. Every page is watched for console errors.
import { ownServer } from './workers.ts'
import { test as base, expect, type Locator, type Page } from '@playwright/test'

export { expect }

/** Messages of the browser itself about what a journey provokes on purpose, and of nothing being kept in most. */
const EXPECTED =
  /Failed to load resource: (the server responded with a status of 4\d\d|net::ERR_)|registration blocked by Playwright/

export const test = base.extend<{ watched: void; home: string }>({
  home: async ({}, use) => use(ownServer()),
  watched: [
    async ({ page }, use) => {
      const errors: string[] = []
      watch(page, errors)
      await use()
      expect(errors).toEqual([])
    },
    { auto: true },
  ],
})

export function watch(page: Page, errors: string[]): void {
  page.on('console', (m) => {
    if (['error', 'warning'].includes(m.type()) && !EXPECTED.test(m.text())) errors.push(m.text())
  })
  page.on('pageerror', (e) => errors.push(e.message))
}

export async function signInAs(page: Page, home: string, name: string): Promise<void> {
  await page.goto(home)
  await page.getByRole('button', { name }).click()
  await expect(page.getByRole('heading', { name: 'Round' })).toBeVisible()
  await toLoops(page)
}
/** Goes to the register, from wherever one is. */
export async function toLoops(page: Page): Promise<void> {
  if (!(await page.getByRole('heading', { name: 'Loops', exact: true }).isVisible()))
    await page.getByRole('navigation', { name: 'Places' }).getByRole('link', { name: 'Loops' }).click()
  await expect(page.getByRole('heading', { name: 'Loops', exact: true })).toBeVisible()
}

export async function signOut(page: Page, name: string): Promise<void> {
  const [leave, door] = [
    page.getByRole('menuitem', { name: 'Sign out' }),
    page.getByRole('heading', { name: 'Calm Loop' }),
  ]
  // Pressed while the menu still opens, it may not be heard: then it is pressed again.
  await expect(async () => {
    if (await door.isVisible()) return
    if (!(await leave.isVisible())) await page.getByRole('banner').getByRole('button', { name }).click()
    await leave.click({ timeout: 2000 })
    await expect(door).toBeVisible({ timeout: 2000 })
  }).toPass({ timeout: 20_000 })
}

/**
 * Opens a loop from the register: found by its tag, for a long list draws only what is in sight, and pressed once the
 * list stands still: a row that moves up under the finger is pressed again, as anybody would.
 */
export async function openLoop(page: Page, tag: string): Promise<void> {
  const heading = page.getByRole('heading', { level: 1 })
  await toLoops(page)
  await page.getByLabel('Find by tag, service or area').fill(tag)
  await expect(page.locator('tr.loop').filter({ hasNotText: tag })).toHaveCount(0)
  await expect(async () => {
    const row = page.getByRole('link', { name: tag, exact: true })
    if (!(await heading.innerText()).includes(tag)) await row.click({ timeout: 3000 })
    await expect(heading).toContainText(tag, { timeout: 8000 })
  }).toPass({ timeout: 60_000 })
}

export const stage = (page: Page, id: string) => page.locator(`[data-stage="${id}"]`).click()
export const knot = (page: Page, id: string) => page.locator(`[data-knot="${id}"] input`)
export const entry = (page: Page, key: string) => page.locator(`[data-entry="${key}"] input`)
export const saved = (page: Page) => expect(page.locator('[data-test="coverage"]')).toContainText('saved')

/** A new loop; of the kind that stands there first, or of the one with this name. */
export async function newLoop(page: Page, tag: string, kind?: string): Promise<void> {
  await toLoops(page)
  await page.getByRole('link', { name: 'New loop' }).click()
  await page.getByLabel(/^Tag/).fill(tag)
  await page.getByLabel(/^Service/).fill('Rinse tank level')
  await page.getByLabel(/^Area/).fill('Wash house')
  if (kind) await page.getByRole('radio', { name: new RegExp(`^${kind}`) }).check()
  await page.getByRole('button', { name: 'Create this loop' }).click()
  await expect(page.getByRole('heading', { level: 1 })).toContainText(tag.toUpperCase())
}

/** Chooses from a list; tried again until it is chosen, for a list may still be opening. */
export async function choose(page: Page, field: Locator, value: string): Promise<void> {
  // Of the list that is open: a native list has options too, and one that was closed may be still on its way out.
  const options = page.locator('.v-overlay--active').getByRole('option')
  const option = options.filter({ hasText: value }).and(page.getByRole('option', { name: value, exact: true }))
  await expect(async () => {
    if (!(await options.count())) await field.locator('.v-select').click()
    await options.first().waitFor()
    if (await option.count()) await option.click({ timeout: 2000 })
    else {
      // A long list draws only what is in sight: its first letters choose.
      await page.keyboard.press('Escape')
      await expect(options).toHaveCount(0, { timeout: 2000 })
      await field.locator('input[role=combobox]').focus()
      await page.keyboard.type(value.slice(0, 3), { delay: 30 })
    }
    await expect(field.locator('.v-select')).toContainText(value, { timeout: 1500 })
  }).toPass({ timeout: 20_000 })
}

/** Fills entries of the stage at hand; a choice is pressed, a list item chosen. */
export async function enter(page: Page, values: Record<string, string>): Promise<void> {
  for (const [key, value] of Object.entries(values)) {
    const field = page.locator(`[data-entry="${key}"]`)
    await field.waitFor()
    const choice = field.getByRole('button', { name: value, exact: true })
    if (await choice.count()) await choice.click()
    else if (await field.locator('.v-select').count()) await choose(page, field, value)
    else await field.locator('input').fill(value)
  }
}

export const COMPLETE: Record<string, Record<string, string>> = {
  identify: { device: 'Level head A2', serial: 'A2-1', controls: 'Rinse valve', tell: 'Wash house operator' },
  wire: { supply: '24 V', liftOff: '12', shunt: '250 Ω', conductor: '1.5 mm²', cableLength: '200 m' },
  point: { tankDepth: '2 m', emptyDistance: '2,3 m', fullDistance: '500 mm', blanking: '250 mm' },
  range: {
    lrv: '0 mm',
    urv: '1800 mm',
    faultAction: 'high',
    faultCurrent: '21.5 mA',
    countsLow: '13107',
    countsHigh: '65535',
    receiverLow: '0 mm',
    receiverHigh: '1800 mm',
  },
}

export async function completeLoop(page: Page, tag: string): Promise<void> {
  await newLoop(page, tag)
  for (const [id, values] of Object.entries(COMPLETE)) {
    await stage(page, id)
    await enter(page, values)
  }
  await saved(page)
}

/** Connects the simulated bench of the loop that is open, unless it is connected. */
export async function connectBench(page: Page): Promise<void> {
  const [offer, ribbon] = [page.getByTestId('connect-bench'), page.getByTestId('bench-ribbon')]
  await offer.or(ribbon).waitFor()
  if (await offer.isVisible()) await offer.click()
  await expect(ribbon).toContainText('Bench connected: practice')
}

/** Ends the bench of the loop that is open, if it is connected: then the record is shown. */
export async function onRecord(page: Page): Promise<void> {
  const [offer, ribbon] = [page.getByTestId('connect-bench'), page.getByTestId('bench-ribbon')]
  await offer.or(ribbon).waitFor()
  if (await ribbon.isVisible()) await page.getByTestId('disconnect-bench').click()
  await offer.waitFor()
}

export async function beginCheck(page: Page, points = '0, 25, 50, 75, 100'): Promise<void> {
  await stage(page, 'check')
  await page.getByLabel('Points, % of range').fill(points)
  // Only the current is read.
  await page.locator('[data-place="controller"] input[type=checkbox]').uncheck()
  await page.getByLabel('Who in operations was told').fill('Bree, shift operator')
  await page.getByRole('button', { name: 'Confirm loop in manual and begin' }).click()
  await expect(page.locator('[data-test="point"]')).toBeVisible()
}

/** Operations have the loop back, and who checked it signs. */
export async function giveBackAndSign(page: Page, name: string): Promise<void> {
  await page.getByLabel('Who in operations was told').fill('Bree, shift operator')
  await page.getByRole('button', { name: 'Confirm loop given back' }).click()
  await page.getByLabel(/^Your password/).fill('kelp and salt')
  await page.getByRole('button', { name: `Sign as ${name}` }).click()
}

/** Until this browser has everything that a page out of coverage needs: itself, and what every folder needs. */
export async function readyForNoCoverage(page: Page): Promise<void> {
  const kept = () =>
    page.evaluate(async () => {
      await navigator.serviceWorker.ready
      const names = await caches.keys()
      const sizes = await Promise.all(names.map(async (name) => (await (await caches.open(name)).keys()).length))
      return sizes.reduce((a, b) => a + b, 0)
    })
  await expect.poll(kept, { timeout: 60_000 }).toBeGreaterThan(60)
  // What every folder needs of the site comes after the folder itself.
  await page.waitForTimeout(6000)
}
