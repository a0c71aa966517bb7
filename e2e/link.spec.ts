// A device on its line, as a technician meets it: found, read, written and read back, compared, saved; a Modbus line
// and its registers. The stand-ins are processes of their own, asked over pseudo terminals and TCP.
import { spawnSync } from 'node:child_process'
import { join } from 'node:path'
import type { Page } from '@playwright/test'
import { standIn, type Running } from '../apps/stand-in/test/processes.ts'
import { completeLoop, expect, openLoop, signInAs, stage, test } from './steps.ts'

const ROOT = join(import.meta.dirname, '..')
const running: Running[] = []
test.afterEach(async () => {
  for (const one of running.splice(0)) await one.stop()
})

/** A stand-in of one’s own, behind a gateway that the administrator, who is signed in, names. */
async function behindGateway(page: Page, home: string, kind: string, label: string): Promise<Running> {
  const device = await standIn(kind, '--tcp', '0')
  running.push(device)
  await page.goto(`${home}/link`)
  await page.getByRole('button', { name: 'Add a gateway' }).click()
  await page.getByLabel('Name').fill(label)
  await page.getByLabel('Host').fill('127.0.0.1')
  await page.getByLabel(/^Port/).fill(String(device.port))
  if (kind.endsWith('modbus')) await page.getByRole('button', { name: 'Modbus' }).click()
  await page.getByRole('button', { name: 'Save gateway' }).click()
  await page.locator(`[data-port="${label}"]`).click()
  return device
}
const tab = (page: Page, name: string) => page.getByRole('tab', { name }).click()
async function findAndRead(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Find the device' }).click()
  await expect(page.locator('.identity')).toBeVisible({ timeout: 20_000 })
  await tab(page, 'Values')
  await page.getByTestId('read').click()
  await expect(page.getByText('Read all anew')).toBeVisible({ timeout: 20_000 })
}
const value = (page: Page, id: string) => page.locator(`[data-parameter="${id}"] input`)

test('the bench’s device on its terminal: found, read, ranged with its cautions, read back @both', async ({
  page,
  home,
}) => {
  await signInAs(page, home, 'Rona Teague')
  await page.goto(`${home}/link`)
  await page.locator('[data-port="Pressure stand-in"]').click()
  await findAndRead(page)
  await expect(page.getByText('mA').first()).toBeVisible()
  const urv = (await value(page, 'urv').inputValue()) === '480' ? '500' : '480'
  await value(page, 'urv').fill(urv)
  const write = page.getByRole('button', { name: 'Write and read back' })
  await expect(write).toBeDisabled()
  for (const words of ['The loop is in manual', 'Trips and alarms', 'The area allows'])
    await page.getByLabel(words).check()
  await write.click()
  await expect(page.locator('[data-write="held"]').first()).toContainText('Value at 20 mA')
  await expect(value(page, 'urv')).toHaveValue(urv)
  // Saved, changed, compared: only the difference is shown, and taken back from the file.
  await tab(page, 'Files')
  await page.getByLabel('Note with the file').fill(`at ${urv}`)
  await page.getByRole('button', { name: 'Save what was read' }).click()
  await expect(page.getByText(`at ${urv}`).first()).toBeVisible()
  await tab(page, 'Values')
  await value(page, 'damping').fill('2.5')
  await page.getByRole('button', { name: 'Write and read back' }).click()
  await expect(page.locator('[data-write="held"]').first()).toContainText('Damping')
  await tab(page, 'Compare')
  await expect(page.locator('[data-differs]')).toHaveCount(1)
  await page.locator('[data-differs="damping"]').getByRole('button').click()
  await page.getByRole('button', { name: 'Write and read back' }).click()
  await expect(page.getByText(/values agree, bit by bit/)).toBeVisible()
  await tab(page, 'What was said')
  await page.getByLabel('Look for bytes or words').fill('ask 34')
  await expect(page.getByText(/ask 34, device/).first()).toBeVisible()
  await tab(page, 'Find')
  await page.getByRole('button', { name: 'Let the port go' }).click()
  await expect(page.getByText('not open')).toBeVisible()
})

test('a device that is protected, silent, or loses an answer says so, and what to try', async ({ page, home }) => {
  await signInAs(page, home, 'Rona Teague')
  const device = await behindGateway(page, home, 'ph', 'Analysis shed')
  await device.say('silent')
  await page.getByRole('button', { name: 'Find the device' }).click()
  await expect(page.getByTestId('next-things')).toContainText('230 to 1100 Ω', { timeout: 20_000 })
  await device.say('normal')
  await findAndRead(page)
  await expect(page.getByTestId('universal')).toBeVisible()

  await device.say('protect')
  await value(page, 'damping').fill('3')
  await page.getByRole('button', { name: 'Write and read back' }).click()
  await expect(page.getByTestId('write-bar')).toContainText('write-protected')
  await device.say('unprotect')
  await device.say('lose')
  await page.getByRole('button', { name: 'Write and read back' }).click()
  await expect(page.getByTestId('unknown')).toContainText('Unknown: read back first', { timeout: 20_000 })
  // It reads back by itself first, and that gets no answer either.
  await expect(page.locator('[data-write="unknown"]')).toContainText('neither to the write', { timeout: 20_000 })
  await device.say('normal')
  await page.getByRole('button', { name: 'Read back now' }).click()
  await expect(page.locator('[data-write="held"]').first()).toContainText('Damping')
  await expect(page.getByTestId('unknown')).toHaveCount(0)

  // Its description comes in as a file, and shows what is the device’s own.
  await tab(page, 'Descriptions')
  await page.locator('input[type=file]').setInputFiles(join(ROOT, 'demo/descriptions/ph.json'))
  await expect(page.getByText('pH transmitter AK 4, version 1, is here.')).toBeVisible()
  await tab(page, 'Values')
  await page.getByTestId('read').click()
  await expect(page.locator('[data-parameter="slope"]')).toContainText('constant of this meter')
  await expect(page.getByTestId('universal')).toHaveCount(0)
})

