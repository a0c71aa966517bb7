// `npm run test:hostile [-- COUNT [SEED]]`: hostile requests at every route.
import { runTs } from './lib/run-ts.mjs'

runTs('hostile/run.ts', process.argv.slice(2), { web: true })
