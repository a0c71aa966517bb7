// Stand-ins as others meet them: processes on a line, asked with bytes that were written down by hand.
import { existsSync } from 'node:fs'
import { spawn } from 'node:child_process'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { run, standIn, stopAll, wireTo, type Running, type Wire } from './processes.ts'

afterAll(stopAll)
const MBPOLL = '/usr/bin/mbpoll'
const SOCAT = '/usr/bin/socat'

const check = (hex: string) => {
  let sum = 0
  for (const b of Buffer.from(hex, 'hex')) sum ^= b
  return hex + sum.toString(16).padStart(2, '0')
}
const FF = 'ffffffffff'
/** A request to the pressure stand-in, by its long address. */
const to = (command: number, data = '', address = 'bd1103a7c2') =>
  FF +
  check(`82${address}${command.toString(16).padStart(2, '0')}${(data.length / 2).toString(16).padStart(2, '0')}${data}`)
const WHO = `${FF}0280000082`
const IDENTITY = /^f{10,40}06800018[0-9a-f]{2}[0-9a-f]{2}fe3d110507030c100003a7c2/
/** First and second status byte, and the data, of the one answer in `hex`. */
function answered(hex: string): { code: number; flags: number; data: string } {
  const found = /^(?:ff){5,20}86[0-9a-f]{10}[0-9a-f]{2}([0-9a-f]{2})([0-9a-f]*)$/.exec(hex)
  if (!found) throw new Error(`No answer: ${hex || 'silence'}`)
  const [, count = '', rest = ''] = found
  const size = parseInt(count, 16) * 2
  expect(check(hex.replace(/^(?:ff)+/, '').slice(0, -2))).toBe(hex.replace(/^(?:ff)+/, ''))
  return { code: parseInt(rest.slice(0, 2), 16), flags: parseInt(rest.slice(2, 4), 16), data: rest.slice(4, size) }
}

describe('the command', () => {
  it('says what it takes when it is asked for something else', () => {
    for (const wrong of [
      ['nothing', '--tcp', '0'],
      ['ph'],
      ['ph', '--tcp', '0', '--pty'],
      ['ph', '--map'],
      ['ph', '--speed'],
    ])
      expect(run(...wrong)).toMatchObject({ status: 2, stdout: '' })
    expect(run('say', '1', 'meter').status).toBe(1)
  })
  it('prints the map of a Modbus kind, and ends', () => {
    const { stdout, status } = run('level-modbus', '--map')
    expect(status).toBe(0)
    const map = JSON.parse(stdout) as { unit: number; rtu: object; registers: Record<string, unknown>[] }
    expect(map).toMatchObject({ unit: 1, rtu: { baud: 9600, parity: 'none' } })
    for (const r of map.registers)
      for (const key of ['name', 'table', 'address', 'type', 'order', 'readOnly']) expect(r).toHaveProperty(key)
  })
})

describe('a HART device over TCP', () => {
  let device: Running
  let wire: Wire
  beforeAll(async () => {
    device = await standIn('pressure', '--tcp', '0')
    wire = await wireTo(device.port)
  })
  it('tells who it is', async () => expect(await wire.ask(WHO)).toMatch(IDENTITY))
  it('hears a request that comes in pieces, two that are glued, and one behind noise', async () => {
    for (const byte of WHO.match(/../g)!) {
      wire.send(byte)
      await new Promise((resolve) => setTimeout(resolve, 8))
    }
    expect(await wire.heard()).toMatch(IDENTITY)
    const two = await wire.ask(to(12) + to(13))
    expect(two.match(/86bd1103a7c20[cd]/g)).toHaveLength(2)
    expect(await wire.ask(`8203ff00aa8255${WHO}`)).toMatch(IDENTITY)
  })
  it('is silent to others, to damage, and to half a frame; and hears the next', async () => {
    expect(await wire.ask(to(0, '', 'bd1103a7c3'))).toBe('')
    expect(await wire.ask(`${FF}0280000083`)).toBe('')
    expect(await wire.ask(`${FF}82bd1103a7c22309`)).toBe('')
    expect(await wire.ask(WHO)).toMatch(IDENTITY)
  })
  it('does what it is told, and the meter shows it', async () => {
    expect(answered(await wire.ask(to(40, '41400000')))).toMatchObject({ code: 0, data: '41400000' })
    expect(Number(await device.say('meter'))).toBeCloseTo(12.04, 3)
    expect(answered(await wire.ask(to(40, '00000000'))).code).toBe(0)
    await device.say('input', '3', 'bar')
    await new Promise((resolve) => setTimeout(resolve, 2500))
    const { data } = answered(await wire.ask(to(1)))
    expect(data.slice(0, 2)).toBe('0c')
    expect(Buffer.from(data, 'hex').readFloatBE(1)).toBeCloseTo(300, -0.5)
  })
  it('obeys the bench: protected, busy, late, silent, garbled, restarted, forgetful', async () => {
    await device.say('protect')
    expect(answered(await wire.ask(to(34, '40000000'))).code).toBe(7)
    await device.say('unprotect')
    await device.say('busy')
    expect(answered(await wire.ask(to(34, '40000000'))).code).toBe(32)
    await device.say('silent')
    expect(await wire.ask(WHO)).toBe('')
    await device.say('normal')
    await device.say('late')
    expect(await wire.ask(WHO)).toBe('')
    expect(await wire.heard(30, 1000)).toMatch(IDENTITY)
    await device.say('garbled')
    expect(() => answered('')).toThrow()
    const bad = (await wire.ask(to(2))).replace(/^(?:ff)+/, '')
    expect(check(bad.slice(0, -2))).not.toBe(bad)
    await device.say('normal')
    answered(await wire.ask(to(2)))
    await device.say('restart')
    expect(answered(await wire.ask(to(2))).flags & 0x20).toBe(0x20)
    expect(answered(await wire.ask(to(2))).flags & 0x20).toBe(0)
    await device.say('forget')
    expect(answered(await wire.ask(to(34, '40a00000'))).code).toBe(0)
    await device.say('restart')
    expect(answered(await wire.ask(to(15))).data.slice(22, 30)).not.toBe('40a00000')
    await expect(device.say('input', '3', 'degC')).rejects.toThrow()
    await expect(device.say('zork')).rejects.toThrow('There is no word')
  })
  it('bursts to all who listen, and answers in between', async () => {
    const other = await wireTo(device.port)
    await device.say('burst')
    const heard = await other.heard(1300, 1300)
    expect(heard).toMatch(/ff81fd1103a7c203/)
    expect(heard).toMatch(/ff817d1103a7c203/)
    await wire.heard()
    wire.send(WHO)
    await expect.poll(() => wire.heard()).toMatch(/ff06c00018/)
    await device.say('normal')
  })
})

