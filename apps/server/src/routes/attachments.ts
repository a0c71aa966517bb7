// Photographs and papers of loops.
import type { Database } from '../db/database.ts'
import type { Mount } from '../http/mount.ts'
import { attach, fileOf, listAttachments, noteAttachment, smallOf } from '../services/attachments.ts'

/** It never becomes another. */
const FOR_EVER = 'private, max-age=31536000, immutable'

export function mountAttachments(mount: Mount, db: Database): void {
  mount('attachments', ({ params }) => listAttachments(db, params.loopId))
  mount('attach', ({ params, query, body, person, waited_ms }) => {
    const note = { shows: query.shows ?? 'other', words: query.words ?? '', marks: [], hidden: null }
    return attach(db, params, { bytes: body, name: query.name ?? '', note, waited_ms }, person)
  })
  mount('noteAttachment', ({ params, body, person }) =>
    db.transaction((tx) => noteAttachment(tx, params, body, person)),
  )
  mount('attachmentSmall', async ({ params, res }) => {
    res
      .type('image/webp')
      .set('cache-control', FOR_EVER)
      .send(await smallOf(db, params))
  })
  mount('attachmentFile', async ({ params, query, res }) => {
    const { name, media, bytes } = await fileOf(db, params, query.whole === 'yes')
    // By what it is, whatever its name says.
    res.attachment(name).type(media).send(bytes)
  })
}
