// The server as an Express application: guards, routes, the built web application, and the answer to errors.
import compression from 'compression'
import express, { type Express } from 'express'
import helmet from 'helmet'
import { randomUUID } from 'node:crypto'
import { join } from 'node:path'
import type pg from 'pg'
import type { Logger } from 'pino'
import { pinoHttp } from 'pino-http'
import { sessionGuards } from './auth/sessions.ts'
import type { Database } from './db/database.ts'
import { mounter } from './http/mount.ts'
import { answerProblem, HttpProblem } from './http/problems.ts'
import { linksFor, type Links } from './link/links.ts'
import { mountAccess } from './routes/access.ts'
import { mountChecks } from './routes/checks.ts'
import { mountCounting } from './routes/counting.ts'
import { mountWiring } from './routes/wiring.ts'
import { mountDescriptions } from './routes/descriptions.ts'
import { mountLinks } from './routes/links.ts'
import { mountWork } from './routes/work.ts'
import { mountLoops } from './routes/loops.ts'
import type { EventHub } from './services/events.ts'
import { sessionSecret } from './services/settings.ts'

export interface Parts {
  readonly db: Database
  readonly pool: pg.Pool
  readonly hub: EventHub
  readonly log: Logger
  readonly webRoot?: string | undefined
}

export async function makeApp(parts: Parts): Promise<{ app: Express; links: Links }> {
  const { db, pool, hub, log, webRoot } = parts
  const app = express()
  app.disable('x-powered-by')
  app.use(
    pinoHttp({ logger: log, genReqId: () => randomUUID(), autoLogging: { ignore: (req) => req.url === '/healthz' } }),
  )
  app.use(
    helmet({
      contentSecurityPolicy: {
        // Vuetify writes its theme into a style element; nothing else is inline and nothing leaves the origin.
        directives: {
          defaultSrc: ["'self'"],
          styleSrc: ["'self'", "'unsafe-inline'"],
          imgSrc: ["'self'", 'data:'],
          fontSrc: ["'self'"],
          connectSrc: ["'self'"],
          workerSrc: ["'self'", 'blob:'],
          objectSrc: ["'none'"],
          frameAncestors: ["'none'"],
          upgradeInsecureRequests: null,
        },
      },
      strictTransportSecurity: false,
    }),
  )
  app.use(
    compression({
      filter: (req, res) => res.getHeader('content-type') !== 'text/event-stream' && compression.filter(req, res),
    }),
  )

  app.get('/healthz', (_req, res) => void res.json({ ok: true }))
  app.get('/readyz', async (_req, res) => {
    await pool.query('select 1')
    res.json({ ok: true })
  })

  const links = linksFor(db)
  const mount = mounter(app, sessionGuards(db, pool, await sessionSecret(db)))
  mountAccess(mount, db)
  mountLoops(mount, db, hub)
  mountChecks(mount, db)
  mountWiring(mount, db)
  mountLinks(mount, db, links)
  mountCounting(mount, db, links)
  mountWork(mount, db, links)
  mountDescriptions(mount)

  app.use('/api', () => {
    throw new HttpProblem(404, 'not-found', 'There is no such address.')
  })
  if (webRoot) {
    app.use(
      express.static(webRoot, {
        index: false,
        setHeaders: (res, path) =>
          res.setHeader(
            'cache-control',
            path.includes('/assets/') ? 'public, max-age=31536000, immutable' : 'no-cache',
          ),
      }),
    )
    app.get(
      /^(?!\/api\/).*/,
      (_req, res) => void res.set('cache-control', 'no-cache').sendFile(join(webRoot, 'index.html')),
    )
  }
  app.use(answerProblem)
  return { app, links }
}
