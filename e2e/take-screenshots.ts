// Takes the pictures of docs/screenshots from the demo plant: `node --import tsx e2e/take-screenshots.ts`.
import { chromium, selectors, type Page } from '@playwright/test'
import { join } from 'node:path'
import { dataFolder, run, throwAway } from './run-server.ts'
import { beginCheck, connectBench, entry, openLoop, signInAs, stage, toLoops } from './steps.ts'

const FOLDER = join(import.meta.dirname, '..', 'docs', 'screenshots')
selectors.setTestIdAttribute('data-test')
const server = await run(dataFolder())
const browser = await chromium.launch({ executablePath: process.env['CHROMIUM'] ?? '/usr/bin/chromium' })

async function shoot(page: Page, name: string): Promise<void> {
  await page.waitForTimeout(700)
  await page.screenshot({ path: join(FOLDER, `${name}.png`) })
}

/** Tall enough for the drawing and what is done under it. */
const TALL = { width: 1280, height: 1400 }
const drawn = (page: Page) => page.locator('.canvas[data-ready=yes]').waitFor()

try {
  const desk = await browser.newPage({ viewport: { width: 1280, height: 800 } })
  await signInAs(desk, server.base, 'Ailsa Fenn')
  await desk.goto(`${server.base}/round`)
  await desk.locator('[data-test="stop"]').first().waitFor()
  await shoot(desk, 'round')
  await toLoops(desk)
  await shoot(desk, 'loops')
  await openLoop(desk, 'LY-133')
  await stage(desk, 'range')
  await shoot(desk, 'range')
  await desk.goto(server.base)
  await openLoop(desk, 'PDT-118')
  await stage(desk, 'trim')
  await desk.locator('[data-stage-errors="loop"]').waitFor()
  await desk.waitForTimeout(1500)
  await shoot(desk, 'trim')
  // Guided work needs a device: it is practised at the bench, with an as found of its own.
  await connectBench(desk)
  for (const [applied, digital] of [
    ['0 mbar', '7.2 mbar'],
    ['600 mbar', '607.2 mbar'],
  ] as const) {
    await desk.locator('[data-witness="applied"] input').fill(applied)
    await desk.locator('[data-witness="digital"] input').fill(digital)
    await desk.getByTestId('take-point').click()
    await desk.waitForTimeout(500)
  }
  await desk.locator('[data-test="begin-zero-trim"]').click()
  await desk.locator('[data-test="begin-run"]').click()
  for (const id of ['told', 'manual', 'trips', 'as-found', 'warning']) {
    const gate = desk.locator(`[data-gate="${id}"]`)
    await gate.waitFor()
    const words = gate.locator('input')
    if (await words.count()) await words.fill(id === 'told' ? 'Rolf, channel 3' : 'PTW-204')
    await desk.locator('[data-test="pass-gate"]').click()
  }
  await desk.locator('[data-valve="low"][data-state="open"]').click()
  await desk.locator('[data-gate="out-2-equalize"]').waitFor()
  await desk.setViewportSize({ width: 1280, height: 1040 })
  await shoot(desk, 'guided')
  await desk.setViewportSize({ width: 1280, height: 800 })
  await desk.goto(server.base)
  await openLoop(desk, 'LT-112')
  for (const id of ['point', 'wire']) {
    await stage(desk, id)
    if (id === 'wire') await drawn(desk)
    await shoot(desk, id)
  }
  await desk.goto(server.base)
  await openLoop(desk, 'LT-208')
  await stage(desk, 'hand-over')
  await desk.setViewportSize({ width: 1280, height: 2200 })
  await shoot(desk, 'hand-over')
  await desk.setViewportSize({ width: 1280, height: 800 })
  await desk.goto(server.base)
  await openLoop(desk, 'PDT-118')
  await stage(desk, 'wire')
  await drawn(desk)
  await desk.getByRole('tab', { name: /^Explain/ }).click()
  for (const [red, black, value] of [
    ['RX:IN', 'RX:0V', '2.41'],
    ['TX:+', 'TX:−', '18.6'],
  ] as const) {
    await desk.getByLabel('Red lead at').selectOption(red)
    await desk.getByLabel('Black lead at').selectOption(black)
    await desk.getByLabel('The meter showed').fill(value)
    await desk.getByRole('button', { name: 'Put on record' }).click()
    await desk.getByRole('cell', { name: `${red} to ${black}` }).waitFor()
  }
  await desk.waitForTimeout(2500)
  await shoot(desk, 'explain')
  await desk.setViewportSize({ width: 1280, height: 800 })
  await desk.goto(server.base)
  await openLoop(desk, 'LT-112')
  await beginCheck(desk)
  for (const [applied, current] of [
    ['2', '4.021'],
    ['751', '8.028'],
    ['1498', '12.035'],
  ] as const) {
    await entry(desk, 'applied').fill(applied)
    await entry(desk, 'current').fill(current)
    await entry(desk, 'current').press('Enter')
    await desk.waitForTimeout(400)
  }
  await entry(desk, 'applied').fill('2252')
  await desk.waitForTimeout(500)
  await shoot(desk, 'check')
  await desk.goto(`${server.base}/loops`)
  await openLoop(desk, 'ZS-503')
  await stage(desk, 'wire')
  await desk.getByRole('tab', { name: 'Make it work' }).click()
  await desk.getByText('Interposing relay, NO contact').click()
  await desk.setViewportSize(TALL)
  await desk.evaluate(() => window.scrollTo(0, 0))
  await desk.setViewportSize({ width: 1280, height: 800 })
  await desk.goto(`${server.base}/loops`)
  await openLoop(desk, 'FT-214')
  await stage(desk, 'identify')
  await desk.locator('[data-attachment] button').first().click()
  await desk.getByTestId('read-plate').click()
  await desk.locator('[data-value]').first().waitFor({ timeout: 60_000 })
  await desk.getByTestId('plate-reading').evaluate((reading) => reading.scrollIntoView())
  await shoot(desk, 'plate')
  await desk.goto(`${server.base}/loops`)
  await openLoop(desk, 'ZS-502')
  await stage(desk, 'count')
  await desk.getByRole('tab', { name: 'Cycles and OEE' }).click()
  await desk.locator('[data-factor="OEE"]').waitFor()
  await desk.setViewportSize(TALL)
  await shoot(desk, 'cycles')
  await desk.setViewportSize({ width: 1280, height: 800 })
  await desk.goto(`${server.base}/loops`)
  await openLoop(desk, 'ZS-501')
  await connectBench(desk)
  await stage(desk, 'check')
  await desk.getByLabel('Who in operations was told').fill('Bree, dryer operator')
  await desk.getByRole('button', { name: 'Confirm machine safe and begin' }).click()
  await desk.locator('[data-test="bring"]').click()
  await desk.getByText('Empty takes 7').or(desk.getByText('Empty takes 8')).waitFor()
  await shoot(desk, 'witnesses')
  await desk.goto(`${server.base}/loops`)
  await openLoop(desk, 'FT-101')
  await stage(desk, 'point')
  await desk.setViewportSize(TALL)
  await desk.getByRole('tab', { name: 'Pair and spacing' }).click()
  await shoot(desk, 'clamp-on')
  await desk.goto(`${server.base}/loops`)
  await openLoop(desk, 'FT-210')
  await stage(desk, 'point')
  await desk.locator('[data-constant="flowCal"]').waitFor()
  await shoot(desk, 'coriolis')
  await desk.setViewportSize({ width: 1280, height: 800 })
  await desk.goto(`${server.base}/tables`)
  await desk.locator('tbody tr').first().waitFor()
  await desk.getByRole('button', { name: 'Loops that use carbon steel' }).click()
  await desk.getByTestId('row-uses').waitFor()
  await shoot(desk, 'tables')
  await desk.goto(`${server.base}/bring-in`)
  await desk
    .locator('input[type=file]')
    .setInputFiles(join(import.meta.dirname, '..', 'apps', 'web', 'public', 'examples', 'instruments.xlsx'))
  await desk.locator('[data-column="Range low"]').waitFor()
  await desk.getByTestId('try-list').click()
  await desk.getByTestId('refused').waitFor()
  await desk.locator('[data-column="Range low"]').scrollIntoViewIfNeeded()
  await desk.setViewportSize(TALL)
  await desk.evaluate(() => window.scrollTo(0, document.body.scrollHeight))
  await shoot(desk, 'bring-in')
  await desk.setViewportSize({ width: 1280, height: 1000 })
  await desk.goto(`${server.base}/link`)
  await desk.locator('[data-port="Mass flow stand-in"]').click()
  await desk.getByRole('button', { name: 'Find the device' }).click()
  await desk.locator('.identity').waitFor()
  await desk.getByRole('tab', { name: 'Values' }).click()
  await desk.getByTestId('read').click()
  await desk.getByText('Read all anew').waitFor()
  await shoot(desk, 'link')
  const tablet = await browser.newPage({ viewport: { width: 820, height: 1180 }, hasTouch: true })
  await tablet.addInitScript(() => localStorage.setItem('calm-loop.theme', 'dark'))
  await signInAs(tablet, server.base, 'Ailsa Fenn')
  await openLoop(tablet, 'LT-112')
  await stage(tablet, 'check')
  await tablet.locator('[data-test="point"]').waitFor()
  await shoot(tablet, 'tablet')
} finally {
  await browser.close()
  await server.stop()
  throwAway(server.folder)
}
