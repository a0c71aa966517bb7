// Lines by themselves: what is said of them, opened and lost, and damage on them told apart.
import type { BusLine } from '@calm-loop/contract'
import { encodeFrame, encodePayload, type Frame } from '@calm-loop/core/hart'
import { encodeModbus } from '@calm-loop/core/modbus'
import { createServer, type Socket } from 'node:net'
import { afterAll, describe, expect, it } from 'vitest'
import { openChannel } from '../src/ports/channel.ts'
import { openHartLine } from '../src/ports/hart-line.ts'
import { lineLog, meaningOf } from '../src/ports/line-log.ts'
import { diagnosed, openModbusLine } from '../src/ports/modbus-line.ts'
import { nextThings } from '../src/ports/link-words.ts'

const closing: (() => void)[] = []
afterAll(() => closing.forEach((close) => close()))

/** A place to connect to, that answers as it is told. Resolves to `host:port`. */
async function place(answers: (bytes: Buffer, socket: Socket) => void): Promise<string> {
  const server = createServer((socket) => {
    socket.on('error', () => undefined)
    socket.on('data', (bytes) => answers(bytes, socket))
  })
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve))
  closing.push(() => server.close())
  return `127.0.0.1:${(server.address() as { port: number }).port}`
}
const nothing = { bytes: () => undefined, lost: () => undefined }

describe('a channel', () => {
  it.each([
    [{ kind: 'tcp' as const, at: '127.0.0.1:9', protocol: 'hart' as const }, 'nothing listens there'],
    [{ kind: 'tcp' as const, at: 'no.such.host.invalid:9', protocol: 'hart' as const }, /host|EAI_AGAIN|reached/],
    [{ kind: 'serial' as const, at: '/dev/ttyNothing', protocol: 'hart' as const }, 'it is not plugged in'],
    [
      {
        kind: 'serial' as const,
        at: '/dev/ttyNothing',
        protocol: 'modbus' as const,
        baud: 19_200,
        parity: 'even' as const,
      },
      'it is not plugged in',
    ],
  ])('%j says why it cannot be opened', async (reached, why) => {
    await expect(openChannel(reached, nothing)).rejects.toThrow(why)
  })
  it('tells that it is lost, but not when it was closed', async () => {
    let met: Socket | undefined
    const at = await place((_, socket) => (met = socket))
    let lost = ''
    const first = await openChannel({ kind: 'tcp', at, protocol: 'hart' }, { ...nothing, lost: (why) => (lost = why) })
    first.send(Uint8Array.from([1]))
    await expect.poll(() => met).toBeDefined()
    met!.destroy()
    await expect.poll(() => lost).toBe('the connection was broken')
    lost = ''
    const second = await openChannel({ kind: 'tcp', at, protocol: 'hart' }, { ...nothing, lost: (why) => (lost = why) })
    second.close()
    await new Promise((resolve) => setImmediate(resolve))
    expect(lost).toBe('')
  })
})

describe('a HART line', () => {
  const ask = { address: { short: 0 }, command: 0, tries: 1, within_ms: 60 }
  it('gives up what is asked when it is lost, and asks no more', async () => {
    const at = await place((_, socket) => socket.destroy())
    let why = ''
    const line = await openHartLine({ kind: 'tcp', at, protocol: 'hart' }, lineLog(), {
      burst: () => undefined,
      lost: (words) => (why = words),
    })
    expect(await line.ask(ask)).toMatchObject({ why: 'lost' })
    expect(why).toBe('the connection was broken')
    expect(await line.ask(ask)).toMatchObject({ why: 'lost', tries: 0 })
    line.close()
  })
  it('hears bursts and other masters, and tells noise from silence', async () => {
    const burst: Frame = {
      type: 'burst',
      address: { long: '3d11000007' },
      master: 'primary',
      burstMode: true,
      command: 1,
      data: encodePayload(1, 'response', { unitCode: 12, value: 1 }),
      status: [0, 0],
    }
    const at = await place((_, socket) => {
      socket.write(encodeFrame(burst))
      socket.write(
        encodeFrame({ ...burst, type: 'request', master: 'secondary', status: null, data: new Uint8Array() }),
      )
      socket.write(Buffer.from('55aa55', 'hex'))
    })
    const log = lineLog()
    const bursts: number[] = []
    const line = await openHartLine({ kind: 'tcp', at, protocol: 'hart' }, log, {
      burst: (frame) => void bursts.push(frame.command),
      lost: () => undefined,
    })
    expect(await line.ask(ask)).toMatchObject({ why: 'others' })
    expect(bursts).toEqual([1])
    expect(line.counts()).toMatchObject({ bursts: 1, otherMaster: 1, unanswered: 1 })
    const closed = line.ask({ ...ask, within_ms: 5000 })
    await expect.poll(() => line.counts().sent).toBe(2)
    line.close()
    expect(await closed).toMatchObject({ why: 'lost' })
    expect(
      log
        .after(0)
        .map((e) => e.says)
        .join('\n'),
    ).toMatch(/burst 1.*\n[^]*No answer after 1 tries/)
  })
})

