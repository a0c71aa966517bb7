// Out of coverage: the page opens again, folders of before open, and what is typed goes on and arrives.
import {
  completeLoop,
  enter,
  entry,
  expect,
  giveBackAndSign,
  openLoop,
  readyForNoCoverage,
  saved,
  signInAs,
  signOut,
  stage,
  test,
} from './steps.ts'
import type { Page } from '@playwright/test'

test.use({ serviceWorkers: 'allow' })
const coverage = (page: Page) => page.locator('[data-test="coverage"]')
const cut = (page: Page, off: boolean) => page.context().setOffline(off)

test('a reload out of coverage opens page and folder; what is typed arrives once it is back @both', async ({
  page,
  home,
}, info) => {
  test.slow()
  const valve = `Dosing valve, by hand (${info.project.name})`
  await signInAs(page, home, 'Ailsa Fenn')
  await openLoop(page, 'FT-118')
  await stage(page, 'identify')
  await readyForNoCoverage(page)
  await cut(page, true)
  await page.reload()
  await expect(page.getByRole('heading', { name: /FT-118/ })).toBeVisible()
  await expect(coverage(page)).toContainText('out of coverage; as of')
  await enter(page, { controls: valve })
  await expect(coverage(page)).toContainText('out of coverage')
  // A tab that is closed and opened again loses nothing.
  await page.reload()
  await expect(page.locator('[data-entry="controls"] input')).toHaveValue(valve)
  // Another place says what it lacks, the register shows what would open.
  await page.goto(`${home}/loops`)
  await expect(page.getByRole('row').filter({ hasText: 'FT-118' })).toBeVisible()
  await coverage(page).click()
  await expect(page.getByTestId('draft')).toContainText('FT-118')
  await page.getByRole('button', { name: 'Close' }).click()
  // Saved when the server is there again, whether its loop is open or not.
  await cut(page, false)
  const stands = () =>
    page.evaluate(async () => {
      const { loops } = (await (await fetch('/api/loops?q=FT-118')).json()) as { loops: { id: string }[] }
      return (await fetch(`/api/loops/${loops[0]!.id}`)).text()
    })
  await expect.poll(stands, { timeout: 60_000 }).toContain(valve)
  await openLoop(page, 'FT-118')
  await page.reload()
  await stage(page, 'identify')
  await expect(page.locator('[data-entry="controls"] input')).toHaveValue(valve)
  await saved(page)
})

test('a loop is taken along, and put back; signing out out of coverage leaves nothing to be seen', async ({
  page,
  home,
}) => {
  await signInAs(page, home, 'Ailsa Fenn')
  await openLoop(page, 'TT-407')
  await page.getByTestId('take-along').click()
  await expect(page.getByTestId('take-along')).toHaveText('taken along')
  await coverage(page).click()
  await expect(page.getByTestId('kept-here')).toContainText('TT-407')
  await expect(page.getByTestId('kept-here').getByRole('button', { name: 'Put back' })).toHaveCount(1)
  await page.getByRole('button', { name: 'Close' }).click()
  await readyForNoCoverage(page)
  await cut(page, true)
  await signOut(page, 'Ailsa Fenn')
  await expect(page).toHaveURL(/sign-in/)
  await page.goto(`${home}/loops`)
  await expect(page.getByText('TT-407')).toHaveCount(0)
  await cut(page, false)
})

test('a check is begun, read and signed out of coverage, a new loop begun; all is sealed on return @both', async ({
  page,
  home,
}, info) => {
  test.slow()
  const [tag, begun] = info.project.name === 'desk' ? ['LT-781', 'LT-783'] : ['LT-782', 'LT-784']
  await signInAs(page, home, 'Ailsa Fenn')
  await completeLoop(page, tag)
  await saved(page)
  await readyForNoCoverage(page)
  await cut(page, true)
  await page.reload()
  await expect(page.getByRole('heading', { name: new RegExp(tag) })).toBeVisible()
  await stage(page, 'check')
  await page.getByLabel('Points, % of range').fill('0, 100')
  await page.locator('[data-place="controller"] input[type=checkbox]').uncheck()
  await page.getByLabel('Who in operations was told').fill('Bree, shift operator')
  await page.getByRole('button', { name: 'Confirm loop in manual and begin' }).click()
  for (const [i, level] of [0, 1800, 1800, 0].entries()) {
    await entry(page, 'applied').fill(`${level}`)
    await entry(page, 'current').fill(level ? '20.01' : '4.01')
    await entry(page, 'current').press('Enter')
    await expect(page.locator(`[data-point="${i}"]`)).toContainText(/waits|20\.01|4\.01/)
  }
  // A tab that is closed and opened again has it all.
  await page.reload()
  await stage(page, 'hand-over')
  await expect(page.getByTestId('verdict')).toContainText('Within tolerance')
  await giveBackAndSign(page, 'Ailsa Fenn')
  await expect(page.getByTestId('given-here')).toContainText('Signed here by Ailsa Fenn')

  await page.goto(`${home}/loops/new`)
  await page.getByLabel(/^Tag/).fill(begun)
  await page.getByLabel(/^Service/).fill('Brine tank')
  await page.getByLabel(/^Area/).fill('Wash house')
  await page.getByRole('button', { name: 'Create this loop' }).click()
  await expect(page.getByRole('heading', { name: new RegExp(begun) })).toBeVisible()
  await enter(page, { controls: 'Brine pump' })

  await cut(page, false)
  await expect.poll(() => page.evaluate(() => fetch('/readyz').then((r) => r.ok))).toBe(true)
  await expect(coverage(page)).toContainText('your password seals it', { timeout: 60_000 })
  await coverage(page).click()
  const seal = page.getByTestId('to-seal')
  await expect(seal).toContainText(tag)
  await seal.getByLabel(/^Your password/).fill('salt and kelp')
  await expect(seal.getByRole('button')).toBeEnabled({ timeout: 30_000 })
  await seal.getByRole('button').click()
  await expect(seal.getByRole('alert')).toContainText('not your password')
  await seal.getByLabel(/^Your password/).fill('kelp and salt')
  await seal.getByRole('button').click()
  await expect(seal).toHaveCount(0)
  await page.getByRole('button', { name: 'Close' }).click()
  await saved(page)
  await page.goto(`${home}/loops`)
  await openLoop(page, begun)
  await stage(page, 'identify')
  await expect(entry(page, 'controls')).toHaveValue('Brine pump')
  await page.goto(`${home}/loops`)
  await openLoop(page, tag)
  await stage(page, 'hand-over')
  await expect(page.getByText(/Performed by Ailsa Fenn/)).toBeVisible()
  await expect(page.getByText('sealed').first()).toBeVisible()
})
