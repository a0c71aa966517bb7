import { spawnSync } from 'node:child_process'
import { mkdirSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { afterAll, expect, it } from 'vitest'

const ROOT = join(import.meta.dirname, '..', '..')
const WRONG = join(ROOT, 'packages/core/src/arrows-probe')
const cruise = (...paths: string[]) =>
  spawnSync(
    process.execPath,
    ['node_modules/dependency-cruiser/bin/dependency-cruise.mjs', '--config', '.dependency-cruiser.cjs', ...paths],
    { cwd: ROOT, encoding: 'utf8' },
  )
afterAll(() => rmSync(WRONG, { recursive: true, force: true }))

it('the parts depend on one another one way only', () => {
  const run = cruise('packages', 'apps/server/src', 'apps/stand-in/src', 'apps/web/src')
  expect(run.stdout).toMatch(/no dependency violations found \(\d{3,} modules/)
  expect(run.status).toBe(0)
}, 120_000)

it('and an arrow the wrong way is found', () => {
  mkdirSync(WRONG)
  writeFileSync(join(WRONG, 'wrong.ts'), "import '../../../contract/src/index.ts'\nimport 'node:fs'\n")
  const run = cruise('packages/core/src/arrows-probe')
  expect(run.stdout).toMatch(/core-stands-alone/)
  expect(run.stdout).toMatch(/core-has-no-node/)
}, 120_000)
