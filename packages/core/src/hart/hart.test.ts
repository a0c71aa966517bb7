// Frames and payloads of HART: back and forth, and whatever noise comes.
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { bytesOf, hexOf } from '../bytes/index.ts'
import { Refusal } from '../refusal/index.ts'
import {
  dateBytes,
  dateText,
  decodeFrame,
  decodePayload,
  encodeFrame,
  encodePayload,
  knowsPayload,
  packAscii,
  readFrame,
  unitCode,
  UNIT_SYMBOLS,
  unitSymbol,
  unpackAscii,
  type Frame,
} from './index.ts'

const byte = fc.integer({ min: 0, max: 255 })
const bytes = (most: number) => fc.uint8Array({ maxLength: most })
const address = fc.oneof(
  fc.record({ short: fc.integer({ min: 0, max: 63 }) }),
  fc.uint8Array({ minLength: 5, maxLength: 5 }).map((b) => ({ long: hexOf([b[0]! & 0x3f, ...b.subarray(1)]) })),
)
const frame: fc.Arbitrary<Frame> = fc
  .record({
    type: fc.constantFrom('request', 'response', 'burst'),
    address,
    master: fc.constantFrom('primary', 'secondary'),
    burstMode: fc.boolean(),
    command: fc.integer({ min: 0, max: 253 }),
    data: bytes(253),
    status: fc.tuple(byte, byte),
  } as const)
  .map((f) => ({
    ...f,
    burstMode: f.type === 'burst' || (f.type === 'response' && f.burstMode),
    status: f.type === 'request' ? null : f.status,
  }))

describe('frames', () => {
  it('come back whole out of any noise that is no frame itself', () => {
    // Noise without FF cannot begin a frame, whatever else it holds.
    const noise = fc.uint8Array({ max: 0xfe, maxLength: 40 })
    fc.assert(
      fc.property(frame, noise, noise, fc.integer({ min: 2, max: 20 }), (sent, before, after, preambles) => {
        const { checksumOk, used, ...got } = decodeFrame(
          Uint8Array.from([...before, ...encodeFrame(sent, preambles), ...after]),
        )
        expect(checksumOk).toBe(true)
        expect(used).toBe(before.length + encodeFrame(sent, preambles).length)
        expect({ ...got, data: hexOf(got.data) }).toEqual({ ...sent, data: hexOf(sent.data) })
      }),
      { numRuns: 2000 },
    )
  })
  it('of which one bit is wrong are never taken for what was sent', () => {
    fc.assert(
      fc.property(frame, fc.nat(), fc.integer({ min: 0, max: 7 }), (sent, at, bit) => {
        const good = encodeFrame(sent)
        const bad = Uint8Array.from(good)
        const place = 5 + (at % (bad.length - 5))
        bad[place] = bad[place]! ^ (1 << bit)
        const got = readFrame(bad)
        // A damaged count or delimiter makes a shorter frame, whose check byte one in 256 matches by chance: one byte
        // of parity cannot tell. What is as long as what was sent is always told.
        if (typeof got !== 'string') expect(got.checksumOk && got.used === good.length).toBe(false)
      }),
      { numRuns: 2000 },
    )
  })
  it('are read or refused by name, whatever comes: a hundred thousand inputs', () => {
    const faults = new Set<string>()
    // Mostly the bytes that frames begin with, so that many of them nearly are frames.
    const near = fc.array(fc.oneof(byte, fc.constantFrom(0xff, 0xff, 0x82, 0x86, 0x02, 0x06, 0x01, 0)), {
      maxLength: 48,
    })
    fc.assert(
      fc.property(near, (input) => {
        const got = readFrame(Uint8Array.from(input))
        if (typeof got === 'string') return void faults.add(got)
        expect(got.used).toBeLessThanOrEqual(input.length)
        expect(got.type === 'request').toBe(got.status === null)
      }),
      { numRuns: 100_000 },
    )
    expect([...faults].sort()).toEqual(['bad-count', 'incomplete', 'no-frame', 'unsupported'])
  })
})

