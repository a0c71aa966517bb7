import { describe, expect, it } from 'vitest'
import { sure } from './index.ts'

describe('what must be there', () => {
  it.each([0, '', false, Number.NaN, [], {}])('is %o as it is', (value) => {
    expect(sure(value)).toBe(value)
  })
  it.each([undefined, null])('is not %o', (value) => {
    expect(() => sure(value)).toThrowError('missing')
  })
})
