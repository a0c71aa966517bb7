// The link, timed: frames decoded, a device of 200 parameters read, fifty devices polled at once.
import { spawn } from 'node:child_process'
import { createInterface } from 'node:readline'
import { fileURLToPath } from 'node:url'
import { unsignedBytes } from '@calm-loop/core/bytes'
import { decodeFrame, encodeFrame } from '@calm-loop/core/hart'
import { decodeModbus, encodeModbus } from '@calm-loop/core/modbus'
import { openHartLine, type HartLine } from '../../apps/server/src/ports/hart-line.ts'
import { lineLog } from '../../apps/server/src/ports/line-log.ts'
import { row, sample, type Row } from './measure.ts'

const ADDRESS = { long: '3d1103a7c2' }
/** Bytes of a request for one parameter and of its answer, with five preambles each. */
const BYTES = 5 + 5 + 1 + 1 + 1 + 2 + 1 + (5 + 5 + 1 + 1 + 1 + 2 + 6 + 1) + 1
const BYTE_ms = 11_000 / 1200

async function devices(...args: string[]): Promise<{ ports: string[]; stop(): void }> {
  const path = fileURLToPath(new URL('fifty.ts', import.meta.url))
  const child = spawn(process.execPath, ['--import', 'tsx', path, ...args], {
    stdio: ['ignore', 'pipe', 'inherit', 'ipc'],
  })
  const { value } = (await createInterface(child.stdout!)[Symbol.asyncIterator]().next()) as { value: string }
  return { ports: value.split(' '), stop: () => void child.kill() }
}
const open = (port: string): Promise<HartLine> =>
  openHartLine({ kind: 'tcp', at: `127.0.0.1:${port}`, protocol: 'hart' }, lineLog(), {
    burst: () => undefined,
    lost: () => undefined,
  })
const ask = async (line: HartLine, command: number, data: number[] = [], within_ms = 2000) => {
  const got = await line.ask({ address: ADDRESS, command, data: Uint8Array.from(data), within_ms })
  if (!('frame' in got)) throw new Error(`no answer to ${command}: ${got.why}`)
}

async function upload(slow: boolean, parameters: number): Promise<number[]> {
  const bench = await devices('1', '200', slow ? 'slow' : '')
  const line = await open(bench.ports[0]!)
  const times = await sample(
    async () => {
      for (let i = 1; i <= parameters; i++) await ask(line, 130, unsignedBytes(i, 2))
    },
    { samples: slow ? 2 : 5, warm: slow ? 0 : 1 },
  )
  line.close()
  bench.stop()
  return times
}

async function fifty(): Promise<number[]> {
  const bench = await devices('50')
  const lines = await Promise.all(bench.ports.map(open))
  const second = async () => {
    const [begun, before] = [performance.now(), process.cpuUsage()]
    await Promise.all(lines.map((line) => ask(line, 3)))
    await new Promise((resolve) => setTimeout(resolve, Math.max(0, 1000 - (performance.now() - begun))))
    const { user, system } = process.cpuUsage(before)
    return (user + system) / 1000
  }
  await second()
  const used: number[] = []
  for (let i = 0; i < 6; i++) used.push(await second())
  lines.forEach((line) => line.close())
  bench.stop()
  return used
}

export async function link(): Promise<Row[]> {
  const hart = encodeFrame({
    type: 'response',
    address: ADDRESS,
    master: 'primary',
    burstMode: false,
    command: 3,
    data: Uint8Array.from({ length: 24 }, (_, i) => i),
    status: [0, 0],
  })
  const modbus = encodeModbus({
    transport: 'rtu',
    direction: 'response',
    unitId: 1,
    function: 3,
    registers: Array.from({ length: 20 }, (_, i) => i),
  })
  const decoded = { unit: 'µs' as const, target: 10 }
  return [
    row({ what: 'HART frame decoded', ...decoded, times_ms: await sample(() => decodeFrame(hart), { batch: 2000 }) }),
    row({
      what: 'Modbus RTU frame decoded',
      ...decoded,
      times_ms: await sample(() => decodeModbus({ transport: 'rtu', direction: 'response', bytes: modbus }), {
        batch: 2000,
      }),
    }),
    row({ what: 'upload of 200 parameters over TCP', unit: 'ms', times_ms: await upload(false, 200), target: 1000 }),
    row({
      what: 'one parameter of an upload at 1200 bit/s',
      unit: 'ms',
      times_ms: (await upload(true, 10)).map((t) => t / 10),
      // Its own bytes, and a twentieth on top.
      target: Math.round(BYTES * BYTE_ms * 1.05),
    }),
    row({
      what: 'processor per second, 50 devices polled each second',
      unit: 'ms',
      times_ms: await fifty(),
      target: 100,
    }),
  ]
}