describe('fields', () => {
  it('packed text comes back, with its trailing spaces gone', () => {
    const text = fc.string({
      unit: fc.integer({ min: 0x20, max: 0x5f }).map((c) => String.fromCharCode(c)),
      maxLength: 32,
    })
    fc.assert(
      fc.property(text, (t) => void expect(unpackAscii(Uint8Array.from(packAscii(t, 32)))).toBe(t.replace(/ +$/, ''))),
    )
  })
  it('every day from 1900 to 2155 comes back, and no other is taken', () => {
    for (let t = Date.UTC(1900, 0, 1); t <= Date.UTC(2155, 11, 31); t += 86_400_000) {
      const day = new Date(t).toISOString().slice(0, 10)
      expect(dateText(Uint8Array.from(dateBytes(day)))).toBe(day)
    }
    for (const wrong of ['1899-12-31', '2156-01-01', '2100-02-29', '2031-04-31', '2031-00-01', '2031-13-01', 'soon'])
      expect(() => dateBytes(wrong), wrong).toThrow(expect.objectContaining({ code: 'bad-date' }))
  })
  it('every unit has one code, and every code one unit', () => {
    expect(new Set(UNIT_SYMBOLS.map(unitCode)).size).toBe(UNIT_SYMBOLS.length)
    for (const symbol of UNIT_SYMBOLS) expect(unitSymbol(unitCode(symbol))).toBe(symbol)
  })
})

describe('payloads', () => {
  const known = Array.from({ length: 256 }, (_, c) => c).filter(knowsPayload)
  it('are read or refused by name, whatever comes', () => {
    fc.assert(
      fc.property(byte, fc.constantFrom('request', 'response'), bytes(40), (command, direction, input) => {
        try {
          decodePayload(command, direction, input)
        } catch (error) {
          expect(error).toBeInstanceOf(Refusal)
          expect(['too-short', 'unsupported']).toContain((error as Refusal).code)
        }
      }),
      { numRuns: 20_000 },
    )
  })
  it('read and written again are the same bytes', () => {
    fc.assert(
      fc.property(fc.constantFrom(...known), fc.uint8Array({ minLength: 25, maxLength: 25 }), (command, input) => {
        const first = Uint8Array.from(command === 0 || command === 11 ? [254, ...input.subarray(1)] : input)
        const fields = decodePayload(command, 'response', first)
        // What is no number, no date, no address within its range comes back as what is sent for that.
        const again = encodePayload(command, 'response', { ...fields, ...(command === 6 ? { pollingAddress: 5 } : {}) })
        expect(decodePayload(command, 'response', again)).toEqual({
          ...fields,
          ...(command === 6 ? { pollingAddress: 5 } : {}),
        })
      }),
      { numRuns: 5000 },
    )
  })
  it('of older devices leave out what they do not have', () => {
    const old = decodePayload(0, 'response', bytesOf('fefd110507030c100003a7c2'))
    expect(old).toMatchObject({ longAddress: '3d1103a7c2', responsePreambles: null, profile: null })
    expect(decodePayload(6, 'response', bytesOf('05'))).toEqual({ pollingAddress: 5, loopCurrentMode: null })
    expect(hexOf(encodePayload(38, 'request', { configurationCounter: null }))).toBe('')
  })
  it.each([
    [6, { pollingAddress: 64, loopCurrentMode: 1 }, 'invalid-input'],
    [17, { message: 'x'.repeat(33) }, 'bad-character'],
    [17, { message: 'X'.repeat(33) }, 'too-long'],
    [35, { unitCode: 12, urv: 1 }, 'invalid-input'],
    [34, { damping_s: 1e39 }, 'out-of-range'],
    [3, { mA: 4, variables: [] }, 'invalid-input'],
    [18, { tag: 'A', descriptor: '', date: '2031-02-30' }, 'bad-date'],
    [200, {}, 'unsupported'],
  ])('command %i refuses %j by %s', (command, fields, code) => {
    expect(() => encodePayload(command, 'response', fields)).toThrow(expect.objectContaining({ code }))
  })
})
