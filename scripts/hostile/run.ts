// `npm run test:hostile [-- COUNT [SEED]]`: ten thousand hostile requests at a server of its own.
import { dataFolder, run, throwAway } from '../../e2e/run-server.ts'
import { attack } from './hostile.ts'

const [count = 10_000, seed = 20_261_127] = process.argv.slice(2).map(Number)
const folder = dataFolder()
const server = await run(folder)
let bad: number
try {
  const report = await attack(server.base, { count, seed, signIn: 'rona', password: 'kelp and salt' })
  console.log(`${report.sent} requests with seed ${seed}, by status: ${JSON.stringify(report.byStatus)}`)
  for (const line of report.bad.slice(0, 60)) console.log(`BAD ${line}`)
  bad = report.bad.length
  console.log(`\n${report.sent - bad} passed, ${bad} failed`)
} finally {
  await server.stop()
  throwAway(folder)
}
process.exitCode = bad ? 1 : 0
