// A small broker for tests and for the bench: MQTT 5 (OASIS, 2019) as far as a listener and a teller of one site need
// it. It keeps nothing when it ends, and asks nobody who they are.
import { createServer, type AddressInfo, type Socket } from 'node:net'
import { sure } from '@calm-loop/core/sure'
import { generate, parser, type IPublishPacket, type Packet } from 'mqtt-packet'

const V5 = { protocolVersion: 5 }
const [GRANTED_QOS_1, UNSUPPORTED_VERSION, NOT_AUTHORIZED] = [1, 0x84, 0x87]

/** Whether a topic is of a filter: `+` for one part, `#` for all that follow. */
export function isOf(filter: string, topic: string): boolean {
  const [wanted, parts] = [filter.split('/'), topic.split('/')]
  for (const [i, part] of wanted.entries()) {
    if (part === '#') return true
    if (i >= parts.length || (part !== '+' && part !== parts[i])) return false
  }
  return wanted.length === parts.length
}

interface Client {
  readonly socket: Socket
  readonly filters: Set<string>
  nextId: number
}
export interface StandInBroker {
  readonly port: number
  stop(): Promise<void>
}

/**
 * @param port 0 takes a free one; on loopback only
 * @param password that a client must give; any does where it is not given
 * @param hear is called with every message that comes
 */
export async function runBroker(
  port: number,
  { password, hear }: { password?: string; hear?: (topic: string, text: string) => void } = {},
): Promise<StandInBroker> {
  const clients = new Set<Client>()
  const retained = new Map<string, IPublishPacket>()

  function send(client: Client, packet: Packet): void {
    if (!client.socket.destroyed) client.socket.write(generate(packet, V5))
  }
  function give(client: Client, message: IPublishPacket, retain: boolean): void {
    const messageId = (client.nextId = (client.nextId % 65_535) + 1)
    send(client, { ...message, qos: 1, dup: false, retain, messageId })
  }
  function take(message: IPublishPacket): void {
    if (message.retain) {
      if (message.payload.length) retained.set(message.topic, message)
      else retained.delete(message.topic)
    }
    hear?.(message.topic, message.payload.toString())
    for (const client of clients)
      if ([...client.filters].some((f) => isOf(f, message.topic))) give(client, message, false)
  }
  function answer(client: Client, packet: Packet): void {
    switch (packet.cmd) {
      case 'connect': {
        const isOurs = password === undefined || packet.password?.toString() === password
        const reasonCode = packet.protocolVersion !== 5 ? UNSUPPORTED_VERSION : isOurs ? 0 : NOT_AUTHORIZED
        send(client, { cmd: 'connack', reasonCode, sessionPresent: false })
        if (reasonCode) client.socket.end()
        return
      }
      case 'subscribe':
        for (const { topic } of packet.subscriptions) client.filters.add(topic)
        send(client, {
          ...{
            cmd: 'suback',
            messageId: sure(packet.messageId),
            granted: packet.subscriptions.map(() => GRANTED_QOS_1),
          },
        })
        for (const message of retained.values())
          if (packet.subscriptions.some((s) => isOf(s.topic, message.topic))) give(client, message, true)
        return
      case 'publish':
        take(packet)
        if (packet.qos > 0) send(client, { cmd: 'puback', messageId: sure(packet.messageId), reasonCode: 0 })
        return
      case 'pingreq':
        return send(client, { cmd: 'pingresp' })
      case 'disconnect':
        return void client.socket.end()
      default:
    }
  }

  const server = createServer((socket) => {
    const client: Client = { socket, filters: new Set(), nextId: 0 }
    const reading = parser(V5)
    clients.add(client)
    reading.on('packet', (packet) => answer(client, packet))
    // What is no MQTT ends its connection, and nothing else.
    reading.on('error', () => socket.destroy())
    socket.on('data', (bytes) => reading.parse(bytes))
    socket.on('error', () => undefined)
    socket.on('close', () => clients.delete(client))
  })
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject)
    server.listen(port, '127.0.0.1', resolve)
  })
  return {
    port: (server.address() as AddressInfo).port,
    async stop() {
      for (const { socket } of clients) socket.destroy()
      await new Promise<void>((resolve) => server.close(() => resolve()))
    },
  }
}
