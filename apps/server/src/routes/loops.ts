// The register, folders, versions, bundles.
import { pipeline } from 'node:stream/promises'
import { MOST_LABELS } from '@calm-loop/contract'
import { KINDS } from '@calm-loop/core/kinds'
import type { Database } from '../db/database.ts'
import { notFound } from '../http/problems.ts'
import { openEventStream, type Mount } from '../http/mount.ts'
import { importBundle } from '../services/bundles.ts'
import type { EventHub } from '../services/events.ts'
import { readFolder, readWholeFolder } from '../services/folder.ts'
import { readSiteHead } from '../services/judging.ts'
import { createLoop, listWhole, saveVersion, type Register } from '../services/loops.ts'
import { importRegister, registerCsv } from '../services/register-csv.ts'
import { installationId } from '../services/settings.ts'
import { inOneTurn } from '../services/turns.ts'
import type { Workers } from '../workers/pool.ts'

export function mountLoops(
  mount: Mount,
  { db, register, hub, workers }: { db: Database; register: Register; hub: EventHub; workers: Workers },
): void {
  hub.onLoop(({ loopId }) => register.forget(loopId))
  mount('loops', ({ query }) => register.list(query))
  mount('labelsPdf', async ({ query, res, signal }) => {
    const { loopId, sheet, from, ...of } = query
    const rows = loopId ? [(await readFolder(db, loopId)).loop] : await listWhole(register, of, MOST_LABELS)
    if (!rows.length) throw notFound('A loop of this filter')
    const site = (await readSiteHead(db)).name
    const loops = rows.map(({ id, tag, service, area }) => ({ id, tag, service, area }))
    const asked = { installation: await installationId(db), site, loops, sheet, from }
    const pdf = await workers.run('labelsPdf', asked, signal)
    res.type('application/pdf').set('content-disposition', 'inline; filename="labels.pdf"').send(pdf)
  })
  mount('registerCsv', async ({ res, signal }) => {
    res.type('text/csv; charset=utf-8').attachment('loops.csv')
    await pipeline(registerCsv(db, workers, signal), res).catch((error: unknown) => {
      if (!signal.aborted) throw error
    })
  })
  mount('importRegister', ({ body, person }) => importRegister(db, workers, body, person.id).finally(register.grown))
  mount('kinds', async () => KINDS.map(({ id, name, summary, family }) => ({ id, name, summary, family })))
  mount('createLoop', ({ params, body, person }) =>
    inOneTurn(db, `loop ${params.loopId}`, (tx) => createLoop(tx, params.loopId, body, person.id)).finally(
      register.grown,
    ),
  )
  mount('folder', async ({ params }) => {
    const folder = await readFolder(db, params.loopId)
    // What is found out at one place is shown at all.
    if (folder.row.state === 'seal-broken') register.forget(params.loopId)
    return folder
  })
  mount('saveVersion', ({ params, body, person }) =>
    saveVersion({ db, workers, loopId: params.loopId, versionId: params.versionId, save: body, person }),
  )
  mount('bundle', async ({ params, res, signal }) => {
    const folder = await readWholeFolder(db, params.loopId)
    res
      .type('application/json')
      .attachment(`${folder.loop.tag}.calm-loop.json`)
      .send(await workers.run('bundleText', folder, signal))
  })
  mount('importBundle', ({ body, person }) =>
    importBundle(db, workers, body, { byId: person.id }).finally(register.grown),
  )
  mount('bundleSchema', async ({ res, signal }) => {
    res.type('application/json').send(await workers.run('bundleSchema', undefined, signal))
  })
  mount('loopEvents', async ({ params, res }) => {
    const stop = hub.subscribe(params.loopId, (event) => send('change', event))
    const send = openEventStream(res, stop)
  })
}
