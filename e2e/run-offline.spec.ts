// Guided work by hand out of coverage; and two people on one run, of whom the second is shown what to put right.
import type { Page } from '@playwright/test'
import { completeLoop, expect, openLoop, readyForNoCoverage, saved, signInAs, stage, test } from './steps.ts'

test.use({ serviceWorkers: 'allow' })
const coverage = (page: Page) => page.locator('[data-test="coverage"]')
const cut = (page: Page, off: boolean) => page.context().setOffline(off)
const gateAt = (page: Page) => page.locator('[data-gate]')

/** Passes the gate that is open, at a real device. */
async function passGate(page: Page): Promise<void> {
  const gate = gateAt(page)
  const id = await gate.getAttribute('data-gate')
  const words = gate.getByRole('textbox')
  for (let i = 0; i < (await words.count()); i++) await words.nth(i).fill('Bree, shift operator')
  await page.getByTestId('pass-gate').click()
  await expect(page.locator(`[data-gate="${id}"]`)).toHaveCount(0)
}
async function beginDamping(page: Page): Promise<void> {
  await page.getByRole('tab', { name: 'Guided work' }).click()
  await page.locator('[data-procedure="damping-change"]').click()
  await page.getByLabel('New damping').fill('3 s')
  await page.getByTestId('begin-run').click()
  await expect(gateAt(page)).toBeVisible()
}
async function withAsFound(page: Page, tag: string): Promise<void> {
  await completeLoop(page, tag)
  await saved(page)
  await stage(page, 'trim')
  await page.locator('[data-witness="applied"] input').fill('0')
  await page.locator('[data-witness="current"] input').fill('4.02')
  await page.getByTestId('take-point').click()
  await expect(page.getByRole('table').first()).toContainText('4.02')
}

test('guided work is led out of coverage to its end, and is on record once it is back @both', async ({
  page,
  home,
}, info) => {
  test.slow()
  const tag = info.project.name === 'desk' ? 'LT-785' : 'LT-786'
  await signInAs(page, home, 'Ailsa Fenn')
  await withAsFound(page, tag)
  await readyForNoCoverage(page)
  await cut(page, true)
  await beginDamping(page)
  for (let i = 0; i < 30 && (await gateAt(page).count()); i++) await passGate(page)
  await expect(page.getByText('All gates passed.')).toBeVisible()
  // A tab that is closed and opened again has it all.
  await page.reload()
  await expect(page.locator('[data-run="damping-change"]')).toHaveAttribute('data-status', 'done')
  await expect(coverage(page)).toContainText('out of coverage')
  await cut(page, false)
  await expect(coverage(page)).toContainText(/^(all )?saved/i, { timeout: 60_000 })
  await page.reload()
  await expect(page.locator('[data-run="damping-change"]')).toHaveAttribute('data-status', 'done')
})

test('of two on one run the first to arrive stands; the other puts right what it left @both', async ({
  page,
  home,
}, info) => {
  test.slow()
  const tag = info.project.name === 'desk' ? 'LT-787' : 'LT-788'
  await signInAs(page, home, 'Ailsa Fenn')
  await withAsFound(page, tag)
  await beginDamping(page)
  await readyForNoCoverage(page)
  const other = await (
    await page
      .context()
      .browser()!
      .newContext({ viewport: { width: 820, height: 1180 } })
  ).newPage()
  await signInAs(other, home, 'Rona Teague')
  await openLoop(other, tag)
  await stage(other, 'trim')
  await other.getByRole('tab', { name: 'Guided work' }).click()
  await expect(gateAt(other)).toBeVisible()
  await cut(page, true)
  const writes = page.locator('[data-kind="command"]')
  for (let i = 0; i < 30 && !(await writes.count()); i++) await passGate(page)
  await passGate(page)
  await passGate(other)
  await cut(page, false)
  await expect(coverage(page)).toContainText('could not be sent', { timeout: 60_000 })
  const aside = page.getByRole('region', { name: 'Done here, and not on record' })
  await expect(aside).toContainText('what you did here does not stand')
  await expect(aside.locator('[data-aside="written"]')).toContainText('Look at what the device holds')
  await expect(page.getByTestId('put-aside')).toBeDisabled()
  for (const box of await aside.getByRole('checkbox').all()) await box.check()
  await aside.getByRole('textbox').fill('Damping back at 1 s; Rona goes on.')
  await page.getByTestId('put-aside').click()
  await expect(aside).toHaveCount(0)
  await expect(coverage(page)).toContainText(/^(all )?saved/i)
  // Where the other has brought it, as on her tablet.
  const at = await gateAt(other).getAttribute('data-gate')
  await expect(page.locator(`[data-gate="${at}"]`)).toBeVisible()
  await other.context().close()
})
