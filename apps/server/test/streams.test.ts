// Event streams: one that is not read costs no more than its buffer, and what is told to many is put in words once.
import express from 'express'
import { createServer, get, type IncomingMessage } from 'node:http'
import type { AddressInfo } from 'node:net'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { makeStreams, MOST_UNREAD_B } from '../src/http/streams.ts'

const streams = makeStreams()
const sends: ((event: string, data: unknown) => void)[] = []
let closed = 0
const app = express()
app.get('/', (_req, res) => void sends.push(streams.open(res, () => closed++)))
const server = createServer(app)
const asked: IncomingMessage[] = []
async function listen(reads: boolean): Promise<IncomingMessage> {
  const { port } = server.address() as AddressInfo
  const answer = await new Promise<IncomingMessage>((resolve) => get({ port, agent: false }, resolve))
  answer.on('error', () => undefined)
  if (reads) answer.resume()
  asked.push(answer)
  return answer
}
beforeAll(() => new Promise<void>((resolve) => void server.listen(0, '127.0.0.1', resolve)))
afterAll(() => {
  asked.forEach((a) => a.destroy())
  server.closeAllConnections()
  server.close()
})

describe('streams', () => {
  it('let go of a reader that does not read, and of nobody else', async () => {
    const quick = await listen(true)
    await listen(false)
    let heard = 0
    quick.on('data', (chunk: Buffer) => (heard += chunk.length))
    const kilobytes = 'x'.repeat(16 * 1024)
    // What the two ends of a connection hold by themselves is no concern of ours: it is a few megabytes.
    for (let i = 0; i < 2000 && closed === 0; i++) {
      streams.tellAll('tell', { i, kilobytes })
      await new Promise((resolve) => setImmediate(resolve))
    }
    expect(closed).toBe(1)
    streams.tellAll('tell', 'once more')
    await expect.poll(() => heard).toBeGreaterThan(MOST_UNREAD_B)
    await new Promise((resolve) => setTimeout(resolve, 50))
    expect(closed).toBe(1)
  })
  it('put in words once what is told to many and changes no more', async () => {
    await Promise.all([listen(true), listen(true)])
    let made = 0
    const data = { toJSON: () => ++made }
    streams.tellAll('tell', data)
    expect(made).toBeGreaterThan(1)
    made = 0
    streams.tellAll('tell', Object.freeze({ ...data }))
    expect(made).toBe(1)
  })
  it('say at once to whoever opens one while the database is away', async () => {
    streams.database(false)
    const late = await listen(false)
    let heard = ''
    late.setEncoding('utf8').on('data', (words: string) => (heard += words))
    await expect.poll(() => heard).toContain('event: server\ndata: {"database":"away"}')
    streams.database(true)
    await expect.poll(() => heard).toContain('event: server\ndata: {"database":"here"}')
    const later = await listen(false)
    let more = ''
    later.setEncoding('utf8').on('data', (words: string) => (more += words))
    await expect.poll(() => more).toContain('retry')
    expect(more).not.toContain('away')
  })
})
