// Runs a TypeScript script with what it needs installed, and ends as it ends.
import { spawnSync } from 'node:child_process'
import { ensureChromium, ensurePackages, ROOT } from './install.mjs'
import { ensureWebBuilt } from './web.mjs'

/**
 * @param file below scripts/
 * @param options `web`: the application must be built; `browser`: Chromium must be there; `quiet`: nothing but the
 * script's own words
 */
export function runTs(file, args, { web = false, browser = false, quiet = false, env = {} } = {}) {
  ensurePackages({ quiet })
  const chromium = browser ? { CHROMIUM: ensureChromium() } : {}
  if (web) ensureWebBuilt()
  const run = spawnSync(process.execPath, ['--import', 'tsx', `scripts/${file}`, ...args], {
    cwd: ROOT,
    stdio: 'inherit',
    env: { ...process.env, ...chromium, ...env },
  })
  process.exit(run.status ?? 1)
}
