// Labels: printed from the register, found in a photograph of the printed sheet, opened at what is next; a torn one and
// one of another installation say so. The camera itself is a film of a label that the browser plays.
import { labelText } from '@calm-loop/contract/label'
import { chromium, type Page } from '@playwright/test'
import { writeFileSync } from 'node:fs'
import { drawn } from '../apps/server/test/paper.ts'
import { measured, scanner, settled } from './scan.ts'
import { expect, openLoop, signInAs, stage, test, toLoops } from './steps.ts'

/** The label of a loop, printed by the server, as a picture. */
async function labelOf(page: Page, home: string, tag: string) {
  const { loops } = (await (await page.request.get(`${home}/api/loops?q=${tag}`)).json()) as { loops: { id: string }[] }
  const printed = await page.request.get(`${home}/api/labels.pdf?loopId=${loops[0]!.id}&sheet=single`)
  const [sheet] = await drawn(await printed.body())
  return { id: loops[0]!.id, canvas: sheet!.canvas }
}

/** A film of one picture on a grey ground, 640 × 480 (YUV4MPEG2, 4:2:0). */
function filmOf(canvas: Awaited<ReturnType<typeof drawn>>[number]['canvas']): Buffer {
  const [width, height] = [640, 480]
  const { data } = canvas.getContext('2d').getImageData(0, 0, canvas.width, canvas.height)
  const scale = Math.max(canvas.width / width, canvas.height / height) * 1.05
  const left = (width - canvas.width / scale) / 2
  const top = (height - canvas.height / scale) / 2
  const light = Buffer.alloc(width * height, 128)
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const [px, py] = [Math.round((x - left) * scale), Math.round((y - top) * scale)]
      if (px >= 0 && py >= 0 && px < canvas.width && py < canvas.height)
        light[y * width + x] = data[(py * canvas.width + px) * 4] ?? 128
    }
  const frame = Buffer.concat([Buffer.from('FRAME\n'), light, Buffer.alloc((width * height) / 2, 128)])
  return Buffer.concat([Buffer.from(`YUV4MPEG2 W${width} H${height} F10:1 Ip A1:1 C420jpeg\n`), frame, frame])
}

for (const device of ['both', 'phone'] as const)
  test(`a label is printed, found in a photograph, and opens what is next @${device}`, async ({ page, home }, info) => {
    const { found, scan } = scanner(page, info.project.name === 'desk' ? undefined : [])
    const looked = async (name: string) => {
      await settled(page)
      const { wide, small } = await measured(page)
      expect(wide, name).toBeLessThanOrEqual(0)
      expect(small, name).toEqual([])
      await scan(name)
    }
    await signInAs(page, home, 'Ailsa Fenn')
    await toLoops(page)
    await page.getByRole('button', { name: 'Labels' }).click()
    await expect(page.getByRole('link', { name: 'Open the PDF' })).toHaveAttribute('href', /labels\.pdf\?.*sheet=24/)
    await looked('labels of the register')
    await page.getByRole('button', { name: 'Close' }).click()

    const { id, canvas } = await labelOf(page, home, 'LT-112')
    await page.getByRole('link', { name: 'Scan a label' }).click()
    await expect(page.getByTestId('no-camera')).toBeVisible()
    await looked('scan')
    const photograph = page.locator('input[type=file]')
    await photograph.setInputFiles({ name: 'note.png', mimeType: 'image/png', buffer: Buffer.from('no picture') })
    await expect(page.getByRole('alert')).toHaveText('This file is no picture that this browser reads.')
    // Torn: the right half of the code is gone.
    const whole = canvas.toBuffer('image/png')
    const at = canvas.getContext('2d')
    at.fillStyle = '#ffffff'
    at.fillRect(canvas.width * 0.24, 0, canvas.width * 0.2, canvas.height)
    await photograph.setInputFiles({ name: 'torn.png', mimeType: 'image/png', buffer: canvas.toBuffer('image/png') })
    await expect(page.getByRole('alert')).toContainText('No code was found in this picture')
    await photograph.setInputFiles({ name: 'label.png', mimeType: 'image/png', buffer: whole })
    // Everything before it is done: the trim is next.
    await expect(page).toHaveURL(new RegExp(`/loops/${id}/trim$`))
    await expect(page.locator('[data-stage="trim"]')).toHaveAttribute('aria-current', 'step')
    expect(found).toEqual([])
  })

test('a label of one loop is printed from its folder, and one of elsewhere opens nothing @both', async ({
  page,
  home,
}) => {
  await signInAs(page, home, 'Ailsa Fenn')
  await openLoop(page, 'LT-112')
  await stage(page, 'identify')
  await page.getByRole('button', { name: 'Label to scan' }).click()
  await expect(page.getByRole('link', { name: 'Open the PDF' })).toHaveAttribute('href', /loopId=.*sheet=single/)
  await page.getByRole('button', { name: 'Close' }).click()
  await page.keyboard.press('q')
  await expect(page.getByRole('heading', { name: 'Scan a label' })).toBeVisible()
  const { jobs } = await import('../apps/server/src/workers/jobs.ts')
  const installation = '00000000-0000-4000-8000-000000000001'
  const one = { id: '018f2c50-0000-7000-8000-0000000000aa', tag: 'LT-112', service: 'Elsewhere', area: 'Elsewhere' }
  expect(labelText(installation, one.id)).toMatch(/^CALM-LOOP:1:000000000000:/)
  const pdf = await jobs.labelsPdf({ installation, site: '', loops: [one], sheet: 'single', from: 1 })
  const [sheet] = await drawn(pdf)
  const buffer = sheet!.canvas.toBuffer('image/png')
  await page.locator('input[type=file]').setInputFiles({ name: 'other.png', mimeType: 'image/png', buffer })
  await expect(page.getByRole('alert')).toContainText('This label is of another installation')
})

test('the camera sees a label, and its folder opens', async ({ page, home }, info) => {
  await signInAs(page, home, 'Ailsa Fenn')
  const { id, canvas } = await labelOf(page, home, 'TT-405')
  const film = info.outputPath('label.y4m')
  writeFileSync(film, filmOf(canvas))
  const browser = await chromium.launch({
    executablePath: process.env['CHROMIUM'] ?? '/usr/bin/chromium',
    args: [
      '--use-fake-ui-for-media-stream',
      '--use-fake-device-for-media-stream',
      `--use-file-for-fake-video-capture=${film}`,
    ],
  })
  try {
    const there = await browser.newPage()
    await signInAs(there, home, 'Ailsa Fenn')
    await there.goto(`${home}/scan`)
    await expect(there).toHaveURL(new RegExp(`/loops/${id}/[a-z-]+$`))
    await expect(there.getByRole('heading', { name: /TT-405/ })).toBeVisible()
    // The camera is let go.
    expect(await there.locator('video').count()).toBe(0)
  } finally {
    await browser.close()
  }
})
