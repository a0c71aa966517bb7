// A device that answers: asked with bytes, by somebody who knows the documents only.
import { describe, expect, it } from 'vitest'
import { bytesOf, hexOf } from '../bytes/index.ts'
import { bench, OWN } from './device.fixture.ts'
import {
  answerRequest,
  askRows,
  burstFrame,
  decodeFrame,
  decodePayload,
  encodeFrame,
  encodePayload,
  EVERY_DEVICE,
  readEvents,
  readInfo,
  readRows,
  restarted,
  unitCode,
} from './index.ts'

describe('when it answers', () => {
  it('to its polling address, its own long one, and to its tag; to nobody else', () => {
    const { send } = bench()
    expect(send({ command: 0, address: { short: 0 } })?.command).toBe(0)
    expect(send({ command: 0, address: { short: 1 } })).toBeUndefined()
    expect(send({ command: 1, address: { long: '3d1103a7c3' } })).toBeUndefined()
    const tag = (text: string) => encodePayload(11, 'request', { tag: text })
    expect(send({ command: 11, address: { long: EVERY_DEVICE }, data: tag('PT-104') })?.address).toEqual({
      long: EVERY_DEVICE,
    })
    expect(send({ command: 11, address: { long: EVERY_DEVICE }, data: tag('PT-105') })).toBeUndefined()
    expect(send({ command: 0, address: { long: EVERY_DEVICE } })).toBeUndefined()
    expect(send({ command: 1, type: 'response', status: [0, 0] })).toBeUndefined()
  })
  it('repeats the master, and is cold at the first answer to each', () => {
    const { raw } = bench()
    expect(raw(1).flags).toContain('cold-start')
    expect(raw(1).flags).not.toContain('cold-start')
    expect(raw(1, '', 'secondary').flags).toContain('cold-start')
    expect(raw(1, '', 'secondary').flags).toEqual([])
  })
  it('says what it does not know, and what came too short; more bytes than needed do no harm', () => {
    const { raw } = bench()
    expect(raw(99)).toMatchObject({ code: 64, hex: '' })
    expect(raw(35, '0c43')).toMatchObject({ code: 5, hex: '' })
    expect(raw(34, '40000000ffff')).toMatchObject({ code: 0, hex: '40000000' })
  })
})

describe('what it shows', () => {
  it('is of one instant in all three', () => {
    const { ask } = bench()
    const [one, two, three] = [1, 2, 3].map((c) => ask(c).fields)
    expect(one).toEqual({ unitCode: 12, value: 240 })
    expect(two!['percent']).toBeCloseTo(40, 5)
    expect(two!['mA']).toBeCloseTo(10.4, 5)
    expect(three).toMatchObject({ mA: two!['mA'], variables: [{ value: 240 }, { unitCode: 32, value: 24.5 }] })
  })
  it('holds its current at its limits and says so', () => {
    const { ask, at } = bench()
    at.input = 700
    expect(ask(2)).toMatchObject({ flags: expect.arrayContaining(['current-saturated']) })
    expect(ask(2).fields['mA']).toBeCloseTo(20.5, 5)
    expect(ask(2).fields['percent']).toBeCloseTo(116.667, 3)
    at.input = 1200
    expect(ask(1).flags).toEqual(expect.arrayContaining(['primary-out-of-limits', 'more-status']))
  })
  it('speaks another unit after 44, meaning the same', () => {
    const { ask } = bench()
    const before = ask(2).fields
    expect(ask(44, { unitCode: unitCode('bar') }).code).toBe(0)
    expect(ask(1).fields).toEqual({ unitCode: 7, value: expect.closeTo(2.4, 5) as number })
    expect(ask(15).fields).toMatchObject({ unitCode: 7, urv: 6, lrv: 0 })
    expect(ask(14).fields).toMatchObject({ unitCode: 7, upperLimit: 10, lowerLimit: -1 })
    expect(ask(2).fields).toEqual(before)
    expect(ask(44, { unitCode: unitCode('degC') }).code).toBe(2)
  })
})

