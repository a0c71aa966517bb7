// The day: a round opens first, is put in order, packed, taken along, and its jobs are made and ended.
import type { Page } from '@playwright/test'
import { scanner, settled, measured } from './scan.ts'
import { expect, signOut, test } from './steps.ts'

const round = async (page: Page, home: string, name = 'Ailsa Fenn') => {
  await page.goto(home)
  await page.getByRole('button', { name }).click()
  await expect(page.getByRole('heading', { name: 'Round' })).toBeVisible()
  await expect(page.getByTestId('round-summary')).toContainText('loops')
}
const stops = (page: Page) => page.getByTestId('stop').locator('.tag')
const bring = (page: Page, what: string) => page.getByTestId('bring').filter({ hasText: what })

for (const [tag, devices] of [
  ['TT-405', '@both'],
  ['TT-407', '@phone'],
] as const)
  test(`a job is called in, stands in the round, and is ended with a word ${devices}`, async ({ page, home }, info) => {
    await round(page, home)
    const what = `Listen to the fan (${info.project.name})`
    await page.getByRole('heading', { name: 'Round' }).click()
    await page.keyboard.press('j')
    await page.getByLabel('What is to be done').fill(what)
    await expect(page.getByRole('button', { name: 'Make the job' })).toBeDisabled()
    await page.getByRole('combobox', { name: 'Loop' }).fill(tag)
    await page.getByRole('option', { name: new RegExp(tag) }).click()
    await page.getByLabel('Why').fill('It hums since noon')
    await page.getByLabel('Who asks').fill('Shift lead')
    await page.getByRole('button', { name: 'Make the job' }).click()
    const job = page.getByTestId('job').filter({ hasText: what })
    await expect(job).toContainText('from Shift lead; called in; It hums since noon')
    await page.reload()
    await job.getByRole('button', { name: `End the job: ${what}` }).click()
    await page.getByLabel('In a word').fill('A loose guard')
    await page.getByRole('button', { name: 'It is done' }).last().click()
    await expect(job).toHaveCount(0)
  })

test('the order is put by hand, by keys or by dragging, kept, and walked again by one key', async ({ page, home }) => {
  await round(page, home, 'Rona Teague')
  await expect(stops(page).nth(2)).toBeVisible()
  const before = await stops(page).allInnerTexts()
  const grip = page.getByRole('button', { name: `Move ${before[0]}` })
  await grip.press('ArrowDown')
  const swapped = [before[1], before[0], ...before.slice(2)]
  await expect(stops(page)).toHaveText(swapped as string[])
  await expect(grip).toBeFocused()
  await page.reload()
  await expect(stops(page)).toHaveText(swapped as string[])
  // Dragged behind the third.
  const from = (await grip.boundingBox())!
  const to = (await page.getByRole('button', { name: `Move ${before[2]}` }).boundingBox())!
  await page.mouse.move(from.x + 20, from.y + 20)
  await page.mouse.down()
  await page.mouse.move(from.x + 20, from.y + 60, { steps: 5 })
  await page.mouse.move(to.x + 20, to.y + to.height, { steps: 10 })
  await page.mouse.up()
  await expect(stops(page)).toHaveText([before[1], before[2], before[0], ...before.slice(3)] as string[])
  await page.getByRole('heading', { name: 'Round' }).click()
  await page.keyboard.press('r')
  await expect(stops(page)).toHaveText(before)
})

test('what is packed is ticked and kept; of one meter for two people the second is told @both', async ({
  page,
  home,
  browser,
}) => {
  await round(page, home)
  const tape = bring(page, 'heat compound').getByRole('checkbox')
  await tape.check()
  const gauge = bring(page, 'Dip gauge D2')
  const other = await (await browser.newContext()).newPage()
  await round(other, home, 'Rona Teague')
  await expect(bring(other, 'Dip gauge D2')).toBeVisible()
  // The tablet's journey finds it taken by the desk's: laid down first.
  if (await gauge.getByRole('checkbox').isChecked()) await gauge.getByRole('checkbox').click()
  await expect(gauge.getByRole('checkbox')).not.toBeChecked()
  await other.reload()
  await expect(bring(other, 'Dip gauge D2').getByRole('checkbox')).toBeEnabled()
  await gauge.getByRole('checkbox').click()
  await expect(gauge.getByRole('checkbox')).toBeChecked()
  await bring(other, 'Dip gauge D2').getByRole('checkbox').click()
  await expect(other.getByRole('alert')).toContainText('Ailsa Fenn took it at')
  await expect(bring(other, 'Dip gauge D2')).toContainText('Ailsa Fenn has it since')
  await expect(bring(other, 'Dip gauge D2').getByRole('checkbox')).toBeDisabled()
  await other.context().close()
  await page.reload()
  await expect(tape).toBeChecked()
  await expect(gauge.getByRole('checkbox')).toBeChecked()
  await tape.uncheck()
  await gauge.getByRole('checkbox').click()
  await expect(gauge.getByRole('checkbox')).not.toBeChecked()
})

test('the round is one sheet of paper, for the day that is asked for', async ({ page, home }) => {
  await round(page, home)
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'One sheet' }).click(),
  ])
  expect(download.suggestedFilename()).toMatch(/^round \d{4}-\d\d-\d\d\.pdf$/)
  await page.goto(`${home}/round?day=2027-01-15`)
  await expect(page.getByTestId('stop').filter({ hasText: 'FT-210' })).toContainText('overdue since')
})

test('every part of the day fits, is large enough and accessible @both', async ({ page, home }, info) => {
  await fits(page, home, info.project.name)
})
test('and on a telephone @phone', async ({ page, home }, info) => {
  await fits(page, home, info.project.name)
})
async function fits(page: Page, home: string, device: string): Promise<void> {
  const { found, scan } = scanner(page, device === 'desk' ? undefined : [])
  await round(page, home, 'Rona Teague')
  await settled(page)
  const { wide, small } = await measured(page)
  expect(wide).toBeLessThanOrEqual(0)
  expect(small).toEqual([])
  await scan('round')
  await page.getByRole('button', { name: 'Make a job' }).click()
  await expect(page.getByRole('heading', { name: 'A job' })).toBeVisible()
  await scan('a job')
  await page.getByRole('button', { name: 'Leave it' }).click()
  expect(found).toEqual([])
  await signOut(page, 'Rona Teague')
}

test.describe('out of coverage', () => {
  test.use({ serviceWorkers: 'allow' })
  test('a round that was taken along opens, is ticked, and its jobs and loops are at hand', async ({ page, home }) => {
    await round(page, home)
    await page.evaluate(async () => (await navigator.serviceWorker.ready).active?.state)
    await page.getByRole('button', { name: 'Take it along' }).click()
    await expect(page.getByText(/all \d+ open without the server/)).toBeVisible({ timeout: 60_000 })
    await page.context().setOffline(true)
    await page.reload()
    await expect(stops(page).first()).toBeVisible()
    const cover = bring(page, 'cover key').getByRole('checkbox')
    await cover.check()
    await page.getByRole('button', { name: 'Make a job' }).click()
    await page.getByRole('button', { name: 'Leave it' }).click()
    await stops(page).filter({ hasText: 'PDT-118' }).click()
    await expect(page.getByRole('heading', { name: /PDT-118/ })).toBeVisible()
    await page.goBack()
    await expect(cover).toBeChecked()
    await page.context().setOffline(false)
    await expect(page.getByTestId('coverage')).toContainText('saved', { timeout: 60_000 })
    await page.reload()
    await expect(cover).toBeChecked()
    await cover.uncheck()
  })
})
