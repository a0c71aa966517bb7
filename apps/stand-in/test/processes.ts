// Stand-ins as processes, and a line to them on which bytes go to and fro.
import { spawn, spawnSync, type ChildProcess } from 'node:child_process'
import { createConnection, type Socket } from 'node:net'
import { createInterface } from 'node:readline'
import { fileURLToPath } from 'node:url'
import { say } from '../src/words.ts'

const COMMAND = fileURLToPath(new URL('../../../scripts/stand-in.mjs', import.meta.url))

export interface Running {
  readonly reached: string
  readonly port: number
  readonly control: number
  say(...words: string[]): Promise<string>
  stop(): Promise<void>
}
const running: ChildProcess[] = []

export async function standIn(...args: string[]): Promise<Running> {
  const child = spawn(process.execPath, [COMMAND, ...args, '--control', '0'], { stdio: ['ignore', 'pipe', 'inherit'] })
  running.push(child)
  const lines = createInterface(child.stdout)[Symbol.asyncIterator]()
  const next = async () => ((await lines.next()) as IteratorResult<string, string>).value
  const ready = await next()
  const control = Number((await next()).replace('control ', ''))
  const reached = ready.replace('ready ', '')
  return {
    reached,
    port: Number(reached.split(':').at(-1)),
    control,
    say: (...words) => say(control, words),
    stop: () =>
      new Promise((resolve) => {
        child.once('exit', () => resolve())
        child.kill()
      }),
  }
}
export const stopAll = (): void => running.splice(0).forEach((child) => child.kill())
/** Runs the command to its end. */
export const run = (...args: string[]) =>
  spawnSync(process.execPath, [COMMAND, ...args], { encoding: 'utf8', timeout: 20_000 })

export interface Wire {
  send(hex: string): void
  /** Bytes that come until none has come for `quiet_ms`, at least until the first. */
  heard(quiet_ms?: number, most_ms?: number): Promise<string>
  ask(hex: string): Promise<string>
  readonly socket: Socket
}
export async function wireTo(port: number): Promise<Wire> {
  const socket = createConnection(port, '127.0.0.1')
  await new Promise((resolve, reject) => socket.once('connect', resolve).once('error', reject))
  let held = ''
  let last = 0
  socket.on('data', (data) => {
    held += data.toString('hex')
    last = performance.now()
  })
  socket.on('error', () => undefined)
  const wire: Wire = {
    socket,
    send: (hex) => void socket.write(Buffer.from(hex, 'hex')),
    async heard(quiet_ms = 30, most_ms = 400) {
      const begun = performance.now()
      while (performance.now() - begun < most_ms && !(held && performance.now() - last > quiet_ms))
        await new Promise((resolve) => setTimeout(resolve, 5))
      const got = held
      held = ''
      return got
    },
    async ask(hex) {
      wire.send(hex)
      return wire.heard()
    },
  }
  return wire
}
