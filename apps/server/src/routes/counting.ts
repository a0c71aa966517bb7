// What a discrete point counts: its changes, stops and rejected pieces; and the states of many points at once.
import { stringify } from 'csv-stringify/sync'
import { coreTrain, inWorld } from '@calm-loop/contract'
import { edgesOf } from '@calm-loop/core/discrete'
import { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import type { Database } from '../db/database.ts'
import { openEventStream, type Mount } from '../http/mount.ts'
import type { Links } from '../link/links.ts'
import { atTheDevice } from '../link/relay.ts'
import type { Recorders } from '../services/recorders.ts'
import type { Workers } from '../workers/pool.ts'
import { addCountEntry, addEdges } from '../services/counting.ts'
import { readFolder, wholeTrains } from '../services/folder.ts'
import { watchedPoints, watchStates } from '../services/watch.ts'

const BATCH = 1000

export function mountCounting(
  mount: Mount,
  { db, links, workers, recorders }: { db: Database; links: Links; workers: Workers; recorders: Recorders },
): void {
  mount('recorded', ({ params }) => recorders.now(params.loopId), atTheDevice(links))
  mount('recordPoint', ({ params, body, person }) => recorders.set(params.loopId, body.on, person), atTheDevice(links))
  mount('addEdges', ({ params: p, body, person }) =>
    addEdges({ db, workers, loopId: p.loopId, id: p.trainId, train: body, person }),
  )
  mount('addCountEntry', ({ params: p, body, person }) =>
    addCountEntry({ db, loopId: p.loopId, id: p.entryId, entry: body, person }),
  )
  mount('edges', async ({ params, res, signal }) => {
    await readFolder(db, params.loopId)
    // Half a million changes are one long text: made where nobody waits for it.
    res.type('application/json').send(await workers.run('json', await wholeTrains(db, params.loopId), signal))
  })
  mount('edgesCsv', async ({ params, res }) => {
    const folder = await readFolder(db, params.loopId)
    // Of the world that the loop is in: what was practised stands in no file of the record.
    const practising = !!folder.bench
    const trains = inWorld(await wholeTrains(db, params.loopId), practising).map(coreTrain)
    res.type('text/csv; charset=utf-8').attachment(`${folder.loop.tag} edges${practising ? ' PRACTICE' : ''}.csv`)
    // Two million rows: in batches, so that others are served between them, and not compressed, which would take
    // longer still.
    const text = (rows: unknown[][]) => stringify(rows, { record_delimiter: 'windows' })
    const batches = function* () {
      let batch: unknown[][] = [['time', 'state', ...(practising ? ['world'] : [])]]
      for (const { t_ms, state } of edgesOf(trains)) {
        if (batch.push([new Date(t_ms).toISOString(), state ? 1 : 0, ...(practising ? ['PRACTICE'] : [])]) < BATCH)
          continue
        yield text(batch)
        batch = []
      }
      yield text(batch)
    }
    res.set('cache-control', 'no-store, no-transform')
    await pipeline(Readable.from(batches()), res)
  })
  mount('watchPoints', () => watchedPoints(db, workers))
  mount('watchStream', async ({ res }) => {
    let stop: () => void = () => undefined
    const send = openEventStream(res, () => stop())
    const end = await watchStates(db, workers, links, (states) => send('states', states))
    if (res.closed || res.destroyed) end()
    else stop = end
  })
}
