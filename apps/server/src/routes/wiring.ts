// The wiring log, and the wiring sheet as PDF, SVG and CSV.
import type { Database } from '../db/database.ts'
import { wiringCsv, wiringPdf, wiringSvg } from '../documents/wiring-sheet.ts'
import type { Mount } from '../http/mount.ts'
import { readFolder } from '../services/folder.ts'
import { addWireEntry } from '../services/wire-log.ts'

/** Middle of the signal: the loop current for which volts are given unless another is asked for, mA. */
const MIDDLE_mA = 12

export function mountWiring(mount: Mount, db: Database): void {
  mount('addWireEntry', ({ params: p, body, person }) => addWireEntry(db, p.loopId, p.entryId, body, person))
  mount('wiringPdf', async ({ params, query, res }) => {
    const folder = await readFolder(db, params.loopId)
    res
      .type('application/pdf')
      .set('content-disposition', `inline; filename="${folder.loop.tag} wiring.pdf"`)
      .send(await wiringPdf(folder, query.mA ?? MIDDLE_mA))
  })
  mount('wiringSvg', async ({ params, query, res }) => {
    const folder = await readFolder(db, params.loopId)
    res
      .type('image/svg+xml')
      .attachment(`${folder.loop.tag} wiring.svg`)
      .send(await wiringSvg(folder, query.mA ?? MIDDLE_mA))
  })
  mount('wiringCsv', async ({ params, query, res }) => {
    const folder = await readFolder(db, params.loopId)
    res
      .type('text/csv; charset=utf-8')
      .attachment(`${folder.loop.tag} wiring.csv`)
      .send(await wiringCsv(folder, query.mA ?? MIDDLE_mA))
  })
}
