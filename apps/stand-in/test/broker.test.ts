// The small broker of tests and bench, asked by a client of another make.
import { connectAsync } from 'mqtt'
import { connect } from 'node:net'
import { afterEach, describe, expect, it } from 'vitest'
import { isOf, runBroker } from '../src/broker.ts'

const ends: (() => Promise<unknown>)[] = []
afterEach(async () => {
  for (const end of ends.splice(0).reverse()) await end()
})
async function started(how: Parameters<typeof runBroker>[1] = {}) {
  const broker = await runBroker(0, how)
  ends.push(() => broker.stop())
  return broker
}
async function client(port: number, more: object = {}) {
  const made = await connectAsync(`mqtt://127.0.0.1:${port}`, { protocolVersion: 5, reconnectPeriod: 0, ...more })
  ends.push(() => made.endAsync(true))
  return made
}

describe('a filter', () => {
  it.each([
    ['works/LT-1/loop', 'works/LT-1/loop', true],
    ['works/+/loop', 'works/LT-1/loop', true],
    ['works/#', 'works/LT-1/loop', true],
    ['#', 'works', true],
    ['works/+', 'works/LT-1/loop', false],
    ['works/LT-1/loop/more', 'works/LT-1/loop', false],
    ['other/#', 'works/LT-1/loop', false],
  ])('%s of %s: %s', (filter, topic, is) => expect(isOf(filter, topic)).toBe(is))
})

it('gives a message to who listens, and the last that was kept to who comes later', async () => {
  const heard: [string, string][] = []
  const { port } = await started({ hear: (topic, text) => heard.push([topic, text]) })
  const [teller, early] = [await client(port), await client(port)]
  const came: [string, string, boolean][] = []
  early.on('message', (topic, bytes, { retain }) => came.push([topic, bytes.toString(), retain]))
  await early.subscribeAsync('a/+', { qos: 1 })
  await teller.publishAsync('a/b', 'one', { qos: 1, retain: true })
  await teller.publishAsync('a/b', 'two', { qos: 1, retain: true })
  await teller.publishAsync('c', 'not for a', { qos: 1 })
  await expect
    .poll(() => came)
    .toEqual([
      ['a/b', 'one', false],
      ['a/b', 'two', false],
    ])
  const late = await client(port)
  const kept: [string, boolean][] = []
  late.on('message', (_topic, bytes, { retain }) => kept.push([bytes.toString(), retain]))
  await late.subscribeAsync('#', { qos: 1 })
  await expect.poll(() => kept).toEqual([['two', true]])
  expect(heard.map(([, text]) => text)).toEqual(['one', 'two', 'not for a'])
})
it('lets in who gives the password, and speaks version 5 only', async () => {
  const { port } = await started({ password: 'sea lettuce' })
  await expect(client(port, { username: 'a', password: 'dulse' })).rejects.toThrow(/not authorized/i)
  await client(port, { username: 'a', password: 'sea lettuce' })
  const { port: open } = await started()
  await expect(client(open, { protocolVersion: 4 })).rejects.toThrow()
})
it('goes on after what is no MQTT', async () => {
  const { port } = await started()
  const raw = connect(port, '127.0.0.1')
  await new Promise<void>((resolve) => {
    raw.on('close', () => resolve())
    raw.on('error', () => undefined)
    raw.write('GET / HTTP/1.1\r\n\r\n')
  })
  await client(port)
})
