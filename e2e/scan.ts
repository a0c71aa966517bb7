// Looks at a view as somebody with a screen reader, or with poor sight, meets it.
import type { AxeResults, RunOptions } from 'axe-core'
import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { expect, type Page } from '@playwright/test'

const AXE = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8')
/** The rules that a theme can break. */
const OF_COLOUR = ['color-contrast', 'link-in-text-block']

const nextTheme = (page: Page) =>
  page.evaluate(() => {
    const key = 'calm-loop.theme'
    const next = (localStorage.getItem(key) ?? 'light') === 'light' ? 'dark' : 'light'
    localStorage.setItem(key, next)
    window.dispatchEvent(new StorageEvent('storage', { key, newValue: next, storageArea: localStorage }))
    return next
  })

/**
 * Waits until no colour is on its way to another: a surface that fades has a contrast of no theme. It looks itself,
 * frame by frame: the promise of an animation’s end is not kept while the browser has nothing to draw.
 */
export const settled = (page: Page) =>
  page.evaluate(async () => {
    const frame = () => new Promise(requestAnimationFrame)
    const running = (each: Animation) =>
      each.playState === 'running' && Number.isFinite(each.effect?.getComputedTiming().endTime)
    // What has just been opened begins to fade in a frame or two from now.
    for (let i = 0; i < 3; i++) await frame()
    while (document.getAnimations().some(running)) await frame()
    // What is being asked for is there before the view is looked at; not for ever.
    const until = performance.now() + 20_000
    while (document.querySelector('.v-btn--loading') && performance.now() < until) await frame()
  })

/** What is serious of what axe finds; only that is worked out in full. */
async function serious(page: Page, options: RunOptions): Promise<string[]> {
  if (!(await page.evaluate(() => 'axe' in window))) await page.evaluate(AXE)
  const { violations, passes } = await page.evaluate(async (given) => {
    const { axe } = window as unknown as { axe: { run(what: Document, how: RunOptions): Promise<AxeResults> } }
    return axe.run(document, { ...given, resultTypes: ['violations'], preload: false })
  }, options)
  // A scan that looked at nothing would find nothing.
  expect(passes.length, 'rules that axe has looked at').toBeGreaterThan(0)
  return violations
    .filter(({ impact }) => impact === 'serious' || impact === 'critical')
    .map(
      ({ id, nodes }) =>
        `${id} ${nodes
          .map((n) => `${n.target.join(' ')} ${n.any[0]?.message ?? ''}`)
          .slice(0, 3)
          .join(' | ')}`,
    )
}

/**
 * Scans a view by every rule, and by those of colour in the other theme too; collects what is serious. Colours do not
 * hang on the width of the window: on a tablet one theme is enough.
 */
export function scanner(page: Page, themes = ['control room', 'daylight']) {
  const found: string[] = []
  const look = async (view: string, options: RunOptions = {}) =>
    found.push(...(await serious(page, options)).map((says) => `${view}: ${says}`))
  const scan = async (view: string) => {
    await settled(page)
    await look(`${view}, daylight`)
    for (const theme of themes) {
      const name = await nextTheme(page)
      await expect(page.locator(`.v-application.v-theme--${name}`)).toBeVisible()
      await settled(page)
      if (theme === 'control room') await look(`${view}, ${theme}`, { runOnly: { type: 'rule', values: OF_COLOUR } })
    }
  }
  return { found, scan }
}

/** How far the page is wider than its window, and what is too small to be touched with gloves. */
export const measured = (page: Page) =>
  page.evaluate(() => ({
    wide: document.documentElement.scrollWidth - document.documentElement.clientWidth,
    small: [
      ...document.querySelectorAll(
        'button, .v-btn, [data-stage], a.stop, input:not([type=checkbox]):not([type=radio]):not([type=file])',
      ),
    ]
      .filter((e) => (e as HTMLElement).offsetParent !== null)
      .map((e) => ({
        what: (e.textContent?.trim() || e.getAttribute('aria-label') || e.className).slice(0, 30),
        box: (e.closest('.v-field') ?? e).getBoundingClientRect(),
      }))
      .filter(({ box }) => box.height > 0 && box.height < 43.5)
      .map(({ what, box }) => `${what} ${Math.round(box.height)}`),
  }))
