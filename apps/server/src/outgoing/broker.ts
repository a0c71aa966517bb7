// The broker that messages go to, over MQTT 5 (OASIS, 2019).
import { topicOf, type OutMessage } from '@calm-loop/contract'
import { connect, type MqttClient } from 'mqtt'
import { randomUUID } from 'node:crypto'
import type { KeptOutgoing } from './settings.ts'

const [AGAIN_ms, PATIENCE_ms] = [5000, 5000]
/** A message that nobody fetched for so long is old, s. */
const KEPT_s = 7 * 86_400

export interface Broker {
  readonly reached: boolean
  /** What it last said, where it is not reached. */
  readonly says: string
  /** Sends one, and waits until the broker has it. @throws Error where it is not reached */
  publish(message: OutMessage): Promise<void>
  close(): Promise<void>
}

/** @param onReached called whenever it is reached, and lost */
export function openBroker(to: KeptOutgoing['mqtt'], onReached: (reached: boolean) => void): Broker {
  let [reached, says] = [false, 'not reached yet']
  const client: MqttClient = connect(to.url, {
    protocolVersion: 5,
    clientId: `calm-loop-${randomUUID().slice(0, 8)}`,
    ...(to.username ? { username: to.username } : {}),
    ...(to.password ? { password: to.password } : {}),
    reconnectPeriod: AGAIN_ms,
    connectTimeout: PATIENCE_ms,
    // What waits is kept in the database, not here.
    queueQoSZero: false,
    resubscribe: false,
  })
  const turn = (now: boolean, words: string) => {
    says = words
    if (reached === now) return
    reached = now
    onReached(now)
  }
  client.on('connect', () => turn(true, ''))
  client.on('close', () => turn(false, says || 'the connection was lost'))
  client.on('error', (error) => turn(false, error.message))
  return {
    get reached() {
      return reached
    },
    get says() {
      return says
    },
    async publish(message) {
      if (!reached) throw new Error('The broker is not reached.')
      const late = new Promise<never>((_, reject) => {
        setTimeout(() => reject(new Error('The broker does not answer.')), PATIENCE_ms).unref()
      })
      const sent = client.publishAsync(topicOf(to.prefix, message), JSON.stringify(message), {
        qos: 1,
        // Who comes later sees how it stands; an alarm is of its moment.
        retain: message.kind !== 'alarm',
        properties: { contentType: 'application/json', messageExpiryInterval: KEPT_s },
      })
      sent.catch(() => undefined)
      await Promise.race([sent, late])
    },
    close: () => client.endAsync(true).catch(() => undefined),
  }
}
