import {
  completeLoop,
  beginCheck,
  entry,
  expect,
  openLoop,
  saved,
  signInAs,
  stage,
  test,
  watch,
  toLoops,
} from './steps.ts'
import { dataFolder, run, throwAway } from './run-server.ts'

test('two people at one loop: each sees the other’s change, and the second keeps their own text', async ({
  page,
  home,
  browser,
}) => {
  await signInAs(page, home, 'Ailsa Fenn')
  await openLoop(page, 'LT-133')
  await stage(page, 'point')
  const other = await (await browser.newContext()).newPage()
  const errors: string[] = []
  watch(other, errors)
  await signInAs(other, home, 'Rona Teague')
  await openLoop(other, 'LT-133')
  await stage(other, 'point')

  await entry(page, 'blanking').fill('310 mm')
  await saved(page)
  await expect(entry(other, 'blanking')).toHaveValue('310 mm')
  await expect(other.getByText('Ailsa Fenn changed Blanking distance to 310 mm')).toBeVisible()

  // Rona types while out of reach; Ailsa saves the same entry meanwhile.
  await other.context().setOffline(true)
  await entry(other, 'blanking').fill('290 mm')
  await expect(other.locator('[data-test="coverage"]')).toContainText('out of coverage')
  await entry(page, 'blanking').fill('330 mm')
  await saved(page)
  await other.context().setOffline(false)
  await expect(other.getByText('Ailsa Fenn saved 330 mm; you have 290 mm')).toBeVisible({ timeout: 20_000 })
  await expect(entry(other, 'blanking')).toHaveValue('290 mm')
  await other.getByRole('button', { name: 'Keep mine' }).click()
  await expect(entry(page, 'blanking')).toHaveValue('290 mm')
  expect(errors).toEqual([])
  await other.context().close()
})

test('a reading taken out of coverage is kept, sent later and not taken twice', async ({ page, home }) => {
  await signInAs(page, home, 'Ailsa Fenn')
  await completeLoop(page, 'LT-622')
  await beginCheck(page, '0, 100')
  await page.context().setOffline(true)
  await entry(page, 'applied').fill('2')
  await entry(page, 'current').fill('4.03')
  await entry(page, 'current').press('Enter')
  await expect(page.locator('[data-point="0"]')).toContainText('waits to be saved')
  await expect(page.locator('[data-test="coverage"]')).toContainText('out of coverage')
  await page.context().setOffline(false)
  await expect(page.locator('[data-point="0"]')).toHaveAttribute('data-saved', 'true', { timeout: 20_000 })
  await page.reload()
  await expect(page.locator('[data-point="0"]')).toHaveAttribute('data-saved', 'true')
  await expect(page.locator('[data-stage="check"]')).toContainText('1 of 4 read')

  // Going back to correct it needs a reason; the entry keeps what was typed.
  await entry(page, 'current').press('Backspace')
  await expect(page.locator('[data-test="point"]')).toContainText('0 % up')
  await entry(page, 'applied').fill('2')
  await entry(page, 'current').fill('4.01')
  await entry(page, 'current').press('Enter')
  await expect(page.getByText('This point was read before')).toBeVisible()
  await page.getByLabel('Why it is read again').fill('Misread the meter')
  await page.locator('[data-test="take"]').click()
  await expect(page.locator('[data-point="0"]')).toContainText('4.010 mA')
})

test('kill -9 in the middle of a check loses nothing that was shown as saved', async ({ page }) => {
  const folder = dataFolder()
  const first = await run(folder)
  try {
    await signInAs(page, first.base, 'Ailsa Fenn')
    await completeLoop(page, 'LT-631')
    await beginCheck(page, '0, 50, 100')
    for (let i = 0; i < 3; i++) {
      await entry(page, 'applied').fill(String(900 * i))
      await entry(page, 'current').fill((4 + 8 * i + 0.01 * i).toFixed(3))
      await entry(page, 'current').press('Enter')
      await expect(page.locator(`[data-point="${i}"]`)).toHaveAttribute('data-saved', 'true')
    }
    const shown = await page.locator('[data-saved="true"]').allInnerTexts()
    expect(shown).toHaveLength(3)
    const { start, server } = first.pids()
    process.kill(start, 'SIGKILL')
    process.kill(server, 'SIGKILL')
    await first.ended
    await page.goto('about:blank')
    const second = await run(folder)
    try {
      await page.goto(second.base)
      await signInAs(page, second.base, 'Ailsa Fenn').catch(() => undefined)
      await openLoop(page, 'LT-631')
      await stage(page, 'check')
      await expect(page.locator('[data-saved="true"]')).toHaveCount(3)
      expect(await page.locator('[data-saved="true"]').allInnerTexts()).toEqual(shown)
    } finally {
      await second.stop()
    }
  } finally {
    throwAway(folder)
  }
})

test('an empty start makes its first user on the first visit', async ({ page }) => {
  const folder = dataFolder()
  const server = await run(folder, ['--empty'])
  try {
    await page.goto(server.base)
    const code = /Code for the first user:\s+(\S+)/.exec(server.printed())![1]!
    await page.getByLabel('Set-up code').fill('AAAA-AAAA-AAAA-AAAA')
    await page.getByLabel('Your name').fill('Una Marsh')
    await page.getByLabel('Sign-in name').fill('una')
    await page.getByLabel('Password').fill('four words are enough')
    await page.getByRole('button', { name: 'Make this user and begin' }).click()
    await expect(page.getByRole('alert')).toContainText('not the set-up code')
    await page.getByLabel('Set-up code').fill(code.toLowerCase())
    await page.getByRole('button', { name: 'Make this user and begin' }).click()
    await expect(page.getByTestId('round-summary')).toHaveText('Nothing is due and nothing is asked for.')
    await toLoops(page)
    await expect(page.getByText('No loop has been entered yet.')).toBeVisible()
  } finally {
    await server.stop()
    throwAway(folder)
  }
})
