// `npm test`: everything that must hold, on a fresh machine too. Installs what is missing, says what it does, ends
// with one line of counts.
import { spawn, spawnSync } from 'node:child_process'
import { readFileSync, rmSync } from 'node:fs'
import { availableParallelism } from 'node:os'
import { join } from 'node:path'
import { ensureChromium, ensurePackages, ROOT } from './lib/install.mjs'
import { say } from './lib/say.mjs'
import { ensureWebBuilt } from './lib/web.mjs'

const results = join(ROOT, '.tmp')
const counts = { passed: 0, failed: 0 }

function step(name, command, args, options = {}) {
  say(name)
  const begun = Date.now()
  const run = spawnSync(process.execPath, [join(ROOT, 'node_modules', command), ...args], {
    cwd: ROOT,
    stdio: 'inherit',
    ...options,
  })
  say(`${name}: ${run.status === 0 ? 'good' : 'FAILED'} after ${Math.round((Date.now() - begun) / 1000)} s`)
  return run.status === 0
}
/** A step without counts of its own counts as one. */
function check(...args) {
  counts[step(...args) ? 'passed' : 'failed']++
}
function read(file) {
  try {
    return JSON.parse(readFileSync(join(results, file), 'utf8'))
  } catch {
    return undefined
  }
}

ensurePackages()
const chromium = ensureChromium()
rmSync(results, { recursive: true, force: true })

/** Checks that need no quiet machine, as many side by side as there are cores; each says what it found when done. */
async function sideBySide(checks) {
  const waiting = [...checks]
  const next = async () => {
    for (let todo = waiting.shift(); todo; todo = waiting.shift()) {
      const [name, command, args, env = process.env] = todo
      const begun = Date.now()
      let said = ''
      const run = spawn(process.execPath, [join(ROOT, 'node_modules', command), ...args], { cwd: ROOT, env })
      for (const out of [run.stdout, run.stderr]) out.on('data', (text) => (said += text))
      const good = await new Promise((resolve) => run.once('exit', (code) => resolve(code === 0)))
      counts[good ? 'passed' : 'failed']++
      if (said.trim()) console.log(said.trimEnd())
      say(`${name}: ${good ? 'good' : 'FAILED'} after ${Math.round((Date.now() - begun) / 1000)} s`)
    }
  }
  await Promise.all(Array.from({ length: availableParallelism() }, next))
}
const typesOf = (name, command, project) => [`Types of ${name}`, command, ['-p', project]]
const withBrowser = { ...process.env, CHROMIUM: chromium }
ensureWebBuilt()
await sideBySide([
  ['Lint', 'eslint/bin/eslint.js', ['.']],
  ['Faults, twenty kills', 'tsx/dist/cli.mjs', ['scripts/faults/run.ts', '20']],
  ['Measurements can be made', 'tsx/dist/cli.mjs', ['scripts/bench/bench.ts', 'smoke'], withBrowser],
  typesOf('the page', 'vue-tsc/bin/vue-tsc.js', 'apps/web'),
  typesOf('core, contract and server', 'typescript/bin/tsc', 'tsconfig.node.json'),
  typesOf('the journeys', 'typescript/bin/tsc', 'e2e'),
  ['Format', 'prettier/bin/prettier.cjs', ['--check', '--log-level', 'warn', '.']],
])

const units = step('Unit, property, reference, server and page tests', 'vitest/vitest.mjs', [
  'run',
  '--coverage',
  '--reporter=dot',
  '--reporter=json',
  '--outputFile.json=.tmp/unit.json',
])
const unit = read('unit.json')
counts.passed += unit?.numPassedTests ?? 0
counts.failed += unit?.numFailedTests ?? 0
if (!units && !unit?.numFailedTests) counts.failed++
check('Reached by tests', '../scripts/coverage.mjs', [])
check('Share of tests', '../scripts/shares.mjs', [])
check('First screen is light', '../scripts/first-screen.mjs', [])
const journeys = step('Journeys in the browser', '@playwright/test/cli.js', ['test'], {
  cwd: join(ROOT, 'e2e'),
  env: withBrowser,
})
const e2e = read('e2e.json')?.stats
counts.passed += (e2e?.expected ?? 0) + (e2e?.flaky ?? 0)
counts.failed += e2e?.unexpected ?? 0
if (!journeys && !e2e?.unexpected) counts.failed++

console.log(`\n${counts.passed} passed, ${counts.failed} failed`)
process.exit(counts.failed ? 1 : 0)
