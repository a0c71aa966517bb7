// The server as an Express application: guards, routes, the built web application, and the answer to errors.
import compression from 'compression'
import staticGzip from 'express-static-gzip'
import express, { type Express, type Request, type Response } from 'express'
import helmet from 'helmet'
import { createServer, type Server } from 'node:http'
import { join } from 'node:path'
import type pg from 'pg'
import type { Logger } from 'pino'
import { forgetOldGuesses } from './auth/guessing.ts'
import { sessionGuards, sweepStreams } from './auth/sessions.ts'
import type { Database } from './db/database.ts'
import { doersOf, type BackupsInto } from './errands/doers.ts'
import { errandsFor, type Errands } from './errands/errands.ts'
import type { Queue } from './errands/queue.ts'
import { mounter } from './http/mount.ts'
import { answerProblem, databaseAway, HttpProblem } from './http/problems.ts'
import { makeStreams } from './http/streams.ts'
import { requestLog } from './log.ts'
import { sampleTokens } from './link/samples.ts'
import { linksFor, type Links } from './link/links.ts'
import { outgoingFor, type Outgoings } from './outgoing/outgoing.ts'
import { mountAccess } from './routes/access.ts'
import { mountAudit } from './routes/audit.ts'
import { mountChecks } from './routes/checks.ts'
import { mountCounting } from './routes/counting.ts'
import { mountErrands } from './routes/errands.ts'
import { mountOutgoing } from './routes/outgoing.ts'
import { mountRound } from './routes/round.ts'
import { mountWaiting } from './routes/waiting.ts'
import { mountWiring } from './routes/wiring.ts'
import { mountDescriptions } from './routes/descriptions.ts'
import { mountLinks } from './routes/links.ts'
import { mountWork } from './routes/work.ts'
import { mountAttachments } from './routes/attachments.ts'
import { mountLoops } from './routes/loops.ts'
import { mountPorts } from './routes/ports.ts'
import { portsFor } from './ports/ports.ts'
import type { StandIns } from './ports/registry.ts'
import type { EventHub } from './services/events.ts'
import { registerOf } from './services/loops.ts'
import { recordersFor, type Recorders } from './services/recorders.ts'
import type { Sealer } from './seals/sealer.ts'
import { roundOf } from './services/sealed-register.ts'
import { surveysFor, type Surveys } from './services/surveys.ts'
import { linkSecret, sessionSecret } from './services/settings.ts'
import type { Workers } from './workers/pool.ts'
import { sure } from '@calm-loop/core/sure'

export interface Parts {
  readonly db: Database
  readonly pool: pg.Pool
  readonly hub: EventHub
  readonly log: Logger
  readonly webRoot?: string | undefined
  readonly workers: Workers
  readonly sealer: Sealer
  readonly trustProxy?: string | undefined
  readonly publicUrl?: string | undefined
  /** Holds every answer against the contract: in tests and in development. */
  readonly proveAnswers?: boolean | undefined
  /** How many times faster than a clock simulated devices go on: for tests. */
  readonly benchPace?: number | undefined
  /** Stand-ins of the bench that the start command runs. */
  readonly standIns?: StandIns | undefined
  readonly queue: Queue
  /** Where backups go that are asked for on a page; none are made when not given. */
  readonly backups?: BackupsInto | undefined
}

const READY_ms = 1500
const SWEEP_ms = 20_000
const ROUND_ms = 10_000

/** Whether the database answers, and takes writes, in time. */
async function databaseAnswers(pool: pg.Pool): Promise<boolean> {
  const late = new Promise<false>((resolve) => setTimeout(() => resolve(false), READY_ms).unref())
  const asked = pool.query<{ standby: boolean }>('select pg_is_in_recovery() standby').then(
    (r) => !sure(r.rows[0]).standby,
    () => false,
  )
  return Promise.race([asked, late])
}

/** A connection is kept open longer than proxies keep theirs: none asks over one that is being closed. */
const KEPT_OPEN_ms = 65_000
/**
 * The HTTP server of an application. What still goes wrong when an answer has been given is logged in our words, never
 * printed whole.
 */
export function serverOf(app: Express, log: Logger): Server {
  return createServer({ keepAliveTimeout: KEPT_OPEN_ms }, (req, res) =>
    app(req as Request, res as Response, (error?: unknown) => {
      if (error) log.warn({ err: error }, 'failed after the answer')
      if (!res.writableEnded) res.destroy()
    }),
  )
}

