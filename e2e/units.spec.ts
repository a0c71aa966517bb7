// One whole loop in feet, inches, psi, gpm and °F: no other unit stands anywhere on its pages.
import { expect, newLoop, saved, signInAs, stage, enter, test } from './steps.ts'
import { settled } from './scan.ts'
import type { Page } from '@playwright/test'

const TAG = 'FT-855'
const ENTERED: Readonly<Record<string, Record<string, string>>> = {
  identify: { units: 'US customary', device: 'Clamp pair M', serial: 'M-1', controls: 'Rinse valve', tell: 'Bree' },
  wire: { liftOff: '12', conductor: 'AWG 18', cableLength: '300', cableTemp: '86' },
}
const POINT: Readonly<Record<string, Record<string, string>>> = {
  'Pipe and fluid': {
    od: '6.625',
    wall: '0.28',
    material: 'carbon steel',
    liquid: 'water',
    fluidTemp: '68',
    fluidPressure: '45',
  },
  'Pair and spacing': { transducer: 'general, medium (S3)', serialA: 'M-1A', serialB: 'M-1B' },
  Place: { disturbance: 'two bends in one plane', upstream: '12', downstream: '6' },
}
const RANGE = {
  lrv: '0',
  urv: '1200',
  damping: '2 s',
  faultAction: 'high',
  faultCurrent: '21.5 mA',
  countsLow: '13107',
  countsHigh: '65535',
  receiverLow: '0',
  receiverHigh: '1200',
}
/** Units of the metric system after a figure. */
const METRIC = /\d\s?(mm|cm|m|km|bar|mbar|kPa|MPa|°C|m³\/h|l\/s|l\/min|m³|kg\/h|t\/h|kg\/m³|m\/s|K)(?![\w/²³])/g

/** Everything on the page that can be read: text, drawings, what stands in fields and what names them. */
const words = (page: Page) =>
  page.evaluate(() => {
    const main = document.querySelector('main') ?? document.body
    const fields = [...main.querySelectorAll('input, textarea')].flatMap((f) => [
      (f as HTMLInputElement).value,
      (f as HTMLInputElement).placeholder,
      f.closest('[data-entry], .entry')?.textContent ?? '',
    ])
    const named = [...main.querySelectorAll('[aria-label]')].map((e) => e.getAttribute('aria-label') ?? '')
    const drawn = [...main.querySelectorAll('svg text')].map((t) => t.textContent ?? '')
    return [main.innerText, ...fields, ...named, ...drawn].join('\n')
  })
const onPage = async (page: Page) => [...(await words(page)).matchAll(METRIC)].map(([found]) => found)

test('a clamp-on loop entered in feet, inches, psi, gpm and °F speaks of nothing else on any page', async ({
  page,
  home,
}) => {
  test.slow()
  await signInAs(page, home, 'Ailsa Fenn')
  await newLoop(page, TAG, 'Flow, clamp-on')
  await stage(page, 'identify')
  for (const [id, values] of Object.entries(ENTERED)) {
    await stage(page, id)
    await enter(page, values)
  }
  await stage(page, 'point')
  for (const [work, values] of Object.entries(POINT)) {
    await page.getByRole('tab', { name: work }).click()
    await enter(page, values)
  }
  await stage(page, 'range')
  await enter(page, RANGE)
  await saved(page)
  // A bare number took the unit that stood beside its field, and still does when it is opened again.
  await page.reload()
  await expect(page.locator('[data-entry="urv"] input')).toHaveValue('1200 gpm (US)')
  await expect(page.locator('[data-knot="controller"]')).toContainText('gpm')

  const found: Record<string, string[]> = {}
  const look = async (name: string) => {
    await settled(page)
    const metric = await onPage(page)
    if (metric.length) found[name] = metric
  }
  for (const id of ['identify', 'wire', 'range', 'switch-point', 'trim', 'check', 'hand-over', 'point']) {
    await stage(page, id)
    await settled(page)
    await look(id)
    for (const tab of await page.getByRole('tab').all()) {
      if (!(await tab.isVisible())) continue
      await tab.click()
      await look(`${id}, ${await tab.innerText()}`)
    }
  }
  expect(found).toEqual({})
  // Every figure's working too.
  await page.getByRole('tab', { name: 'Pair and spacing' }).click()
  await page.locator('[data-knot="velocity"]').getByRole('button').click()
  await look('a working')
  expect(found).toEqual({})
})