describe('what it is told', () => {
  it('moves per cent and current by a new range, not the value, and counts it', () => {
    const { ask, at } = bench()
    expect(ask(35, { unitCode: unitCode('bar'), urv: 4.8, lrv: 0 }).code).toBe(0)
    expect(ask(1).fields['value']).toBe(240)
    expect(ask(2).fields['percent']).toBeCloseTo(50, 4)
    expect(ask(0).fields['configurationCounter']).toBe(1)
    at.device = restarted(at.device)
    expect(ask(15).fields['urv']).toBeCloseTo(480, 3)
  })
  it.each([
    [7, 0, 32, 2],
    [12, 2000, 0, 11],
    [12, -500, 0, 12],
    [12, 600, 2000, 9],
    [12, 600, -500, 10],
    [12, 2000, 2000, 13],
    [12, 100, 100, 29],
    [32, 100, 0, 2],
    [12, null, 0, 11],
  ])('refuses a range: unit %i, %d to %d, by %i', (unit, urv, lrv, code) => {
    const { ask } = bench()
    const shown = ask(15).fields
    expect(ask(35, { unitCode: unit === 7 ? 250 : unit, urv, lrv })).toMatchObject({
      code: unit === 7 ? 2 : code,
      hex: '',
    })
    expect(ask(15).fields).toEqual(shown)
    expect(ask(0).fields['configurationCounter']).toBe(0)
  })
  it('warns of a small span, and takes it', () => {
    const { ask } = bench()
    expect(ask(35, { unitCode: 12, urv: 5, lrv: 0 }).code).toBe(14)
    expect(ask(15).fields['urv']).toBe(5)
  })
  it('keeps texts, and refuses a day that does not exist', () => {
    const { ask, raw, at } = bench()
    expect(ask(18, { tag: 'PT-105', descriptor: 'NEW', date: '2026-11-28' }).fields['tag']).toBe('PT-105')
    const wrong = hexOf(encodePayload(18, 'request', { tag: 'X', descriptor: '', date: null })).slice(0, -6) + '1f027e'
    expect(raw(18, wrong).code).toBe(9)
    ask(17, { message: 'CALIBRATED' })
    at.device = restarted(at.device)
    expect(ask(13).fields).toEqual({ tag: 'PT-105', descriptor: 'NEW', date: '2026-11-28' })
    expect(ask(12).fields['message']).toBe('CALIBRATED')
  })
  it('tells each master of a change until that one has seen it', () => {
    const { ask } = bench()
    ask(34, { damping_s: 2 })
    expect(ask(1).flags).toContain('configuration-changed')
    expect(ask(38, { configurationCounter: 7 })).toMatchObject({ code: 9, hex: '' })
    expect(ask(38, { configurationCounter: 1 }).code).toBe(0)
    expect(ask(1).flags).not.toContain('configuration-changed')
    expect(ask(1, {}, 'secondary').flags).toContain('configuration-changed')
  })
  it('drives a current until it is released, or power fails', () => {
    const { ask, raw, at, meter } = bench()
    at.device = { ...at.device, hidden: { sensorError: 0, outputError_mA: 0.08 } }
    expect(ask(40, { mA: 12 }).flags).toContain('current-fixed')
    expect(ask(2).fields['mA']).toBe(12)
    expect(meter()).toBeCloseTo(12.08, 6)
    expect([ask(40, { mA: 30 }).code, ask(40, { mA: 1 }).code]).toEqual([3, 4])
    expect(ask(40, { mA: 0 }).flags).not.toContain('current-fixed')
    ask(40, { mA: 20 })
    at.device = restarted(at.device)
    expect(raw(2).flags).not.toContain('current-fixed')
  })
  it('turns its output so that meter and device agree, and keeps its digital value', () => {
    const { ask, at, meter } = bench()
    at.device = { ...at.device, hidden: { sensorError: 0, outputError_mA: 0.08 } }
    expect(ask(45, { mA: 4.08 }).code).toBe(9)
    ask(40, { mA: 4 })
    expect(ask(45, { mA: 9 }).code).toBe(3)
    expect(ask(45, { mA: 1 }).code).toBe(4)
    expect(ask(45, { mA: meter() }).code).toBe(0)
    expect(meter()).toBeCloseTo(4, 6)
    expect(ask(46, { mA: 20 }).code).toBe(9)
    ask(40, { mA: 20 })
    ask(46, { mA: meter() })
    expect(meter()).toBeCloseTo(20, 5)
    ask(40, { mA: 4 })
    expect(meter()).toBeCloseTo(4, 5)
    expect(ask(1).fields['value']).toBe(240)
  })
  it('takes the present input as its zero only near zero', () => {
    const { ask, at } = bench()
    expect(ask(43).code).toBe(9)
    at.input = -60
    expect(ask(43).code).toBe(10)
    at.input = 1.5
    expect(ask(43).code).toBe(0)
    expect(ask(1).fields['value']).toBeCloseTo(0, 9)
  })
  it('trims its sensor at two points', () => {
    const { raw, ask, at } = bench()
    at.device = { ...at.device, hidden: { sensorError: 1.2, outputError_mA: 0 } }
    const point = (n: number, kPa: number) => `000${n}0c${hexOf(encodePayload(34, 'request', { damping_s: kPa }))}`
    at.input = 0
    expect(raw(82, point(1, 0)).code).toBe(0)
    at.input = 600
    expect(raw(82, point(2, 603)).code).toBe(0)
    expect(ask(1).fields['value']).toBeCloseTo(603, 4)
    at.input = 0
    expect(ask(1).fields['value']).toBeCloseTo(0, 6)
    expect(raw(82, point(1, 500)).code).toBe(3)
    expect(raw(83, '00').code).toBe(0)
    expect(ask(1).fields['value']).toBeCloseTo(1.2, 5)
  })
  it('parks its current where it is told to, or by another address as in revision 5', () => {
    const { raw, ask, send } = bench()
    expect(raw(6, '40').code).toBe(2)
    expect(raw(6, '0500')).toMatchObject({ code: 0, hex: '0500' })
    expect(ask(2)).toMatchObject({ flags: expect.arrayContaining(['current-fixed']), fields: { mA: 4 } })
    expect([ask(40, { mA: 12 }).code, ask(45, { mA: 4 }).code, ask(46, { mA: 20 }).code]).toEqual([11, 11, 11])
    expect(send({ command: 0, address: { short: 0 } })).toBeUndefined()
    expect(send({ command: 0, address: { short: 5 } })?.command).toBe(0)
    expect(raw(6, '00')).toMatchObject({ code: 0, hex: '00' })
    expect(ask(2).fields['mA']).toBeCloseTo(10.4, 5)
  })
})

