// The drawing at the head of a folder leaves one slim line while the page is scrolled or a work is under way.
import { beginCheck, completeLoop, expect, openLoop, signInAs, stage, test } from './steps.ts'

const MOST_px = 96

test('the thread folds to one slim line while its page is scrolled, and unfolds @both', async ({ page, home }) => {
  await signInAs(page, home, 'Ailsa Fenn')
  for (const [tag, at] of [
    ['LT-112', 'point'],
    ['ZS-501', 'wire'],
  ] as const) {
    await openLoop(page, tag)
    await stage(page, at)
    const folded = page.getByTestId('folded')
    await expect(folded).toBeHidden()
    await page.mouse.move(500, 700)
    await expect(async () => {
      await page.mouse.wheel(0, 900)
      await expect(folded).toBeVisible({ timeout: 1000 })
    }).toPass()
    const box = (await folded.boundingBox())!
    expect(box.height).toBeLessThanOrEqual(MOST_px)
    expect(Math.round(box.y)).toBe(56)
    await page.evaluate(() => window.scrollTo({ top: 0 }))
    await expect(folded).toBeHidden()
  }
})

test('a work that is under way has the window: the point stands under the slim line', async ({ page, home }) => {
  await signInAs(page, home, 'Ailsa Fenn')
  await completeLoop(page, 'LT-707')
  await beginCheck(page, '0, 100')
  await expect(page.getByTestId('folded')).toBeVisible()
  expect(Math.round((await page.getByTestId('folded').boundingBox())!.y)).toBe(56)
  await expect(page.getByTestId('point')).toBeInViewport()
  await expect(page.getByTestId('take')).toBeInViewport()
})
