import { describe, expect, it } from 'vitest'
import { FINDINGS, LESSONS, lessonOf, type FindingCode } from './index.ts'

describe('the lessons', () => {
  it('are three lines each, of a length that is read', () => {
    for (const lines of Object.values(LESSONS)) {
      expect(lines).toHaveLength(3)
      for (const line of lines!) expect(line).toMatch(/^.{20,130}[.:]?$/)
    }
  })
  it('are there for everything that is found', () => {
    expect(Object.keys(FINDINGS).filter((code) => !LESSONS[code as FindingCode])).toEqual([])
  })
  it('are each of their own', () => {
    const lines = Object.values(LESSONS).map((lesson) => (lesson ?? []).join(' '))
    expect(new Set(lines).size).toBe(lines.length)
  })
  it('fall back on a finding’s own words', () => {
    const f = { code: 'not-positive-bore', why: 'There is no span.', sure: 'Certain.' } as const
    expect(lessonOf(f, 'Two different values.')).toEqual([
      'There is no span.',
      'Certain.',
      'What would be accepted: Two different values.',
    ])
  })
})
