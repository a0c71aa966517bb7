// Webhooks: a message sent by POST, signed with a secret that both sides know.
import type { OutMessage } from '@calm-loop/contract'
import { createHmac } from 'node:crypto'
import type { KeptOutgoing } from './settings.ts'

const PATIENCE_ms = 10_000

/**
 * What `x-calm-loop-signature` says: the time of sending, s since 1970, and HMAC-SHA-256 (RFC 2104) of that time, a
 * full stop and the body, in hexadecimal.
 */
export const signatureOf = (secret: string, at_s: number, body: string): string =>
  `t=${at_s},v1=${createHmac('sha256', secret).update(`${at_s}.${body}`).digest('hex')}`

/** @throws Error where it was not taken: it is tried again */
export async function post(hook: KeptOutgoing['hooks'][number], message: OutMessage): Promise<void> {
  const body = JSON.stringify(message)
  const answer = await fetch(hook.url, {
    method: 'POST',
    body,
    // Whoever was entered is told, and nobody to whom they point.
    redirect: 'error',
    signal: AbortSignal.timeout(PATIENCE_ms),
    headers: {
      'content-type': 'application/json',
      'x-calm-loop-id': message.id,
      'x-calm-loop-signature': signatureOf(hook.secret, Math.floor(Date.now() / 1000), body),
    },
  })
  await answer.body?.cancel()
  if (!answer.ok) throw new Error(`${new URL(hook.url).host} answered ${answer.status}`)
}
