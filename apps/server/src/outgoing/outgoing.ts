// Telling others: what changes goes into a queue of the database with the change itself, and from there to the broker
// and to webhooks by whichever server reaches them. Nothing waits for it.
import type { Outgoing, OutMessage, Person, SaveOutgoing } from '@calm-loop/contract'
import { count, inArray } from 'drizzle-orm'
import type { Pool } from 'pg'
import type { Logger } from 'pino'
import type { Database } from '../db/database.ts'
import { outMessages } from '../db/schema.ts'
import type { Queue } from '../errands/queue.ts'
import { errorWords } from '../log.ts'
import type { Recorders } from '../services/recorders.ts'
import { inOneTurn } from '../services/turns.ts'
import { openBroker, type Broker } from './broker.ts'
import { pointsTold } from './points.ts'
import { isHeard, readOutgoing, saveOutgoing, type KeptOutgoing } from './settings.ts'
import { post } from './webhooks.ts'

/** So often what was told is given on, and the settings are looked at, ms. */
const TURN_ms = 1000
const BATCH = 200
/** A webhook that did not take a message is left alone so long. */
const AWAY_ms = 20_000

export interface Outgoings {
  read(): Promise<Outgoing>
  save(given: SaveOutgoing, person: Person): Promise<Outgoing>
  close(): Promise<void>
}

export async function outgoingFor({
  db,
  pool,
  queue,
  recorders,
  log,
}: {
  readonly db: Database
  readonly pool: Pool
  readonly queue: Queue
  readonly recorders: Recorders
  readonly log: Logger
}): Promise<Outgoings> {
  let set: KeptOutgoing = await readOutgoing(db)
  let broker: Broker | undefined
  let brokerOf = ''
  let restBroker: (() => Promise<void>) | undefined
  let closed = false
  const warn = (error: unknown) => log.warn({ err: errorWords(error) }, 'what others are told waits')

  /** While the broker is reached this server sends what waits for it; of several servers each takes the next. */
  async function work(): Promise<void> {
    const rest = restBroker
    restBroker = undefined
    await rest?.()
    const mine = broker
    if (!mine?.reached || closed) return
    restBroker = await queue.work<{ message: OutMessage }>('broker', async ({ message }) => {
      if (set.mqtt.on) await mine.publish(message)
    })
  }
  let working: Promise<void> = Promise.resolve()
  /** One after the other, by how it stands when its turn comes. */
  const turned = () => (working = working.then(work).catch(warn))
  async function follow(): Promise<void> {
    set = await readOutgoing(db)
    const wanted = set.mqtt.on && set.mqtt.url ? JSON.stringify(set.mqtt) : ''
    if (wanted === brokerOf || closed) return
    brokerOf = wanted
    const before = broker
    broker = undefined
    await turned()
    await before?.close()
    if (wanted) broker = openBroker(set.mqtt, () => void turned())
  }

  /** What was told goes into the queue of each who listens, in its order; where nobody does it goes. */
  const giveOn = () =>
    inOneTurn(db, 'out messages', async (tx, client) => {
      const rows = await tx.select().from(outMessages).orderBy(outMessages.seq).limit(BATCH)
      for (const { body } of rows) {
        if (set.mqtt.on && set.mqtt.url) await queue.send('broker', { message: body }, client)
        for (const hook of set.hooks)
          if (hook.on && body.kind !== 'state' && hook.what.includes(body.kind))
            await queue.send('webhooks', { hook: hook.id, message: body }, client)
      }
      const last = rows.at(-1)
      if (last)
        await tx.delete(outMessages).where(
          inArray(
            outMessages.seq,
            rows.map((r) => r.seq),
          ),
        )
      return rows.length === BATCH
    })
  let turning = false
  async function turn(): Promise<void> {
    if (turning || closed) return
    turning = true
    try {
      await follow()
      const { rows } = await pool.query('select from out_messages limit 1')
      if (rows.length) while (await giveOn());
    } catch (error) {
      warn(error)
    } finally {
      turning = false
    }
  }
  const timer = setInterval(() => void turn(), TURN_ms)
  timer.unref()

  const awayUntil = new Map<string, number>()
  const restHooks = await queue.work<{ hook: string; message: OutMessage }>('webhooks', async ({ hook, message }) => {
    const now = set.hooks.find((h) => h.id === hook)
    // Taken off meanwhile: nobody waits for it.
    if (!now?.on) return
    // The others do not wait for one that is away, message by message.
    if ((awayUntil.get(hook) ?? 0) > performance.now()) throw new Error('It did not answer a moment ago.')
    await post(now, message).catch((error: unknown) => {
      awayUntil.set(hook, performance.now() + AWAY_ms)
      throw error
    })
    awayUntil.delete(hook)
  })
  const points = pointsTold(db, (message) => {
    // How a point stands is worth nothing later, and is not kept.
    if (message.kind === 'state') return void broker?.publish(message).catch(() => undefined)
    void db.insert(outMessages).values({ body: message }).catch(warn)
  })
  recorders.onSeen((loopId, seen) => void (isHeard(set) && points.seen(loopId, seen)))

  async function read(): Promise<Outgoing> {
    const now = await readOutgoing(db)
    const [told] = await db.select({ n: count() }).from(outMessages)
    const { password, ...mqtt } = now.mqtt
    return {
      mqtt: { ...mqtt, hasPassword: password !== '' },
      hooks: now.hooks.map(({ secret, ...hook }) => ({ ...hook, hasSecret: secret !== '' })),
      broker: { reached: broker?.reached ?? false, says: broker?.says ?? '' },
      waiting: (told?.n ?? 0) + (await queue.waiting('broker')) + (await queue.waiting('webhooks')),
    }
  }
  return {
    read,
    async save(given, person) {
      const { mqtt } = await saveOutgoing(db, given, person)
      // Switched off, nobody waits for what was to be told; switched on, it begins with what happens then.
      if (!mqtt.on) await queue.empty('broker')
      await follow()
      return read()
    },
    async close() {
      closed = true
      clearInterval(timer)
      await turned()
      await restHooks()
      await broker?.close()
    },
  }
}
