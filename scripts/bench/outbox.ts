// A shift's worth of entries that waited on a device, sent by a real page once the server is reached again.
import type { Page } from '@playwright/test'
import { v7 as uuid } from 'uuid'
import { gateWording } from '@calm-loop/core/check'
import { demoEntries, firstVersion } from '../../packages/core/src/kinds/demo-entries.fixture.ts'
import { row, type Row } from './measure.ts'
import { callAs, SMOKE } from './pages.ts'

const LOOPS = SMOKE ? 2 : 20
const EACH = SMOKE ? 10 : 250

async function begun(page: Page, index: number): Promise<{ loopId: string; checkId: string; tag: string }> {
  const tag = `LT-${8000 + index}`
  const [loopId, checkId] = [uuid(), uuid()]
  const at = `/api/loops/${loopId}`
  const must = async (path: string, body: object) => {
    const status = await callAs(page, 'PUT', path, body)
    if (status !== 200) throw new Error(`${status} for ${path}`)
  }
  await must(at, { tag, service: 'Outbox tank', area: 'Outbox', kind: 'level-from-above' })
  await must(
    `${at}/versions/${uuid()}`,
    firstVersion(demoEntries('level-from-above'), { reason: 'Entered', seal: true }),
  )
  await must(`${at}/checks/${checkId}`, {
    ...{ phase: 'as-found', percents: [0, 50, 100], gearIds: [], ambient: '', told: 'Bree', gateId: uuid() },
    words: gateWording('loop-in-manual', 'current'),
  })
  return { loopId, checkId, tag }
}

/** Readings, each the correction of the one before, and entries on the wiring by turns. */
function writesOf({ loopId, checkId, tag }: { loopId: string; checkId: string; tag: string }): object[] {
  let last: string | null = null
  return Array.from({ length: EACH }, (_, i) => {
    const id = uuid()
    if (i % 2)
      return {
        ...{ id, tag, endpoint: 'addWireEntry', params: { loopId, entryId: id } },
        body: { what: 'afresh', reason: `Number ${i}` },
      }
    const current = (4 + (i % 100) / 100).toFixed(2)
    const body = {
      pointIndex: 0,
      applied: { typed: '3 mm', value: 3, unit: 'mm' },
      reads: { current: { typed: `${current} mA`, value: Number(current), unit: 'mA' } },
      ...{ source: 'typed', supersedes: last, reason: last ? 'Again' : '', takenAt: new Date().toISOString() },
    }
    last = id
    return { id, tag, endpoint: 'takeReading', params: { loopId, checkId, readingId: id }, body }
  })
}

/** From the return of the server until nothing waits; how often the page told how far it is is told beside it. */
export async function outbox(page: Page, base: string): Promise<Row[]> {
  await page.goto(`${base}/loops`)
  await page.getByRole('heading', { name: 'Loops' }).waitFor()
  const loops = []
  for (let i = 0; i < LOOPS; i++) loops.push(await begun(page, i))
  // One entry of each loop after the other, as one goes from loop to loop.
  const perLoop = loops.map(writesOf)
  const writes = Array.from({ length: EACH }, (_, i) => perLoop.map((of) => of[i]!)).flat()
  await page.context().setOffline(true)
  const kept_ms = await page.evaluate(async (queued) => {
    interface Outbox {
      put(w: unknown): void
      settled(): Promise<unknown>
      waiting: readonly unknown[]
    }
    const root = document.querySelector('#app') as unknown as {
      __vue_app__: { config: { globalProperties: { $pinia: { _s: Map<string, Outbox> } } } }
    }
    const store = root.__vue_app__.config.globalProperties.$pinia._s.get('outbox')!
    const from = performance.now()
    for (const w of queued) store.put(w)
    await store.settled()
    return performance.now() - from
  }, writes)
  const said = page.locator('[data-test="coverage"]')
  await said.filter({ hasText: `${writes.length} entries wait here` }).waitFor({ timeout: 120_000 })
  const told = new Set<string>()
  const since = performance.now()
  await page.context().setOffline(false)
  for (;;) {
    const words = await said.innerText()
    told.add(words)
    if (/^(all )?saved/.test(words)) break
    if (performance.now() - since > 300_000) throw new Error(`after five minutes it still says: ${words}`)
    await page.waitForTimeout(250)
  }
  const sent_ms = performance.now() - since
  console.log(`progress told in ${told.size} steps, such as: ${[...told].slice(1, 4).join('; ')}`)
  return [
    row({ what: `${writes.length} entries kept on the device`, unit: 'ms', times_ms: [kept_ms] }),
    row({
      ...{ what: `${writes.length} entries sent on return`, unit: 'ms', times_ms: [sent_ms] },
      ...{ target: 60_000, judged: 'most' },
    }),
  ]
}
