// `npm run restore -- DIR`: brings a backup back here. `--aside` puts what is here aside first.
import { runTs } from './lib/run-ts.mjs'

runTs('backup/run.ts', ['restore', ...process.argv.slice(2)])
