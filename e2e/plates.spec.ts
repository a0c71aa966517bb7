// A plate is photographed and read on the machine: each value stands beside its cutting, and is entered when taken.
import { drawnPlate } from '../apps/server/test/plates.ts'
import { measured, scanner } from './scan.ts'
import { entry, expect, newLoop, saved, signInAs, stage, test } from './steps.ts'

const LINES = [
  'HOLM FLOW SENSOR',
  'MODEL  CM-45',
  'SERIAL NO  44912763',
  'Kf  2.31754',
  'T-hi  5963.314',
  'OUTPUT  4-20 mA',
]

for (const device of ['desk', 'tablet', 'phone'])
  test(`constants are taken from a plate one by one, and no byte of it leaves the page @${device}`, async ({
    page,
    home,
  }) => {
    await signInAs(page, home, 'Ailsa Fenn')
    await newLoop(page, `FT-88${device.length}`, 'Flow, Coriolis')
    await stage(page, 'point')
    const constant = (name: string, column: string) =>
      page.locator('[data-constant]').filter({ hasText: name }).getByLabel(column)
    await constant('Flow calibration factor', 'Letters on your tag').fill('Kf')
    await constant('Period at the high density', 'Letters on your tag').fill('T-hi')
    await saved(page)
    const plate = drawnPlate(3, 'good', LINES)
    const buffer = plate.canvas.toBuffer('image/png')
    await page.locator('.pictures input[type=file]').setInputFiles({ name: 'plate.png', mimeType: 'image/png', buffer })
    await page.locator('[data-attachment="plate.png"] button').click()
    const sent: string[] = []
    page.on('request', (r) => r.method() !== 'GET' && sent.push(r.url()))
    await page.getByTestId('read-plate').click()
    const value = (typed: string) => page.locator(`[data-value="${typed}"]`)
    await expect(value('2.31754')).toBeVisible({ timeout: 60_000 })
    expect(sent).toEqual([])
    await expect(page.getByTestId('plate-reading')).toContainText('nothing is entered until you take it')
    await expect(value('44912763').getByRole('img', { name: /Cutting of the plate/ })).toBeVisible()
    const { found, scan } = scanner(page, device === 'desk' ? undefined : [])
    await scan('values of a plate')
    expect(found).toEqual([])
    const { wide, small } = await measured(page)
    expect([wide, small]).toEqual([0, []])
    for (const typed of ['2.31754', '5963.314', '44912763']) {
      await value(typed).getByTestId('take-value').click()
      await expect(value(typed)).toContainText('Entered.')
    }
    await page.getByRole('button', { name: 'Close' }).click()
    await expect(constant('Flow calibration factor', 'As printed on your tag')).toHaveValue('2.31754')
    await expect(constant('Period at the high density', 'As printed on your tag')).toHaveValue('5963.314')
    await expect(entry(page, 'sensorSerial')).toHaveValue('44912763')
    await saved(page)
  })
