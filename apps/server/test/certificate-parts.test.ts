// The parts that every certificate has, in every way that a check can stand.
import type { Check, Gate, GearUsed, Reading, Seal, Signature } from '@calm-loop/contract'
import { describe, expect, it } from 'vitest'
import {
  confirmedAndSigned,
  correctedRows,
  fingerprint,
  gearUsed,
  sealWords,
  signedSoFar,
  titleRows,
} from '../src/documents/certificate-parts.ts'
import { texts } from './paper-texts.ts'

const AT = '2026-11-20T08:30:00.000Z'
const by = { id: '018f4d21-9e80-7000-8000-000000000001', name: 'Ailsa Fenn' }
const signature = (more: Partial<Signature> = {}): Signature => ({
  ...{ id: by.id, role: 'performed', by, at: AT, statement: 'I did this check.', digest: 'ab'.repeat(32) },
  ...{ standing: 'sealed' },
  ...more,
})
const check = (more: Partial<Check> = {}): Check => ({
  phase: 'as-found',
  ...{ id: by.id, versionId: by.id, tolerancePct: 0.5, ambient: '', startedBy: by, startedAt: AT },
  ...{ range: { lrv: 0, urv: 100, unit: '%' }, points: [], gear: [], gates: [], readings: [], signatures: [] },
  ...more,
})
const sealOf = (sealedAt: string): Seal => ({
  ...{ format: 1, key: '0123456789abcdef', seq: 1, previous: null, loop: by.id, check: by.id, signature: by.id },
  ...{ role: 'performed', by, at: AT, statement: 'I did this check.', digest: 'ab'.repeat(32), sealedAt },
  ...{ content: 1, verdict: null, value: '' },
})
const folder = { loop: { tag: 'LT-112', service: 'Kelp slurry' }, checks: [] }
const title = (c: Check, pass: boolean | undefined) => texts(titleRows(folder, c, pass, ['Good', 'Bad']))

describe('the title of a certificate', () => {
  it('gives the verdict in the words of its kind, or says that nothing was read', () => {
    expect(title(check(), true)).toContain('Good')
    expect(title(check(), false)).toContain('Bad')
    expect(title(check(), undefined)).toContain('No reading was taken.')
    expect(title(check(), true)).toContain('LT-112')
  })
  it('says before anything else that a seal is broken', () => {
    const broken = check({ signatures: [signature({ standing: 'broken' })] })
    expect(title(broken, true)).toMatch(/SEAL BROKEN.*Good/)
  })
  it('says of a check made elsewhere whether it counts here', () => {
    const imported = { at: AT, by }
    expect(title(check({ imported }), true)).toContain('NOT ACCEPTED HERE')
    expect(title(check({ imported }), true)).toContain('brought in on 20 Nov 2026 by Ailsa Fenn')
    expect(title(check({ imported: { at: AT, by: null } }), true)).not.toContain(' by ')
    const accepted = signature({ role: 'accepted', by: { ...by, name: 'Magnus Orrin' } })
    expect(title(check({ imported, signatures: [accepted] }), true)).toContain('Accepted here by Magnus Orrin')
    const unsealed = signature({ role: 'accepted', standing: 'claimed' })
    expect(title(check({ imported, signatures: [unsealed] }), true)).toContain('NOT ACCEPTED HERE')
  })
})

describe('signatures on paper', () => {
  it.each([
    [signature(), 'Sealed; verified.'],
    [signature({ standing: 'claimed' }), 'Claimed, not verified.'],
    [signature({ standing: 'broken' }), 'SEAL BROKEN.'],
    [signature({ standing: 'verified', keyName: 'Works B' }), 'verified against the key “Works B”'],
  ])('say how they stand', (s, words) => {
    expect(sealWords(s)).toContain(words)
  })
  it('say when they were sealed only if that was later than they were given', () => {
    const sealed = (sealedAt: string) => sealWords(signature({ seal: sealOf(sealedAt) }))
    expect(sealed(AT)).toBe('Sealed; verified.')
    expect(sealed('2026-11-20T08:30:59.000Z')).toBe('Sealed; verified.')
    expect(sealed('2026-11-21T09:00:00.000Z')).toMatch(/^Sealed later, .*21 Nov 2026.*; verified\.$/)
  })
  it('that are missing make it a working copy, or one not countersigned', () => {
    expect(texts(signedSoFar(check()))).toContain('NOT SIGNED')
    expect(texts(signedSoFar(check({ signatures: [signature()] })))).toBe('Not yet countersigned.')
    expect(texts(signedSoFar(check({ signatures: [signature(), signature({ role: 'reviewed' })] })))).toBe('')
  })
  it('stand with their roles beside the gates that were confirmed', () => {
    const gate: Gate = { id: by.id, gate: 'loop-in-manual', words: 'Loop in manual.', told: 'Rolf', by, at: AT }
    const all = texts(
      confirmedAndSigned(check({ gates: [gate], signatures: [signature(), signature({ role: 'reviewed' })] })),
    )
    expect(all).toContain('Loop in manual. Told: Rolf. Ailsa Fenn')
    for (const role of ['Performed by', 'Reviewed by']) expect(all).toContain(role)
    expect(all).not.toContain('Accepted by')
  })
  it('carry the fingerprint only while they stand', () => {
    const paper = { address: 'http://plant.example' }
    const signed = check({ signatures: [signature()] })
    expect(texts(fingerprint(signed, paper))).toContain('/verify?is=')
    expect(fingerprint(check(), paper)).toEqual([])
    expect(fingerprint(check({ signatures: [signature({ standing: 'broken' })] }), paper)).toEqual([])
  })
})

describe('test equipment on paper', () => {
  const used = (...gear: GearUsed[]) => gearUsed(gear, AT.slice(0, 10))
  const gear: GearUsed = { id: by.id, name: 'Loop meter L1', serial: '77', uncertainty: '', due: '2027-01-01' }
  it('is named with serial, uncertainty and due date', () => {
    expect(texts(used())).toContain('No test equipment was named.')
    const words = texts(used(gear))
    expect(words).toContain('Loop meter L1')
    expect(words).toContain('serial 77; no certificate entered; uncertainty not stated; due 1 Jan 2027')
    expect(words).not.toContain('EXPIRED')
  })
  it('that was expired says so, with the reason it was used for', () => {
    const expired = { ...gear, due: '2026-11-19', expiredReason: 'No other at hand' }
    expect(texts(used(expired))).toMatch(/EXPIRED when used: No other at hand/)
  })
})

describe('readings that were corrected', () => {
  const reading = (id: string, pointIndex: number, more: Partial<Reading> = {}): Reading => ({
    ...{
      id,
      seq: 1,
      pointIndex,
      percent: 0,
      direction: 'up',
      applied: { typed: '0 %', value: 0, unit: '%' },
      reads: {},
    },
    ...{ source: 'typed', supersedes: null, reason: '', by, takenAt: AT, savedAt: AT },
    ...more,
  })
  const words = (x: { id: string }) => `reading ${x.id}`
  it('are left out where there are none', () => {
    expect(correctedRows(check({ readings: [reading('a', 0), reading('b', 1)] }), words)).toEqual([])
  })
  it('stand with the reason that the later one gave', () => {
    const readings = [reading('a', 0), reading('b', 0, { supersedes: 'a', reason: 'Clip had slipped' })]
    const all = texts(correctedRows(check({ readings }), words))
    expect(all).toContain('reading a at')
    expect(all).toContain('Clip had slipped')
    expect(all).not.toContain('reading b')
  })
})
