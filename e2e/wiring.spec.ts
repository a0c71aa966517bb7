// The wiring desk: choose an arrangement, change the wiring by dragging and from the keyboard, judge it, measure,
// explain, print.
import { choose, enter, expect, openLoop, saved, signInAs, stage, test } from './steps.ts'
import type { Locator, Page } from '@playwright/test'

const work = (page: Page, name: string) => page.getByRole('tab', { name: new RegExp(`^${name}`) }).click()
const ready = (page: Page) => expect(page.locator('.canvas[data-ready=yes]')).toBeVisible()
const terminal = (page: Page, ref: string) => page.locator(`[data-terminal="${ref}"]`)
const pin = (page: Page, ref: string, side: 'left' | 'right') =>
  page.locator(`.vue-flow__handle[data-handleid="${ref}|${side}"]`)
const middle = async (at: Locator) => {
  const box = (await at.boundingBox())!
  return { x: box.x + box.width / 2, y: box.y + box.height / 2 }
}
async function drag(page: Page, from: Locator, to: Locator): Promise<void> {
  const [a, b] = [await middle(from), await middle(to)]
  await page.mouse.move(a.x, a.y)
  await page.mouse.down()
  await page.mouse.move((a.x + b.x) / 2, (a.y + b.y) / 2, { steps: 5 })
  await page.mouse.move(b.x, b.y, { steps: 5 })
  await page.mouse.up()
}
const wire = async (page: Page, home: string, tag: string, name = 'Ailsa Fenn') => {
  await signInAs(page, home, name)
  await openLoop(page, tag)
  await stage(page, 'wire')
  await ready(page)
}
const stopsIn = (page: Page) => page.getByRole('tab', { name: /^Before power/ })

test('an arrangement chosen gets its proposed wiring, with volts from the thread’s current @both', async ({
  page,
  home,
}) => {
  await wire(page, home, 'FT-402')
  await expect(terminal(page, 'RX:24V')).toContainText('24.0')
  await page.locator('[data-knot="current"] input').fill('20')
  await expect(terminal(page, 'RX:IN')).toContainText('5.00 V')
  await enter(page, { receiver: 'passive card', between: 'isolator' })
  await expect(terminal(page, 'ISO:3+')).toBeVisible()
  await expect(terminal(page, 'RX:IN+')).toContainText(/\d/)
  await enter(page, { receiver: 'converter, channel 2', between: 'nothing' })
  await expect(terminal(page, 'RX:2+')).toContainText('5.00 V')
  await enter(page, { output: 'digital bus', receiver: 'card supplies loop' })
  await expect(terminal(page, 'TX:D+')).toBeVisible()
  await enter(page, { output: 'two-wire' })
  await page.getByRole('button', { name: 'Show the current' }).click()
  await expect(page.locator('.flow').first()).toBeAttached()
  await saved(page)
})

test('dragging connects and lands conductors, every step judged; undo takes it back', async ({ page, home }) => {
  await wire(page, home, 'PDT-118')
  await expect(stopsIn(page)).toHaveText('Before power')
  // A second conductor past the receiver.
  await drag(page, pin(page, 'RX:IN', 'right'), pin(page, 'RX:0V', 'right'))
  await expect(stopsIn(page)).toContainText('1 stop')
  await work(page, 'Before power')
  await expect(page.locator('[data-code="input-shorted"]')).toBeVisible()
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(stopsIn(page)).toHaveText('Before power')
  // The end of a conductor dragged to another terminal.
  const end = page
    .locator('.vue-flow__edge', { has: page.locator('[data-conductor="C2"]') })
    .locator('.vue-flow__edgeupdater-source')
  await drag(page, end, pin(page, 'TX:T', 'right'))
  await expect(page.getByRole('status').filter({ hasText: 'C2' })).toContainText('TX:T')
  await page.getByRole('button', { name: 'Undo' }).click()
  await saved(page)
})