describe('what the log means', () => {
  it.each([
    [Uint8Array.from([1, 2, 3]), 'no frame'],
    [Uint8Array.from([255, 255, 255]), 'part of a frame'],
    [
      encodeFrame({
        type: 'response',
        address: { short: 3 },
        master: 'secondary',
        burstMode: false,
        command: 34,
        data: new Uint8Array(),
        status: [7, 8],
      }),
      /^answer 34, address 3, other master, code 7 \(current-fixed\)$/,
    ],
    [
      encodeFrame({
        type: 'response',
        address: { short: 3 },
        master: 'primary',
        burstMode: false,
        command: 1,
        data: new Uint8Array(2),
        status: [0x88, 0],
      }),
      /not understood/,
    ],
  ])('%#', (bytes, says) => expect(meaningOf(bytes)).toMatch(says))
  it('is told where the check byte is wrong', () => {
    const bad = encodeFrame({
      type: 'request',
      address: { short: 0 },
      master: 'primary',
      burstMode: false,
      command: 0,
      data: new Uint8Array(),
      status: null,
    })
    bad[bad.length - 1] = 0
    expect(meaningOf(bad)).toContain('check byte wrong')
  })
  it('keeps the newest only', () => {
    const log = lineLog()
    for (let i = 0; i < 4100; i++) log.add('note', undefined, `no. ${i}`)
    expect(log.after(0)).toHaveLength(1000)
    expect(log.after(4099)).toMatchObject([{ says: 'no. 4099', hex: '' }])
  })
})

describe('a Modbus line', () => {
  const request = { unitId: 1, function: 3, start: 0, count: 1 }
  const open = async (answers: (bytes: Buffer, socket: Socket) => void) => {
    const at = await place(answers)
    const line = await openModbusLine({ kind: 'tcp', at, protocol: 'modbus' }, lineLog(), () => undefined)
    closing.push(() => line.close())
    return line
  }
  const reply = (bytes: Buffer, more: object = {}) =>
    encodeModbus({
      transport: 'tcp',
      direction: 'response',
      unitId: 1,
      function: 3,
      transaction: bytes.readUInt16BE(0),
      registers: [7],
      ...more,
    })
  it('tells an answer, an exception, damage, silence, and what belongs to another request', async () => {
    const good = await open((bytes, socket) => {
      // A late answer first, then the right one, in two pieces.
      socket.write(reply(bytes, { transaction: 9999 }))
      const right = reply(bytes)
      socket.write(right.subarray(0, 4))
      setTimeout(() => socket.write(right.subarray(4)), 10)
    })
    expect(await good.ask(request)).toMatchObject({ outcome: 'device', frame: { registers: [7] } })
    const refuses = await open((bytes, socket) => socket.write(reply(bytes, { registers: undefined, exception: 2 })))
    expect(await refuses.ask(request)).toMatchObject({ outcome: 'exception', frame: { exception: 2 } })
    const damaged = await open((bytes, socket) => socket.write(reply(bytes).subarray(0, 8)))
    expect(await damaged.ask(request, 1)).toMatchObject({ outcome: 'damaged', bytes: 8 })
    const silent = await open(() => undefined)
    expect(await silent.ask(request, 1)).toMatchObject({ outcome: 'silence' })
  })
  const lines = (...outcomes: BusLine['outcome'][]): BusLine[] =>
    outcomes.map((outcome, unitId) => ({ unitId, outcome, took_ms: 1, says: '' }))
  it.each<[BusLine['outcome'][], boolean, RegExp | undefined]>([
    [['device', 'silence'], true, undefined],
    [['device', 'damaged'], true, /two devices share it/],
    [['damaged', 'damaged'], true, /speed or parity/],
    [['device', 'damaged', 'damaged'], true, /no termination/],
    [['device', 'other-unit'], false, /another address than was asked/],
    [['silence', 'silence'], true, /exchange A and B/],
    [['device', 'device', 'exception'], false, /It is one device, not several/],
    [['device', 'device', 'device'], true, undefined],
    [['silence', 'silence'], false, /no device behind it/],
  ])('%j is diagnosed', (outcomes, serial, says) => {
    const found = diagnosed(lines(...outcomes), serial)
    if (says) expect(found.join(' ')).toMatch(says)
    else expect(found).toEqual([])
  })
})

describe('the next three things', () => {
  it('follow from what was heard, and from the loop’s own circuit', () => {
    expect(nextThings(['silence'])[0]).toMatch(/230 to 1100 Ω/)
    expect(nextThings(['silence', 'noise'])[1]).toMatch(/odd parity/)
    expect(nextThings(['others'])[0]).toMatch(/Another master/)
    expect(nextThings(['silence'], ['90 Ω', '9 V']).slice(0, 2)).toEqual(['90 Ω', '9 V'])
  })
})
