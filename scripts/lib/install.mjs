// Brings in what is missing: npm packages, and Debian packages where this user may install them.
import { spawnSync } from 'node:child_process'
import { existsSync, statSync } from 'node:fs'
import { join } from 'node:path'
import { giveUp, say } from './say.mjs'

export const ROOT = join(import.meta.dirname, '..', '..')
export const isRoot = process.getuid?.() === 0

/** Refuses a Node that is too old, and installs the npm packages when the lock file is newer than what is installed. */
export function ensurePackages({ quiet = false } = {}) {
  const [major, minor] = process.versions.node.split('.').map(Number)
  if (major < 20 || (major === 20 && minor < 19))
    giveUp(`Node ${process.versions.node} is too old: version 20.19 or newer is needed.`)
  const installed = join(ROOT, 'node_modules', '.package-lock.json')
  const lock = join(ROOT, 'package-lock.json')
  if (existsSync(installed) && statSync(installed).mtimeMs >= statSync(lock).mtimeMs - 1000) return
  if (!quiet) say('Installing npm packages (about a minute the first time)')
  const run = spawnSync('npm', ['ci', '--no-audit', '--no-fund'], {
    cwd: ROOT,
    stdio: quiet ? ['ignore', 'ignore', 'inherit'] : ['ignore', 'ignore', 'inherit'],
  })
  if (run.status !== 0)
    giveUp('npm could not install the packages; its message stands above. Mend that and run the command again.')
}

/**
 * Makes sure a Debian package is there: installs it as root, else says the one command to run. `present` is asked
 * before and after.
 */
export function ensureDebianPackage(packages, present, purpose, tell = say) {
  const found = present()
  if (found) return found
  const command = `apt-get install -y ${packages.join(' ')}`
  if (!isRoot) giveUp(`${purpose} is missing. Run this once, then try again:\n\n    sudo ${command}`)
  tell(`Installing ${purpose} from Debian (${packages.join(', ')})`)
  const apt = (args) =>
    spawnSync('apt-get', ['-o', 'DPkg::Lock::Timeout=300', '-qq', ...args], {
      stdio: ['ignore', 'ignore', 'inherit'],
      env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
    })
  let run = apt(['install', '-y', ...packages])
  if (run.status !== 0) {
    apt(['update'])
    run = apt(['install', '-y', ...packages])
  }
  if (run.error)
    giveUp(
      `${purpose} is missing and there is no apt-get here. Install PostgreSQL and Chromium by your system's own means.`,
    )
  const now = present()
  if (!now) giveUp(`${purpose} could not be installed. Try by hand:\n\n    ${command}`)
  return now
}

const CHROMIUM = '/usr/bin/chromium'

/** Path of Debian's Chromium, for the tests. */
export function ensureChromium() {
  return ensureDebianPackage(['chromium'], () => existsSync(CHROMIUM) && CHROMIUM, 'Chromium')
}

/** Debian’s socat, which makes the pseudo terminals of stand-ins. @param tell hears that it is being installed */
export function ensureSocat(tell = say) {
  return ensureDebianPackage(['socat'], () => existsSync('/usr/bin/socat') && '/usr/bin/socat', 'socat', tell)
}
