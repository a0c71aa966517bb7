// Runs the application as a user does, by its start command, on a database of its own.
import { spawn, type ChildProcess } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

const ROOT = join(import.meta.dirname, '..')

export interface Running {
  base: string
  folder: string
  /** All that the start command has printed. */
  printed(): string
  /** Process ids of the start command and of the server it runs. */
  pids(): { start: number; server: number; database: number }
  /** Ends it as Ctrl-C does. */
  stop(): Promise<void>
  /** Resolves when the start command has ended. */
  ended: Promise<void>
}

export const dataFolder = () => mkdtempSync(join(tmpdir(), 'calm-loop-e2e-'))
export const throwAway = (folder: string) => rmSync(folder, { recursive: true, force: true })

/** Starts it and waits for the printed address. */
export async function run(folder: string, args: string[] = [], more: NodeJS.ProcessEnv = {}): Promise<Running> {
  const child: ChildProcess = spawn(process.execPath, ['scripts/start.mjs', ...args], {
    cwd: ROOT,
    env: { ...process.env, CALM_LOOP_DATA: folder, PORT: '0', WORK_PATIENCE: '5', ...more },
    stdio: ['ignore', 'pipe', 'inherit'],
  })
  const ended = new Promise<void>((resolve) => child.once('exit', () => resolve()))
  let printed = ''
  const base = await new Promise<string>((resolve, reject) => {
    child.stdout!.on('data', (text: Buffer) => {
      printed += String(text)
      const match = /ready:\s+(http:\S+)\s/.exec(printed)
      if (match) resolve(match[1]!)
    })
    child.once('exit', () => reject(new Error(`It did not start:\n${printed}`)))
  })
  const note = () =>
    JSON.parse(readFileSync(join(folder, 'running.json'), 'utf8')) as { serverPid: number; databasePid: number }
  return {
    base,
    folder,
    printed: () => printed,
    ended,
    pids: () => ({
      start: child.pid!,
      server: note().serverPid,
      database: note().databasePid,
    }),
    async stop() {
      child.kill('SIGINT')
      await ended
    },
  }
}
