// Long work that any server does.
import { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import type { Database } from '../db/database.ts'
import type { Errands } from '../errands/errands.ts'
import type { Mount } from '../http/mount.ts'
import { HttpProblem } from '../http/problems.ts'
import { keepListMapping, readListMapping } from '../services/list-mappings.ts'
import { tagsTaken } from '../services/plant.ts'

interface ErrandParts {
  readonly db: Database
  readonly errands: Errands
  readonly backups: boolean
  readonly publicUrl?: string | undefined
}

export function mountErrands(mount: Mount, { db, errands, backups, publicUrl }: ErrandParts): void {
  mount('errands', async ({ person }) => ({ errands: await errands.list(person), backups }))
  mount('beginErrand', async ({ params, body, person, req }) => {
    if (body.what === 'backup' && !person.roles.includes('administrator'))
      throw new HttpProblem(403, 'wrong-role', 'Only an administrator may do this.')
    if (body.what === 'backup' && !backups)
      throw new HttpProblem(409, 'no-backups', 'This server makes no backups: none were set up, or they are off.')
    return errands.begin(params.errandId, body, { person, address: publicUrl ?? `${req.protocol}://${req.host}` })
  })
  mount('errandPart', ({ params, body, person }) =>
    errands.takePart(params.errandId, Number(params.part), body, person),
  )
  mount('tagsTaken', async ({ body }) => ({ taken: await tagsTaken(db, body.tags) }))
  mount('listMapping', async ({ body }) => ({ mapping: await readListMapping(db, body.heads) }))
  mount('keepListMapping', async ({ body, person }) => ({
    mapping: await keepListMapping(db, body.heads, body.mapping, person),
  }))
  mount('cancelErrand', ({ params, person }) => errands.cancel(params.errandId, person))
  mount('errandFile', async ({ params, person, res, signal }) => {
    const { name, parts } = await errands.file(params.errandId, person)
    res.type('application/zip').attachment(name)
    await pipeline(Readable.from(parts, { objectMode: false }), res).catch((error: unknown) => {
      if (!signal.aborted) throw error
    })
  })
}
