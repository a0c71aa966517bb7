// Every stage of every loop of the demo plant, opened: it shows its figures, and nothing that is no word or number.
import { kindOf, RUN_SHEETS } from '@calm-loop/core/kinds'
import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { until } from './until.ts'
import { goTo, loopId, pagesFor, visit, words } from './visit.ts'

const DEMO = join(import.meta.dirname, '../../../demo/folders')
const loops = readdirSync(DEMO)
  .filter((f) => f.endsWith('.json'))
  .map(
    (f) =>
      (JSON.parse(readFileSync(join(DEMO, f), 'utf8')) as { folder: { loop: { tag: string; kind: string } } }).folder
        .loop,
  )

/** What shows when a figure or a name was not there. */
const NO_WORDS = /NaN|undefined|null|\[object|Infinity/

pagesFor('ailsa')

describe.each(loops)('$tag', ({ tag, kind }) => {
  const sheet = RUN_SHEETS[kindOf(kind).family]
  it('shows every stage in words and figures', async () => {
    const at = `/loops/${await loopId(tag)}`
    const page = await visit(at, tag)
    for (const stage of sheet) {
      await goTo(`${at}/${stage.id}`)
      await until(() => {
        expect(page.find(`[data-stage="${stage.id}"]`).attributes('aria-current'), stage.id).toBe('step')
        expect(page.findAll('.below section').at(-1)?.text(), stage.id).toMatch(/\w{3}/)
      })
      expect(words()).not.toMatch(NO_WORDS)
      for (const tab of page.findAll('[role=tab]')) {
        await tab.trigger('click')
        const name = tab.text()
        await until(() =>
          expect(page.find(`[id="${tab.attributes('id')}"]`).attributes('aria-selected'), name).toBe('true'),
        )
        expect(words(), `${stage.id}, ${name}`).not.toMatch(NO_WORDS)
      }
    }
  })
})
