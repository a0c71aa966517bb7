// What a person waits for on a page, timed in the browser.
import type { Page } from '@playwright/test'
import { readFileSync } from 'node:fs'
import { v7 as uuid } from 'uuid'
import { demoEntries, firstVersion } from '../../packages/core/src/kinds/demo-entries.fixture.ts'
import { row, type Row } from './measure.ts'

/** A short form that only shows that each measurement can be made. */
export const SMOKE = process.argv.includes('smoke')
const KEYS = SMOKE ? 24 : 110
const DROPS = SMOKE ? 9 : 46

/** Frames of the guided page while its trend is drawn twenty times a second. */
export async function trend(page: Page, base: string): Promise<Row> {
  await page.goto(`${base}/loops?`)
  await page.getByRole('link', { name: 'PDT-118' }).click()
  await page.waitForURL(/loops\/[0-9a-f-]{36}/)
  const loopId = page.url().split('/')[4]!.split('?')[0]!
  const runId = uuid()
  const act = (body: object) => callAs(page, 'PUT', `/api/loops/${loopId}/procedures/${runId}/events/${uuid()}`, body)
  const steps = [
    { do: 'begin', procedure: 'zero-trim', choices: {} },
    { do: 'pass', step: 'told', words: 'bench' },
    { do: 'pass', step: 'manual' },
    { do: 'pass', step: 'trips', words: 'none fed' },
    { do: 'pass', step: 'as-found' },
    { do: 'pass', step: 'warning' },
    { do: 'valve', step: 'out-1-low', move: { valve: 'low', to: 'shut' } },
    { do: 'valve', step: 'out-2-equalize', move: { valve: 'equalize', to: 'open' } },
    { do: 'valve', step: 'out-3-high', move: { valve: 'high', to: 'shut' } },
    { do: 'pass', step: 'off-process' },
  ]
  for (const body of steps) if ((await act(body)) !== 200) throw new Error(`refused: ${JSON.stringify(body)}`)
  await page.goto(`${base}/loops/${loopId}/trim?do=guided`)
  await page.locator('.trend').waitFor()
  await page.waitForTimeout(3000)
  await page.evaluate(readFileSync(new URL('./watch-frames.js', import.meta.url), 'utf8'))
  const watched = () => page.evaluate(() => (window as unknown as { frames_ms: number[] }).frames_ms)
  while ((await watched()).length < 905) await page.waitForTimeout(500)
  return row({
    what: 'frame with a live trend at 20 Hz (900 frames)',
    unit: 'ms',
    times_ms: (await watched()).slice(5),
    target: 32,
    judged: 'p95',
  })
}

/** From letting go of a conductor's end on a terminal until the frame with the new figures has been painted. */
export async function dragging(page: Page, base: string): Promise<Row> {
  await page.goto(`${base}/loops?`)
  await page.getByRole('link', { name: 'LT-112' }).click()
  await page.locator('[data-stage="wire"]').click()
  await page.locator('.canvas[data-ready=yes]').waitFor()
  await page.waitForTimeout(800)
  const pin = async (ref: string) => {
    const box = (await page.locator(`.vue-flow__handle[data-handleid="${ref}|right"]`).boundingBox())!
    return { x: box.x + box.width / 2, y: box.y + box.height / 2 }
  }
  await page.evaluate(readFileSync(new URL('./watch-dropping.js', import.meta.url), 'utf8'))
  for (let i = 0; i < DROPS; i++) {
    const [a, b] = [await pin('RX:IN'), await pin('RX:0V')]
    await page.mouse.move(a.x, a.y)
    await page.mouse.down()
    await page.mouse.move(b.x, b.y, { steps: 4 })
    await page.waitForTimeout(60)
    await page.mouse.up()
    await page.waitForTimeout(250)
    await page.getByRole('button', { name: 'Undo' }).click()
    await page.waitForTimeout(350)
  }
  const times = (await page.evaluate(() => (window as unknown as { dropped: number[] }).dropped)).slice(6)
  // A drop that did not land is no measurement, and no reason to give up the others.
  if (!times.length) throw new Error('no drop changed a figure')
  return row({
    what: `drag to updated figures (${times.length} drops)`,
    unit: 'ms',
    times_ms: times,
    target: 32,
    judged: 'p95',
  })
}

/** From a key going down in a quantity field until the frame that shows the thread changed has been painted. */
export async function typing(page: Page, base: string): Promise<Row> {
  await page.goto(`${base}/loops?`)
  await page.getByRole('link', { name: 'LT-112' }).click()
  await page.locator('[data-knot="level"] input').fill('1500')
  const field = page.locator('[data-entry="emptyDistance"] input')
  await field.click()
  await page.evaluate(readFileSync(new URL('./watch-typing.js', import.meta.url), 'utf8'))
  await field.fill('')
  for (let i = 0; i < KEYS; i++) {
    await page.waitForTimeout(90)
    await page.keyboard.press(i % 3 === 2 ? 'Backspace' : String(1 + (i % 8)))
    if (i % 12 === 11) await field.fill('36')
  }
  await page.waitForTimeout(300)
  // The first keys warm the page up, as the first runs do above.
  const times = (await page.evaluate(() => (window as unknown as { times: number[] }).times)).slice(10)
  if (times.length < (KEYS - 10) * 0.7) throw new Error(`only ${times.length} keys changed the thread`)
  return row({
    what: `typing to repainted thread (${times.length} keys)`,
    unit: 'ms',
    times_ms: times,
    target: 24,
    judged: 'p95',
  })
}