describe('protected, busy, forgetful, locked', () => {
  it.each([6, 17, 18, 34, 35, 43, 44, 45, 46])('command %i is refused while it is protected', (command) => {
    const { at, raw, ask } = bench()
    at.device = { ...at.device, protected: true }
    expect(raw(command, '00'.repeat(30)).code).toBe(7)
    expect(ask(15).fields['writeProtect']).toBe(1)
  })
  it('busy says so to all but command 0', () => {
    const { at, raw } = bench()
    at.device = { ...at.device, busy: true }
    expect([raw(0).code, raw(1).code, raw(35).code, raw(99).code]).toEqual([0, 32, 32, 32])
  })
  it('forgets what was not stored, and never its counter', () => {
    const { at, ask, raw } = bench()
    at.device = { ...at.device, forgetful: true }
    expect((ask(0).fields['flags'] as number) & 2).toBe(2)
    ask(34, { damping_s: 5 })
    at.device = restarted(at.device)
    expect(ask(15).fields['damping_s']).toBeCloseTo(0.4, 6)
    ask(34, { damping_s: 7 })
    expect(raw(39, '00').code).toBe(0)
    at.device = restarted(at.device)
    expect(ask(15).fields['damping_s']).toBe(7)
    expect(ask(0).fields['configurationCounter']).toBe(2)
  })
  it('locked by one master refuses the other', () => {
    const { raw } = bench()
    expect(raw(71, '01').code).toBe(0)
    expect(raw(34, '40000000', 'secondary').code).toBe(7)
    expect(raw(71, '01', 'secondary').code).toBe(11)
    expect(raw(34, '40000000').code).toBe(0)
    expect(raw(76).hex).toBe('01')
  })
})

