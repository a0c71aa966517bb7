// A photograph of the terminals is dropped on a folder, marked, and taken along without where it was taken.
import { createCanvas } from '@napi-rs/canvas'
import { measured, scanner, settled } from './scan.ts'
import { expect, openLoop, signInAs, stage, test } from './steps.ts'

/** A made-up photograph of a terminal strip. */
function strip(): Buffer {
  const canvas = createCanvas(1600, 1200)
  const at = canvas.getContext('2d')
  at.fillStyle = '#55605b'
  at.fillRect(0, 0, 1600, 1200)
  for (let i = 0; i < 6; i++) {
    at.fillStyle = '#d9d3c4'
    at.fillRect(120 + i * 230, 360, 190, 480)
    at.fillStyle = '#1c2321'
    at.beginPath()
    at.arc(215 + i * 230, 520, 50, 0, 2 * Math.PI)
    at.fill()
  }
  return canvas.toBuffer('image/jpeg')
}

for (const device of ['both', 'phone'] as const)
  test(`a photograph is kept with its loop, marked and taken along @${device}`, async ({ page, home }, info) => {
    const { found, scan } = scanner(page, info.project.name === 'desk' ? undefined : [])
    const looked = async (name: string) => {
      await settled(page)
      const { wide, small } = await measured(page)
      expect(wide, name).toBeLessThanOrEqual(0)
      expect(small, name).toEqual([])
      await scan(name)
    }
    const name = `terminals ${info.project.name}.jpg`
    await signInAs(page, home, 'Ailsa Fenn')
    await openLoop(page, 'LT-112')
    await stage(page, 'identify')
    const pictures = page.getByRole('region', { name: 'Photographs and papers' })
    await pictures.locator('input[type=file]').setInputFiles({ name, mimeType: 'image/jpeg', buffer: strip() })
    const one = page.locator(`[data-attachment="${name}"]`)
    await one.scrollIntoViewIfNeeded()
    await expect(one.locator('img')).toHaveJSProperty('complete', true)
    await looked('photographs in a folder')
    await one.getByRole('button').first().click()
    const sheet = page.getByRole('dialog')
    await sheet.getByRole('button', { name: 'Add an arrow' }).click()
    const tip = sheet.getByRole('button', { name: /^Arrow 1, its tip/ })
    // The sheet and its picture come to rest first: where they are is measured.
    await expect(tip).toBeVisible()
    await settled(page)
    const [box, whole] = [await tip.boundingBox(), await sheet.locator('.marked').boundingBox()]
    await page.mouse.move(box!.x + box!.width / 2, box!.y + box!.height / 2)
    await page.mouse.down()
    await page.mouse.move(whole!.x + whole!.width * 0.8, whole!.y + whole!.height * 0.4, { steps: 4 })
    await page.mouse.up()
    await sheet.getByLabel('In words').fill('third from the left is loose')
    await looked('a photograph')
    await sheet.getByRole('button', { name: 'Keep what is said' }).click()
    await expect(one).toContainText('third from the left is loose')
    await one.getByRole('button').first().click()
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('link', { name: 'Take the file along' }).click(),
    ])
    expect(download.suggestedFilename()).toBe(name)
    const { loops } = (await (await page.request.get(`${home}/api/loops?q=LT-112`)).json()) as {
      loops: { id: string }[]
    }
    const kept = (await (await page.request.get(`${home}/api/loops/${loops[0]!.id}/attachments`)).json()) as {
      name: string
      note: { marks: { toX: number; toY: number }[] }
    }[]
    const [mark] = kept.find((a) => a.name === name)!.note.marks
    expect(mark!.toX).toBeCloseTo(0.8, 1)
    expect(mark!.toY).toBeCloseTo(0.4, 1)
    await page.getByRole('button', { name: 'Close' }).click()
    expect(found).toEqual([])
  })

test('a photograph taken out of coverage waits on the device, and is kept once it is back @tablet', async ({
  page,
  home,
  context,
}) => {
  await signInAs(page, home, 'Ailsa Fenn')
  await openLoop(page, 'TT-405')
  const pictures = page.locator('.pictures')
  await expect(pictures).toContainText('None yet')
  await context.setOffline(true)
  const file = { name: 'gland.jpg', mimeType: 'image/jpeg', buffer: strip() }
  await pictures.locator('input[type=file]').setInputFiles(file)
  await expect(page.getByTestId('waiting-pictures')).toContainText('gland.jpg: waits on this device')
  await context.setOffline(false)
  await expect(page.locator('[data-attachment="gland.jpg"]')).toBeVisible()
  await expect(page.getByTestId('waiting-pictures')).toBeHidden()
})
