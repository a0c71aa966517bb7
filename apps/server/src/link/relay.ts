// What is asked of a device that another server holds is handed on to that server, and its answer back.
import type { RequestHandler } from 'express'
import { request } from 'node:http'
import { z } from 'zod'
import { HttpProblem } from '../http/problems.ts'
import { LEASE_s } from './leases.ts'
import type { Links } from './links.ts'

/** On a request that was handed on once: it is not handed on again. */
const HANDED_ON = 'x-calm-loop-handed-on'

const elsewhere = () =>
  new HttpProblem(
    503,
    'device-elsewhere',
    `Another server holds the link to this device and does not answer. It is taken over within ${LEASE_s} s; ` +
      'try again then.',
  )

/** For routes with a `loopId` that need the device. The other server asks for itself who is signed in. */
export function atTheDevice(links: Links): RequestHandler {
  return async (req, res, next) => {
    const loopId = z.uuid().safeParse(req.params['loopId'])
    const address = loopId.success ? await links.elsewhere(loopId.data) : undefined
    // What was done by hand is told to no device.
    if (address === undefined || (req.body as { byHand?: true } | undefined)?.byHand) return next()
    if (!address || req.headers[HANDED_ON]) throw elsewhere()
    const { 'content-length': _length, 'transfer-encoding': _coding, ...headers } = req.headers
    const body = req.method === 'GET' ? '' : JSON.stringify(req.body ?? null)
    const onward = request(new URL(req.originalUrl, address), {
      method: req.method,
      headers: { ...headers, [HANDED_ON]: '1', ...(body ? { 'content-length': Buffer.byteLength(body) } : {}) },
    })
    res.on('close', () => onward.destroy())
    onward.on('response', (answer) => {
      res.writeHead(answer.statusCode ?? 502, answer.headers)
      answer.on('error', () => res.destroy())
      answer.pipe(res)
    })
    onward.on('error', () => (res.headersSent ? res.destroy() : next(elsewhere())))
    onward.end(body)
  }
}
