// Work on many loops at once: papers in one file, folders brought in, a backup.
import { readFileSync } from 'node:fs'
import { unzipSync } from 'fflate'
import { choose, expect, signInAs, test } from './steps.ts'
import { scanner } from './scan.ts'
import type { Page } from '@playwright/test'

const first = (page: Page) => page.locator('[data-errand]').first()

test('papers of an area come as one file, are brought in again, and a backup is made @both', async ({
  page,
  home,
}, info) => {
  test.slow()
  await signInAs(page, home, 'Rona Teague')
  await page.getByRole('link', { name: 'Many at once' }).click()
  await expect(page.getByRole('heading', { name: 'Many loops at once' })).toBeVisible()
  await choose(page, page.getByRole('group', { name: 'Papers', exact: true }), 'folders')
  await page.getByLabel('Tag, service or area holds').fill('Wash house')
  await page.getByRole('button', { name: 'Make the file' }).click()
  await expect(first(page)).toHaveAttribute('data-errand', 'done', { timeout: 60_000 })
  await expect(first(page)).toContainText('Folders of “Wash house”')
  const arrives = page.waitForEvent('download')
  await first(page)
    .getByRole('link', { name: /Take the file/ })
    .click()
  const file = await (await arrives).path()
  const names = Object.keys(unzipSync(readFileSync(file)))
  expect(names.length).toBeGreaterThan(1)
  for (const name of names) expect(name).toMatch(/\.calm-loop\.json$/)

  await page.locator('input[type=file]').setInputFiles({
    name: 'wash house.zip',
    mimeType: 'application/zip',
    buffer: readFileSync(file),
  })
  await expect(first(page)).toContainText('Folders brought in: wash house.zip')
  await expect(first(page)).toHaveAttribute('data-errand', 'done', { timeout: 60_000 })
  await expect(first(page)).toContainText(/\d+ were here already/)

  await choose(page, page.getByRole('group', { name: 'Papers', exact: true }), 'photographs')
  await page.getByLabel('Tag, service or area holds').fill('FT-214')
  await page.getByRole('button', { name: 'Make the file' }).click()
  await expect(first(page)).toContainText('Photographs of “FT-214”')
  await expect(first(page)).toHaveAttribute('data-errand', 'done', { timeout: 60_000 })
  const taken = page.waitForEvent('download')
  await first(page)
    .getByRole('link', { name: /Take the file/ })
    .click()
  const pictures = unzipSync(readFileSync(await (await taken).path()))
  expect(Buffer.from(pictures['FT-214/about.txt']!).toString()).toContain('On the sensor, under the lagging')

  await page.getByRole('button', { name: 'Make one now' }).click()
  await expect(first(page)).toContainText('Backup')
  await expect(first(page)).toHaveAttribute('data-errand', 'done', { timeout: 60_000 })
  const { found, scan } = scanner(page, info.project.name === 'desk' ? undefined : [])
  await scan('many at once')
  expect(found).toEqual([])
})
