// Where the records, the database and the secrets of this clone are kept.
import { createHash } from 'node:crypto'
import { homedir } from 'node:os'
import { basename, join } from 'node:path'
import { isRoot, ROOT } from './install.mjs'

/** A lasting place for this clone's records, reachable for the database's user. */
export function dataFolder(empty) {
  if (process.env.CALM_LOOP_DATA) return process.env.CALM_LOOP_DATA
  const base = isRoot ? '/var/lib' : (process.env.XDG_DATA_HOME ?? join(homedir(), '.local', 'share'))
  const clone = `${basename(ROOT)}-${createHash('sha256').update(ROOT).digest('hex').slice(0, 8)}`
  return join(base, 'calm-loop', empty ? `${clone}-empty` : clone)
}

/** The file of the key that seals signatures. */
export const sealKeyFile = (folder) => process.env.SEAL_KEY_FILE ?? join(folder, 'seal-key.json')
/** What runs from this folder, and where it is reached. */
export const runningNote = (folder) => join(folder, 'running.json')
/** Where daily backups are kept; undefined when there shall be none. */
export const backupFolder = (folder) =>
  process.env.CALM_LOOP_BACKUPS === 'off' ? undefined : (process.env.CALM_LOOP_BACKUPS ?? join(folder, 'backups'))
/** The passphrase of backups, where none is given. */
export const passphraseFile = (folder) => join(folder, 'backup-passphrase')
