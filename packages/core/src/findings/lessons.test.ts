import { describe, expect, it } from 'vitest'
import { FINDINGS, LESSONS, lessonOf, type FindingCode } from './index.ts'

/** What the wiring desk and the discrete points find. */
const OF_THE_WIRE = Object.keys(FINDINGS).slice(
  Object.keys(FINDINGS).indexOf('lift-off-not-met'),
  Object.keys(FINDINGS).indexOf('beyond-assured'),
)
/** Slips of an entry and gaps, which their own words explain. */
const PLAIN =
  /reversed$|unusual|unknown$|not-whole|point-name|supply-outside|coil-without-diode|bus-(unconnected|half|lines|wrong)/

describe('the lessons', () => {
  it('are three lines each, of a length that is read', () => {
    for (const lines of Object.values(LESSONS)) {
      expect(lines).toHaveLength(3)
      for (const line of lines!) expect(line).toMatch(/^.{20,130}[.:]?$/)
    }
  })
  it('are there for what is found at the wire', () => {
    expect(OF_THE_WIRE.length).toBeGreaterThan(40)
    const without = OF_THE_WIRE.filter((code) => !LESSONS[code as FindingCode] && !PLAIN.test(code))
    expect(without).toEqual([])
  })
  it('fall back on a finding’s own words', () => {
    const f = { code: 'range-zero-span', why: 'There is no span.', sure: 'Certain.' } as const
    expect(lessonOf(f, 'Two different values.')).toEqual([
      'There is no span.',
      'Certain.',
      'What would be accepted: Two different values.',
    ])
  })
})