test('the keyboard alone lands a conductor wrong, sees why, and connects it right', async ({ page, home }) => {
  await wire(page, home, 'LT-208')
  await terminal(page, 'TX:−').focus()
  await page.keyboard.press('Enter')
  await expect(page.getByRole('status').filter({ hasText: 'TX:−' })).toContainText('carries')
  await page.locator('#work-arrange').focus()
  await page.keyboard.press('ArrowLeft')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('region', { name: 'Conductors' })).toBeVisible()
  const line = page.locator('[data-line="C2"]')
  await line.getByLabel('C2, from terminal').focus()
  await line.getByLabel('C2, from terminal').selectOption('TX:−')
  await expect(stopsIn(page)).toContainText('stop')
  await line.getByRole('button', { name: 'Take out C2' }).focus()
  await page.keyboard.press('Enter')
  await expect(line).toHaveCount(0)
  // Choose terminal, choose terminal.
  await terminal(page, 'TX:+').focus()
  await page.keyboard.press('c')
  await expect(page.getByRole('status').filter({ hasText: 'From TX:+' })).toBeVisible()
  await terminal(page, 'JB:1').focus()
  await page.keyboard.press('Enter')
  await expect(stopsIn(page)).toHaveText('Before power')
  await saved(page)
})

test('a meter says what it will show, and a dangerous placement blows its fuse @both', async ({ page, home }) => {
  await wire(page, home, 'LT-112')
  await page.locator('[data-knot="current"] input').fill('12')
  await work(page, 'Meter')
  const display = page.locator('[data-display]')
  await expect(display).toHaveText('3.00 V')
  const how = async (name: string) => {
    await choose(page, page.locator('main'), name)
    // The list goes away a moment later; until then it would take the next click.
    await expect(page.locator('.v-overlay--active')).toHaveCount(0)
  }
  await how('mA, in series')
  await expect(display).toHaveText(/^−?12\.00 mA$/)
  await expect(page.getByText('Power is not confirmed off.')).toBeVisible()
  await expect(page.getByText('Red lead into the mA jack')).toBeVisible()
  await how('mA, at the test terminals')
  await expect(display).toHaveText('12.00 mA')
  await how('clamp around a conductor')
  await expect(display).toHaveText(/12\.0/)
  await how('mA, between two terminals')
  await page.getByLabel('Red lead').selectOption('RX:24V')
  await page.getByLabel('Black lead').selectOption('RX:0V')
  await expect(page.getByText('440 mA fuse blows')).toBeVisible()
  await expect(display).toHaveText('0.00 mA')
  await page.getByRole('button', { name: 'Put in a new fuse' }).click()
})

test('the wiring sheet is printed and saved, and a device file with unknown fields is refused', async ({
  page,
  home,
}) => {
  await wire(page, home, 'LY-133')
  await work(page, 'Terminals')
  const get = async (name: string) => {
    const href = (await page.getByRole('link', { name }).getAttribute('href'))!
    return page.request.get(home + href)
  }
  const pdf = await get('Wiring sheet, PDF')
  expect((await pdf.body()).subarray(0, 4).toString()).toBe('%PDF')
  expect(await (await get('Conductors, CSV')).text()).toMatch(/conductor,from,to.*\r\n/)
  expect(await (await get('Drawing, SVG')).text()).toMatch(/^<svg/)
  const choosing = page.waitForEvent('filechooser')
  await page.getByRole('button', { name: 'From a device file' }).click()
  await (
    await choosing
  ).setFiles({ name: 'device.json', mimeType: 'application/json', buffer: Buffer.from('{"id":"x","glow":1}') })
  await expect(page.getByRole('alert')).toContainText('glow')
  await page.getByLabel('Its name').fill('Old head')
  await page.getByLabel('Add a device').selectOption('two-wire')
  await page.getByLabel('It has its own terminal names').check()
  await page.getByLabel('Terminal + is marked').fill('7')
  await page.getByRole('button', { name: 'Add device' }).click()
  await expect(terminal(page, 'D1:7')).toBeVisible()
  await page.getByRole('button', { name: 'Take out device D1' }).click()
  await expect(terminal(page, 'D1:7')).toHaveCount(0)
})
