// The bench of the demo: five stand-in devices as processes of their own, kept running.
import { spawn } from 'node:child_process'
import { existsSync } from 'node:fs'
import { join } from 'node:path'
import { createInterface } from 'node:readline'
import { ROOT } from './install.mjs'

const AGAIN_ms = 2000
const READY_ms = 20_000
/** Name, kind, protocol, tag of its loop, and whether it hangs on a pseudo terminal where there can be one. */
const BENCH = [
  ['Pressure stand-in', 'pressure', 'hart', 'PDT-118', true],
  ['Level stand-in', 'level', 'hart', 'LT-205', false],
  ['Mass flow stand-in', 'coriolis', 'hart', 'FT-214', false],
  ['pH stand-in', 'ph', 'hart', 'AT-221', false],
  ['Level on Modbus, stand-in', 'level-modbus', 'modbus', '', false],
]

function run(kind, way, stopping) {
  return new Promise((resolve) => {
    const child = spawn(process.execPath, [join(ROOT, 'scripts/stand-in.mjs'), kind, ...way, '--control', '0'], {
      cwd: ROOT,
      // By the channel it knows when this process is gone, however that ended.
      stdio: ['ignore', 'pipe', 'ignore', 'ipc'],
    })
    const lines = []
    const late = setTimeout(() => child.kill(), READY_ms)
    createInterface(child.stdout).on('line', (line) => {
      lines.push(line)
      if (lines.length !== 2) return
      clearTimeout(late)
      const [reached, control] = [lines[0].replace('ready ', ''), Number(lines[1].replace('control ', ''))]
      resolve({ child, reached, control })
    })
    child.once('error', () => resolve(undefined))
    child.once('exit', () => {
      clearTimeout(late)
      // Where it is reached is known to the server: it comes again at the same place, or on another terminal.
      if (lines.length === 2 && !stopping() && lines[0].startsWith('ready tcp:'))
        setTimeout(
          () => stopping() || void run(kind, ['--tcp', lines[0].split(':').at(-1), ...way.slice(2)], stopping),
          AGAIN_ms,
        )
      resolve(undefined)
    })
    process.once('exit', () => child.kill())
  })
}

/** Starts the bench. What cannot be started is left out; the application does without. */
export async function startBench() {
  let stopped = false
  const running = await Promise.all(
    BENCH.map(async ([name, kind, protocol, tag, terminal]) => {
      const way = terminal && existsSync('/usr/bin/socat') ? ['--pty'] : ['--tcp', '0']
      const one = await run(kind, [...way, ...(tag ? ['--tag', tag] : [])], () => stopped)
      return one && { name, protocol, reached: one.reached, control: one.control, child: one.child }
    }),
  )
  const here = running.filter(Boolean)
  return {
    standIns: here.map(({ child: _, ...one }) => one),
    stop() {
      stopped = true
      here.forEach(({ child }) => child.kill())
    },
  }
}
