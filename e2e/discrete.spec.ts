// A discrete point from its nameplate to its count: verdict, ways that work, check with three witnesses, switch points
// in motion, edges in and out.
import { connectBench, enter, expect, openLoop, saved, signInAs, stage, test } from './steps.ts'
import type { Page } from '@playwright/test'

const work = (page: Page, name: string) => page.getByRole('tab', { name: new RegExp(`^${name}`) }).click()

const NAMEPLATE = {
  output: 'NPN',
  contact: 'NO',
  supplyLeast: '10 V',
  supplyMost: '30 V',
  maxOut: '200 mA',
  residual: '1,2 V',
  leakage: '0.1 mA',
  supply: '24 V',
  common: 'negative pole',
  inputType: '24 V DC, type 1',
}

async function newPoint(page: Page, tag: string): Promise<void> {
  await page.getByRole('link', { name: 'New loop' }).click()
  await page.getByRole('radio', { name: /Discrete sensor/ }).check()
  await page.getByLabel(/^Tag/).fill(tag)
  await page.getByLabel(/^Service/).fill('Sluice closed')
  await page.getByLabel(/^Area/).fill('Wash house')
  await page.getByRole('button', { name: 'Create this loop' }).click()
  await expect(page.getByRole('heading', { level: 1 })).toContainText(tag)
  await enter(page, { device: 'Inductive sensor', serial: 'N8-1' })
  await stage(page, 'wire')
}

test('three witnesses, the meter and the distance, live and typed, signed and certified @both', async ({
  page,
  home,
}, info) => {
  const tag = info.project.name === 'desk' ? 'ZS-621' : 'ZS-622'
  await signInAs(page, home, 'Ailsa Fenn')
  await newPoint(page, tag)
  await enter(page, { ...NAMEPLATE, output: 'PNP' })
  await stage(page, 'switch-point')
  await enter(page, { sensing: 'inductive, metal target', rated: '8 mm', metal: 'aluminium', mountedAt: '5 mm' })
  await expect(page.locator('[data-figure="expected"]')).toContainText('3.20 mm')
  await expect(page.locator('[data-code="beyond-assured"]')).toBeVisible()
  await enter(page, { metal: 'mild steel (S235)' })
  await expect(page.locator('[data-figure="expected"]')).toContainText('8.00 mm')
  await expect(page.locator('[data-code="beyond-assured"]')).toHaveCount(0)
  await saved(page)
  const begin = async () => {
    await stage(page, 'check')
    await page.getByRole('button', { name: 'once' }).click()
    await page.getByLabel('Who in operations was told').fill('Bree')
    await page.getByRole('button', { name: 'Confirm machine safe and begin' }).click()
  }
  // Practised at the bench first; on record nothing has been checked then.
  await connectBench(page)
  await begin()
  await expect(page.locator('[data-test="point"]')).toHaveText('Bring the target up slowly')
  // A witness that is not as expected says where the fault is.
  await page.locator('[data-witness="inputLamp"]').getByRole('button', { name: 'dark' }).click()
  await page.locator('[data-witness="sensorLamp"]').getByRole('button', { name: 'lit' }).click()
  await expect(page.getByRole('alert')).toContainText('between the sensor and the input')
  await page.locator('[data-witness="inputLamp"]').getByRole('button', { name: 'lit' }).click()
  await page.locator('[data-test="bring"]').click()
  await expect(page.locator('[data-witness="controller"]').getByText('true').last()).toBeVisible({ timeout: 20_000 })
  await expect(page.getByText(/Empty takes (7|8)\.\d\d mm\./)).toBeVisible()
  await page.locator('[data-test="take"]').click()
  await expect(page.locator('[data-point="0"]')).toContainText('as expected, saved')
  await page.getByTestId('disconnect-bench').click()
  await begin()
  await page.locator('[data-entry="distance"] input').fill('7.9 mm')
  await page.locator('[data-entry="signal"] input').fill('22.2')
  for (const [id, look] of [
    ['sensorLamp', 'lit'],
    ['inputLamp', 'lit'],
    ['controller', 'true'],
  ] as const)
    await page.locator(`[data-witness="${id}"]`).getByRole('button', { name: look }).click()
  await page.locator('[data-test="take"]').click()
  await expect(page.locator('[data-point="0"]')).toContainText('as expected, saved')
  // The second state, typed: a distance in another unit, volts with exchanged leads.
  await expect(page.locator('[data-test="point"]')).toHaveText('Take the target away slowly')
  await page.locator('[data-entry="distance"] input').fill('0,335 in')
  await page.locator('[data-entry="signal"] input').fill('0.1')
  for (const [id, look] of [
    ['sensorLamp', 'dark'],
    ['inputLamp', 'not seen'],
    ['controller', 'false'],
  ] as const)
    await page.locator(`[data-witness="${id}"]`).getByRole('button', { name: look }).click()
  await page.locator('[data-entry="signal"] input').press('Enter')
  await expect(page.locator('[data-test="verdict"]')).toContainText('Every witness agrees')
  await page.getByRole('link', { name: 'Go to hand over' }).click()
  await page.getByLabel('Who in operations was told').fill('Bree')
  await page.getByRole('button', { name: 'Confirm machine given back' }).click()
  await page.getByLabel('Your password').fill('kelp and salt')
  await page.getByRole('button', { name: 'Sign as Ailsa Fenn' }).click()
  await expect(page.getByText('Performed by Ailsa Fenn')).toBeVisible()
  const href = (await page.getByRole('link', { name: 'Certificate (PDF)' }).getAttribute('href'))!
  expect((await (await page.request.get(home + href)).body()).subarray(0, 4).toString()).toBe('%PDF')
})

