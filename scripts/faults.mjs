// `npm run test:faults`: installs what is missing, then runs scripts/faults/run.ts.
import { spawnSync } from 'node:child_process'
import { ensurePackages, ROOT } from './lib/install.mjs'
import { ensureWebBuilt } from './lib/web.mjs'

ensurePackages()
ensureWebBuilt()
const run = spawnSync(process.execPath, ['--import', 'tsx', 'scripts/faults/run.ts', ...process.argv.slice(2)], {
  cwd: ROOT,
  stdio: 'inherit',
})
process.exit(run.status ?? 1)
