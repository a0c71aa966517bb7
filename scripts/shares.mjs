// How much of the code is tests: lines that are neither blank nor comment. Fails outside a quarter to a third.
import { execFileSync } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { ROOT } from './lib/install.mjs'

const [LEAST, MOST] = [25, 33]
const CODE = /\.(ts|mts|vue|mjs|js)$/
const TEST = /(\.test\.ts|\.fixture\.ts)$|^apps\/\w+\/(test|golden)\/|^e2e\/|^scripts\/(test|faults|hostile)\//
const isCode = (line) => line.trim() && !/^\s*(\/\/|\/?\*|<!--)/.test(line)

const tracked = execFileSync('git', ['ls-files'], { cwd: ROOT, encoding: 'utf8' }).trim().split('\n')
const lines = { tests: 0, rest: 0 }
for (const file of tracked.filter((f) => CODE.test(f) && !f.endsWith('.d.mts')))
  lines[TEST.test(file) ? 'tests' : 'rest'] += readFileSync(join(ROOT, file), 'utf8').split('\n').filter(isCode).length
const share = (100 * lines.tests) / (lines.tests + lines.rest)
console.log(`${lines.tests} lines of tests beside ${lines.rest} of code: ${share.toFixed(1)} % (${LEAST} to ${MOST})`)
process.exit(share >= LEAST && share <= MOST ? 0 : 1)
