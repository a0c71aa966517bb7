import { chromium, selectors } from '@playwright/test'
import { dataFolder, run, throwAway } from './run-server.ts'
import { openLoop, signInAs, stage } from './steps.ts'
import { writeFileSync } from 'node:fs'
selectors.setTestIdAttribute('data-test')
const server = await run(dataFolder())
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium' })
try {
  const p = await browser.newPage({ viewport: { width: 1280, height: 1500 } })
  p.on('console', (m) => m.type() === 'error' && console.log(m.text()))
  await signInAs(p, server.base, 'Rona Teague')
  for (const tag of ['LT-208', 'LY-133', 'AT-221']) {
    await p.goto(server.base)
    await openLoop(p, tag)
    await stage(p, 'hand-over')
    await p.waitForTimeout(1500)
    await p.screenshot({ path: `/tmp/pic/${tag}.png`, fullPage: true })
  }
  const id = async (tag: string) => {
    await p.goto(server.base)
    await openLoop(p, tag)
    return p.url().split('/loops/')[1]!.split('/')[0]
  }
  for (const tag of ['LT-208', 'FT-410']) {
    const t0 = Date.now()
    const pdf = await p.request.get(`${server.base}/api/loops/${await id(tag)}/visit.pdf`)
    console.log(tag, pdf.status(), Date.now() - t0)
    writeFileSync(`/tmp/pic/${tag}.pdf`, await pdf.body())
  }
  await p.goto(`${server.base}/kit`)
  await p.waitForTimeout(800)
  await p.screenshot({ path: `/tmp/pic/kit.png`, fullPage: true })
} finally {
  await browser.close()
  await server.stop()
  throwAway(server.folder)
}
