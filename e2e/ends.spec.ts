// Any real pair of ends, why in volts, and what a newcomer may ask: displays, input types, the stair, shades, legends,
// templates, papers, words.
import { enter, entry, expect, newLoop, openLoop, saved, signInAs, stage, test, completeLoop } from './steps.ts'
import type { Page } from '@playwright/test'

const work = (page: Page, name: string) => page.getByRole('tab', { name: new RegExp(`^${name}`) }).click()
const drawn = (page: Page) => expect(page.locator('.canvas[data-ready=yes]')).toBeVisible()
const tagOf = (stem: string, project: string) => `${stem}${project === 'desk' ? '1' : '2'}`

test('a display in per cent, and one of the current itself, need no scale in units @both', async ({
  page,
  home,
}, info) => {
  await signInAs(page, home, 'Ailsa Fenn')
  await completeLoop(page, tagOf('LT-71', info.project.name))
  await page.locator('[data-knot="current"] input').fill('8')
  await expect(page.locator('[data-knot="controller"] input')).toHaveValue(/450/)
  await enter(page, { shows: '%' })
  await expect(page.locator('[data-knot="controller"] input')).toHaveValue(/^25/)
  await expect(page.locator('[data-entry="receiverLow"]')).toHaveCount(0)
  await enter(page, { shows: 'mA', cardCounts: 'not shown' })
  await expect(page.locator('[data-knot="controller"] input')).toHaveValue(/^8/)
  await expect(page.locator('[data-knot="counts"]')).toHaveCount(0)
  await saved(page)
})

test('a channel forgets its scale with its input type, and the header says so until it is typed @both', async ({
  page,
  home,
}, info) => {
  await signInAs(page, home, 'Ailsa Fenn')
  await completeLoop(page, tagOf('LT-72', info.project.name))
  await stage(page, 'wire')
  await enter(page, { receiver: 'converter, channel 1' })
  await stage(page, 'range')
  await enter(page, { channelLow: '0 mm', channelHigh: '1800 mm' })
  await page.locator('[data-knot="current"] input').fill('4')
  await expect(page.locator('[data-knot="channel"] input')).toHaveValue(/^0/)
  await enter(page, { inputType: '0–20 mA' })
  const lost = page.locator('p', { hasText: 'and with it the device lost' })
  await expect(lost).toContainText('channel value at the low end of its input')
  await expect(entry(page, 'channelLow')).toHaveValue('')
  // It stays lost, also where it was set back.
  await enter(page, { inputType: '4–20 mA' })
  await expect(entry(page, 'channelHigh')).toHaveValue('')
  await enter(page, { inputType: '1–5 V' })
  await stage(page, 'point')
  await expect(lost.first()).toBeVisible()
  await lost.first().getByRole('link', { name: 'Type it again' }).click()
  await enter(page, { channelLow: '0 mm', channelHigh: '1800 mm', countsLow: '0', countsHigh: '4095' })
  await expect(lost).toHaveCount(0)
  await stage(page, 'wire')
  await drawn(page)
  await expect(page.locator('[data-terminal="RS:+"]')).toBeVisible()
  await saved(page)
})

test('why in volts: the stair falls live, the cheapest change is named, conductors are shaded @both', async ({
  page,
  home,
}, info) => {
  await signInAs(page, home, 'Ailsa Fenn')
  await completeLoop(page, tagOf('LT-73', info.project.name))
  await stage(page, 'wire')
  await drawn(page)
  const stair = page.locator('figure.stair')
  await expect(stair.locator('[data-step="Transmitter"]')).toContainText('12.00 V')
  await expect(stair).not.toContainText('Cheapest')
  await enter(page, { shunt: '600 Ω' })
  await expect(stair).toContainText('Cheapest single change')
  await expect(stair).toContainText('is short of')
  await enter(page, { shunt: '250 Ω' })
  await expect(stair).not.toContainText('Cheapest')
  await page.getByRole('button', { name: 'Shade by potential' }).click()
  await expect(page.locator('.shade').first()).toBeAttached()
  await expect(page.getByText('24.00 V', { exact: true }).last()).toBeVisible()
  await page.getByRole('button', { name: 'Hide the potentials' }).click()
  await expect(page.locator('.shade')).toHaveCount(0)
})

