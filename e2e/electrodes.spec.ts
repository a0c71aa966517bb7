// Electrodes: the shelf with its histories, a calibration at the bench in any order, plugged in and followed.
import { enter, entry, expect, newLoop, saved, signInAs, stage, test } from './steps.ts'
import type { Page } from '@playwright/test'

const field = (page: Page, row: number, label: RegExp) => page.locator(`[data-row="${row}"]`).getByLabel(label)
const row = (page: Page, i: number) => page.locator(`[data-row="${i}"]`)

test('an electrode is calibrated at the bench, plugged in, and its point follows it @both', async ({
  page,
  home,
}, info) => {
  const serial = `G-7${info.project.name === 'desk' ? '1' : '2'}`
  await signInAs(page, home, 'Ailsa Fenn')
  await page.goto(`${home}/kit?do=electrodes`)

  // Two years of one, foretold; one past its best is stopped, and says by which rule.
  await page.locator('[data-electrode="G-4471"]').click()
  await expect(page.locator('[data-test="replacement"]')).toContainText('It will want replacing about')
  await expect(page.locator('[data-test="replacement"]')).toContainText('95 of 100')
  await expect(page.getByRole('table')).toContainText('AT-221')
  await page.locator('[data-electrode="G-4402"]').click()
  await expect(page.locator('[data-test="shelf-word"]')).toContainText('Past its best: 31 Aug 2026')

  await page.locator('[data-test="enter-electrode"]').click()
  await page.getByLabel('Serial number').fill(serial)
  await page.getByLabel('What it is').fill('glass electrode with memory')
  await page.getByRole('button', { name: 'Put it on the shelf' }).click()
  await expect(page.locator('[data-test="shelf-word"]')).toContainText('Never calibrated here.')

  // Any order: the buffer is known by its signal. −59.16 mV · 0.97 · (4 − 7) + 2 = 174.2 mV.
  await page.locator('[data-test="calibrate"]').click()
  await field(page, 0, /^Temperature/).fill('25 °C')
  await field(page, 0, /^Electrode gives/).fill('2.0')
  await expect(row(page, 0)).toContainText('7.00: pH 7.00 there')
  await field(page, 1, /^Temperature/).fill('25')
  await field(page, 1, /^Electrode gives/).fill('95')
  await expect(row(page, 1)).toContainText('No usable electrode gives 95.0 mV')
  await field(page, 1, /^Electrode gives/).fill('174.2')
  await expect(row(page, 1)).toContainText('4.00: pH 4.00 there')
  await expect(page.locator('[data-test="found"]')).toContainText('97.0 %')
  await expect(page.locator('[data-test="keep-calibration"]')).toBeDisabled()
  await page.getByLabel(/^Slope that stands in it now/).fill('93')
  await page.getByLabel(/^Offset that stands in it now/).fill('2.0')
  await page.locator('[data-test="keep-calibration"]').click()
  await expect(page.getByRole('alert').first()).toContainText('does not hold what was calibrated')
  await page.getByLabel(/^Slope that stands in it now/).fill('97.0')
  await page.locator('[data-test="keep-calibration"]').click()
  await expect(page.locator('[data-test="shelf-word"]')).toContainText('Ready.')

  await page.goto(`${home}/loops`)
  await newLoop(page, `AT-8${info.project.name === 'desk' ? '1' : '2'}1`, 'pH')
  await stage(page, 'point')
  await enter(page, { sensorLow: '0 pH', sensorHigh: '14 pH', phTemp: '62 °C' })
  await saved(page)
  await expect(page.locator('[data-plug="G-4402"]')).toBeDisabled()
  await page.locator(`[data-plug="${serial}"]`).click()
  await expect(page.locator('[data-test="electrode-here"]')).toContainText(`Plugged in: ${serial}`)
  await expect(entry(page, 'slopePercent')).toHaveValue('97.0 %')
  await expect(entry(page, 'electrodeOffset')).toHaveValue('2.0 mV')
  await expect(page.getByRole('img', { name: /97.0 % of the ideal slope/ })).toBeVisible()

  // The device reckons with another temperature than the liquid has: said with what it shows.
  await enter(page, { compensation: 'at a temperature that is set' })
  await stage(page, 'range')
  await enter(page, { lrv: '2 pH', urv: '12 pH' })
  await stage(page, 'point')
  await expect(page.locator('[data-code="temperature-not-compensated"]')).toContainText('The liquid has 62 °C')

  await page.locator('[data-test="electrode-here"]').getByLabel('Why it is taken out').fill('exchanged')
  await page.locator('[data-test="take-out"]').click()
  await expect(page.locator(`[data-plug="${serial}"]`)).toBeEnabled()
})
