// Builds the web application when its sources have changed since it was last built.
import { spawnSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { existsSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { ROOT } from './install.mjs'
import { giveUp, say } from './say.mjs'

const SOURCES = ['apps/web', 'packages', 'package-lock.json']
const SKIPPED = new Set(['node_modules', 'dist'])

function fingerprint() {
  const hash = createHash('sha256')
  const walk = (path) => {
    const stat = statSync(path)
    if (!stat.isDirectory()) return void hash.update(`${path} `).update(readFileSync(path))
    for (const name of readdirSync(path).sort()) if (!SKIPPED.has(name)) walk(join(path, name))
  }
  for (const source of SOURCES) walk(join(ROOT, source))
  return hash.digest('hex')
}

/** Folder of the built application. */
export function ensureWebBuilt() {
  const dist = join(ROOT, 'apps/web/dist')
  const stamp = join(dist, 'built-from.txt')
  const now = fingerprint()
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === now) return dist
  say('Building the web application')
  const run = spawnSync(
    process.execPath,
    [join(ROOT, 'node_modules/vite/bin/vite.js'), 'build', '--logLevel', 'warn'],
    { cwd: join(ROOT, 'apps/web'), stdio: ['ignore', 'ignore', 'inherit'] },
  )
  if (run.status !== 0) giveUp('The web application could not be built; the message stands above.')
  writeFileSync(stamp, now)
  return dist
}
