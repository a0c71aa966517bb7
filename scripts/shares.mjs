// How much of the code is tests: lines that are neither blank nor comment. Wanted is a quarter to a third; the floor
// only rises.
import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { ROOT } from './lib/install.mjs'

const [LEAST, MOST] = [25, 33]
const CODE = /\.(ts|mts|vue|mjs|js)$/
const TEST = /(\.test\.ts|\.fixture\.ts)$|^apps\/\w+\/(test|golden)\/|^e2e\/|^scripts\/(test|faults|hostile)\//
const isCode = (line) => line.trim() && !/^\s*(\/\/|\/?\*|<!--)/.test(line)

const OURS = ['packages', 'apps', 'e2e', 'scripts', 'demo']
const NOT_OURS = /node_modules|\/dist\//
const files = OURS.flatMap((folder) =>
  readdirSync(join(ROOT, folder), { recursive: true, encoding: 'utf8' }).map((f) => `${folder}/${f}`),
).filter((f) => CODE.test(f) && !f.endsWith('.d.mts') && !NOT_OURS.test(f))
const lines = { tests: 0, rest: 0 }
for (const file of files)
  lines[TEST.test(file) ? 'tests' : 'rest'] += readFileSync(join(ROOT, file), 'utf8').split('\n').filter(isCode).length
const share = (100 * lines.tests) / (lines.tests + lines.rest)
console.log(`${lines.tests} lines of tests beside ${lines.rest} of code: ${share.toFixed(1)} % (${LEAST} to ${MOST})`)
process.exit(share >= LEAST && share <= MOST ? 0 : 1)
