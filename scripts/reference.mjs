// `npm run --silent reference -- FILE...`: runs reference cases through the computing core.
import { resolve } from 'node:path'
import { runTs } from './lib/run-ts.mjs'

const files = process.argv.slice(2).map((f) => resolve(process.env.INIT_CWD ?? process.cwd(), f))
runTs('reference-runner.ts', files, { quiet: true })