describe('common practice', () => {
  const f = (v: number) => hexOf(encodePayload(34, 'request', { damping_s: v }))
  it('reads configuration, assignments, variables and trim points', () => {
    const { raw } = bench()
    expect(raw(7).hex).toBe('0001')
    expect(raw(8).hex).toBe('00000000')
    expect(raw(16).hex).toBe('000000')
    expect(raw(20).hex).toMatch(/^50542d313034(00)+$/)
    expect(raw(33, '0001').hex).toBe(`000c${f(240)}0120${f(24.5)}`)
    expect(raw(33, '05').code).toBe(2)
    expect(raw(33).code).toBe(5)
    expect(raw(50).hex).toBe('0001fafa')
    expect(raw(54, '00').hex).toMatch(new RegExp(`^0003a7c20c${f(1000)}${f(-100)}`))
    expect(raw(54, '01').hex).toMatch(/^0103a7c2207fa000007fa00000/)
    expect(raw(54, '02').code).toBe(2)
    expect(raw(80, '00').hex).toBe(`000c${f(0)}${f(600)}`)
    expect(raw(81, '00').hex).toMatch(new RegExp(`^00030c${f(-100)}${f(1000)}`))
    expect([raw(80, '01').code, raw(81, '01').code]).toEqual([2, 2])
    expect(raw(105).hex).toBe('0001000000000000')
  })
  it('takes ends from what is applied, a transfer function, a long tag, preambles', () => {
    const { raw, ask, at } = bench()
    expect(raw(36).code).toBe(0)
    expect(ask(15).fields['urv']).toBeCloseTo(240, 4)
    at.input = 50
    expect(raw(37).code).toBe(0)
    expect(ask(15).fields['lrv']).toBeCloseTo(50, 4)
    at.input = 240
    expect(raw(37).code).toBe(29)
    at.input = 2000
    expect(raw(37).code).toBe(9)
    expect([raw(47, '01').code, raw(47, '05').code]).toEqual([0, 2])
    at.input = 145
    expect(ask(2).fields['percent']).toBeCloseTo(70.71, 2)
    at.input = 0
    expect(ask(2).fields['percent']).toBe(0)
    expect(raw(22, '4142' + '00'.repeat(30)).code).toBe(0)
    expect(raw(20).hex.slice(0, 6)).toBe('414200')
    expect(raw(59, '03')).toMatchObject({ code: 8, hex: '05' })
    expect(raw(59, '0a')).toMatchObject({ code: 0, hex: '0a' })
    expect(raw(41).code).toBe(0)
  })
  it('restarts, restores, locks and bursts as it is told', () => {
    const { raw, ask, at } = bench()
    ask(40, { mA: 12 })
    expect(raw(42).code).toBe(0)
    expect(ask(1).flags).toContain('cold-start')
    expect(ask(2).flags).not.toContain('current-fixed')
    at.device = { ...at.device, forgetful: true }
    ask(34, { damping_s: 9 })
    expect([raw(39, '01').code, raw(39, '02').code]).toEqual([0, 2])
    expect(ask(15).fields['damping_s']).toBeCloseTo(0.4, 6)
    expect([raw(71, '02').code, raw(71, '00').code]).toEqual([2, 0])
    expect(raw(76).hex).toBe('00')
    expect([raw(108, '02').code, raw(108, '09').code]).toEqual([0, 2])
    expect([raw(109, '01').code, raw(109, '02').code]).toEqual([0, 2])
    expect(at.device.burst).toBe(1)
    expect(raw(108, '03').code).toBe(0)
    expect(at.device.burst).toBe(3)
    expect(raw(109, '00').code).toBe(0)
    expect(at.device.burst).toBeNull()
  })
  it('clears a change as older masters ask, and refuses half a counter', () => {
    const { raw, ask } = bench()
    ask(34, { damping_s: 2 })
    expect(raw(38, '00').code).toBe(5)
    expect(raw(38).code).toBe(0)
    expect(ask(1).flags).not.toContain('configuration-changed')
  })
  it('refuses trims that cannot be meant', () => {
    const { raw, at } = bench()
    const trim = (point: string, unit: string, v: number) => raw(82, `00${point}${unit}${f(v)}`).code
    expect([trim('03', '0c', 1), trim('01', '20', 1), trim('01', 'fa', 1)]).toEqual([2, 2, 2])
    expect(raw(82, '01010c00000000').code).toBe(2)
    expect(raw(82, '00010c7fa00000').code).toBe(3)
    expect(trim('01', '0c', -500)).toBe(4)
    at.input = 0
    expect(trim('02', '0c', 3)).toBe(29)
    expect(raw(83, '01').code).toBe(2)
  })
  it('tells its past where it keeps one', () => {
    const info = { rows: 50, interval_s: 10, newest_s: 1000, events: 7 }
    const past = {
      info: () => info,
      row: (row: number) => ({ row, t_s: row * 10, value: row / 2 }),
      event: (i: number) => ({ t_s: i, kind: 'event' as const, says: `No. ${i}` }),
    }
    const { at, raw } = bench()
    expect([raw(132).code, raw(133, '000000000101').code, raw(134, '0000').code]).toEqual([64, 64, 64])
    const ask = (command: number, hex = '') => {
      const request = decodeFrame(
        encodeFrame({
          type: 'request',
          address: OWN,
          master: 'primary',
          burstMode: false,
          command,
          data: bytesOf(hex),
          status: null,
        }),
      )
      const { answer } = answerRequest(at.device, request, { sensed: 240, others: [24.5], past })
      return { code: answer!.status![0], data: answer!.data }
    }
    expect(readInfo(ask(132).data)).toEqual(info)
    expect(readRows(ask(133, hexOf(askRows(44, 4, 5))).data).map((r) => r.row)).toEqual([44, 48])
    expect(ask(133, hexOf(askRows(50, 1, 1))).code).toBe(2)
    expect(ask(133, hexOf(askRows(0, 1, 0))).code).toBe(2)
    expect(ask(133, hexOf(askRows(0, 1, 200))).code).toBe(2)
    expect(readEvents(ask(134, '0004').data).map((e) => e.says)).toEqual(['No. 4', 'No. 5', 'No. 6'])
    expect(ask(134, '0009').data).toHaveLength(0)
  })
})

