// `npm run test:faults [-- KILLS [SEED]]`: writes while server, database and start command are killed, and two servers.
import { runTs } from './lib/run-ts.mjs'

runTs('faults/run.ts', process.argv.slice(2), { web: true })
