// How much of each part the tests reach, after they ran with `--coverage`; fails below the floors.
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { ROOT } from './lib/install.mjs'

/** Least share of lines and of branches, %. */
const FLOORS = {
  'packages/core': [95, 90],
  'packages/contract': [95, 92],
  'packages/drawing': [90, 80],
  'apps/server': [92, 85],
  'apps/web': [90, 78],
}
/** An entry point, run as a process of its own by the tests of the start command. */
const ELSEWHERE = /apps\/server\/src\/(main|workers\/worker)\.ts$/

const files = JSON.parse(readFileSync(join(ROOT, '.tmp/coverage/coverage-summary.json'), 'utf8'))
const share = ({ covered, total }) => (total ? (100 * covered) / total : 100)
let below = 0
for (const [part, floors] of Object.entries(FLOORS)) {
  const own = Object.entries(files).filter(([f]) => f.startsWith(join(ROOT, part)) && !ELSEWHERE.test(f))
  const [lines, branches] = ['lines', 'branches'].map((what) => ({
    covered: own.reduce((sum, [, c]) => sum + c[what].covered, 0),
    total: own.reduce((sum, [, c]) => sum + c[what].total, 0),
  }))
  const met = share(lines) >= floors[0] && share(branches) >= floors[1]
  if (!met) below++
  const said = (of, floor) => `${share(of).toFixed(1).padStart(5)} % (at least ${floor})`
  console.log(
    `${part.padEnd(20)} lines ${said(lines, floors[0])}, branches ` +
      `${said(branches, floors[1])}${met ? '' : '  TOO FEW'}`,
  )
  if (!met || process.argv.includes('--files'))
    for (const [f, c] of own
      .sort(([, a], [, b]) => b.branches.total - b.branches.covered - (a.branches.total - a.branches.covered))
      .slice(0, 12))
      console.log(
        `  ${f.slice(ROOT.length + 1)}: ${c.lines.total - c.lines.covered} lines, ` +
          `${c.branches.total - c.branches.covered} branches not reached`,
      )
}
process.exit(below ? 1 : 0)