describe('of its own', () => {
  it('reads and writes parameters by number, within their limits', () => {
    const { raw } = bench()
    expect(raw(130, '0001').hex).toBe('000140c00000')
    expect(raw(131, '000141a00000')).toMatchObject({ code: 0, hex: '000141a00000' })
    expect(raw(130, '0001').hex).toBe('000141a00000')
    expect(raw(131, '000142c80000').code).toBe(3)
    expect(raw(131, '0001bf800000').code).toBe(4)
    expect(raw(131, '000340200000').code).toBe(2)
    expect(raw(131, '0002' + '41'.repeat(16)).code).toBe(2)
    expect(raw(131, '0004' + '4142' + '00'.repeat(14)).code).toBe(0)
    expect(raw(130, '0004').hex).toBe('0004' + '4142' + '00'.repeat(14))
    expect(raw(130, '0063').code).toBe(2)
  })
  it('sends bursts to each master in turn, by itself', () => {
    const { at } = bench()
    const instant = { sensed: 240, others: [24.5] }
    expect(burstFrame(at.device, instant, 'primary')).toBeUndefined()
    at.device = { ...at.device, burst: 3 }
    const frame = decodeFrame(encodeFrame(burstFrame(at.device, instant, 'secondary')!))
    expect(frame).toMatchObject({ type: 'burst', master: 'secondary', burstMode: true, command: 3, address: OWN })
    expect(decodePayload(3, 'response', frame.data)['mA']).toBeCloseTo(10.4, 5)
  })
})

describe('a device variable by its number', () => {
  it('is zeroed and turned to another unit where it is the primary one; the others refuse', () => {
    const { at, raw } = bench()
    expect(raw(53, `00${unitCode('bar').toString(16).padStart(2, '0')}`)).toMatchObject({ code: 0, hex: '0007' })
    expect(raw(1).hex.slice(0, 2)).toBe('07')
    expect(raw(53, '0107').code).toBe(2)
    expect(raw(53, `00${unitCode('m').toString(16).padStart(2, '0')}`).code).toBe(2)
    expect(raw(52, '00').code).toBe(9)
    at.input = 3
    expect(raw(52, '01').code).toBe(2)
    expect(raw(52, '00')).toMatchObject({ code: 0, hex: '00' })
    expect(at.device.working.sensorOffset).toBeCloseTo(-3)
  })
})
