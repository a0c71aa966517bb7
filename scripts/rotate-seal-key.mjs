// `npm run rotate-seal-key`: adds a new key with which signatures are sealed from now on; what older keys sealed stays
// good. `-- --empty` for the installation without the demo.
import { spawnSync } from 'node:child_process'
import { existsSync } from 'node:fs'
import { dataFolder, runningNote, sealKeyFile } from './lib/data-folder.mjs'
import { commandOf, readObject } from './lib/files.mjs'
import { ensurePackages, ROOT } from './lib/install.mjs'
import { giveUp, say } from './lib/say.mjs'

ensurePackages()
const folder = dataFolder(process.argv.includes('--empty'))
const file = sealKeyFile(folder)
if (!existsSync(file)) giveUp(`There is no key in ${file} yet; npm start makes one.`)
const script =
  "import('./apps/server/src/seals/sealer.ts').then(({ rotateKey }) => console.log(rotateKey(process.argv[1])))"
const run = spawnSync(process.execPath, ['--import', 'tsx', '-e', script, file], { cwd: ROOT, encoding: 'utf8' })
if (run.status !== 0) giveUp(/The key that seals[^\n]*/.exec(run.stderr)?.[0] ?? run.stderr)
say(`New key ${run.stdout.trim()}. Keep a copy of ${file}: without it nothing can be sealed with this key.`)
const pid = readObject(runningNote(folder))?.pid
if (pid && /start\.mjs/.test(commandOf(pid) ?? '')) {
  process.kill(pid, 'SIGUSR2')
  say('The running server is started anew with it.')
} else say('It is used from the next start on.')
