// `npm run golden -- NAME`: records what this release writes into packages/core/golden/NAME, for every later one to
// read.
import { spawnSync } from 'node:child_process'
import { ensurePackages, ROOT } from './lib/install.mjs'

ensurePackages({ quiet: true })
const run = spawnSync(
  process.execPath,
  ['node_modules/vitest/vitest.mjs', 'run', '--config', 'apps/server/golden/vitest.config.ts', '--root', '.'],
  { cwd: ROOT, stdio: 'inherit', env: { ...process.env, GOLDEN: process.argv[2] ?? '' } },
)
process.exit(run.status ?? 1)
