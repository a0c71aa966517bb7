// `npm run --silent stand-in -- KIND (--tcp PORT | --pty)`: a stand-in device as a process of its own. Prints nothing
// but what it has to say.
import { readFileSync } from 'node:fs'
import { ensurePackages, ensureSocat } from './lib/install.mjs'

ensurePackages({ quiet: true })
const args = process.argv.slice(2)
if (args.includes('--pty')) ensureSocat((words) => console.error(words))
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => process.exit(0))
process.on('disconnect', () => process.exit(0))

/** Who started this, and who started that: when either is another, whoever wanted this is gone. */
function starters() {
  try {
    return `${process.ppid} ${readFileSync(`/proc/${process.ppid}/stat`, 'utf8').split(') ')[1].split(' ')[1]}`
  } catch {
    return String(process.ppid)
  }
}
const wantedBy = starters()
setInterval(() => starters() === wantedBy || process.exit(0), 2000).unref()
const { register } = await import('tsx/esm/api')
register()
const { main } = await import('../apps/stand-in/src/main.ts')
const code = await main(args)
if (code !== undefined) process.exit(code)