/** Runs mbpoll beside, as a stand-in’s line would else wait for it. */
const mbpoll = (...args: string[]) =>
  new Promise<string>((resolve) => {
    const child = spawn(MBPOLL, args, { stdio: ['ignore', 'pipe', 'pipe'] })
    let said = ''
    for (const out of [child.stdout, child.stderr]) out.on('data', (text) => (said += String(text)))
    child.on('exit', () => resolve(said))
  })

describe('a Modbus device over TCP', () => {
  let device: Running
  let wire: Wire
  beforeAll(async () => {
    device = await standIn('level-modbus', '--tcp', '0')
    wire = await wireTo(device.port)
  })
  it('answers with transaction and unit repeated, several in one piece', async () => {
    const one = '00070000000611040000000200080000000611020000'
    const got = await wire.ask(`${one}0002`)
    expect(got).toMatch(/^000700000007110404[0-9a-f]{8}000800000004110201[0-9a-f]{2}$/)
  })
  it.each([
    ['a function it does not know', '012b0e0100', 1],
    ['an address it does not have', '010300630001', 2],
    ['a block whose end is outside', '010300150002', 2],
    ['more than may be asked for', '01030000007e', 3],
    ['a value it does not take', '0110000a000204c1200000', 3],
    ['half of a value', '0106000a4120', 3],
    ['a register that is read only', '010600000001', 2],
  ])('refuses %s', async (_, pdu, code) => {
    const got = await wire.ask(`000100000${(pdu.length / 2).toString(16).padStart(3, '0')}${pdu}`)
    expect(got).toBe(`00010000000301${(parseInt(pdu.slice(2, 4), 16) | 0x80).toString(16)}0${code}`)
  })
  it('writes all of a block or nothing', async () => {
    const read = '0001000000060103000a0004'
    const before = await wire.ask(read)
    // Damping is taken, the lower range value is not.
    expect(await wire.ask('00010000000f0110000a000408400000007fa00000')).toMatch(/9003$/)
    expect(await wire.ask(read)).toBe(before)
  })
  it('closes on what is no Modbus', async () => {
    const other = await wireTo(device.port)
    const closed = new Promise((resolve) => other.socket.once('close', resolve))
    other.send('4745540000ff2f20')
    await closed
  })
  it.runIf(existsSync(MBPOLL))('works with a master that shares no code with it', async () => {
    const tcp = (...args: string[]) => mbpoll('-m', 'tcp', '-p', String(device.port), '-a', '1', '-0', '-1', ...args)
    const level = await tcp('-r', '0', '-t', '3:float', '127.0.0.1')
    expect(Number(/\[0\]:\s+([\d.]+)/.exec(level)?.[1])).toBeCloseTo(2.4, 1)
    expect(await tcp('-r', '10', '-t', '4:float', '-B', '127.0.0.1', '2.5')).toContain('Written 1')
    expect(await tcp('-r', '10', '-t', '4:float', '-B', '127.0.0.1')).toMatch(/\[10\]:\s+2\.5\b/)
  })
})

describe.runIf(existsSync(SOCAT))('over a pseudo terminal', () => {
  it.runIf(existsSync(MBPOLL))('a Modbus device answers a master of a serial line', async () => {
    const device = await standIn('flow-modbus', '--pty')
    const rtu = (...args: string[]) => mbpoll('-m', 'rtu', '-b', '9600', '-P', 'none', '-0', '-1', ...args)
    const flow = await rtu('-a', '1', '-r', '0', '-t', '3:float', '-B', device.reached)
    expect(Number(/\[0\]:\s+([\d.]+)/.exec(flow)?.[1])).toBeCloseTo(42, 0)
    expect(await rtu('-a', '2', '-r', '0', '-t', '3:float', device.reached)).toMatch(/timed? ?out/i)
    expect(await rtu('-a', '1', '-r', '0', '-t', '0', device.reached, '0')).toContain('Written 1')
    expect(await rtu('-a', '1', '-r', '0', '-t', '0', device.reached)).toMatch(/\[0\]:\s+0/)
  })
})
