// Who is told what.
import type { Mount } from '../http/mount.ts'
import type { Outgoings } from '../outgoing/outgoing.ts'
import type { Workers } from '../workers/pool.ts'

export function mountOutgoing(mount: Mount, outgoing: Outgoings, workers: Workers): void {
  mount('outgoing', () => outgoing.read())
  mount('saveOutgoing', ({ body, person }) => outgoing.save(body, person))
  mount('outgoingSchema', async ({ res, signal }) => {
    res.type('application/json').send(await workers.run('outSchema', undefined, signal))
  })
}
