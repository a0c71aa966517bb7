import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { expect, it } from 'vitest'
import { KINDS } from '../../packages/core/src/kinds/index.ts'

const ROOT = join(import.meta.dirname, '..', '..')
/** Where a kind lives: its own folder in the core and in the web application, and its row in the table. */
const OWN = /packages\/core\/src\/kinds\/|apps\/web\/src\/kinds\/|\.(test|fixture)\.ts$/
/** Words that are a quantity, a calculator or a sort of electrode too, and tell nothing. */
const ALSO_OTHERWISE = ['pressure', 'volume-flow', 'mass-flow', 'ph', 'orp', 'thermocouple']

const sources = [
  'packages/core/src',
  'packages/contract/src',
  'packages/drawing/src',
  'apps/server/src',
  'apps/web/src',
]
  .flatMap((folder) =>
    readdirSync(join(ROOT, folder), { recursive: true, encoding: 'utf8' }).map((f) => join(folder, f)),
  )
  .filter((f) => /\.(ts|vue)$/.test(f) && !OWN.test(f))

it('no file outside of a kind’s folder names it', () => {
  const ids = KINDS.map((k) => k.id).filter((id) => !ALSO_OTHERWISE.includes(id))
  const named = sources.flatMap((file) => {
    const text = readFileSync(join(ROOT, file), 'utf8')
    return ids.filter((id) => text.includes(`'${id}'`) || text.includes(`"${id}"`)).map((id) => `${file} names ${id}`)
  })
  expect(sources.length).toBeGreaterThan(200)
  expect(named).toEqual([])
})
it('each kind has one folder in the web application, with its drawing', () => {
  const folders = readdirSync(join(ROOT, 'apps/web/src/kinds'))
  for (const { id } of KINDS)
    expect(readdirSync(join(ROOT, 'apps/web/src/kinds', id)), id).toContain('PointDrawing.vue')
  expect(folders.filter((f) => f !== 'direct').sort()).toEqual(KINDS.map((k) => k.id).sort())
})
