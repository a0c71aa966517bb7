// Runs reference case files through the computing core: `npm run --silent reference -- FILE...`
import { readFileSync } from 'node:fs'
import { runCase, type ReferenceCase } from '../packages/core/src/calculators/index.ts'

let passed = 0
let failed = 0
for (const file of process.argv.slice(2)) {
  let cases: ReferenceCase[]
  try {
    cases = (JSON.parse(readFileSync(file, 'utf8')) as { cases: ReferenceCase[] }).cases
    if (!Array.isArray(cases)) throw new Error('it has no list of cases')
  } catch (error) {
    console.log(`FAIL ${file} cannot be read: ${(error as Error).message}`)
    failed++
    continue
  }
  for (const c of cases) {
    const outcome = runCase(c)
    if (outcome.passed) passed++
    else failed++
    console.log(outcome.passed ? `PASS ${c.id}` : `FAIL ${c.id} ${outcome.says}`)
  }
}
console.log(`${passed} passed, ${failed} failed`)
process.exitCode = failed > 0 || passed === 0 ? 1 : 0
