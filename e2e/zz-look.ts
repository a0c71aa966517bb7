import { chromium } from 'playwright-core'
import { selectors } from 'playwright-core'
selectors.setTestIdAttribute('data-test')
const b = await chromium.launch({ executablePath: '/usr/bin/chromium' })
const p = await b.newPage({ viewport: { width: 1280, height: 800 } })
await p.goto('http://127.0.0.1:8533/')
await p.getByRole('button', { name: 'Ailsa Fenn' }).click()
await p.getByRole('heading', { name: 'Round' }).waitFor()
const snap = async (n: string, full = false) => { await p.waitForTimeout(900); await p.screenshot({ path: `/tmp/look-${n}.png`, fullPage: full }) }
const steps = process.argv.slice(2)
for (const s of steps) {
  if (s === 'd2') { await p.goto('http://127.0.0.1:8533/kit'); await p.getByRole('link', { name: 'Dip gauge D2' }).click(); await p.getByTestId('since').waitFor(); await snap('d2', true) }
  if (s === 'l1') { await p.goto('http://127.0.0.1:8533/kit'); await p.getByRole('link', { name: 'Loop meter L1' }).click(); await p.getByTestId('drift').waitFor(); await snap('l1') }
  if (s === 'add') { await p.goto('http://127.0.0.1:8533/kit'); await p.getByRole('link', { name: 'Pressure calibrator C1' }).click(); await p.getByRole('button', { name: 'Add a calibration' }).click(); await snap('add', true) }
  if (s === 'settings') { await p.goto('http://127.0.0.1:8533/settings'); await p.getByRole('heading', { name: 'Settings of the site' }).waitFor(); await snap('settings') }
  if (s === 'zs') { await p.goto('http://127.0.0.1:8533/loops?q=ZS-501'); await p.getByRole('link', { name: 'ZS-501' }).click(); await p.waitForTimeout(1500); await p.mouse.wheel(0, 600); await snap('zs') }
}
await b.close()
