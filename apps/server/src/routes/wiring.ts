// The wiring log, and the wiring sheet as PDF, SVG and CSV.
import type { Database } from '../db/database.ts'
import type { Signal } from '../documents/wiring-sheet.ts'
import type { Workers } from '../workers/pool.ts'
import type { Mount } from '../http/mount.ts'
import { readFolder } from '../services/folder.ts'
import { readPaperHead } from '../services/paper-head.ts'
import { addWireEntry } from '../services/wire-log.ts'

/** Middle of the signal: the loop current for which volts are given unless another is asked for, mA. */
const MIDDLE_mA = 12

const signalOf = (query: { mA?: number | undefined; target?: '0' | '1' | undefined }): Signal => ({
  mA: query.mA ?? MIDDLE_mA,
  target: query.target !== '0',
})

export function mountWiring(mount: Mount, db: Database, workers: Workers): void {
  mount('addWireEntry', ({ params: p, body, person }) =>
    addWireEntry({ db, loopId: p.loopId, id: p.entryId, entry: body, person }),
  )
  mount('wiringPdf', async ({ params, query, res, signal }) => {
    const folder = await readFolder(db, params.loopId)
    res
      .type('application/pdf')
      .set('content-disposition', `inline; filename="${folder.loop.tag} wiring.pdf"`)
      .send(await workers.run('wiringPdf', { folder, signal: signalOf(query), site: await readPaperHead(db) }, signal))
  })
  mount('wiringSvg', async ({ params, query, res, signal }) => {
    const folder = await readFolder(db, params.loopId)
    res
      .type('image/svg+xml')
      .attachment(`${folder.loop.tag} wiring.svg`)
      .send(await workers.run('wiringSvg', { folder, signal: signalOf(query) }, signal))
  })
  mount('wiringCsv', async ({ params, query, res, signal }) => {
    const folder = await readFolder(db, params.loopId)
    res
      .type('text/csv; charset=utf-8')
      .attachment(`${folder.loop.tag} wiring.csv`)
      .send(await workers.run('wiringCsv', { folder, signal: signalOf(query) }, signal))
  })
  mount('loopDrawing', async ({ params, query, res, signal }) => {
    const folder = await readFolder(db, params.loopId)
    const asked = { folder, paper: query.paper ?? 'A4', site: await readPaperHead(db) }
    res
      .type('application/pdf')
      .set('content-disposition', `inline; filename="${folder.loop.tag} loop drawing.pdf"`)
      .send(await workers.run('loopDrawing', asked, signal))
  })
  mount('wiringList', async ({ params, query, res, signal }) => {
    const folder = await readFolder(db, params.loopId)
    res
      .type('text/csv; charset=utf-8')
      .attachment(`${folder.loop.tag} ${params.list}.csv`)
      .send(await workers.run('wiringList', { folder, list: params.list, signal: signalOf(query) }, signal))
  })
}
