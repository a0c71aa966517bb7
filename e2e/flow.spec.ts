// Flow points from data to a reading that can be believed: clamp-on, Coriolis, thermal insertion, orifice; and their
// set-up sheets.
import type { Page } from '@playwright/test'
import { choose, connectBench, enter, expect, openLoop, saved, signInAs, stage, test } from './steps.ts'

const work = (page: Page, name: string) => page.getByRole('tab', { name: new RegExp(`^${name}`) }).click()
const figure = (page: Page, id: string) => page.locator(`[data-figure="${id}"]`)
const code = (page: Page, name: string) => page.locator(`[data-code="${name}"]`)
const step = (page: Page, id: string) => page.locator(`[data-step="${id}"]`)

async function practise(page: Page, name: string): Promise<void> {
  await connectBench(page)
  await choose(page, page.locator('.entry', { hasText: 'Practice' }), name)
}
async function flowTo(page: Page, typed: string): Promise<void> {
  await page.getByLabel('True flow on the bench').fill(typed)
  await page.getByLabel('True flow on the bench').press('Enter')
}
/** Confirms the step at hand, with the words or the figure that it asks for. */
async function confirm(page: Page, id: string, given?: { words?: string; value?: string }): Promise<void> {
  const at = step(page, id)
  await expect(at).toHaveClass(/now/)
  if (given)
    await at
      .locator('input')
      .first()
      .fill(given.words ?? given.value!)
  await at.locator('[data-test="confirm-step"]').click()
  await expect(at).toHaveClass(/done/)
}

test('clamp-on: mounted by its sheet, started, its sound speed challenged, zeroed, set up, surveyed @tablet', async ({
  page,
  home,
}) => {
  const tag = 'FT-410'
  await signInAs(page, home, 'Ailsa Fenn')
  await openLoop(page, tag)
  await connectBench(page)
  await stage(page, 'point')
  await work(page, 'Mount')
  await confirm(page, 'permit', { words: 'Bree' })
  // Far from the wall entered, nobody goes on; near it, it wants a word.
  await step(page, 'gauge').locator('input').first().fill('7.4 mm')
  await expect(page.getByTestId('off-plan')).toContainText('Wall entered 2.1 mm')
  await expect(page.getByTestId('confirm-step')).toBeDisabled()
  await confirm(page, 'gauge', { value: '2.12 mm' })
  // Another page sees where the sheet stands, and goes on from there.
  const other = await page.context().newPage()
  await other.goto(page.url())
  await expect(step(other, 'prepare')).toHaveClass(/now/)
  await confirm(other, 'prepare')
  await expect(step(page, 'couplant')).toHaveClass(/now/)
  await other.close()
  await confirm(page, 'couplant')
  await step(page, 'spacing').getByRole('button', { name: /live/ }).click()
  await confirm(page, 'spacing')
  await confirm(page, 'leads')
  await confirm(page, 'temp')
  await expect(page.getByText('All steps done.')).toBeVisible()

  await work(page, 'Start')
  await practise(page, 'case C')
  await flowTo(page, '60 m3/h')
  await page.locator('[data-test="start-meter"]').click()
  await expect(page.locator('[data-test="phase"]')).toHaveText('searching for its signal')
  await expect(page.locator('[data-tell="frequency"]')).toContainText('MHz')
  await expect(page.locator('[data-test="phase"]')).toHaveText('measuring', { timeout: 15_000 })
  await expect(page.locator('[data-test="sound-verdict"]')).toContainText('Something is wrong')
  expect(await page.locator('[data-cause]').count()).toBeGreaterThan(2)
  await expect(page.locator('[data-cause="temperature"]')).toContainText('°C instead of')
  await page.getByLabel('What was found or decided').fill('other water')
  await page.locator('[data-test="keep-sound-speed"]').click()
  await expect(page.getByText('wrong. other water')).toBeVisible()
  await page.locator('[data-test="reveal"]').click()
  await expect(page.getByText('4 % higher')).toBeVisible()
  // Swapped leads read backwards.
  await practise(page, 'case D')
  await page.locator('[data-test="start-meter"]').click()
  await expect(page.getByText('It reads backwards')).toBeVisible({ timeout: 15_000 })

  await work(page, 'Zero')
  await practise(page, 'case A')
  await expect(page.locator('[data-test="take-zero"]')).toBeDisabled()
  await page.locator('[data-test="stop-flow"]').click()
  await work(page, 'Start')
  await page.locator('[data-test="start-meter"]').click()
  await expect(page.locator('[data-test="phase"]')).toHaveText('measuring', { timeout: 15_000 })
  await work(page, 'Zero')
  await page.getByRole('button', { name: '10 s', exact: true }).click()
  await expect(page.getByTestId('gate-before')).toContainText('operations told, loop in manual')
  await confirm(page, 'told', { words: 'Bree' })
  await confirm(page, 'stopped')
  await confirm(page, 'found', { value: '0.3 m3/h' })
  await expect(page.locator('[data-test="take-zero"]')).toBeEnabled({ timeout: 15_000 })
  await page.locator('[data-test="take-zero"]').click()
  await expect(page.locator('[data-test="zeroed"]')).toContainText('As found', { timeout: 20_000 })
  await page.locator('[data-test="keep-zero"]').click()
  await expect(page.getByText(/as found \+0\.\d+ ns/)).toBeVisible()

  await work(page, 'Set up and read back')
  await expect(page.locator('[data-test="read-back-verdict"]')).toContainText('holds every line')
  await page.locator('[data-test="keep-read-back"]').click()
  await expect(page.getByText('Last on record')).toBeVisible()

  await work(page, 'Survey')
  await flowTo(page, '80 m3/h')
  await page.getByLabel('A row every').fill('0.5 s')
  await page.getByLabel('What is surveyed').fill('night rate')
  await page.locator('[data-test="begin-survey"]').click()
  await expect
    .poll(async () => Number(await page.locator('[data-test="survey-rows"]').innerText()), { timeout: 15_000 })
    .toBeGreaterThan(6)
  await page.locator('[data-test="end-survey"]').click()
  await expect(page.getByRole('cell', { name: 'night rate' })).toBeVisible()
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.locator('[data-test="survey-csv"]').first().click(),
  ])
  const text = await (await download.createReadStream()).toArray()
  const lines = Buffer.concat(text as Buffer[])
    .toString()
    .trim()
    .split('\r\n')
  expect(lines[0]).toBe('time_UTC,flow_m3/h,total_m³,sound_speed_m/s,signal_%,world')
  expect(lines.length).toBeGreaterThan(6)
  // A survey goes on without its page, and is there when somebody comes back.
  await page.getByLabel('A row every').fill('0.5 s')
  await page.getByLabel('It lasts').fill('2 h')
  await expect(page.locator('[data-test="survey-plan"]')).toContainText('14401 rows')
  await page.locator('[data-test="begin-survey"]').click()
  await expect(page.locator('[data-test="end-survey"]')).toBeVisible()
  await page.goto('about:blank')
  await page.waitForTimeout(6000)
  await page.goBack()
  await expect
    .poll(async () => Number(await page.locator('[data-test="survey-rows"]').innerText()), { timeout: 15_000 })
    .toBeGreaterThan(10)
  await page.locator('[data-test="end-survey"]').click()
  const rows = page.getByRole('row').nth(1).getByRole('cell').nth(2)
  await expect.poll(async () => Number(await rows.innerText()), { timeout: 15_000 }).toBeGreaterThan(10)
})

