// What waited on a device and is sent once the server is reached: several writes of one loop at once.
import { z } from 'zod'
import { endpoint } from './endpoint.ts'
import { MOST_TOGETHER, SENT_TOGETHER } from './limits.ts'

export const WaitingWrite = z.strictObject({
  endpoint: z.enum(SENT_TOGETHER),
  params: z.record(z.string().max(40), z.string().max(100)),
  body: z.unknown(),
  /** How long it waited on its device, ms. */
  waited_ms: z.number().int().min(0).default(0),
})
export type WaitingWrite = z.input<typeof WaitingWrite>

/** What one of them would have been answered by itself: its status, and its answer or what is wrong. */
export const WaitingAnswer = z.strictObject({ status: z.number().int(), body: z.unknown() })
export type WaitingAnswer = z.output<typeof WaitingAnswer>

export const waitingRoutes = {
  sendWaiting: endpoint({
    method: 'post',
    path: '/api/waiting',
    access: 'signed-in',
    summary:
      'Send writes that waited on a device, done in their order as if each came by itself; what follows one that is ' +
      'refused is not done, and not answered',
    body: z.strictObject({ writes: z.array(WaitingWrite).min(1).max(MOST_TOGETHER) }),
    response: z.strictObject({ answers: z.array(WaitingAnswer).min(1) }),
  }),
} as const
