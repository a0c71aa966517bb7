// Two servers on one database behind nginx: a check goes on in the browser while one is killed, then the other.
import { behindNginx, hasNginx, type Works } from './behind-nginx.ts'
import { beginCheck, completeLoop, entry, expect, giveBackAndSign, signInAs, stage, test } from './steps.ts'

test.skip(!hasNginx, 'Debian’s nginx is not installed here')
let works: Works
test.beforeAll(async () => {
  test.setTimeout(300_000)
  works = await behindNginx()
})
test.afterAll(() => works?.stop())

test('a check goes on while one server is killed, then the other; nothing is lost and no reload needed', async ({
  page,
}) => {
  test.slow()
  let loads = 0
  page.on('load', () => loads++)
  await signInAs(page, works.base, 'Ailsa Fenn')
  await completeLoop(page, 'LT-771')
  await beginCheck(page, '0, 50, 100')
  const before = loads
  const points = [0, 900, 1800, 1800, 900, 0]
  const take = async (i: number) => {
    await entry(page, 'applied').fill(`${points[i]}`)
    await entry(page, 'current').fill((4 + points[i]! / 112.5).toFixed(2))
    await entry(page, 'current').press('Enter')
    await expect(page.locator(`[data-point="${i}"]`)).toContainText('saved', { timeout: 60_000 })
  }
  await take(0)
  await works.kill(0)
  await take(1)
  await take(2)
  await works.revive(0)
  await take(3)
  await works.kill(1)
  await take(4)
  await take(5)
  await stage(page, 'hand-over')
  await expect(page.getByTestId('verdict')).toContainText('Within tolerance')
  await giveBackAndSign(page, 'Ailsa Fenn')
  await expect(page.getByText('sealed').first()).toBeVisible()
  expect(loads).toBe(before)
  // What one server has sealed the other finds whole, and each reading is on record once.
  await works.revive(1)
  await works.kill(0)
  const folder = await page.evaluate(async () => {
    const { loops } = (await (await fetch('/api/loops?q=LT-771')).json()) as { loops: { id: string }[] }
    return (await (await fetch(`/api/loops/${loops[0]!.id}`)).json()) as {
      checks: { readings: { pointIndex: number }[]; signatures: { standing: string }[] }[]
    }
  })
  expect(folder.checks.map((c) => c.readings.map((r) => r.pointIndex))).toEqual([[0, 1, 2, 3, 4, 5]])
  expect(folder.checks[0]!.signatures.map((s) => s.standing)).toEqual(['sealed'])
})