test('lists and drawings are printed; a cable gets a legend of its own, the same colour twice refused', async ({
  page,
  home,
}) => {
  await signInAs(page, home, 'Ailsa Fenn')
  await completeLoop(page, 'LT-741')
  await stage(page, 'wire')
  await drawn(page)
  await work(page, 'Terminals')
  const get = async (name: string) => {
    const href = (await page.getByRole('link', { name }).getAttribute('href'))!
    return page.request.get(home + href)
  }
  for (const paper of ['A4', 'A3'])
    expect((await (await get(`Loop drawing, ${paper}`)).body()).subarray(0, 4).toString()).toBe('%PDF')
  expect(await (await get('Ferrules, CSV')).text()).toMatch(/^Ferrule,Goes on at/)
  expect(await (await get('Cables, CSV')).text()).toContain('Home run')
  await page.getByLabel('W1, colour convention').selectOption('own')
  const form = page.getByRole('form', { name: 'Legend of W1' })
  for (const [i, means] of [
    [0, 'bus high'],
    [1, 'bus low'],
  ] as const)
    await form.getByLabel('means').nth(i).fill(means)
  await form.getByRole('button', { name: 'One more colour' }).click()
  await form.getByRole('combobox', { name: /^Colour 3/ }).selectOption('white')
  await form.getByLabel('means').nth(2).fill('bus common')
  await form.getByRole('button', { name: 'Keep the legend' }).click()
  await expect(page.getByText('“white” is there twice')).toBeVisible()
  await form.getByRole('combobox', { name: /^Colour 3/ }).selectOption('green')
  await form.getByRole('button', { name: 'Keep the legend' }).click()
  await expect(form).toHaveCount(0)
  await expect(page.locator('section[aria-label="Cables"]')).toContainText('green bus common')
  await saved(page)
})

test('a device template is made, refused where two terminals bear one name, put in and set by channel', async ({
  page,
  home,
}) => {
  await signInAs(page, home, 'Ailsa Fenn')
  await completeLoop(page, 'LT-742')
  await stage(page, 'wire')
  await drawn(page)
  await work(page, 'Terminals')
  await page.getByText('Make a device template').click()
  await page.getByLabel('Begin with').selectOption('flow-channels')
  const editor = page.locator('details.editor')
  await editor.getByLabel('Terminal 4', { exact: true }).fill('L')
  await expect(editor.getByRole('alert')).toContainText('“L”')
  await editor.getByLabel('Terminal 4', { exact: true }).fill('41')
  await expect(editor.getByRole('alert')).toHaveCount(0)
  await expect(editor.getByRole('link', { name: 'Save as a file' })).toHaveAttribute('href', /^data:application\/json/)
  await editor.getByRole('button', { name: 'Put it into the wiring' }).click()
  await expect(page.locator('[data-terminal="D1:41"]')).toBeVisible()
  await page.getByLabel('D1, channel 1').selectOption('current, passive')
  await expect(page.locator('[data-terminal="D1:41"]')).toHaveAttribute('aria-label', /loop current in/)
  await page.getByRole('button', { name: 'Take out device D1' }).click()
  const schema = await page.request.get(`${home}/api/schemas/device.json`)
  expect((await schema.json()).$id).toBe('calm-loop/device-1')
})

test('the field’s words are one key away, and a finding has a why of three lines @both', async ({
  page,
  home,
}, info) => {
  await signInAs(page, home, 'Ailsa Fenn')
  await page.keyboard.press('g')
  const words = page.getByRole('dialog', { name: 'Words of the field' })
  await words.getByLabel('Find a word').fill('lift')
  await expect(words.locator('dt').first()).toContainText('Lift-off voltage')
  await page.keyboard.press('Escape')
  await expect(words).toHaveCount(0)
  await newLoop(page, tagOf('LT-75', info.project.name))
  await stage(page, 'wire')
  await enter(page, { supply: '14 V', liftOff: '12', shunt: '250 Ω', conductor: '1.5 mm²', cableLength: '200 m' })
  const found = page.locator('[data-code="lift-off-not-met"]').first()
  await found.getByText('Why', { exact: true }).click()
  await expect(found.locator('dd')).toHaveCount(3)
  await expect(found.locator('dd').last()).toContainText('4 mA only')
})

test('the weights of faults are the site’s: whoever has the duty sets them, others read them', async ({
  page,
  home,
}) => {
  await signInAs(page, home, 'Magnus Orrin')
  await openLoop(page, 'PDT-118')
  await stage(page, 'wire')
  await drawn(page)
  await work(page, 'Explain a reading')
  await page.getByText('How often each fault is met here').click()
  const water = page.locator('[data-prior="leak-earth"] input')
  await water.fill('200')
  await expect(page.getByRole('alert')).toContainText('between 0.01 and 100')
  await water.fill('1.6')
  await page.getByRole('button', { name: 'Keep for the site' }).click()
  await expect(page.getByRole('button', { name: 'Keep for the site' })).toBeDisabled()
  await page.reload()
  await work(page, 'Explain a reading')
  await page.getByText('How often each fault is met here').click()
  await expect(water).toHaveValue('1.6')
  await page.getByRole('button', { name: 'Back to the usual ones' }).click()
  await page.getByRole('button', { name: 'Keep for the site' }).click()
  await expect(page.getByRole('button', { name: 'Keep for the site' })).toBeDisabled()
})
