// What is told to others: over MQTT to a broker of one’s own, and to webhooks. Off until an administrator sets it up.
import { z } from 'zod'
import { endpoint } from './endpoint.ts'
import { LoopState } from './loops.ts'
import { filledLine, Id, Instant, line } from './primitives.ts'

/** Kinds of message: a point’s state and count, an alarm of a point, how a loop stands. */
export const OUT_KINDS = ['state', 'alarm', 'loop'] as const
export type OutKind = (typeof OUT_KINDS)[number]

const one = {
  /** The same however often it is sent. */
  id: Id,
  at: Instant,
  loop: z.strictObject({ id: Id, tag: z.string(), area: z.string() }),
}
/** Of a discrete point: what the server saw. Simulated where the bench answered. */
const seen = { ...one, name: z.string(), simulated: z.boolean() }
export const OutMessage = z.discriminatedUnion('kind', [
  z.strictObject({
    ...seen,
    kind: z.literal('state'),
    /** Null while nothing can be seen. */
    state: z.boolean().nullable(),
    /** Rises since the server began to see it: from 0 again after it could not be seen. */
    count: z.number().int().nonnegative(),
  }),
  z.strictObject({
    ...seen,
    kind: z.literal('alarm'),
    alarm: z.enum(['long-cycle', 'standstill']),
    /** False when it runs again. */
    on: z.boolean(),
    /** Since the last rise, s; and from when on it is told. */
    seconds: z.number(),
    limit_s: z.number(),
  }),
  z.strictObject({
    ...one,
    kind: z.literal('loop'),
    state: LoopState,
    lastErrorPct: z.number().nullable(),
    tolerancePct: z.number().nullable(),
    nextDue: z.string().nullable(),
  }),
])
export type OutMessage = z.infer<typeof OutMessage>

/** A part of a topic: what MQTT gives a meaning of its own stands as an underscore. */
const part = (text: string) => text.replace(/[+#/\s\p{Cc}]/gu, '_')
/** Topic of a message below the site’s own. */
export const topicOf = (prefix: string, { kind, loop }: Pick<OutMessage, 'kind' | 'loop'>): string =>
  `${prefix}/${part(loop.tag)}/${kind}`

const Broker = {
  on: z.boolean(),
  url: z
    .string()
    .max(300)
    .regex(/^(mqtts?:\/\/[^\s/@]+)?$/, 'must be mqtt://host:port or mqtts://host:port'),
  username: line(120),
  prefix: z.string().regex(/^[A-Za-z0-9][A-Za-z0-9_-]{0,39}$/, 'letters, digits, - and _'),
}
const Hook = {
  id: Id,
  on: z.boolean(),
  url: z.url({ protocol: /^https?$/ }).max(500),
  what: z.array(z.enum(['alarm', 'loop'])).min(1),
}
/** As it stands: of secrets only whether there is one. */
export const Outgoing = z.strictObject({
  mqtt: z.strictObject({ ...Broker, hasPassword: z.boolean() }),
  hooks: z.array(z.strictObject({ ...Hook, hasSecret: z.boolean() })),
  /** Of the server that is asked: whether it reaches the broker, and what it last said. */
  broker: z.strictObject({ reached: z.boolean(), says: z.string() }),
  /** Messages that wait. */
  waiting: z.number().int().nonnegative(),
})
export type Outgoing = z.infer<typeof Outgoing>

/** A secret that is not given stays as it is. */
export const SaveOutgoing = z.strictObject({
  mqtt: z.strictObject({ ...Broker, password: z.string().max(200).optional() }),
  hooks: z
    .array(z.strictObject({ ...Hook, secret: filledLine(200).min(16).optional() }))
    .max(10)
    .refine((hooks) => new Set(hooks.map((h) => h.id)).size === hooks.length, 'each once'),
})
export type SaveOutgoing = z.infer<typeof SaveOutgoing>

export const outgoingRoutes = {
  outgoing: endpoint({
    method: 'get',
    path: '/api/outgoing',
    access: 'administrator',
    summary: 'Who is told what, and whether they are reached',
    response: Outgoing,
  }),
  saveOutgoing: endpoint({
    method: 'put',
    path: '/api/outgoing',
    access: 'administrator',
    summary: 'Set up who is told what',
    body: SaveOutgoing,
    response: Outgoing,
  }),
  outgoingSchema: endpoint({
    method: 'get',
    path: '/api/outgoing/schema',
    access: 'anyone',
    summary: 'JSON Schema of the messages',
    media: 'application/json',
  }),
}
