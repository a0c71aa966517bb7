// Of all servers on one database one alone holds a port: advisory locks on one connection of this server’s own, which
// end with the server whatever becomes of it.
import pg from 'pg'

export interface Hold {
  release(): void
}
export interface Holds {
  /** The right to a port; undefined where somebody has it. @param lost the right is gone */
  hold(portId: string, lost: () => void): Promise<Hold | undefined>
  close(): Promise<void>
}

export function holdsFor(pool: pg.Pool): Holds {
  const held = new Map<string, () => void>()
  let connected: Promise<pg.Client> | undefined
  const gone = () => {
    connected = undefined
    const all = [...held.values()]
    held.clear()
    all.forEach((lost) => lost())
  }
  const connect = () =>
    (connected ??= (async () => {
      const client = new pg.Client(pool.options)
      client.on('error', gone)
      client.on('end', gone)
      await client.connect()
      return client
    })().catch((error: unknown) => {
      connected = undefined
      throw error
    }))
  const key = (portId: string) => [`port ${portId}`]
  return {
    async hold(portId, lost) {
      if (held.has(portId)) return undefined
      held.set(portId, lost)
      try {
        const client = await connect()
        const asked = 'select pg_try_advisory_lock(hashtextextended($1, 17)) mine'
        const { rows } = await client.query<{ mine: boolean }>(asked, key(portId))
        if (!rows[0]?.mine) {
          held.delete(portId)
          return undefined
        }
      } catch (error) {
        held.delete(portId)
        throw error
      }
      return {
        release() {
          if (!held.delete(portId)) return
          const asked = 'select pg_advisory_unlock(hashtextextended($1, 17))'
          void connected?.then((client) => client.query(asked, key(portId))).catch(() => undefined)
        },
      }
    },
    async close() {
      held.clear()
      const client = await connected?.catch(() => undefined)
      client?.removeAllListeners('end')
      await client?.end().catch(() => undefined)
    },
  }
}
