// A backup every day while it runs: looked for every hour, made by a process of its own.
import { spawn } from 'node:child_process'
import { ROOT } from './install.mjs'
import { backupFolder } from './data-folder.mjs'
import { say } from './say.mjs'

const FIRST_ms = 10 * 60_000
const EVERY_ms = 3_600_000

/** Makes one when the newest is a day old. CALM_LOOP_BACKUPS names another folder, or is `off`. */
export function keepBackups(folder, empty) {
  const into = backupFolder(folder)
  if (into === undefined) return
  const look = () => {
    const args = ['--import', 'tsx', 'scripts/backup/run.ts', 'daily', ...(empty ? ['--empty'] : []), into]
    const child = spawn(process.execPath, args, { cwd: ROOT, stdio: ['ignore', 'pipe', 'pipe'] })
    // That one was made, and where its passphrase is kept.
    child.stdout.on('data', (text) => say(String(text).trim()))
    let said = ''
    child.stderr.on('data', (text) => (said += String(text)))
    child.once('exit', (code) => code === 0 || say(`The daily backup was not made. ${said.trim()}`))
  }
  setTimeout(look, FIRST_ms).unref()
  setInterval(look, EVERY_ms).unref()
}
