// The log: who asked for what and how it went, never what opens a door or stands on record.
import type { RequestHandler } from 'express'
import { randomUUID } from 'node:crypto'
import { pino, type Logger } from 'pino'
import { pinoHttp } from 'pino-http'

/** What of an address may open a door is left out: queries, a fingerprint, the token of a calendar. */
const withoutQuery = (url: string | undefined) =>
  url
    ?.split('?')[0]
    ?.replace(/(\/verify\/)[0-9a-f]+/, '$1…')
    .replace(/(\/feeds\/)[\w-]+/, '$1…')

/** An error without the statement and parameters that a database driver puts into it. */
export function errorWords(error: unknown): Record<string, unknown> {
  if (!(error instanceof Error)) return { message: typeof error }
  const { code, constraint, routine } = error as { code?: string; constraint?: string; routine?: string }
  const message = /failed query|insert into|select |update /i.test(error.message) ? 'a query failed' : error.message
  return {
    type: error.name,
    message,
    ...(code ? { code } : {}),
    ...(constraint ? { constraint } : {}),
    ...(routine ? { routine } : {}),
    // Where it happened: the lines of the stack without the message above them.
    stack: (error.stack ?? '')
      .split('\n')
      .filter((l) => /^\s+at /.test(l))
      .slice(0, 12)
      .join('\n'),
    ...(error.cause ? { cause: errorWords(error.cause) } : {}),
  }
}

interface Asked {
  id?: unknown
  method?: string
  url?: string
  remoteAddress?: string
}
export const SERIALIZERS = {
  req: ({ id, method, url, remoteAddress }: Asked) => ({ id, method, url: withoutQuery(url), remoteAddress }),
  res: ({ statusCode }: { statusCode?: number }) => ({ statusCode }),
  err: errorWords,
}

export const makeLog = (level: string, to?: { write(line: string): void }): Logger =>
  to ? pino({ level, serializers: SERIALIZERS }, to) : pino({ level, serializers: SERIALIZERS })

/**
 * A log of its own for each request. Where requests are not written it is made only when something goes wrong with one.
 */
export function requestLog(log: Logger): RequestHandler {
  const genReqId = () => randomUUID()
  if (log.isLevelEnabled('info'))
    return pinoHttp({
      logger: log,
      genReqId,
      autoLogging: { ignore: (req) => req.url === '/healthz' },
      serializers: SERIALIZERS,
    }) as RequestHandler
  return (req, _res, next) => {
    let mine: Logger | undefined
    req.id = genReqId()
    Object.defineProperty(req, 'log', { get: () => (mine ??= log.child({ req: SERIALIZERS.req(req) })) })
    next()
  }
}
