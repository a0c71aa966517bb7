// Every drawing at the extremes of what is entered: no two texts over one another, none out of its picture.
import { RUN_SHEETS, KINDS, type Entries } from '@calm-loop/core/kinds'
import type { Page } from '@playwright/test'
import { v7 as uuid } from 'uuid'
import { demoEntries, firstVersion } from '../packages/core/src/kinds/demo-entries.fixture.ts'
import { settled } from './scan.ts'
import { enter, expect, signInAs, test } from './steps.ts'

/** Texts of the drawings in view that meet, or leave their picture, px. */
const collisions = (page: Page) =>
  page.evaluate(() => {
    const OVER = 2
    const found: string[] = []
    for (const svg of document.querySelectorAll('main svg[role=img], main figure svg')) {
      const frame = svg.getBoundingClientRect()
      if (frame.width < 40) continue
      const texts = [...svg.querySelectorAll('text')]
        .map((e) => ({ words: (e.textContent ?? '').trim().replace(/\s+/g, ' '), box: e.getBoundingClientRect() }))
        .filter(({ words, box }) => words && box.width > 0)
      texts.forEach((a, i) => {
        if (a.box.left < frame.left - OVER || a.box.right > frame.right + OVER)
          found.push(`“${a.words}” leaves its picture`)
        for (const b of texts.slice(i + 1)) {
          const wide = Math.min(a.box.right, b.box.right) - Math.max(a.box.left, b.box.left)
          const high = Math.min(a.box.bottom, b.box.bottom) - Math.max(a.box.top, b.box.top)
          if (wide > OVER && high > a.box.height / 3) found.push(`“${a.words}” over “${b.words}”`)
        }
      })
    }
    return found
  })

async function make(page: Page, home: string, kind: string, entries: Entries): Promise<string> {
  const session = (await (await page.request.get(`${home}/api/session`)).json()) as { csrfToken: string }
  const put = async (path: string, data: object) => {
    const answer = await page.request.put(home + path, { data, headers: { 'x-csrf-token': session.csrfToken } })
    expect(answer.ok(), await answer.text()).toBe(true)
  }
  const id = uuid()
  const tag = `XT-${kind.length}${kind.charCodeAt(0)}${kind.charCodeAt(kind.length - 1)}`
  await put(`/api/loops/${id}`, { tag, service: 'Drawn at its extremes', area: 'Test', kind })
  await put(`/api/loops/${id}/versions/${uuid()}`, firstVersion(entries))
  return id
}

for (const kind of KINDS)
  test(`${kind.name}: no two texts of a drawing meet, whatever is entered @desk`, async ({ page, home }) => {
    test.setTimeout(240_000)
    await signInAs(page, home, 'Ailsa Fenn')
    const entries = demoEntries(kind.id)
    const id = await make(page, home, kind.id, entries)
    const found: string[] = []
    for (const { id: stage } of RUN_SHEETS[kind.family].filter((s) => /point|range/.test(s.id))) {
      await page.goto(`${home}/loops/${id}/${stage}`)
      await expect(page.locator(`[data-stage="${stage}"][aria-current=step]`)).toBeVisible()
      await page.waitForTimeout(600)
      const look = async (when: string) => {
        await settled(page)
        found.push(...(await collisions(page)).map((c) => `${stage}, ${when}: ${c}`))
      }
      await look('as it is')
      const keys = await page
        .locator('[data-entry]')
        .evaluateAll((all) => all.map((e) => (e as HTMLElement).dataset['entry'] ?? ''))
      for (const key of keys.filter((k) => entries[k]?.value !== undefined)) {
        const { value = 0, unit = '' } = entries[key]!
        const field = page.locator(`[data-entry="${key}"] input`).first()
        for (const times of [0.1, 10]) {
          await field.fill(`${value * times} ${unit}`)
          await look(`${key} ${value * times} ${unit}`)
        }
        await field.fill(entries[key]!.typed)
      }
      for (const field of kind.fields) {
        if (field.type !== 'choice' || !keys.includes(field.key)) continue
        const stood = field.options.find((o) => o.value === (entries[field.key]?.typed ?? field.default))
        // Back to what stood there, last of all.
        for (const option of [...field.options.filter((o) => o !== stood), ...(stood ? [stood] : [])]) {
          await enter(page, { [field.key]: option.label })
          await look(`${field.key} ${option.label}`)
        }
      }
    }
    expect([...new Set(found)]).toEqual([])
  })
