import { readFileSync } from 'node:fs'
import { beginCheck, COMPLETE, enter, entry, expect, newLoop, saved, signInAs, signOut, stage, test } from './steps.ts'

test('from nothing to a signed and countersigned check @both', async ({ page, home }, info) => {
  const tag = info.project.name === 'desk' ? 'LT-611' : 'LT-612'
  await signInAs(page, home, 'Ailsa Fenn')
  await newLoop(page, tag.toLowerCase())

  // Half entered: what can be computed is shown, what is missing is named.
  await stage(page, 'wire')
  await enter(page, { conductor: '1.5 mm²', cableLength: '200 m' })
  await expect(page.locator('[data-figure="cable-ohm"]')).toContainText('5.0 Ω')
  await expect(page.locator('[data-figure="total-ohm"]')).toContainText(
    'needs loop supply, lift-off voltage, receiver shunt',
  )
  await expect(page.locator('[data-knot="volts"]')).toContainText('needs')
  await saved(page)
  await page.reload()
  await expect(entry(page, 'cableLength')).toHaveValue('200 m')

  for (const [id, values] of Object.entries(COMPLETE)) {
    await stage(page, id)
    await enter(page, values)
  }
  await stage(page, 'wire')
  await page.locator('[data-figure="volts-20"] button').click()
  await expect(page.locator('[data-test="working-numbers"]')).toContainText('24.00 V − 20 mA')
  await stage(page, 'point')
  await expect(page.locator('[data-entry="emptyDistance"] .says')).toHaveText('2.3 m = 2300 mm')
  await expect(page.locator('[data-figure="face"]')).toContainText('2300 mm')
  await saved(page)

  // Check: every figure typed, with the number pad alone.
  await beginCheck(page)
  const percents = [0, 25, 50, 75, 100, 100, 75, 50, 25, 0]
  for (let i = 0; i < percents.length; i++) {
    const level = 18 * percents[i]! + 4
    await entry(page, 'applied').fill(String(level))
    await expect(page.locator('[data-test="expected"]')).toContainText((4 + (16 * level) / 1800).toFixed(3))
    await entry(page, 'current').fill((4 + (16 * level) / 1800 + 0.03).toFixed(3))
    await entry(page, 'current').press('Enter')
    await expect(page.locator(`[data-point="${i}"]`)).toContainText('saved')
  }
  await expect(page.locator('[data-test="verdict"]')).toContainText('Within tolerance')
  await stage(page, 'hand-over')
  await page.getByLabel('Who in operations was told').fill('Bree, shift operator')
  await page.getByRole('button', { name: 'Confirm loop given back' }).click()
  await page.getByLabel('Your password').fill('kelp and salt')
  await page.getByRole('button', { name: 'Sign as Ailsa Fenn' }).click()
  await expect(page.getByText('A reviewer countersigns it.')).toBeVisible()

  const address = page.url()
  await signOut(page, 'Ailsa Fenn')
  await signInAs(page, home, 'Magnus Orrin')
  await page.goto(address)
  await page.getByLabel('Your password').fill('kelp and salt')
  await page.getByRole('button', { name: 'Countersign as Magnus Orrin' }).click()
  await expect(page.getByText('Reviewed by Magnus Orrin')).toBeVisible()
  await expect(page.locator('[data-stage="hand-over"]')).toContainText('countersigned')

  const pdf = await page.request.get(
    (await page.getByRole('link', { name: 'Certificate (PDF)' }).getAttribute('href'))!.replace(/^\//, `${home}/`),
  )
  expect((await pdf.body()).subarray(0, 5).toString()).toBe('%PDF-')
  const download = async (name: string) => {
    const [file] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name }).click()])
    return readFileSync(await file.path(), 'utf8')
  }
  expect((await download('Readings (CSV)')).trim().split('\r\n')).toHaveLength(11)
  const bundle = JSON.parse(await download('Whole folder (JSON)')) as {
    folder: { loop: { tag: string }; checks: { signatures: unknown[] }[] }
  }
  expect(bundle.folder.loop.tag).toBe(tag)
  expect(bundle.folder.checks[0]!.signatures).toHaveLength(2)
})
