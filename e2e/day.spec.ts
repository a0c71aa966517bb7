// What surrounds the round: the weeks ahead, the shift that ends, a piece of the kit and what it was used for.
import { measured, scanner, settled } from './scan.ts'
import { expect, signInAs, signOut, test } from './steps.ts'

for (const device of ['both', 'phone'] as const)
  test(`weeks, shift and kit fit, are large enough and accessible @${device}`, async ({ page, home }, info) => {
    const { found, scan } = scanner(page, info.project.name === 'desk' ? undefined : [])
    await signInAs(page, home, 'Ailsa Fenn')
    const looked = async (name: string) => {
      await settled(page)
      const { wide, small } = await measured(page)
      expect(wide, name).toBeLessThanOrEqual(0)
      expect(small, name).toEqual([])
      await scan(name)
    }
    await page.goto(`${home}/weeks`)
    await expect(page.getByTestId('weeks-load').locator('svg')).toBeVisible()
    await looked('weeks')
    await page.locator('.visit').first().click()
    await expect(page.getByRole('button', { name: 'Settle it', exact: true })).toBeVisible()
    await looked('a visit')
    await page.getByRole('button', { name: 'Close' }).click()
    await page.goto(`${home}/shift`)
    await expect(page.getByRole('heading', { name: 'Hand it over' })).toBeVisible()
    await looked('shift')
    await page.goto(`${home}/kit`)
    await page.getByRole('link', { name: 'Dip gauge D2' }).click()
    await expect(page.getByTestId('since')).toBeVisible()
    await looked('a piece of kit')
    await page.getByRole('button', { name: 'Add a calibration' }).click()
    await expect(page.getByRole('form', { name: 'New calibration' })).toBeVisible()
    await looked('a calibration')
    expect(found).toEqual([])
  })

test('the day ends: the shift is handed over, printed, and read by the next @both', async ({ page, home }, info) => {
  const words = `Gate of bay ${info.project.name} is stuck`
  await signInAs(page, home, 'Ailsa Fenn')
  await page.getByRole('navigation', { name: 'Places' }).getByRole('link', { name: 'Round' }).click()
  await page.getByRole('link', { name: 'Hand over' }).click()
  await page.getByLabel('What the next must know besides').fill(words)
  await page.getByRole('button', { name: 'Hand the shift over' }).click()
  await expect(page.locator('blockquote')).toHaveText(words)
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'Print it' }).click(),
  ])
  expect(download.suggestedFilename()).toMatch(/^shift \d{4}-\d\d-\d\d\.pdf$/)
  await page.goto(`${home}/round`)
  await signOut(page, 'Ailsa Fenn')
  await signInAs(page, home, 'Magnus Orrin')
  await page.goto(`${home}/shift`)
  await page
    .getByRole('button', { name: /^Ailsa Fenn, / })
    .first()
    .click()
  await expect(page.locator('blockquote')).toHaveText(words)
  await page.getByRole('button', { name: 'I have read it' }).click()
  await expect(page.getByText('read by Magnus Orrin').first()).toBeVisible()
})
