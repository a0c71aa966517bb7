// Doors and what is not lost behind them: a session that ends in mid-check, two tabs out of coverage, others' entries,
// seals and their verification.
import { readFileSync } from 'node:fs'
import type { Page } from '@playwright/test'
import { beginCheck, completeLoop, entry, expect, openLoop, signInAs, signOut, stage, test } from './steps.ts'

const coverage = (page: Page) => page.getByTestId('coverage')
async function read(page: Page, applied: string, current: string): Promise<void> {
  await entry(page, 'applied').fill(applied)
  await entry(page, 'current').fill(current)
  await entry(page, 'current').press('Enter')
}

test('a session that ends in mid-check is told at once; the work goes on and is sent after signing in @both', async ({
  page,
  home,
}, info) => {
  await signInAs(page, home, 'Ailsa Fenn')
  await completeLoop(page, info.project.name === 'desk' ? 'LT-701' : 'LT-702')
  await beginCheck(page, '0, 100')
  const cookies = await page.context().cookies()
  await page.request.delete(`${home}/api/session`, {
    headers: {
      'x-csrf-token': ((await (await page.request.get(`${home}/api/session`)).json()) as { csrfToken: string })
        .csrfToken,
    },
  })
  await expect(page.getByTestId('session-ended')).toContainText('Your session has ended')
  expect(cookies.length).toBeGreaterThan(0)
  for (const [applied, current] of [
    ['2', '4.03'],
    ['1800', '20.02'],
  ] as const)
    await read(page, applied, current)
  await expect(coverage(page)).toContainText('signed out; 2 entries wait here')
  await coverage(page).click()
  await expect(page.getByTestId('waiting-loop')).toContainText('2 entries')
  await page.getByRole('button', { name: 'Close' }).click()

  await page.getByLabel('Password of Ailsa Fenn').fill('not this one')
  await page.getByRole('button', { name: 'Sign in again' }).click()
  await expect(page.getByTestId('session-ended')).toContainText('wrong')
  await page.getByLabel('Password of Ailsa Fenn').fill('kelp and salt')
  await page.getByRole('button', { name: 'Sign in again' }).click()
  await expect(page.getByTestId('session-ended')).toHaveCount(0)
  for (const i of [0, 1]) await expect(page.locator(`[data-point="${i}"]`)).toHaveAttribute('data-saved', 'true')
  await expect(entry(page, 'applied')).toBeVisible()
})

test('all that a browser keeps is cleared in mid-work: what waits stays on its page, and is sent later', async ({
  page,
  home,
}) => {
  await signInAs(page, home, 'Ailsa Fenn')
  await completeLoop(page, 'LT-706')
  await beginCheck(page, '0, 100')
  await page.context().setOffline(true)
  await read(page, '2', '4.03')
  await read(page, '1800', '20.02')
  await expect(coverage(page)).toContainText('2 entries wait here')
  const devtools = await page.context().newCDPSession(page)
  await devtools.send('Storage.clearDataForOrigin', { origin: home, storageTypes: 'all' })
  await expect(coverage(page)).toContainText('2 entries wait here')
  await page.context().setOffline(false)
  await page.getByLabel('Password of Ailsa Fenn').fill('kelp and salt')
  await page.getByRole('button', { name: 'Sign in again' }).click()
  await expect(page.getByTestId('session-ended')).toHaveCount(0)
  for (const i of [0, 1]) await expect(page.locator(`[data-point="${i}"]`)).toHaveAttribute('data-saved', 'true')
  await page.reload()
  for (const i of [0, 1]) await expect(page.locator(`[data-point="${i}"]`)).toContainText('saved')
})

test('with two tabs out of coverage nothing is lost, and each reading is taken once', async ({
  page,
  home,
  context,
}) => {
  await signInAs(page, home, 'Ailsa Fenn')
  await completeLoop(page, 'LT-703')
  await beginCheck(page, '0, 50, 100')
  const other = await context.newPage()
  await other.goto(page.url())
  await expect(other.getByTestId('point')).toBeVisible()
  await context.setOffline(true)
  await read(page, '2', '4.03')
  await other.getByRole('button', { name: 'Go to 50 % up' }).click()
  await read(other, '900', '12.02')
  await expect(coverage(page)).toContainText('2 entries wait here')
  await expect(coverage(other)).toContainText('2 entries wait here')
  await context.setOffline(false)
  for (const tab of [page, other])
    for (const i of [0, 1])
      await expect(tab.locator(`[data-point="${i}"]`)).toHaveAttribute('data-saved', 'true', { timeout: 20_000 })
  await page.reload()
  await expect(page.locator('[data-stage="check"]')).toContainText('2 of 6 read')
  await other.close()
})

test('a second reading of a point waits in the tray until somebody says what is wrong with the first', async ({
  page,
  home,
  browser,
}) => {
  await signInAs(page, home, 'Ailsa Fenn')
  await completeLoop(page, 'LT-704')
  await beginCheck(page, '0, 100')
  const context = await browser.newContext()
  const rona = await context.newPage()
  await signInAs(rona, home, 'Rona Teague')
  await openLoop(rona, 'LT-704')
  await stage(rona, 'check')
  await expect(rona.getByTestId('point')).toBeVisible()
  await context.setOffline(true)
  await read(rona, '2', '4.500')
  await expect(coverage(rona)).toContainText('1 entry waits here')
  await read(page, '2', '4.030')
  await expect(page.locator('[data-point="0"]')).toHaveAttribute('data-saved', 'true')
  await context.setOffline(false)
  await expect(coverage(rona)).toContainText('1 could not be sent', { timeout: 20_000 })
  await expect(page.getByText(/Rona Teague sent another reading of a point that Ailsa Fenn had read/)).toBeVisible()
  await coverage(rona).click()
  await expect(rona.getByTestId('refused')).toContainText('was read before, by Ailsa Fenn')
  await rona.getByLabel('What is wrong with the earlier reading').fill('Meter on the wrong terminals')
  await rona.getByRole('button', { name: 'Send as its correction' }).click()
  await expect(rona.getByTestId('refused')).toHaveCount(0)
  await rona.getByRole('button', { name: 'Close' }).click()
  await expect(page.locator('[data-point="0"]')).toContainText('4.500 mA')
  await context.close()
})

