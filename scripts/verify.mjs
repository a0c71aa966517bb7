// `npm run verify`: every seal, digest and the audit trail held against the record; `-- DIR`: the files of a backup.
import { runTs } from './lib/run-ts.mjs'

runTs('backup/run.ts', ['verify', ...process.argv.slice(2)])
