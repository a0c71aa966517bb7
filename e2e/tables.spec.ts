// Tables: a row of the site's own fills a loop's entries, and what a change of it would move is seen before it is kept.
import { measured, scanner } from './scan.ts'
import { expect, signInAs, test } from './steps.ts'

for (const device of ['desk', 'tablet', 'phone'])
  test(`a row is copied, kept, and its change looked at before it is made @${device}`, async ({ page, home }) => {
    await signInAs(page, home, 'Ailsa Fenn')
    await page.goto(`${home}/tables`)
    const { found, scan } = scanner(page, device === 'desk' ? undefined : [])
    const fits = async () => {
      const { wide, small } = await measured(page)
      expect([wide, small]).toEqual([0, []])
    }
    await expect(page.getByTestId('source')).toContainText('Rounded handbook values')
    await scan('a built-in table')
    await fits()
    const name = `Steel by the sea, ${device}`
    await page.locator('tbody tr').first().getByRole('button', { name: 'Copy' }).click()
    await page.getByLabel('Name').fill(name)
    await page.getByLabel('Where its figures come from').fill('Gauged with block B2')
    await page.getByRole('button', { name: 'Keep the row' }).click()
    const row = page.locator(`[data-own-row="${name}"]`)
    await expect(row).toContainText('3230 m/s')
    await row.getByRole('button', { name: 'Change' }).click()
    await page.getByLabel(/^Wave speed in the wall/).fill('3300 m/s')
    await expect(page.getByRole('button', { name: 'Keep the row' })).toBeDisabled()
    await page.getByTestId('what-moves').click()
    await expect(page.getByTestId('row-uses')).toContainText(`No loop uses ${name}.`)
    await scan('a row being changed')
    await fits()
    expect(found).toEqual([])
    await page.getByRole('button', { name: 'Keep the row' }).click()
    await expect(row).toContainText('3300 m/s')
    await page.getByRole('button', { name: 'Loops that use carbon steel' }).click()
    await expect(page.getByTestId('row-uses')).toContainText(/loops? uses? carbon steel/)
  })