test('what someone left on a tablet is not another’s to see or send, and is not lost', async ({
  page,
  home,
  context,
}) => {
  await signInAs(page, home, 'Ailsa Fenn')
  await completeLoop(page, 'LT-705')
  await beginCheck(page, '0, 100')
  // Writes are cut off; everything else is reached.
  await context.route('**/readings/**', (route) => route.abort())
  await read(page, '2', '4.03')
  await expect(coverage(page)).toContainText('1 entry waits here')
  await signOut(page, 'Ailsa Fenn')
  await expect(page.getByTestId('others')).toContainText('1 entry of Ailsa Fenn waits on this device')
  await context.unroute('**/readings/**')
  await signInAs(page, home, 'Rona Teague')
  await page.getByTestId('others-wait').click()
  await expect(page.getByTestId('others')).toContainText('Only they can see and send it')
  await expect(page.getByRole('dialog')).not.toContainText('4.03')
  await page.getByRole('button', { name: 'Close' }).click()
  await openLoop(page, 'LT-705')
  await stage(page, 'check')
  await expect(page.locator('[data-point="0"]')).toHaveAttribute('data-saved', 'false')
  await signOut(page, 'Rona Teague')
  await signInAs(page, home, 'Ailsa Fenn')
  await openLoop(page, 'LT-705')
  await stage(page, 'check')
  await expect(page.locator('[data-point="0"]')).toHaveAttribute('data-saved', 'true')
})

test(
  'a certificate’s fingerprint is verified without signing in, and a folder from elsewhere counts only when ' +
    'accepted',
  async ({ page, home }) => {
    await signInAs(page, home, 'Magnus Orrin')
    await openLoop(page, 'LT-112')
    await stage(page, 'hand-over')
    await expect(page.locator('[data-seal="sealed"]')).toHaveCount(2)
    const [file] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('link', { name: 'Whole folder (JSON)' }).click(),
    ])
    const text = readFileSync(await file.path(), 'utf8')
    const bundle = JSON.parse(text) as { folder: { checks: { signatures: { digest: string }[] }[] } }
    const digest = bundle.folder.checks.at(-1)!.signatures.at(-1)!.digest
    await signOut(page, 'Magnus Orrin')
    await page.goto(`${home}/verify?is=${digest}`)
    await expect(page.getByTestId('stands')).toContainText('It stands')
    await page.getByLabel('Fingerprint').fill(digest.replace(/^./, (c) => (c === 'a' ? 'b' : 'a')))
    await page.getByRole('button', { name: 'Does it stand?' }).click()
    await expect(page.getByTestId('stands')).toContainText('It does not stand here')

    // The same folder as another loop, as if it came from elsewhere: its signatures are for what stands in it no
    // longer.
    await signInAs(page, home, 'Rona Teague')
    await page.getByRole('button', { name: 'Import' }).click()
    await page.locator('input[type=file]').setInputFiles({
      name: 'forged.json',
      mimeType: 'application/json',
      buffer: Buffer.from(text.replaceAll('LT-112', 'LT-912')),
    })
    await expect(page.getByRole('dialog').getByRole('alert')).toContainText('it was changed afterwards')
  },
)

test('an administrator disables someone, who is told at once; a reviewer reads the trail', async ({
  page,
  home,
  browser,
}) => {
  await signInAs(page, home, 'Rona Teague')
  await page.getByRole('link', { name: 'People' }).click()
  await page.getByRole('button', { name: 'Add a person' }).click()
  await page.getByLabel('Name', { exact: true }).fill('Isla Brand')
  await page.getByLabel('Sign-in name').fill('isla')
  await page.getByLabel('First password').fill('long enough words')
  await page.getByRole('button', { name: 'Add this person' }).click()
  const context = await browser.newContext()
  const isla = await context.newPage()
  await isla.goto(home)
  await isla.getByLabel('Sign-in name').fill('isla')
  await isla.getByLabel('Password').fill('long enough words')
  await isla.getByRole('button', { name: 'Sign in', exact: true }).click()
  await openLoop(isla, 'LT-133')
  await page.getByRole('button', { name: 'Change Isla Brand' }).click()
  await expect(page.getByTestId('session')).toHaveCount(1)
  await page.getByRole('button', { name: 'Disable: may not sign in any more' }).click()
  await expect(page.getByText('may not sign in', { exact: true })).toBeVisible()
  await expect(isla.getByTestId('session-ended')).toBeVisible()
  await context.close()
  await page.getByRole('link', { name: 'Audit' }).click()
  await expect(page.getByTestId('chain')).toContainText('none was changed or taken out')
  await expect(page.getByRole('row').filter({ hasText: 'person access' }).first()).toContainText('disabled true')
})
