// Every way the server says no, without a server: what an error becomes, what is kept from the caller, what the log
// gets.
import { Problem } from '@calm-loop/contract'
import { Refusal } from '@calm-loop/core/refusal'
import type { NextFunction, Request, Response } from 'express'
import fc from 'fast-check'
import { describe, expect, it, vi } from 'vitest'
import { z } from 'zod'
import { answerProblem, HttpProblem, isDatabaseAway, notFound } from '../src/http/problems.ts'
import { refuseUnstorable, unstorable } from '../src/http/storable.ts'
import { decodeText, readJson } from '../src/services/text.ts'

function answerTo(error: unknown, headersSent = false) {
  const heads: Record<string, string> = {}
  const sent: { status?: number; type?: string; body?: string; destroyed?: boolean } = {}
  const res = {
    headersSent,
    set: (name: string, value: string) => (heads[name] = value),
    destroy: () => void (sent.destroyed = true),
    status: (status: number) => (Object.assign(sent, { status }), res),
    type: (type: string) => (Object.assign(sent, { type }), res),
    send: (body: string) => (Object.assign(sent, { body }), res),
  }
  const log = { error: vi.fn() }
  const next: NextFunction = () => undefined
  answerProblem(error, { log } as unknown as Request, res as unknown as Response, next)
  return { heads, sent, log, problem: sent.body === undefined ? undefined : Problem.parse(JSON.parse(sent.body)) }
}
const coded = (code: string, message = 'inner words') => Object.assign(new Error(message), { code })

describe('an error', () => {
  it.each([
    ['a problem of ours', new HttpProblem(409, 'tag-taken', 'Taken.'), 409, 'tag-taken'],
    ['something that is not there', notFound('This loop'), 404, 'not-found'],
    ['a refusal of the core', new Refusal('zero-span', 'No span.'), 422, 'zero-span'],
    ['what a schema refuses', z.object({ a: z.number() }).safeParse({}).error, 400, 'invalid-input'],
    ['a body that is too large', Object.assign(new Error(), { type: 'entity.too.large' }), 413, 'too-large'],
    ['a body that is no JSON', Object.assign(new Error(), { type: 'entity.parse.failed' }), 400, 'invalid-input'],
    ['a token of another session', coded('EBADCSRFTOKEN'), 403, 'stale-page'],
    ['an address that cannot be read', new URIError('%zz'), 400, 'invalid-input'],
    ['a content type that is not taken', Object.assign(new Error('x'), { status: 415 }), 415, 'invalid-input'],
    ['an id that is there', coded('23505'), 409, 'id-reused'],
    ['a reference to nothing', coded('23503'), 409, 'unknown-reference'],
    ['a figure beyond its column', coded('22003'), 400, 'invalid-input'],
    ['a check of the table', coded('23514'), 400, 'invalid-input'],
    ['a refusal of the database', coded('CL409', 'last-administrator|Make another first.'), 409, 'last-administrator'],
    ['the database away', coded('ECONNREFUSED'), 503, 'database-away'],
    ['anything else', new Error('secret path /etc'), 500, 'internal'],
    ['what is no error at all', { odd: true }, 500, 'internal'],
  ])('%s is answered as problem details', (_, error, status, code) => {
    const { problem, sent } = answerTo(error)
    expect(problem).toMatchObject({ status, code, type: 'about:blank' })
    expect(sent.status).toBe(status)
    expect(sent.type).toBe('application/problem+json')
    expect(problem!.title).not.toBe('')
    expect(problem!.detail).not.toBe('')
    expect(problem!.accepted).toMatch(/\.$/)
  })
  it('whose cause is known is answered by its cause', () => {
    expect(answerTo(new Error('query failed', { cause: coded('23505') })).problem).toMatchObject({ code: 'id-reused' })
    expect(answerTo(new Error('query failed', { cause: new Refusal('no-slope', 'x') })).problem!.status).toBe(422)
  })
  it('that nobody expected is logged, and its words kept from the caller', () => {
    const { problem, log } = answerTo(new Error('password is hunter2'))
    expect(JSON.stringify(problem)).not.toContain('hunter2')
    expect(log.error).toHaveBeenCalledOnce()
    expect(answerTo(new HttpProblem(409, 'signed', 'x')).log.error).not.toHaveBeenCalled()
  })
  it('of a code that the registry does not know is no refusal of the database', () => {
    expect(answerTo(coded('CL409', 'made-up|Something.')).problem!.code).toBe('internal')
    expect(answerTo(coded('CL409', 'no words')).problem!.code).toBe('internal')
  })
  it('says when to come again', () => {
    expect(answerTo(new HttpProblem(429, 'too-many-tries', 'x', { retryAfter_s: 7 })).heads).toEqual({
      'retry-after': '7',
    })
    expect(answerTo(coded('ECONNRESET')).heads).toEqual({ 'retry-after': '1' })
    expect(answerTo(new HttpProblem(429, 'too-many-tries', 'x', { retryAfter_s: 7 })).sent.body).not.toContain(
      'retryAfter',
    )
  })
  it('after half an answer cuts it off', () => {
    const { sent, log } = answerTo(new Error('late'), true)
    expect(sent).toEqual({ destroyed: true })
    expect(log.error).toHaveBeenCalledOnce()
  })
  it('names at most fifty fields', () => {
    const many = z.array(z.number()).safeParse(Array.from({ length: 80 }, () => 'x')).error
    expect(answerTo(many).problem!.fields).toHaveLength(50)
  })
})