export async function makeApp(parts: Parts): Promise<{
  app: Express
  links: Links
  surveys: Surveys
  errands: Errands
  recorders: Recorders
  outgoing: Outgoings
}> {
  const { db, pool, hub, log, webRoot, workers, sealer, publicUrl } = parts
  const app = express()
  app.disable('x-powered-by')
  if (parts.trustProxy !== undefined)
    app.set('trust proxy', /^\d+$/.test(parts.trustProxy) ? Number(parts.trustProxy) : parts.trustProxy)
  app.use(requestLog(log))
  app.use(
    helmet({
      contentSecurityPolicy: {
        // Vuetify writes its theme into a style element; nothing else is inline and nothing leaves the origin.
        directives: {
          defaultSrc: ["'self'"],
          // What reads plates is compiled by the browser (WebAssembly); no text becomes a program.
          scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
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
  app.use((req, res, next) => {
    if (req.secure) res.set('strict-transport-security', 'max-age=15552000')
    next()
  })
  app.use(
    compression({
      filter: (req, res) => res.getHeader('content-type') !== 'text/event-stream' && compression.filter(req, res),
    }),
  )

  app.get('/healthz', (_req, res) => void res.json({ ok: true }))
  app.get('/readyz', async (_req, res) => {
    if (!(await databaseAnswers(pool))) throw databaseAway()
    res.json({ ok: true })
  })

  // What the interface tells is for the one who asked, now.
  app.use('/api', (_req, res, next) => {
    res.set('cache-control', 'no-store')
    next()
  })
  const streams = makeStreams()
  app.locals['streams'] = streams
  hub.onSessionsEnded((ended) => streams.end(ended))
  hub.onDatabase(streams.database)
  const tidy = () => Promise.all([sweepStreams(db, streams), forgetOldGuesses(db)])
  const sweep = setInterval(() => void tidy().catch(() => undefined), SWEEP_ms)
  sweep.unref()

  const ports = portsFor(db, pool, parts.standIns ?? [])
  const links = linksFor(db, ports, parts.benchPace)
  const samples = sampleTokens(await linkSecret(db))
  const guards = sessionGuards({ db, pool, secret: await sessionSecret(db), log, workers })
  const { mount, doOne } = mounter(app, { ...guards, proveAnswers: parts.proveAnswers ?? false })
  // The first are found the soonest: folders and the register are asked for most.
  const register = registerOf(db, pool)
  const round = roundOf(db, register)
  setInterval(() => void round().catch(() => undefined), ROUND_ms).unref()
  mountLoops(mount, { db, register, hub, workers })
  hub.onSessionsEnded(guards.forget)
  mountAccess(mount, db, guards.forget)
  mountAudit(mount, db, workers)
  mountChecks(mount, { db, workers, sealer, samples, publicUrl })
  mountWiring(mount, db, workers)
  mountWaiting(mount, doOne)
  const recorders = recordersFor({ db, links, workers, log })
  mountLinks(mount, { db, links, ports, samples, recorders })
  mountCounting(mount, { db, links, workers, recorders })
  const surveys = surveysFor(db, links, log)
  mountWork(mount, { db, links, workers, surveys })
  mountRound(mount, db, workers)
  mountAttachments(mount, db)
  mountDescriptions(mount, workers)
  mountPorts(mount, db, ports)
  const doers = doersOf({ db, workers, register, backups: parts.backups })
  const errands = await errandsFor({ db, queue: parts.queue, doers, log })
  const outgoing = await outgoingFor({ db, pool, queue: parts.queue, recorders, log })
  mountOutgoing(mount, outgoing, workers)
  mountErrands(mount, { db, errands, backups: !!parts.backups, publicUrl })

  app.use('/api', () => {
    throw new HttpProblem(404, 'not-found', 'There is no such address.')
  })
  if (webRoot) {
    app.use(
      staticGzip(webRoot, {
        index: false,
        enableBrotli: true,
        orderPreference: ['br', 'gz'],
        serveStatic: {
          setHeaders: (res, path) =>
            res.setHeader(
              'cache-control',
              path.includes('/assets/') ? 'public, max-age=31536000, immutable' : 'no-cache',
            ),
        },
      }),
    )
    app.get(
      /^(?!\/api\/).*/,
      (_req, res) => void res.set('cache-control', 'no-cache').sendFile(join(webRoot, 'index.html')),
    )
  }
  app.use(answerProblem)
  return {
    app,
    surveys,
    errands,
    recorders,
    outgoing,
    links: {
      ...links,
      async closeAll() {
        await ports.closeAll()
        await links.closeAll()
      },
    },
  }
}
