// `npm run backup -- DIR`: everything in DIR, made while it runs; secrets sealed by CALM_LOOP_PASSPHRASE. `--empty` for
// the installation without the demo.
import { runTs } from './lib/run-ts.mjs'

runTs('backup/run.ts', ['backup', ...process.argv.slice(2)])