describe('the database', () => {
  it.each(['08006', '53300', '57P01', '58030', '40001', 'EPIPE', 'ETIMEDOUT'])('is away when it says %s', (code) => {
    expect(isDatabaseAway(coded(code))).toBe(true)
    expect(isDatabaseAway({ cause: { cause: coded(code) } })).toBe(true)
  })
  it.each(['Connection terminated unexpectedly', 'timeout exceeded when trying to connect', 'Query read timeout'])(
    'is away when the driver says %s',
    (words) => expect(isDatabaseAway(new Error(words))).toBe(true),
  )
  it.each([undefined, null, new Error('syntax'), coded('23505'), { code: 42 }, 'text'])('is there for %s', (error) => {
    expect(isDatabaseAway(error)).toBe(false)
  })
})

describe('what cannot be kept', () => {
  it.each([
    ['NUL in a text', { a: 'x\u0000y' }, 'a'],
    ['half a character', { a: ['ok', 'x\ud800'] }, 'a.1'],
    ['a key that changes an object’s make', JSON.parse('{"a":{"__proto__":1}}'), 'a.__proto__'],
    ['NUL in a key', { 'a\u0000': 1 }, 'a␀'],
  ])('%s is named with its place', (_, value, path) => {
    expect(unstorable(value)?.path).toBe(path)
    expect(() => refuseUnstorable({}, value)).toThrowError(expect.objectContaining({ code: 'invalid-input' }))
  })
  it('is nested without end', () => {
    let deep: unknown = 'x'
    for (let i = 0; i < 60; i++) deep = [deep]
    expect(unstorable(deep)?.rule).toContain('nested')
  })
  it('is nothing that JSON usually carries', () => {
    const plain = fc.jsonValue({ maxDepth: 5, noUnicodeString: true })
    fc.assert(
      fc.property(plain, (value) => {
        fc.pre(!/\\u0000|__proto__|"constructor"|"prototype"/.test(JSON.stringify(value)))
        expect(unstorable(value)).toBeUndefined()
      }),
    )
  })
})

describe('a file that is sent', () => {
  const bytes = (text: string) => new TextEncoder().encode(text)
  it('is read as UTF-8, with or without a mark of order', () => {
    expect(decodeText(bytes('tag,Größe'))).toBe('tag,Größe')
    expect(decodeText(new Uint8Array([0xef, 0xbb, 0xbf, ...bytes('tag')]))).toBe('tag')
  })
  it('of another coding is refused in words', () => {
    expect(() => decodeText(new Uint8Array([0x47, 0x72, 0xf6, 0xdf, 0x65]))).toThrowError(
      expect.objectContaining({ code: 'not-utf-8' }),
    )
  })
  it('that is no JSON is refused in words', () => {
    expect(readJson(bytes('{"a":1}'))).toEqual({ a: 1 })
    for (const broken of ['{"a":', '', 'x']) expect(() => readJson(bytes(broken))).toThrowError(/JSON/)
  })
})