test('Coriolis: zeroed, its health kept as a reference', async ({ page, home }) => {
  await signInAs(page, home, 'Ailsa Fenn')
  await openLoop(page, 'FT-210')
  await stage(page, 'point')
  await work(page, 'Zero')
  await practise(page, 'case D')
  await page.getByRole('button', { name: '10 s', exact: true }).click()
  await confirm(page, 'told', { words: 'Bree' })
  await confirm(page, 'full', { value: '20 °C' })
  await confirm(page, 'blocked')
  await confirm(page, 'found', { value: '3 kg/h' })
  await page.locator('[data-test="take-zero"]').click()
  await expect(page.locator('[data-test="zeroed"]')).toContainText(/\+[78]\.\d+ ns/, { timeout: 20_000 })
  await page.locator('[data-test="keep-zero"]').click()
  await expect(page.getByText(/as found \+[78]\.\d+ ns/)).toBeVisible()

  await work(page, 'Health')
  await expect(page.getByText('No reference yet')).toBeVisible()
  await expect(page.getByTestId('gate-before')).toBeVisible()
  await confirm(page, 'told', { words: 'Bree' })
  await confirm(page, 'steady')
  await page.locator('[data-test="run-health"]').click()
  await expect(page.locator('[data-test="phase"]')).toHaveText('checking itself')
  await expect(page.getByTestId('health-countdown')).toContainText('the last value held')
  await expect(page.locator('[data-test="health-result"]')).toBeVisible({ timeout: 40_000 })
  await page.locator('[data-test="keep-reference"]').click()
  await expect(page.getByText('Reference of')).toBeVisible()
  await enter(page, { healthLimit: '3 %' })
})

test('thermal insertion: depth, insertion and verification with test gas at four pressures', async ({ page, home }) => {
  await signInAs(page, home, 'Ailsa Fenn')
  await openLoop(page, 'FT-310')
  await stage(page, 'point')
  await expect(figure(page, 'insert')).toContainText('403 mm')
  await expect(page.locator('[data-test="insertion"]')).toContainText('inserted 403 mm')
  await enter(page, { fluidPressure: '6 bar' })
  await expect(code(page, 'no-rods')).toContainText('like a piston')
  await enter(page, { fluidPressure: '45 mbar' })
  await saved(page)
  await connectBench(page)
  await work(page, 'Verify in its place')
  await confirm(page, 'told', { words: 'Bree' })
  for (const id of ['rods', 'retract', 'close', 'vent', 'connect']) await confirm(page, id)
  await confirm(page, 'temp', { value: '12 °C' })
  await practise(page, 'case A')
  await expect(page.locator('[data-test="phase"]')).toHaveText('measuring')
  for (const n of [1, 2, 3, 4]) {
    await page.locator(`[data-test="gas-${n}"]`).click()
    await expect(page.locator('[data-tell="nozzle"]')).toContainText('kg/h')
    // What the meter shows follows its gas.
    const offer = step(page, `point-${n}`).getByRole('button', { name: /live/ })
    const shown = Number((await page.locator(`[data-verify="${n}"] td`).nth(3).innerText()).replace(/[^\d.]/g, ''))
    await expect
      .poll(async () => Math.abs(Number((await offer.innerText()).replace(/[^\d.]/g, '')) / shown - 1))
      .toBeLessThan(0.02)
    await offer.click()
    await confirm(page, `point-${n}`)
  }
  await expect(page.locator('[data-test="verify-verdict"]')).toContainText('repeats its baseline')
  for (const id of ['off', 'unvent', 'reopen']) await confirm(page, id)
  await step(page, 'in').getByRole('button', { name: /live/ }).click()
  await confirm(page, 'in')
  await confirm(page, 'back', { words: 'Bree' })
  await expect(page.getByText('All steps done.')).toBeVisible()
})
