// Level points: a probe judged by place and set up by its sheet; a vessel on its strapping table; level by pressure.
import { enter, entry, expect, newLoop, openLoop, saved, signInAs, stage, test } from './steps.ts'
import { completeLoop } from './steps.ts'
import type { Page } from '@playwright/test'

const work = (page: Page, name: string) => page.getByRole('tab', { name: new RegExp(`^${name}`) }).click()
const code = (page: Page, name: string) => page.locator(`[data-code="${name}"]`)
const figure = (page: Page, id: string) => page.locator(`[data-figure="${id}"]`)
const step = (page: Page, id: string) => page.locator(`[data-step="${id}"]`)
const tagOf = (stem: string, project: string) => `${stem}${project === 'desk' ? '1' : '2'}`

/** A loop of a kind, with the entries of one stage after the other. */
async function loopOf(page: Page, tag: string, kind: string, entries: Record<string, Record<string, string>>) {
  await newLoop(page, tag, kind)
  for (const [id, values] of Object.entries(entries)) {
    await stage(page, id)
    await enter(page, values)
  }
  await saved(page)
}

test('a probe: 4 mA in its dead zone is a stop that names what would do; its set-up is read back @both', async ({
  page,
  home,
}, info) => {
  await signInAs(page, home, 'Ailsa Fenn')
  await loopOf(page, tagOf('LT-81', info.project.name), 'Level by probe', {
    identify: { device: 'Guided-wave probe G3', serial: 'G3-1', controls: 'Pump', tell: 'Boiler operator' },
    range: { lrv: '0 mm', urv: '1400 mm', faultAction: 'high', faultCurrent: '21.5 mA' },
  })
  await stage(page, 'point')
  await enter(page, { sensing: 'guided wave along a probe' })
  await enter(page, {
    probeType: 'cable',
    probeLength: '1850 mm',
    topDeadZone: '220 mm',
    bottomDeadZone: '190 mm',
    emptyDistance: '1700 mm',
    fullDistance: '300 mm',
    liquid: 'water or condensate',
  })
  // The span of 1400 mm alone would not tell where it lies.
  await expect(code(page, 'current-in-lower-zone')).toContainText('A level of 40 mm would do at 4 mA')
  await expect(page.getByRole('img', { name: /4 mA at 1700 mm/ })).toBeVisible()
  await enter(page, { probeLength: '1900 mm' })
  await expect(code(page, 'current-in-lower-zone')).toHaveCount(0)
  await enter(page, { head: 'off the process: readings are void' })
  await expect(code(page, 'head-off-process')).toContainText('every reading is void')
  await page.locator('[data-knot="process"] input').fill('700')
  await expect(page.locator('[data-knot="digital"]')).toContainText('void')
  await enter(page, { head: 'on the process' })
  await work(page, 'Vessel')
  await enter(page, { tankDepth: '1700 mm', faceAbove: '150 mm' })
  await expect(code(page, 'probe-beyond-vessel')).toContainText('Cut 50 mm or more off')
  await enter(page, { tankDepth: '1800 mm' })
  await expect(figure(page, 'below-end')).toContainText('50 mm')
  await saved(page)

  await work(page, 'Quick set-up')
  const confirm = async (id: string, given?: string) => {
    await expect(step(page, id)).toHaveClass(/now/)
    if (given) await step(page, id).locator('input').first().fill(given)
    await step(page, id).locator('[data-test="confirm-step"]').click()
  }
  await confirm('told', 'Bree')
  await confirm('length', '1899 mm')
  for (const id of ['mounted', 'keyed', 'stored', 'cycled']) await confirm(id)
  // The read-back is a gate: not passed before every line was read.
  await confirm('read')
  await expect(page.getByRole('alert')).toContainText('Read the device back first')
  await work(page, 'Set up and read back')
  await expect(page.locator('tr[data-line]').first()).toBeVisible()
  for (const row of await page.locator('tr[data-line]').all()) {
    const text = (await row.locator('td').first().innerText()).trim()
    if (!text.includes('still')) await row.locator('input').fill(text)
  }
  await page.getByTestId('keep-read-back').click()
  await expect(page.getByText('Last on record')).toBeVisible()
  await work(page, 'Quick set-up')
  await confirm('read')
  await expect(step(page, 'read')).toHaveClass(/done/)
  await confirm('shown', '702 mm shown, 700 mm dipped')
  await confirm('back', 'Bree')
  await expect(page.getByText('All steps done.')).toBeVisible()
})

test('a vessel on its strapping table: faults by line, level to volume and mass on the thread @both', async ({
  page,
  home,
}, info) => {
  await signInAs(page, home, 'Ailsa Fenn')
  await completeLoop(page, tagOf('LT-82', info.project.name))
  await stage(page, 'point')
  await enter(page, { shape: 'by its strapping table' })
  const file = (text: string) =>
    page.locator('[data-test="strapping"] input[type=file]').setInputFiles({
      name: 'tank 7.csv',
      mimeType: 'text/csv',
      buffer: Buffer.from(text),
    })
  await file('level (mm);volume (m3)\n0;0\n500;2,5\n400;3\nabc;4')
  await expect(page.getByTestId('strapping')).toContainText('Line 4: The level does not rise: 400 after line 3.')
  await expect(page.getByTestId('strapping')).toContainText('Line 5: Level: “abc” is no number.')
  await file('level (mm);volume (m3)\n0;0\n500;2,5\n1000;6\n2000;12')
  await expect(page.getByTestId('strapping-said')).toContainText('4 rows taken')
  await expect(figure(page, 'volume-overflow')).toContainText('12.00 m³')
  await stage(page, 'range')
  await enter(page, { shownAs: 'mass, from the volume', massDensity: '1100 kg/m3' })
  await page.locator('[data-knot="level"] input').fill('750')
  await expect(page.locator('[data-knot="shown-volume"] input')).toHaveValue(/^4[.,]25/)
  await expect(page.locator('[data-knot="controller"] input')).toHaveValue(/^4675/)
  // And back: what the operator reads is a level.
  await page.locator('[data-knot="controller"] input').fill('6600')
  await expect(page.locator('[data-knot="level"] input')).toHaveValue(/^1000/)
  await saved(page)
})

test('a level by pressure: its leg at another temperature moves what the calibrator must show', async ({
  page,
  home,
}) => {
  await signInAs(page, home, 'Ailsa Fenn')
  await openLoop(page, 'LT-208')
  await stage(page, 'point')
  await expect(figure(page, 'fill-sg')).toContainText('1.0690')
  const shown = () => figure(page, 'gauge-0').innerText()
  await work(page, 'Cell and calibrator')
  const before = await shown()
  await work(page, 'Arrangement and fills')
  const temp = await entry(page, 'legTemp').inputValue()
  await enter(page, { legTemp: '45 °C' })
  await work(page, 'Cell and calibrator')
  await expect.poll(shown).not.toBe(before)
  await stage(page, 'range')
  await expect(code(page, 'range-not-as-computed')).toBeVisible()
  await stage(page, 'point')
  await enter(page, { legTemp: temp })
  await stage(page, 'range')
  await expect(code(page, 'range-not-as-computed')).toHaveCount(0)
  await saved(page)
})