test('switch points of a tank: the fail-safe question, and two pumps in motion', async ({ page, home }) => {
  await signInAs(page, home, 'Ailsa Fenn')
  await openLoop(page, 'LT-133')
  await stage(page, 'switch-point')
  const relay = page.locator('[data-relay="1"]')
  await expect(relay.locator('[data-when="power-lost"]')).toContainText('stands')
  await expect(relay.locator('[data-when="sensor-lost"]')).toContainText('runs')
  const sim = page.getByRole('region', { name: 'Simulation of the switch points' })
  for (let i = 0; i < 90; i++) await sim.getByRole('button', { name: 'Step 1 s' }).click()
  await expect(sim.locator('svg[role=img]')).toHaveAttribute('aria-label', /brine pump A runs/)
  await sim.getByRole('button', { name: 'Lose the power' }).click()
  await expect(sim.locator('svg[role=img]')).toHaveAttribute('aria-label', /pump A stands, brine pump B stands/)
  await sim.getByRole('button', { name: 'Band smaller than the noise' }).click()
  await sim.getByRole('button', { name: 'Run', exact: true }).click()
  await expect(sim.getByText(/relay 1 chatters/)).toBeVisible({ timeout: 20_000 })
  await sim.getByRole('button', { name: 'Pause' }).click()
  // A wish that the contact cannot fulfil is a stop, and turning it round mends it.
  await page.locator('[data-entry="trip1PowerLost"]').getByRole('button', { name: 'runs' }).click()
  await expect(page.locator('[data-code="power-lost-1"]')).toContainText('near trip on the NC contact')
  await relay.getByRole('button', { name: /Turn round/ }).click()
  await expect(page.locator('[data-code="power-lost-1"]')).toHaveCount(0)
  await page.locator('[data-entry="trip1PowerLost"]').getByRole('button', { name: 'stands' }).click()
  await relay.getByRole('button', { name: /Turn round/ }).click()
  await saved(page)
})

