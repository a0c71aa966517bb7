// What goes on record: only what somebody read, at the places at hand, each figure that can hardly be with a word.
import {
  completeLoop,
  connectBench,
  entry,
  expect,
  onRecord,
  openLoop,
  signInAs,
  signOut,
  stage,
  test,
} from './steps.ts'

const told = 'Bree, shift operator'

test('whoever has only a screen checks the loop; practice stays apart; a doubtful figure needs a word @both', async ({
  page,
  home,
}, info) => {
  const tag = info.project.name === 'desk' ? 'LT-651' : 'LT-652'
  await signInAs(page, home, 'Ailsa Fenn')
  await completeLoop(page, tag)
  // Practised at the bench: every page of the loop says so, and nobody signs it.
  await connectBench(page)
  await stage(page, 'check')
  await page.getByLabel('Points, % of range').fill('0, 100')
  await page.getByLabel('Who in operations was told').fill(told)
  await page.getByRole('button', { name: 'Confirm loop in manual and begin' }).click()
  await expect(page.locator('[data-test="point"]')).toBeVisible()
  await stage(page, 'hand-over')
  await expect(page.getByTestId('stand')).toContainText('PRACTICE')
  await expect(page.getByTestId('bench-ribbon')).toBeVisible()
  await onRecord(page)
  await expect(page.getByTestId('stand')).toHaveCount(0)
  await expect(page.getByText('Nothing has been checked yet.')).toBeVisible()

  // On record: the controller's screen alone, and what its kit can prove is said before.
  await stage(page, 'check')
  await page.getByLabel('Points, % of range').fill('0, 100')
  await page.locator('[data-place="current"] input[type=checkbox]').uncheck()
  await expect(page.locator('[data-proof="controller"]')).toBeVisible()
  await page.getByLabel('Who in operations was told').fill(told)
  await page.getByRole('button', { name: 'Confirm loop in manual and begin' }).click()
  // Nothing is filled in for anybody.
  await expect(entry(page, 'applied')).toHaveValue('')
  await entry(page, 'controller').fill('5')
  await entry(page, 'controller').press('Enter')
  await expect(page.locator('[data-point="0"]')).not.toContainText('saved')
  await entry(page, 'applied').fill('5')
  await entry(page, 'controller').press('Enter')
  await expect(page.locator('[data-point="0"]')).toContainText('saved')
  // Twenty per cent wrong, as by a scale of its own; asked about, and kept with a word.
  for (const point of [1, 2]) {
    await entry(page, 'applied').fill('1800')
    await entry(page, 'controller').fill('1440')
    await entry(page, 'controller').press('Enter')
    const word = page.getByLabel(/^Why it is so; then it is kept as typed/)
    await expect(page.locator(`[data-point="${point}"]`).or(word)).not.toHaveCount(0)
    if (await word.isVisible()) {
      await word.fill('It shows that; read twice.')
      await word.press('Enter')
    }
    await expect(page.locator(`[data-point="${point}"]`)).toContainText('saved')
  }
  await entry(page, 'applied').fill('5')
  await entry(page, 'controller').fill('5')
  await entry(page, 'controller').press('Enter')
  await stage(page, 'hand-over')
  await expect(page.getByTestId('verdict')).toContainText('Out of tolerance')
  await expect(page.getByTestId('departs')).toContainText(/controller/i)
})

test('a verification in its place is signed by two people, and has a certificate of its own @both', async ({
  page,
  home,
}) => {
  await signInAs(page, home, 'Rona Teague')
  await openLoop(page, 'FT-310')
  await onRecord(page)
  await stage(page, 'hand-over')
  const work = page.getByLabel('Verifications')
  await expect(work.getByTestId('verification-verdict')).toHaveText('Verified: inside its limits')
  await expect(work.getByText(/Performed by Ailsa Fenn/)).toBeVisible()
  await expect(work.getByText(/Reviewed by Magnus Orrin/)).toBeVisible()
  await expect(work.getByText('sealed').first()).toBeVisible()
  const href = (await work.getByTestId('verification-paper').getAttribute('href'))!
  const pdf = await page.request.get(home + href)
  expect(pdf.headers()['content-type']).toBe('application/pdf')
  await signOut(page, 'Rona Teague')
  // Not to whoever is not signed in.
  expect((await page.request.get(home + href)).status()).toBe(401)
})
