import { chromium, selectors } from '@playwright/test'
import { dataFolder, run } from './run-server.ts'
import { openLoop, signInAs, stage } from './steps.ts'
selectors.setTestIdAttribute('data-test')
const server = await run(dataFolder())
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium' })
try {
  const desk = await browser.newPage({ viewport: { width: 1280, height: 1500 } })
  await signInAs(desk, server.base, 'Ailsa Fenn')
  await openLoop(desk, 'FT-310')
  await stage(desk, 'hand-over')
  await desk.waitForTimeout(900)
  await desk.screenshot({ path: '/tmp/pic/hand-desk.png' })
  const href = await desk.locator('[data-test="verification-paper"]').first().getAttribute('href')
  const pdf = await desk.request.get(server.base + href!)
  ;(await import('node:fs')).writeFileSync('/tmp/pic/v.pdf', await pdf.body())
  await desk.setViewportSize({ width: 400, height: 1800 })
  await desk.waitForTimeout(700)
  await desk.screenshot({ path: '/tmp/pic/hand-phone.png' })
} finally {
  await browser.close()
  await server.stop()
}
