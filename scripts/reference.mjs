// `npm run --silent reference -- FILE...`: runs reference cases through the computing core.
import { spawnSync } from 'node:child_process'
import { resolve } from 'node:path'
import { ensurePackages, ROOT } from './lib/install.mjs'

ensurePackages({ quiet: true })
const files = process.argv.slice(2).map((f) => resolve(process.env.INIT_CWD ?? process.cwd(), f))
const run = spawnSync(process.execPath, ['--import', 'tsx', 'scripts/reference-runner.ts', ...files], {
  cwd: ROOT,
  stdio: 'inherit',
})
process.exit(run.status ?? 1)
