// `npm run bench`: how fast it is on this machine, against its targets. Never part of the tests.
import { spawnSync } from 'node:child_process'
import { ensureChromium, ensurePackages, ROOT } from './lib/install.mjs'
import { ensureWebBuilt } from './lib/web.mjs'

ensurePackages()
const chromium = ensureChromium()
ensureWebBuilt()
const run = spawnSync(process.execPath, ['--import', 'tsx', 'scripts/bench/bench.ts', ...process.argv.slice(2)], {
  cwd: ROOT,
  stdio: 'inherit',
  env: { ...process.env, CHROMIUM: chromium, NODE_ENV: 'production' },
})
process.exit(run.status ?? 1)
