// `npm run bench`: how fast it is on this machine, against its targets. Never part of the tests, but for a smoke of it.
import { runTs } from './lib/run-ts.mjs'

runTs('bench/bench.ts', process.argv.slice(2), { web: true, browser: true, env: { NODE_ENV: 'production' } })