/** From a key going down in the wall of a clamp-on pipe until the frame with the redrawn section has been painted. */
export async function section(page: Page, base: string): Promise<Row> {
  await page.goto(`${base}/loops?`)
  await page.getByRole('link', { name: 'FT-101' }).click()
  const field = page.locator('[data-entry="wall"] input')
  await field.click()
  await page.evaluate(() => ((window as unknown as { watched: string }).watched = '[data-test="spacing"]'))
  await page.evaluate(readFileSync(new URL('./watch-typing.js', import.meta.url), 'utf8'))
  // Every key changes the wall: a digit after the point comes, and goes.
  await field.fill('7.')
  for (let i = 0; i < 120; i++) {
    await page.waitForTimeout(90)
    await page.keyboard.press(i % 2 ? 'Backspace' : String(1 + (i % 8)))
  }
  await page.waitForTimeout(300)
  const times = (await page.evaluate(() => (window as unknown as { times: number[] }).times)).slice(8)
  if (times.length < 40) throw new Error(`only ${times.length} keys changed the section`)
  return row({
    what: `typing to redrawn section (${times.length} keys)`,
    unit: 'ms',
    times_ms: times,
    target: 24,
    judged: 'p95',
  })
}

const discrete = (changed: Record<string, string> = {}) => demoEntries('discrete-sensor', changed)

/** Calls the interface as the signed-in page does. */
export function callAs(page: Page, method: string, path: string, body: unknown): Promise<number> {
  return page.evaluate(
    async ([m, p, b]) => {
      const session = (await (await fetch('/api/session')).json()) as { csrfToken: string }
      const headers = { 'content-type': 'application/json', 'x-csrf-token': session.csrfToken }
      return (await fetch(p as string, { method: m as string, headers, body: JSON.stringify(b) })).status
    },
    [method, path, body] as const,
  )
}
async function addPoint(page: Page, tag: string, changed: Record<string, string> = {}): Promise<string> {
  const [loopId, versionId] = [uuid(), uuid()]
  const version = firstVersion(discrete(changed))
  const answers = [
    await callAs(page, 'PUT', `/api/loops/${loopId}`, {
      tag,
      service: 'Bench',
      area: 'Bench',
      kind: 'discrete-sensor',
    }),
    await callAs(page, 'PUT', `/api/loops/${loopId}/versions/${versionId}`, version),
  ]
  if (answers.some((status) => status !== 200)) throw new Error(`${tag}: ${answers.join()}`)
  return loopId
}

/** A month of 500 000 changes counted by the worker, and fifty points told twenty times a second. */
export async function switches(page: Page, base: string): Promise<Row[]> {
  const counted = await addPoint(page, 'ZS-9000', {
    shifts: 'Early 06:00–14:00, Late 14:00–22:00, Night 22:00–06:00',
    days: 'every day',
  })
  const gaps = Array.from({ length: 500_000 }, (_, i) => 4000 + ((i * 7919) % 2400)).join(' ')
  const train = { startMs: Date.UTC(2026, 9, 1), startState: false, gaps, origin: 'file', note: 'bench' }
  const put = await callAs(page, 'PUT', `/api/loops/${counted}/edges/${uuid()}`, train)
  if (put !== 200) throw new Error(`edges: ${put}`)
  await page.goto(`${base}/loops/${counted}/count?do=cycles`)
  await page.locator('[data-factor="OEE"]').waitFor()
  const times = await page.evaluate(async () => {
    const app = document.querySelector('#app') as unknown as {
      __vue_app__: { config: { globalProperties: { $pinia: { _s: Map<string, { recount(): Promise<void> }> } } } }
    }
    const store = app.__vue_app__.config.globalProperties.$pinia._s.get('count')!
    const found: number[] = []
    for (let i = 0; i < 18; i++) {
      const begun = performance.now()
      await store.recount()
      found.push(performance.now() - begun)
    }
    return found.slice(3)
  })
  const ids = []
  for (let i = 0; i < 45; i++) ids.push(await addPoint(page, `ZS-${9001 + i}`, { idealCycle: `${2 + (i % 5)} s` }))
  for (const id of ids) await callAs(page, 'POST', `/api/loops/${id}/link/process`, { running: true })
  await page.goto(`${base}/watch`)
  await page.locator('.lamp[data-on="1"]').first().waitFor()
  await page.waitForTimeout(3000)
  const points = await page.locator('[data-point]').count()
  await page.evaluate(readFileSync(new URL('./watch-frames.js', import.meta.url), 'utf8'))
  const watched = () => page.evaluate(() => (window as unknown as { frames_ms: number[] }).frames_ms)
  while ((await watched()).length < 905) await page.waitForTimeout(500)
  const frames = (await watched()).slice(5)
  return [
    row({
      what: '500 000 changes to metrics, in the worker and back',
      unit: 'ms',
      times_ms: times,
      target: 300,
      judged: 'p95',
    }),
    row({
      what: `frame with ${points} points told at 20 Hz (900 frames)`,
      unit: 'ms',
      times_ms: frames,
      target: 32,
      judged: 'most',
    }),
  ]
}
