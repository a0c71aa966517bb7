// `npm test`: everything that must hold, on a fresh machine too. Installs what is missing, says what it does, ends
// with the names of what failed and one line of counts.
import { spawn, spawnSync } from 'node:child_process'
import { readFileSync, rmSync } from 'node:fs'
import { constants, setPriority } from 'node:os'
import { join } from 'node:path'
import { ensureChromium, ensurePackages, ensureSocat, ROOT } from './lib/install.mjs'
import { say } from './lib/say.mjs'
import { failedJourneys, failedUnits } from './lib/failures.mjs'
import { ensureWebBuilt } from './lib/web.mjs'

const results = join(ROOT, '.tmp')
const counts = { passed: 0, failed: 0 }
/** What failed, by name and with its reason: said again at the end, where nobody has to look for it. */
const failures = []

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
  count(args[0], step(...args))
}
function count(name, good) {
  counts[good ? 'passed' : 'failed']++
  if (!good) failures.push(name)
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
ensureSocat()
rmSync(results, { recursive: true, force: true })

/** Runs a step to its end beside others; says how it ended. */
function beside([name, command, args, options = {}]) {
  const begun = Date.now()
  const run = spawn(process.execPath, [join(ROOT, 'node_modules', command), ...args], { cwd: ROOT, ...options })
  let said = ''
  for (const out of [run.stdout, run.stderr]) out?.on('data', (text) => (said += text))
  const good = new Promise((resolve) => run.once('exit', (code) => resolve(code === 0))).then((good) => {
    if (said.trim()) console.log(said.trimEnd())
    say(`${name}: ${good ? 'good' : 'FAILED'} after ${Math.round((Date.now() - begun) / 1000)} s`)
    return good
  })
  return { run, good }
}
/** Checks that are in no hurry, one after the other: they take what the journeys leave of the machine. */
async function unhurried(checks) {
  for (const todo of checks) {
    const { run, good } = beside(todo)
    setPriority(run.pid, constants.priority.PRIORITY_LOW)
    count(todo[0], await good)
  }
}
const typesOf = (name, command, project) => [`Types of ${name}`, command, ['-p', project]]
const withBrowser = { ...process.env, CHROMIUM: chromium }
ensureWebBuilt()
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
failures.push(...failedUnits(unit, ROOT))
if (!units && !unit?.numFailedTests) count('Unit tests did not end well', false)
check('Reached by tests', '../scripts/coverage.mjs', [])
check('Share of tests', '../scripts/shares.mjs', [])
check('First screen is light', '../scripts/first-screen.mjs', [])
// A journey waits for its page as often as the page for it: half of a core is free beside it.
const journeys = beside([
  'Journeys in the browser',
  '@playwright/test/cli.js',
  ['test'],
  { cwd: join(ROOT, 'e2e'), env: withBrowser, stdio: 'inherit' },
])
await unhurried([
  ['Lint', 'eslint/bin/eslint.js', ['.']],
  typesOf('the page', 'vue-tsc/bin/vue-tsc.js', 'apps/web'),
  typesOf('core, contract and server', 'typescript/bin/tsc', 'tsconfig.node.json'),
  typesOf('the journeys', 'typescript/bin/tsc', 'e2e'),
  ['Format', 'prettier/bin/prettier.cjs', ['--check', '--log-level', 'warn', '.']],
])
const walked = await journeys.good
check('Faults, twenty kills', 'tsx/dist/cli.mjs', ['scripts/faults/run.ts', '20'])
check('Measurements can be made', 'tsx/dist/cli.mjs', ['scripts/bench/bench.ts', 'smoke'], { env: withBrowser })
const e2e = read('e2e.json')
counts.passed += e2e?.stats.expected ?? 0
counts.failed += e2e?.stats.unexpected ?? 0
failures.push(...failedJourneys(e2e))
if (!walked && !e2e?.stats.unexpected) count('The journeys did not end well', false)

for (const failure of failures) console.log(`\n✘ ${failure}`)
console.log(`\n${counts.passed} passed, ${counts.failed} failed`)
process.exit(counts.failed ? 1 : 0)
