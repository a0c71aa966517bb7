// The queue of work that any server may do: kept in the same database, in a schema of its own.
import PgBoss from 'pg-boss'
import { v7 as uuid } from 'uuid'
import type { Client, ClientBase, Pool } from 'pg'
import type { Logger } from 'pino'
import { APPLICATION_ROLE } from '../db/role.ts'
import { errorWords } from '../log.ts'

const SCHEMA = 'queue'
/** Each with how often it is tried again. */
export const QUEUES = {
  errands: { retryLimit: 2, retryDelay: 1, expireInSeconds: 12 * 3600, retentionMinutes: 7 * 24 * 60 },
  /** Only of servers that make backups. */
  backups: { retryLimit: 2, retryDelay: 1, expireInSeconds: 12 * 3600, retentionMinutes: 7 * 24 * 60 },
  /** Sent by whichever server reaches the broker, in its order. */
  broker: { retryLimit: 100_000, retryDelay: 2, expireInSeconds: 60, retentionMinutes: 7 * 24 * 60 },
  /** Each time after twice as long, at most 18 to 36 h: 7 to 14 days in all. */
  webhooks: { retryLimit: 24, retryDelay: 2, retryBackoff: true, expireInSeconds: 60, retentionMinutes: 14 * 24 * 60 },
} as const
export type QueueName = keyof typeof QUEUES

/** Makes the queue’s tables where there are none, as their owner; they are no records. */
export async function makeQueue(client: Client): Promise<void> {
  const { rows } = await client.query<{ there: string | null }>(`select to_regclass('${SCHEMA}.version')::text there`)
  if (!rows[0]?.there) await client.query(PgBoss.getConstructionPlans(SCHEMA))
  const known = await client.query<{ name: string }>(`select name from ${SCHEMA}.queue`)
  for (const [name, options] of Object.entries(QUEUES))
    if (!known.rows.some((q) => q.name === name))
      await client.query(`select ${SCHEMA}.create_queue($1, $2)`, [name, JSON.stringify(options)])
  await client.query(`
    grant usage on schema ${SCHEMA} to ${APPLICATION_ROLE};
    grant select, insert, update, delete on all tables in schema ${SCHEMA} to ${APPLICATION_ROLE}`)
}

export interface Queue {
  /** @param within a transaction: it is queued only if that commits */
  send(name: QueueName, data: object, within?: ClientBase): Promise<void>
  /** Does what is queued, one after the other, until the returned function is called. */
  work<T extends object>(name: QueueName, does: (data: T) => Promise<void>): Promise<() => Promise<void>>
  /** What waits in a queue is done by nobody any more. */
  empty(name: QueueName): Promise<void>
  /** How many wait in a queue, or are tried again. */
  waiting(name: QueueName): Promise<number>
  close(): Promise<void>
}

export async function openQueue(pool: Pool, log: Logger): Promise<Queue> {
  const through = (client: Pick<ClientBase, 'query'>): PgBoss.Db => ({
    executeSql: (text, values) => client.query(text, values),
  })
  const boss = new PgBoss({
    db: through(pool),
    schema: SCHEMA,
    migrate: false,
    schedule: false,
    monitorStateIntervalSeconds: 3600,
  })
  boss.on('error', (error) => log.warn({ err: errorWords(error) }, 'the queue'))
  await boss.start()
  return {
    async send(name, data, within) {
      // Of several in one transaction the first is done first: they are of one moment, and told apart by their ids.
      await boss.send(name, data, { id: uuid(), ...(within ? { db: through(within) } : {}) })
    },
    async work<T extends object>(name: QueueName, does: (data: T) => Promise<void>) {
      const id = await boss.work<T>(name, { batchSize: 1, pollingIntervalSeconds: 0.5 }, async ([job]) => {
        if (job) await does(job.data)
      })
      return () => boss.offWork({ id })
    },
    empty: (name) => boss.purgeQueue(name),
    async waiting(name) {
      const { rows } = await pool.query<{ n: number }>(
        `select count(*)::int n from ${SCHEMA}.job where name = $1 and state < 'completed'`,
        [name],
      )
      return rows[0]?.n ?? 0
    },
    close: () => boss.stop({ graceful: false, close: false, wait: false }),
  }
}
