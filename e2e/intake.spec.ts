// The made-up instrument list with the usual sins: opened, matched, tried, and brought in by the servers.
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { measured, scanner } from './scan.ts'
import { expect, signInAs, test } from './steps.ts'

const LIST = (kind: string) =>
  join(import.meta.dirname, '..', 'apps', 'web', 'public', 'examples', `instruments.${kind}`)
/** The list with tags of its own: the journeys of a run share one plant. */
const listWith = (thousand: number) => ({
  name: 'instruments.csv',
  mimeType: 'text/csv',
  buffer: Buffer.from(
    readFileSync(LIST('csv'), 'utf8').replace(/(?<=^ *[A-Z]+[-_ ]?)5(?=\d{3}\b)/gim, String(thousand)),
  ),
})

for (const [device, kind, thousand] of [
  ['desk', 'xlsx', 5],
  ['tablet', 'csv', 6],
  ['phone', 'csv', 7],
] as const)
  test(`a list of 300 lines is brought in, or nothing of it: ${kind} @${device}`, async ({ page, home }) => {
    await signInAs(page, home, 'Ailsa Fenn')
    await page.goto(`${home}/bring-in`)
    await expect(page.getByText('A made-up list of 300 lines')).toBeVisible()
    await page.locator('input[type=file]').setInputFiles(kind === 'xlsx' ? LIST(kind) : listWith(thousand))
    await expect(page.locator('[data-column="Range low"]')).toContainText('Lower range value')
    await page.getByTestId('try-list').click()
    await expect(page.getByTestId('tried')).toContainText(/\d+ loops can be brought in/)
    await expect(page.getByTestId('refused')).toContainText(`LT-${thousand}048 stands in line 53 already.`)
    await expect(page.getByTestId('refused')).toContainText('“see sheet” cannot be read as')
    await expect(page.getByTestId('bring-in')).toBeDisabled()
    const { found, scan } = scanner(page, device === 'desk' ? undefined : [])
    await scan('a list that was tried')
    expect(found).toEqual([])
    const { wide, small } = await measured(page)
    expect([wide, small]).toEqual([0, []])
    await page.getByLabel('Bring the others in').check()
    await page.getByTestId('bring-in').click()
    await expect(page).toHaveURL(/\/many$/)
    const errand = page.locator('[data-errand]').first()
    await expect(errand).toContainText(`Instrument list: instruments.${kind}`)
    await expect(errand).toContainText('289 loops brought in', { timeout: 60_000 })
    const listed = await page.request.get(`${home}/api/loops?q=PT-${thousand}001`)
    expect(((await listed.json()) as { loops: { service: string }[] }).loops).toMatchObject([
      { service: 'Intake line pressure 2' },
    ])
  })
