// Checks, readings, gates, signatures, and the documents made from them.
import { entriesOfCheck } from '@calm-loop/contract/judging'
import type { Database } from '../db/database.ts'
import type { Mount } from '../http/mount.ts'
import { notFound } from '../http/problems.ts'
import { confirmGate, sign, startCheck, takeReading } from '../services/checks.ts'
import { decide } from '../services/decisions.ts'
import { picturesOnPaper } from '../services/attachments.ts'
import { readPaperHead } from '../services/paper-head.ts'
import { readFolder } from '../services/folder.ts'
import { signRun } from '../services/sign-run.ts'
import { verificationIn } from '../services/verification-in.ts'
import type { SampleTokens } from '../link/samples.ts'
import type { Sealer } from '../seals/sealer.ts'
import type { Workers } from '../workers/pool.ts'

export interface CheckParts {
  readonly db: Database
  readonly workers: Workers
  readonly sealer: Sealer
  readonly samples: SampleTokens
  /**
   * Where certificates can be verified: the address under which the application is reached; that of the request when
   * not given.
   */
  readonly publicUrl?: string | undefined
}

export function mountChecks(mount: Mount, { db, workers, sealer, samples, publicUrl }: CheckParts): void {
  const find = async (loopId: string, checkId: string) => {
    const folder = await readFolder(db, loopId)
    const check = folder.checks.find((c) => c.id === checkId)
    if (!check) throw notFound('This check')
    return { folder, check, name: `${folder.loop.tag} ${check.startedAt.slice(0, 10)}` }
  }
  mount('startCheck', ({ params: p, body, person, waited_ms }) =>
    startCheck({ db, workers, loopId: p.loopId, checkId: p.checkId, start: body, person, waited_ms }),
  )
  mount('takeReading', ({ params: p, body, person, waited_ms }) =>
    takeReading({
      ...{ db, samples, loopId: p.loopId, checkId: p.checkId, id: p.readingId },
      ...{ take: body, person, waited_ms },
    }),
  )
  mount('confirmGate', ({ params: p, body, person, waited_ms }) =>
    confirmGate({ db, loopId: p.loopId, checkId: p.checkId, id: p.gateId, gate: body, person, waited_ms }),
  )
  mount('sign', ({ params: p, body, person, waited_ms }) =>
    sign({
      ...{ db, workers, sealer, loopId: p.loopId, checkId: p.checkId, id: p.signatureId },
      ...{ wish: body, person, waited_ms },
    }),
  )
  mount('decide', ({ params: p, body, person }) =>
    decide({ db, workers, loopId: p.loopId, id: p.entryId, wish: body, person }),
  )
  mount('certificate', async ({ params, req, res, signal }) => {
    const { folder, check, name } = await find(params.loopId, params.checkId)
    const address = publicUrl ?? `${req.protocol}://${req.host}`
    const [site, pictures] = [await readPaperHead(db), await picturesOnPaper(db, params.loopId)]
    res
      .type('application/pdf')
      .set('content-disposition', `inline; filename="${name} certificate.pdf"`)
      .send(await workers.run('certificate', { folder, check, paper: { address, site, pictures } }, signal))
  })
  mount('signRun', ({ params: p, body, person }) =>
    signRun({ db, sealer, loopId: p.loopId, run: p.runId, id: p.entryId, wish: body, person }),
  )
  mount('runCertificate', async ({ params, req, res, signal }) => {
    const folder = await readFolder(db, params.loopId)
    const { number } = verificationIn(folder, params.runId)
    const address = publicUrl ?? `${req.protocol}://${req.host}`
    const paper = { address, site: await readPaperHead(db) }
    const pdf = await workers.run('runCertificate', { folder, run: params.runId, paper }, signal)
    res
      .type('application/pdf')
      .set('content-disposition', `inline; filename="${number.replaceAll('/', ' ')} certificate.pdf"`)
      .send(pdf)
  })
  mount('readingsCsv', async ({ params, res, signal }) => {
    const { folder, check, name } = await find(params.loopId, params.checkId)
    const entries = entriesOfCheck(folder.loop.kind, folder.versions, check)
    res
      .type('text/csv; charset=utf-8')
      .attachment(`${name} readings.csv`)
      .send(await workers.run('readingsCsv', { kind: folder.loop.kind, entries, check }, signal))
  })
}
