import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { intervalsOf, isSettled, KINDS, PRACTICES, settledEntries } from './index.ts'

const one = <T>(of: readonly T[]) => fc.constantFrom(...of)
/** Anything that a site may settle. */
const site = fc.record({
  schools: fc
    .subarray([...PRACTICES])
    .chain((some) => fc.tuple(...some.map((p) => one(p.options).map((o) => [p.key, o.value] as const))))
    .map((rows) => Object.fromEntries(rows) as Record<string, string>),
  intervals: fc
    .subarray([...KINDS])
    .chain((some) => fc.tuple(...some.map((k) => one(intervalsOf(k).options).map((o) => [k.id, o.value] as const))))
    .map((rows) => Object.fromEntries(rows) as Record<string, string>),
})

describe('what a site settles', () => {
  it('asks each practice once, with its reason and at least two ways', () => {
    expect(new Set(PRACTICES.map((p) => p.key)).size).toBe(PRACTICES.length)
    for (const p of PRACTICES) {
      expect(p.options.length, p.key).toBeGreaterThan(1)
      expect(p.why.length, p.key).toBeGreaterThan(20)
      expect(p.usual === undefined || p.options.some((o) => o.value === p.usual), p.key).toBe(true)
    }
    expect(PRACTICES.map((p) => p.key)).toEqual(
      expect.arrayContaining(['faultAction', 'reports', 'school', 'acLegend', 'pairLegend', 'healthOutput']),
    )
  })
  it('has kinds agree on one key: the same ways, whichever kind is asked', () => {
    for (const kind of KINDS)
      for (const field of kind.fields)
        if (field.practice && field.type === 'choice')
          expect(field.options, `${kind.id} ${field.key}`).toEqual(PRACTICES.find((p) => p.key === field.key)?.options)
  })
  it('makes entries that each kind takes, and only those', () => {
    fc.assert(
      fc.property(site, one(KINDS), (settled, kind) => {
        expect(isSettled(settled)).toBe(true)
        for (const [key, { typed }] of Object.entries(settledEntries(kind, settled))) {
          const field = kind.fields.find((f) => f.key === key)
          expect(field?.type === 'choice' && field.options.some((o) => o.value === typed)).toBe(true)
          expect(typed).toBe(key === 'interval' ? settled.intervals[kind.id] : settled.schools[key])
          expect(typed).not.toBe(field?.default)
        }
      }),
    )
  })
  it('refuses what is no practice, no way of it, and no kind', () => {
    expect(isSettled({ schools: { wiring: 'x' }, intervals: {} })).toBe(false)
    expect(isSettled({ schools: { reports: 'volume' }, intervals: {} })).toBe(false)
    expect(isSettled({ schools: {}, intervals: { 'no-such': '6 months' } })).toBe(false)
    expect(isSettled({ schools: {}, intervals: { ph: 'each day' } })).toBe(false)
  })
})
