import { describe, expect, it } from 'vitest'
import { findTerms, GLOSSARY } from './index.ts'

describe('the glossary', () => {
  it('explains each word once, in full sentences, in order', () => {
    const terms = GLOSSARY.map((t) => t.term)
    expect(new Set(terms).size).toBe(terms.length)
    for (const t of GLOSSARY) expect(t.means).toMatch(/^[A-Z0-9].*\.$/)
    expect(GLOSSARY.length).toBeGreaterThan(50)
  })
  it('is found by the word, by another word for it, and by what explains it', () => {
    expect(findTerms('lift')[0]!.term).toBe('Lift-off voltage')
    expect(findTerms('pull-up')[0]!.term).toBe('Bias resistor')
    expect(findTerms('sinking sensor')[0]!.term).toBe('NPN')
    expect(findTerms('120 Ω')[0]!.term).toBe('Termination')
    expect(findTerms('')).toBe(GLOSSARY)
    expect(findTerms('no such word')).toEqual([])
  })
})
