// What is refused of a folder that comes from elsewhere, and that it leaves no trace in what is known here.
import { Bundle, type Check, type Version } from '@calm-loop/contract'
import { entryFrom } from '@calm-loop/core/quantity'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { HttpProblem } from '../src/http/problems.ts'
import { parseBundle } from '../src/services/bundle-text.ts'
import { currentStudyOf } from '../src/services/studies.ts'

type Folder = Bundle['folder']
const read = (tag: string): Bundle =>
  Bundle.parse(JSON.parse(readFileSync(join(import.meta.dirname, '../../../demo/folders', `${tag}.json`), 'utf8')))
const parse = (bundle: unknown) => parseBundle(new TextEncoder().encode(JSON.stringify(bundle)))
/** A copy of a folder with something changed in it; of its checks only what nobody signed, where asked for. */
function changed(tag: string, change: (folder: Folder) => void, signed = true): Bundle {
  const copy = structuredClone(read(tag))
  if (!signed) for (const check of copy.folder.checks) check.signatures = []
  change(copy.folder)
  return copy
}
function refusalOf(bundle: unknown): HttpProblem {
  try {
    parse(bundle)
  } catch (error) {
    if (error instanceof HttpProblem) return error
    throw error
  }
  throw new Error('It was taken.')
}
const first = <T>(list: readonly T[]): T => {
  if (list[0] === undefined) throw new Error('There is none.')
  return list[0]
}
const check = (f: Folder): Check => first(f.checks)
const version = (f: Folder): Version => first(f.versions)

describe('a folder that is true', () => {
  it.each(['LT-112', 'ZS-502', 'PDT-118', 'TT-405'])('%s is taken, signed or not', (tag) => {
    expect(parse(read(tag)).folder.loop.tag).toBe(tag)
    expect(parse(changed(tag, () => undefined, false)).folder.checks.every((c) => !c.signatures.length)).toBe(true)
  })
})

describe('a folder that contradicts itself', () => {
  it.each<[string, string, (f: Folder) => void, RegExp]>([
    ['versions out of order', 'not-a-bundle', (f) => (version(f).number = 2), /do not follow one another/],
    ['a version of no parent', 'not-a-bundle', (f) => (version(f).parentId = check(f).id), /do not follow/],
    ['a check of entries that are not there', 'not-a-bundle', (f) => (check(f).versionId = check(f).id), /not in it/],
    ['a letter that cannot be kept', 'not-a-bundle', (f) => (f.loop.service = 'Wash\u0000tank'), /cannot be kept/],
    ['a name of another signer', 'signature-broken', (f) => (check(f).tolerancePct = 9), /changed afterwards/],
    [
      'an entry whose text says something else',
      'entry-mismatch',
      (f) => Object.assign(version(f).entries, { urv: { typed: '3000 mm', value: 2000, unit: 'mm' } }),
      /in version 1: urv/,
    ],
  ])('%s is refused as %s', (_, code, change, words) => {
    const refused = refusalOf(changed('LT-112', change, code === 'signature-broken'))
    expect(refused).toMatchObject({ status: 422, code })
    expect(refused.message).toMatch(words)
    expect(refused.message).toMatch(/Nothing was stored\.$/)
  })
  it.each<[string, string, (f: Folder) => void]>([
    [
      'whose text says something else',
      'entry-mismatch',
      (f) => (first(check(f).readings).applied = { typed: '12 mm', value: 14, unit: 'mm' }),
    ],
    ['of nothing', 'nothing-read', (f) => (first(check(f).readings).reads = {})],
    [
      'in a unit of something else',
      'incommensurable',
      (f) => (first(check(f).readings).applied = { typed: '3 kg/h', value: 3, unit: 'kg/h' }),
    ],
  ])('a reading %s is refused', (_, code, change) => {
    const refused = refusalOf(changed('LT-112', change, false))
    expect(refused).toMatchObject({ status: 422, code })
    expect(refused.message).toMatch(/reading 1 of the check of \d{4}-\d\d-\d\d/i)
  })
  it('of a discrete point is refused without the witness that counts, and with changes that do not follow', () => {
    expect(refusalOf(changed('ZS-502', (f) => (first(check(f).readings).reads = {}), false)).code).toBe(
      'witness-missing',
    )
    expect(refusalOf(changed('ZS-502', (f) => (first(f.edges).changes += 1), false)).message).toMatch(
      /counted changes do not follow/,
    )
  })
  it('in the log of the work is refused', () => {
    const refused = refusalOf(
      changed('PDT-118', (f) => {
        const point = f.workLog.find((e) => e.what === 'trim-point')
        if (point?.what === 'trim-point') point.applied = { ...point.applied, value: point.applied.value + 1 }
      }),
    )
    expect(refused).toMatchObject({ status: 422, code: 'entry-mismatch' })
    expect(refused.message).toMatch(/log of the work/)
  })
})

it('what is known of a loop on record is not moved by a folder that bears the ids of its versions', () => {
  // An id that no other test has asked about.
  const id = '01a20000-0000-7000-8000-00000000f00d'
  const real = { ...version(read('LT-112').folder), id }
  const forged = changed(
    'LT-112',
    (f) => {
      version(f).id = id
      for (const each of f.checks) each.versionId = id
      const urv = entryFrom('6000 mm', { quantity: 'length', unit: 'mm' })
      Object.assign(version(f).entries, { urv, tankDepth: entryFrom('9 m', { quantity: 'length', unit: 'mm' }) })
    },
    false,
  )
  parse(forged)
  const study = currentStudyOf('level-from-above', real)
  expect(study.scales[0]?.high).toBe(3000)
  expect(study.entries['urv']?.typed).toBe('3000 mm')
})
