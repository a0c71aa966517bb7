// A line to masters: TCP connections, or a pseudo terminal. Bytes in, bytes out; no meaning.
import { spawn } from 'node:child_process'
import { constants, openSync } from 'node:fs'
import { createServer, type Server } from 'node:net'
import { createInterface } from 'node:readline'
import type { Readable, Writable } from 'node:stream'

export interface Connection {
  send(bytes: Uint8Array): void
  end(): void
}
export interface Heard {
  opened(connection: Connection): void
  bytes(connection: Connection, bytes: Uint8Array): void
  closed(connection: Connection): void
}

export function listen(server: Server, port: number): Promise<number> {
  return new Promise((resolve, reject) => {
    server.once('error', reject)
    server.listen(port, '127.0.0.1', () => {
      const at = server.address()
      resolve(typeof at === 'object' && at ? at.port : port)
    })
  })
}

/** Serves masters over TCP. Resolves to how the line is reached. */
export async function overTcp(port: number, heard: Heard): Promise<string> {
  const server = createServer((socket) => {
    socket.setNoDelay(true)
    const connection: Connection = {
      send: (bytes) => void (socket.writable && socket.write(bytes)),
      end: () => void socket.destroy(),
    }
    heard.opened(connection)
    socket.on('data', (data) => heard.bytes(connection, data))
    socket.on('error', () => socket.destroy())
    socket.on('close', () => heard.closed(connection))
  })
  return `tcp:127.0.0.1:${await listen(server, port)}`
}

/** Serves a master over a pseudo terminal of `socat`. Resolves to the path of its other end. */
export async function overPty(heard: Heard): Promise<string> {
  const socat = spawn('socat', ['-d', '-d', 'PTY,rawer', 'STDIO'], { stdio: ['pipe', 'pipe', 'pipe'] })
  const [into, from, says]: [Writable, Readable, Readable] = [socat.stdin, socat.stdout, socat.stderr]
  process.on('exit', () => socat.kill())
  const path = await new Promise<string>((resolve, reject) => {
    socat.once('error', reject)
    socat.once('exit', (code) => reject(new Error(`socat ended with ${code}`)))
    createInterface(says).on('line', (line) => {
      const found = /PTY is (\S+)/.exec(line)?.[1]
      if (found) resolve(found)
    })
  })
  socat.once('exit', () => process.exit(1))
  // Held open, so that a master may come and go without ending it.
  openSync(path, constants.O_RDWR | constants.O_NOCTTY)
  const connection: Connection = { send: (bytes) => void into.write(bytes), end: () => undefined }
  heard.opened(connection)
  from.on('data', (data: Buffer) => heard.bytes(connection, data))
  return path
}