test(
  'a named point is watched while its machine moves, its edges recorded, and ' + 'all points stand on one page',
  async ({ page, home }) => {
    const tag = 'ZS-631'
    await signInAs(page, home, 'Ailsa Fenn')
    await newPoint(page, tag)
    await enter(page, { ...NAMEPLATE, output: 'PNP' })
    await stage(page, 'switch-point')
    await enter(page, { sensing: 'magnet, light or other', rated: '6 mm' })
    await stage(page, 'count')
    await enter(page, {
      pointName: 'SLUICE_CLOSED',
      meansTrue: 'sluice closed',
      meansFalse: 'sluice open',
      idealCycle: '2 s',
      longCycle: '9 s',
      shifts: 'All 00:00–24:00',
      days: 'every day',
    })
    await saved(page)
    await page.reload()
    await connectBench(page)
    await page.locator('[data-test="machine"]').click()
    await expect(page.locator('[data-test="live-state"]')).toHaveText('true: sluice closed', { timeout: 10_000 })
    const record = page.locator('[data-test="record"]')
    // The link is made anew when the bench is connected: what is pressed while nothing is seen records nothing.
    await expect(async () => {
      if ((await record.innerText()).startsWith('Record')) await record.click()
      await expect(record).toHaveText('Stop recording', { timeout: 2000 })
    }).toPass({ timeout: 40_000 })
    const recorded = page.getByTestId('recorded')
    await expect(recorded).toContainText(/: [2-9] changes/, { timeout: 25_000 })
    // The server goes on while the page is away.
    await page.reload()
    await expect(recorded).toContainText('goes on when this page is closed')
    await expect(page.locator('[data-test="count"]')).toHaveText(/^([4-9]|1\d)$/, { timeout: 20_000 })
    await record.click()
    await work(page, 'Log of edges')
    await expect(page.getByRole('cell', { name: 'practice at the bench' }).first()).toBeVisible()
    await work(page, 'Cycles and OEE')
    await expect(page.locator('[data-factor="Performance"]')).toContainText('2 s ×')
    await page.goto(`${home}/watch`)
    const row = page.locator(`[data-point="${tag}"]`)
    await expect(row).toContainText('SLUICE_CLOSED')
    await expect(row.locator('.count')).toHaveText(/^[1-9]/, { timeout: 10_000 })
    await page.goto(`${home}/loops`)
    await openLoop(page, tag)
    await stage(page, 'count')
    await page.locator('[data-test="machine"]').click()
  },
)

test('both teachings about NPN, the way of the load, and what the controller is told of a name @both', async ({
  page,
  home,
}, info) => {
  const tag = info.project.name === 'desk' ? 'ZS-641' : 'ZS-642'
  await signInAs(page, home, 'Ailsa Fenn')
  await newPoint(page, tag)
  await enter(page, { ...NAMEPLATE, common: 'positive pole' })
  await page.getByText('Is an NPN “on by nature”?').click()
  const away = page.locator('[data-target="away"]')
  await expect(away).toContainText('so it is on by nature')
  await expect(away).toContainText('so it is inactive')
  await expect(page.locator('[data-target="there"]')).toContainText('so it is active')
  await enter(page, { drives: 'load', loadGiven: 'watts', common: 'negative pole' })
  await enter(page, { loadPower: '2.4 W' })
  await expect(page.getByTestId('fit')).toHaveText(/Cannot work/i)
  await work(page, 'Make it work')
  await expect(page.getByText('Load on the other pole').first()).toBeVisible()
  await work(page, 'Sensor and input')
  await enter(page, { common: 'positive pole', loadKind: 'filament lamp' })
  await expect(page.locator('[data-code="inrush-high"]').first()).toBeVisible()
  await stage(page, 'count')
  await enter(page, { nameSigns: 'letters, figures, _', nameMost: '12', pointName: 'Sluice gate closed' })
  await expect(page.locator('[data-code="point-name"]').first()).toContainText('18 characters, and 12 are allowed')
  await saved(page)
})
