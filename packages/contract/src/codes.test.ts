// Every code once, known to the documents, and used.
import { FINDING_FAMILIES, FINDINGS } from '@calm-loop/core/findings'
import { REFUSALS, type Meaning } from '@calm-loop/core/refusal'
import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { acceptedInstead, isProblemCode, PROBLEMS } from './problem-codes.ts'

const ROOT = join(import.meta.dirname, '../../..')
const TABLES: Record<string, Record<string, Meaning>> = { REFUSALS, PROBLEMS, FINDINGS, FINDING_FAMILIES }
const codes = Object.values(TABLES).flatMap((table) => Object.keys(table))

/** Sources that may use a code; the tables themselves do not count. */
const sources = ['packages', 'apps']
  .flatMap((top) => readdirSync(join(ROOT, top), { recursive: true, encoding: 'utf8' }).map((f) => join(top, f)))
  .filter((f) => /\/(src|drizzle)\/.*\.(ts|vue|sql)$/.test(f) && !/node_modules|\.test\.|codes\.ts$/.test(f))
  .map((f) => readFileSync(join(ROOT, f), 'utf8'))
  .join('\n')

const rows = (table: Record<string, Meaning>, suffix = '') =>
  Object.entries(table).map(([code, [says, accepted]]) => `| \`${code}${suffix}\` | ${says} | ${accepted} |`)
const section = (title: string, about: string, ...lines: string[]) =>
  [
    `## ${title}`,
    '',
    about,
    '',
    '| Code | What it says | What is accepted instead |',
    '| --- | --- | --- |',
    ...lines,
  ].join('\n')

describe('the registry of codes', () => {
  it('has each code in one table only', () => {
    const whole = [REFUSALS, PROBLEMS, FINDINGS].flatMap((table) => Object.keys(table))
    expect(whole.filter((code, i) => whole.indexOf(code) !== i)).toEqual([])
  })
  it.each(codes)('%s is a plain word, with sentences, and stands somewhere in the code', (code) => {
    expect(code).toMatch(/^[a-z][a-z0-9]*(-[a-z0-9]+)*$/)
    for (const table of Object.values(TABLES))
      for (const sentence of table[code] ?? []) expect(sentence).toMatch(/^\S.*\.$/)
    expect(sources).toMatch(new RegExp(`['"\`|]${code}(['"\`|]|-\\$\\{)`))
  })
  it('tells what is accepted instead of each thing that the server refuses', () => {
    const families = Object.keys(FINDING_FAMILIES).map((family) => `${family}-fluidTemp`)
    for (const code of [...Object.keys({ ...REFUSALS, ...PROBLEMS, ...FINDINGS }), ...families]) {
      if (!isProblemCode(code)) throw new Error(code)
      expect(acceptedInstead(code)).toMatch(/\.$/)
    }
    for (const other of [undefined, '', 'toString', 'constructor', 'no-such-code', 'not-positive-', 'band-small'])
      expect(isProblemCode(other)).toBe(false)
  })
  it('knows what the functions of the database refuse with', () => {
    const raised = [...sources.matchAll(/calm_refuse\('\d+', '([^']+)'/g)].map(([, code]) => code)
    expect(raised.length).toBeGreaterThan(8)
    expect(raised.filter((code) => !isProblemCode(code))).toEqual([])
  })
  it('is what docs/codes.md lists (run with -u after a change)', async () => {
    const text = [
      '# Codes',
      '',
      'Every error answers with a stable `code` (RFC 9457 problem details, with `accepted`), every finding has one.',
      'The sentence that a person reads is made where it is said, with its figures; here is what each code means.',
      'Made from the registry by `packages/contract/src/codes.test.ts`.',
      '',
      section(
        'Refusals',
        'The core will not compute with this, or the record will not take it. HTTP status 422.',
        ...rows(REFUSALS),
      ),
      '',
      section('Problems', 'The server says no for another reason.', ...rows(PROBLEMS)),
      '',
      section(
        'Findings',
        'What is said about a loop’s entries and wiring: stop, look or note. A model’s refusal shows as a finding too.',
        ...rows(FINDINGS),
        ...rows(FINDING_FAMILIES, '-…'),
      ),
      '',
    ].join('\n')
    await expect(text).toMatchFileSnapshot(join(ROOT, 'docs/codes.md'))
  })
})
