// The audit trail, the keys of seals, and whether a certificate's fingerprint stands.
import { rateLimit } from 'express-rate-limit'
import type { Database } from '../db/database.ts'
import type { Mount } from '../http/mount.ts'
import { HttpProblem } from '../http/problems.ts'
import { auditPage, exportAudit } from '../services/audit.ts'
import { fingerprintStands, listKeys, trustKey } from '../services/seal-keys.ts'
import type { Workers } from '../workers/pool.ts'

/** Anyone may ask whether a fingerprint stands, but not try them out. */
const ASKED_A_MINUTE = 60

export function mountAudit(mount: Mount, db: Database, workers: Workers): void {
  mount('audit', ({ query }) => auditPage(db, query))
  mount('auditCsv', async ({ query, res, signal }) => {
    const text = await workers.run('auditCsv', await exportAudit(db, query), signal)
    res.type('text/csv; charset=utf-8').attachment('audit.csv').send(text)
  })
  mount('sealKeys', () => listKeys(db))
  mount('trustKey', ({ params, body, person }) => trustKey(db, params.keyId, body, person.id))
  mount(
    'verify',
    async ({ params }) => ({ stands: await fingerprintStands(db, params.digest) }),
    rateLimit({
      windowMs: 60_000,
      limit: ASKED_A_MINUTE,
      standardHeaders: 'draft-8',
      legacyHeaders: false,
      handler: () => {
        throw new HttpProblem(429, 'too-many-tries', 'Too many questions in a minute. Wait a little.', {
          retryAfter_s: 60,
        })
      },
    }),
  )
}