test('a Modbus line is scanned, its map read, and a word order found against a known figure', async ({
  page,
  home,
}) => {
  await signInAs(page, home, 'Rona Teague')
  await behindGateway(page, home, 'level-modbus', 'Tank farm')
  await page.getByLabel('Ask addresses 1 to').fill('2')
  await page.getByRole('button', { name: 'Find who answers' }).click()
  await expect(page.getByTestId('bus')).toContainText('answers')
  const { stdout } = spawnSync(process.execPath, ['scripts/stand-in.mjs', 'level-modbus', '--map'], {
    cwd: ROOT,
    encoding: 'utf8',
  })
  // As somebody copied it from a manual that does not say the order.
  const wrong = stdout.replaceAll('"CDAB"', '"ABCD"')
  await page.locator('input[type=file]').setInputFiles({
    name: 'map.json',
    mimeType: 'application/json',
    buffer: Buffer.from(wrong),
  })
  const level = page.locator('[data-register="Level"]')
  await expect(level).toBeVisible()
  await level.getByRole('button', { name: 'Find its order' }).click()
  await page.getByLabel('What Level is, by another witness').fill('2.4')
  await page.getByTestId('orders').getByRole('button', { name: 'Take it' }).click()
  await expect(level).toContainText(/2\.(39|4)/)
})

test('guided work goes over the line of the loop’s own device, on record, and its past is read', async ({
  page,
  home,
}) => {
  test.slow()
  await signInAs(page, home, 'Rona Teague')
  await completeLoop(page, 'LT-661')
  const device = await behindGateway(page, home, 'level', 'Rack 2')
  await page.getByRole('button', { name: 'Find the device' }).click()
  await expect(page.locator('.identity')).toBeVisible({ timeout: 20_000 })
  await page.getByLabel('Tag of its loop').fill('LT-661')
  await page.getByRole('button', { name: 'Look for the loop' }).click()
  await page.getByTestId('tie').click()
  await expect(page.getByText('over this line, on record')).toBeVisible()

  // Its own past: estimated first, then read in pieces.
  await tab(page, 'Its past')
  await page.getByRole('button', { name: 'Look what it keeps' }).click()
  await expect(page.getByTestId('estimate')).toContainText('rows')
  await page.getByRole('button', { name: 'Download' }).click()
  await expect(page.getByRole('img', { name: 'The value over time, with events' })).toBeVisible({ timeout: 30_000 })

  await page.goto(home)
  await openLoop(page, 'LT-661')
  await expect(page.getByTestId('linked')).toContainText('Its own device answers, by Rack 2')
  await stage(page, 'trim')
  await page.getByRole('tab', { name: 'Device' }).click()
  await expect(page.getByTestId('linked-device')).toContainText('Rack 2')
  await expect(page.getByTestId('range-differs')).toBeVisible()
  await page.getByRole('tab', { name: 'Guided work' }).click()
  await page.locator('[data-procedure="forced-current"]').click()
  await page.getByTestId('begin-run').click()
  for (const id of ['told', 'manual', 'trips', 'warning']) {
    const gate = page.locator(`[data-gate="${id}"]`)
    await expect(gate).toBeVisible()
    if (await gate.locator('input').count()) await gate.locator('input').fill('Rolf, PTW-204')
    await page.getByTestId('pass-gate').click()
  }
  // The real device drives the current; what flows is read by eye and typed.
  await page.locator('[data-gate="drive-4"]').getByTestId('pass-gate').click()
  await expect(page.locator('[data-gate="stable-4"]')).toBeVisible()
  expect(Number(await device.say('meter'))).toBeCloseTo(4, 1)
  await page.getByLabel('On what it stood still').fill('4.00 mA for ten seconds')
  await page.getByTestId('pass-gate').click()
  await page.getByLabel('Meter reads').fill('4.003 mA')
  await page.getByTestId('pass-gate').click()
  // Broken off, it is put back over the same line.
  await page.getByRole('button', { name: 'Cancel this procedure' }).click()
  await page.getByLabel(/^Why/).fill('shift over')
  await page.getByTestId('cancel-now').click()
  await expect(page.getByText('Release the fixed current').first()).toBeVisible()
  await page.getByTestId('undo-now').click()
  await expect(page.getByText('Release the fixed current')).toHaveCount(0)
  expect(Number(await device.say('meter'))).toBeGreaterThan(3.7)
})
