// What follows from the record: a visit handed over with its report, a loop not fit for use, when it is due again, and
// the site's rules; guided work at a device without a link.
import { scanner } from './scan.ts'
import { choose, expect, onRecord, openLoop, signInAs, signOut, stage, test } from './steps.ts'

test('a visit is handed over whole, with one report @both', async ({ page, home }, info) => {
  const { found, scan } = scanner(page, info.project.name === 'desk' ? undefined : [])
  await signInAs(page, home, 'Ailsa Fenn')
  await openLoop(page, 'LT-208')
  // Other journeys may have left the bench connected: then practice is shown.
  await onRecord(page)
  await stage(page, 'hand-over')
  const visit = page.getByTestId('visit')
  await expect(visit).toContainText('Visit of')
  // Other journeys may have worked here since: then it is an earlier visit.
  if (!(await visit.innerText()).includes('Visit of 17 Nov 2026')) await choose(page, visit, '17 Nov 2026')
  await expect(visit).toContainText('Visit of 17 Nov 2026')
  await expect(visit.locator('[data-part]')).toHaveCount(6)
  await visit.locator('[data-part="entries"]').getByRole('button').click()
  await expect(visit.locator('[data-part="entries"]')).toContainText('2 s → 5 s')
  await scan('a visit')
  const answer = await page.request.get(
    new URL((await page.getByTestId('visit-report').getAttribute('href'))!, home).href,
  )
  expect(answer.headers()['content-type']).toBe('application/pdf')
  expect((await answer.body()).subarray(0, 5).toString()).toBe('%PDF-')
  expect(found).toEqual([])
})

test('what was left out of tolerance is not fit for use until someone who may says otherwise', async ({
  page,
  home,
}) => {
  const { found, scan } = scanner(page)
  await signInAs(page, home, 'Ailsa Fenn')
  await openLoop(page, 'LY-133')
  await onRecord(page)
  await stage(page, 'hand-over')
  await expect(page.getByTestId('not-fit')).toContainText('Left out of tolerance on 10 Nov 2026')
  await expect(page.getByTestId('allow')).toHaveCount(0)
  await scan('not fit for use')
  await page.getByLabel('What was measured with it since').fill('Two brine batches; both were weighed.')
  await page.getByRole('button', { name: 'Keep the answer' }).click()
  await expect(page.getByTestId('measured-since')).toContainText('Two brine batches; both were weighed. Ailsa Fenn')
  await signOut(page, 'Ailsa Fenn')
  await signInAs(page, home, 'Magnus Orrin')
  await openLoop(page, 'LY-133')
  await page.getByTestId('allow').click()
  await page.getByTestId('not-fit').getByLabel('Why').fill('Shown only; the pumps have their own switches.')
  await page.getByTestId('not-fit').getByLabel('Your password').fill('kelp and salt')
  await scan('allowing its use')
  await page.getByRole('button', { name: 'Allow its use as Magnus Orrin' }).click()
  await expect(page.getByTestId('allowed')).toContainText('allowed by Magnus Orrin')
  await expect(page.getByTestId('not-fit')).toHaveCount(0)
  expect(found).toEqual([])
})

test('when it is due again follows from its drift, and another interval is accepted @both', async ({
  page,
  home,
}, info) => {
  const [tag, days] = info.project.name === 'desk' ? ['AT-221', '90'] : ['TT-405', '200']
  await signInAs(page, home, 'Ailsa Fenn')
  await openLoop(page, tag)
  await onRecord(page)
  await signOut(page, 'Ailsa Fenn')
  await signInAs(page, home, 'Magnus Orrin')
  await openLoop(page, tag)
  await stage(page, 'hand-over')
  const due = page.getByTestId('due-next')
  await expect(due.getByTestId('suggested')).toContainText('shorter than now')
  await expect(due).toContainText('% of span a year, give or take')
  await due.getByTestId('accept-interval').click()
  await due.getByLabel('Days between two checks').fill(days)
  await due.getByLabel('Why').fill('It drifts in the heat.')
  await due.getByLabel('Your password').fill('kelp and salt')
  await due.getByRole('button', { name: `Accept ${days} days as Magnus Orrin` }).click()
  await expect(due.getByTestId('accepted-interval')).toContainText(`${days} days accepted by Magnus Orrin`)
})

test('the site sets its rule and the head of its papers @both', async ({ page, home }) => {
  await signInAs(page, home, 'Rona Teague')
  await page.goto(`${home}/settings`)
  await page.getByLabel('Site', { exact: true }).fill('Holmsay Kelp Works')
  await page.getByTestId('save-head').click()
  await page.getByLabel('Least ratio of tolerance to uncertainty').fill('3')
  await page.getByTestId('save-rules').click()
  await page.reload()
  await expect(page.getByLabel('Site', { exact: true })).toHaveValue('Holmsay Kelp Works')
  await expect(page.getByLabel('Least ratio of tolerance to uncertainty')).toHaveValue('3')
  await page.getByLabel('Least ratio of tolerance to uncertainty').fill('4')
  await page.getByTestId('save-rules').click()
})

test('a zero trim at a device without a link is led by hand, and its read-back is typed @both', async ({
  page,
  home,
}) => {
  await signInAs(page, home, 'Ailsa Fenn')
  await openLoop(page, 'PDT-118')
  await onRecord(page)
  await stage(page, 'trim')
  await page.getByTestId('begin-zero-trim').click()
  await page.getByTestId('begin-run').click()
  const run = page.locator('[data-run="zero-trim"]')
  for (let i = 0; i < 40 && (await run.getAttribute('data-status')) === 'running'; i++) {
    const gate = page.locator('[data-gate]')
    const [id, kind] = [await gate.getAttribute('data-gate'), await gate.getAttribute('data-kind')]
    if (kind === 'valve') await gate.locator('.valve.wanted').click()
    else {
      for (const field of await gate.locator('form input').all())
        await field.fill(kind === 'reading' ? (id === 'zero-found' ? '7.6 mbar' : '0 mbar') : 'as the display shows it')
      await page.getByTestId('pass-gate').click()
    }
    await expect(page.locator(`[data-gate="${id}"]`)).toHaveCount(0)
  }
  await expect(run).toHaveAttribute('data-status', 'done')
  await stage(page, 'hand-over')
  await expect(page.getByTestId('visit').locator('[data-part="procedure"]').last()).toContainText('Zero trim')
})
