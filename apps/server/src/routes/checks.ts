// Checks, readings, gates, signatures, and the documents made from them.
import type { Database } from '../db/database.ts'
import { certificatePdf } from '../documents/certificate.ts'
import { readingsCsv } from '../documents/readings-csv.ts'
import type { Mount } from '../http/mount.ts'
import { notFound } from '../http/problems.ts'
import { confirmGate, sign, startCheck, takeReading } from '../services/checks.ts'
import { readFolder } from '../services/folder.ts'

export function mountChecks(mount: Mount, db: Database): void {
  const find = async (loopId: string, checkId: string) => {
    const folder = await readFolder(db, loopId)
    const check = folder.checks.find((c) => c.id === checkId)
    if (!check) throw notFound('This check')
    return { folder, check, name: `${folder.loop.tag} ${check.startedAt.slice(0, 10)}` }
  }
  mount('startCheck', ({ params: p, body, person }) => startCheck(db, p.loopId, p.checkId, body, person))
  mount('takeReading', ({ params: p, body, person }) => takeReading(db, p.loopId, p.checkId, p.readingId, body, person))
  mount('confirmGate', ({ params: p, body, person }) => confirmGate(db, p.loopId, p.checkId, p.gateId, body, person))
  mount('sign', ({ params: p, body, person }) => sign(db, p.loopId, p.checkId, p.signatureId, body, person))
  mount('certificate', async ({ params, res }) => {
    const { folder, check, name } = await find(params.loopId, params.checkId)
    res
      .type('application/pdf')
      .set('content-disposition', `inline; filename="${name} certificate.pdf"`)
      .send(await certificatePdf(folder, check))
  })
  mount('readingsCsv', async ({ params, res }) => {
    const { folder, check, name } = await find(params.loopId, params.checkId)
    const entries = folder.versions.find((v) => v.id === check.versionId)?.entries ?? {}
    res
      .type('text/csv; charset=utf-8')
      .attachment(`${name} readings.csv`)
      .send(readingsCsv(folder.loop.kind, entries, check))
  })
}
