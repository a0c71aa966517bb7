// The first day, walked by what stands on the Guide’s page and nothing else.
import type { Page } from '@playwright/test'
import { choose, expect, signInAs, test } from './steps.ts'

interface Step {
  readonly press: string[]
  readonly types: [label: string, value: string][]
  readonly then: string[]
  readonly keys: string[]
}
const read = (page: Page): Promise<Step[]> =>
  page.getByTestId('day-step').evaluateAll((steps) =>
    steps.map((step) => {
      const all = (name: string) => [...step.querySelectorAll(`[data-test="${name}"]`)]
      const words = (name: string) => all(name).map((e) => (e.textContent ?? '').trim())
      const types = all('type').map((row): [string, string] => [
        (row.querySelector('th')?.textContent ?? '').trim(),
        (row.querySelector('td')?.textContent ?? '').trim(),
      ])
      return { press: words('press'), types, then: words('then'), keys: words('key') }
    }),
  )

async function press(page: Page, name: string): Promise<void> {
  const named = page
    .getByRole('link', { name, exact: true })
    .or(page.getByRole('button', { name, exact: true }))
    .or(page.locator('[data-stage]').filter({ hasText: name }))
  await named.filter({ visible: true }).first().click()
}
async function type(page: Page, label: string, value: string): Promise<void> {
  const field = page.locator('.entry').filter({ has: page.getByText(label, { exact: true }) })
  const choice = field.getByRole('button', { name: value, exact: true })
  const plain = page.getByLabel(new RegExp(`^${label.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')}`))
  await field.or(plain).first().waitFor()
  if (!(await field.count())) await plain.first().fill(value)
  else if (await choice.count()) await choice.click()
  else if (await field.locator('.v-select').count()) await choose(page, field, value)
  else await field.locator('input').first().fill(value)
}

test('one loop is made end to end at the bench by the words of the Guide @both', async ({ page, home }, info) => {
  test.setTimeout(300_000)
  await signInAs(page, home, 'Ailsa Fenn')
  await page.goto(`${home}/guide`)
  await expect(page.getByTestId('day-step').first()).toBeVisible()
  const steps = await read(page)
  expect(steps.length).toBeGreaterThan(6)
  const begun = Date.now()
  for (const step of steps) {
    for (const name of step.press) await press(page, name)
    // Any tag that is not taken will do.
    for (const [label, value] of step.types)
      await type(page, label, label === 'Tag' ? value.replace('LT-90', `LT-90${info.project.name.length}`) : value)
    for (const name of step.then) await press(page, name)
    if (!step.keys.length) continue
    const point = page.locator('[data-test="point"]')
    await point.click()
    for (let i = 0; i < 8; i++) {
      const at = page.locator(`[data-point="${i}"]`)
      if (!(await at.count())) break
      await page.keyboard.press(step.keys[0]!.toLowerCase())
      await expect(async () => {
        await expect(page.getByTestId('steady')).toHaveAttribute('data-state', 'stable', { timeout: 100 })
        await page.keyboard.press(step.keys[1]!)
        await expect(at).toContainText('saved', { timeout: 3000 })
      }).toPass({ timeout: 60_000 })
    }
    await expect(page.getByText(/^(Passes|passes|Within|within)/).first()).toBeVisible()
  }
  await expect(page.getByTestId('connect-bench')).toBeVisible()
  expect(Date.now() - begun, 'ms of ten minutes').toBeLessThan(600_000)
})
