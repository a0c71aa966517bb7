// Files that must be whole, processes that must be the ones meant, and a lock that a killed holder gives back.
import { spawn } from 'node:child_process'
import { closeSync, fsyncSync, openSync, readFileSync, renameSync, writeSync } from 'node:fs'

/** Writes a file whole or not at all: a power cut leaves the old one or the new one. */
export function writeWhole(file, text, mode = 0o600) {
  const fresh = `${file}.new`
  const handle = openSync(fresh, 'w', mode)
  writeSync(handle, text)
  fsyncSync(handle)
  closeSync(handle)
  renameSync(fresh, file)
}

/** The object in a JSON file; undefined when the file is not there, empty, cut or of another form. */
export function readObject(file) {
  try {
    const found = JSON.parse(readFileSync(file, 'utf8'))
    return typeof found === 'object' && found !== null ? found : undefined
  } catch {
    return undefined
  }
}

/** The command line of a process that lives; undefined when there is none, or only its remains. */
export function commandOf(pid) {
  if (!Number.isInteger(pid) || pid <= 0) return undefined
  try {
    const state = /\)\s+(\S)/.exec(readFileSync(`/proc/${pid}/stat`, 'utf8'))?.[1]
    return state === 'Z' || state === 'X'
      ? undefined
      : readFileSync(`/proc/${pid}/cmdline`, 'utf8').replaceAll('\0', ' ')
  } catch {
    return undefined
  }
}

/** Holds a lock for as long as this process lives, however it ends; undefined when another one holds it. */
export function holdLock(file) {
  return new Promise((resolve, reject) => {
    const holder = spawn('flock', ['-n', file, 'cat'], { stdio: ['pipe', 'pipe', 'ignore'] })
    holder.once('error', reject)
    holder.once('exit', () => resolve(undefined))
    holder.stdout.once('data', () => resolve({ release: () => holder.stdin.end() }))
    holder.stdin.on('error', () => undefined)
    holder.stdin.write('held\n')
  })
}
