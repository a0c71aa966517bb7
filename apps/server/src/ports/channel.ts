// A channel of bytes: a serial port, a pseudo terminal, or a TCP connection.
import { createConnection } from 'node:net'
import { SerialPort } from 'serialport'

export interface Reached {
  readonly kind: 'serial' | 'tcp'
  /** Path, or `host:port`. */
  readonly at: string
  readonly protocol: 'hart' | 'modbus'
  /** Speed and parity of a serial line that are not its protocol’s own. */
  readonly baud?: number | undefined
  readonly parity?: 'none' | 'even' | 'odd' | undefined
}

export interface Channel {
  send(bytes: Uint8Array): void
  close(): void
  /** Time of a byte on the line, ms; 0 where somebody else keeps it. */
  readonly byte_ms: number
}
export interface ChannelEvents {
  bytes(bytes: Uint8Array): void
  /** It is gone without being asked to: unplugged, or the connection broken. */
  lost(why: string): void
}

const CONNECT_ms = 3000

const WORDS: Readonly<Record<string, string>> = {
  ECONNREFUSED: 'nothing listens there',
  ETIMEDOUT: 'it does not answer',
  EHOSTUNREACH: 'it cannot be reached',
  ENOTFOUND: 'there is no such host',
  ECONNRESET: 'the connection was broken',
  ENOENT: 'it is not plugged in',
  EACCES: 'this user may not open it',
}
const inWords = (error: Error & { code?: string }): string =>
  WORDS[error.code ?? ''] ??
  (/no such file/i.test(error.message)
    ? WORDS['ENOENT']
    : /cannot lock|temporarily unavailable|busy/i.test(error.message)
      ? 'another program holds it'
      : undefined) ??
  error.message

function openTcp(at: string, events: ChannelEvents): Promise<Channel> {
  const colon = at.lastIndexOf(':')
  return new Promise((resolve, reject) => {
    const socket = createConnection(Number(at.slice(colon + 1)), at.slice(0, colon))
    let open = false
    let closed = false
    socket.setNoDelay(true)
    socket.setTimeout(CONNECT_ms, () => {
      if (!open) socket.destroy(Object.assign(new Error(), { code: 'ETIMEDOUT' }))
    })
    socket.on('data', (data) => events.bytes(data))
    socket.on('error', (error) => (open ? undefined : reject(new Error(inWords(error)))))
    socket.on('close', () => open && !closed && events.lost('the connection was broken'))
    socket.on('connect', () => {
      open = true
      socket.setTimeout(0)
      resolve({
        byte_ms: 0,
        send: (bytes) => void (socket.writable && socket.write(bytes)),
        close() {
          closed = true
          socket.destroy()
        },
      })
    })
  })
}

/** Speed and parity that a protocol has where nobody says otherwise. */
export const USUAL_LINE = {
  hart: { baud: 1200, parity: 'odd' },
  modbus: { baud: 9600, parity: 'none' },
} as const

function openSerial({ at, protocol, baud, parity }: Reached, events: ChannelEvents): Promise<Channel> {
  const usual = USUAL_LINE[protocol]
  const settings = { baudRate: baud ?? usual.baud, parity: parity ?? usual.parity }
  const port = new SerialPort({ path: at, ...settings, dataBits: 8, stopBits: 1, autoOpen: false, lock: true })
  let closed = false
  port.on('data', (data: Buffer) => events.bytes(data))
  port.on('error', () => undefined)
  port.on('close', () => !closed && events.lost('it was unplugged'))
  return new Promise((resolve, reject) =>
    port.open((error) => {
      if (error) return reject(new Error(inWords(error)))
      // A pseudo terminal has no speed of its own.
      const paced = !at.startsWith('/dev/pts/')
      resolve({
        byte_ms: paced ? 11_000 / settings.baudRate : 0,
        send: (bytes) => void port.write(bytes),
        close() {
          closed = true
          port.close(() => undefined)
        },
      })
    }),
  )
}

/** @throws Error with why not, in words */
export const openChannel = (reached: Reached, events: ChannelEvents): Promise<Channel> =>
  reached.kind === 'tcp' ? openTcp(reached.at, events) : openSerial(reached, events)
