// What the worker threads make, made here where it can be looked into: papers, files, and what is refused of what
// comes in.
import { Bundle, type FolderView } from '@calm-loop/contract'
import { kindOf } from '@calm-loop/core/kinds'
import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { z } from 'zod'
import { switchContent } from '../src/documents/switch-certificate.ts'
import { invalidInput, isDatabaseAway, type HttpProblem } from '../src/http/problems.ts'
import { monthsLater } from '@calm-loop/contract/judging'
import { visitsIn } from '../src/documents/visit-report.ts'
import { USUAL_JUDGING } from '@calm-loop/contract'
import { jobs } from '../src/workers/jobs.ts'
import { texts } from './paper-texts.ts'

const ROOT = join(import.meta.dirname, '../../..')
const GOLDEN = join(ROOT, 'packages/core/golden/0.1.0')
const files = [
  ...readdirSync(join(ROOT, 'demo/folders')).map((f) => join(ROOT, 'demo/folders', f)),
  ...readdirSync(GOLDEN)
    .filter((f) => f.endsWith('.bundle.json'))
    .map((f) => join(GOLDEN, f)),
].map((path) => readFileSync(path, 'utf8'))
const bytes = (text: string) => new TextEncoder().encode(text)
const bundles = files.map((text) => {
  const bundle = Bundle.parse(JSON.parse(text))
  const view = { ...bundle.folder, trains: [] } as unknown as FolderView
  return {
    tag: `${bundle.folder.loop.tag}, bundle ${bundle.version}`,
    text,
    bundle,
    view,
    kind: kindOf(bundle.folder.loop.kind),
  }
})
const isPdf = (file: Uint8Array) => {
  expect(String.fromCharCode(...file.subarray(0, 5))).toBe('%PDF-')
  expect(file.length).toBeGreaterThan(5000)
}
/** The refusal that something ends in. */
function refusal(act: () => unknown): HttpProblem {
  try {
    act()
  } catch (error) {
    return error as HttpProblem
  }
  throw new Error('it was taken')
}

describe.each(bundles)('$tag', ({ text, bundle, view, kind }) => {
  const paper = { address: 'http://127.0.0.1' }
  it('gives a certificate and readings of every check', async () => {
    for (const check of view.checks) {
      isPdf(await jobs.certificate({ folder: view, check, paper }))
      const { entries } = view.versions.find((v) => v.id === check.versionId)!
      const lines = jobs.readingsCsv({ kind: kind.id, entries, check }).trim().split('\r\n')
      expect(lines).toHaveLength(check.readings.length + 1)
      expect(lines.join('\n')).not.toMatch(/NaN|undefined|\[object/)
    }
  })
  it('draws its wiring on paper, as a picture and as a list', async () => {
    const signal = { mA: 12, target: true }
    const svg = await jobs.wiringSvg({ folder: view, signal })
    expect(svg).toMatch(/^<svg/)
    expect(svg).not.toMatch(/NaN|undefined/)
    const csv = await jobs.wiringCsv({ folder: view, signal })
    expect(csv).toMatch(/conductor,from,to/)
    expect(csv).not.toMatch(/NaN|undefined/)
    isPdf(await jobs.wiringPdf({ folder: view, signal }))
  })
  it('prints the report of each of its visits, as record and as practice', async () => {
    const site = { name: 'Holmsay Kelp Works', address: 'Wash house', procedure: 'P-12' }
    for (const { from } of visitsIn(view))
      isPdf(await jobs.visitPdf({ folder: view, at: from, judging: USUAL_JUDGING, site }))
    await expect(
      (async () => jobs.visitPdf({ folder: view, at: '1999-01-01T00:00:00.000Z', judging: USUAL_JUDGING }))(),
    ).rejects.toThrow(/done/)
    const practising = { ...view, bench: { by: { id: 'p', name: 'Ailsa Fenn' }, at: '2027-01-01T00:00:00.000Z' } }
    if (visitsIn(practising).length) isPdf(await jobs.visitPdf({ folder: practising, judging: USUAL_JUDGING }))
  })
  it('prints its set-up sheet, where its kind has one', async () => {
    if (kind.family === 'current' && kind.has.setup) isPdf(await jobs.setupPdf({ folder: view }))
    else await expect((async () => jobs.setupPdf({ folder: view }))()).rejects.toThrow(/no set-up sheet|current/)
  })
  it('comes in as it went out, and is summed up in one line of the register', () => {
    const parsed = jobs.parseBundle(bytes(text))
    if (bundle.version === 2) expect(jobs.bundleText(parsed.folder)).toBe(text)
    const summary = jobs.summary({ folder: view, site: USUAL_JUDGING })
    expect(summary.state).toMatch(/^[a-z-]+$/)
    if (summary.nextDue) expect(summary.nextDue).toMatch(/^\d{4}-\d\d-\d\d$/)
  })
  it('is refused when something in it is not true', () => {
    const spoiled = (spoil: (folder: Bundle['folder']) => void) => {
      const copy = structuredClone(bundle)
      spoil(copy.folder)
      return refusal(() => jobs.parseBundle(bytes(JSON.stringify(copy))))
    }
    const entry = Object.keys(bundle.folder.versions.at(-1)!.entries).find(
      (key) => bundle.folder.versions.at(-1)!.entries[key]!.value !== undefined,
    )
    if (entry)
      expect(spoiled((f) => void ((f.versions.at(-1)!.entries[entry] as { value: number }).value += 1)).code).toMatch(
        /^[a-z-]+$/,
      )
    expect(spoiled((f) => void ((f.loop as { kind: string }).kind = 'no-such-kind')).status).toBe(422)
    if (bundle.folder.checks[0]?.readings.length)
      expect(spoiled((f) => void ((f.checks[0]!.readings[0] as { pointIndex: number }).pointIndex = 4000)).status).toBe(
        422,
      )
  })
})

describe('a file that is no folder', () => {
  it.each([
    ['cut short', bytes(files[0]!.slice(0, 400)), 'not-json'],
    ['not in UTF-8', new Uint8Array([0x7b, 0xff, 0xfe, 0x7d]), 'not-utf-8'],
    ['something else', bytes('{"format":"other","version":1}'), 'not-a-bundle'],
    ['nothing', bytes('null'), 'not-a-bundle'],
    ['of a later release', bytes(files[0]!.replace(/"version": \d+\n/, '"version": 99\n')), 'newer-version'],
  ])('%s is refused by name', (_, file, code) => {
    const refused = refusal(() => jobs.parseBundle(file))
    expect(refused.code).toBe(code)
    expect(refused.message).toMatch(/\.$/)
  })
})

describe('the register as a file', () => {
  const row = {
    tag: 'LT-1',
    service: '=1+1',
    area: 'Yard, north',
    kind: 'discrete-sensor',
    state: 'passed',
    nextDue: '2027-01-31',
    lastErrorPct: 0.12,
    tolerancePct: 0.5,
  }
  it('begins with its header, says what per cent are of, and hides no formula', () => {
    const text = jobs.registerText({ rows: [row, { ...row, kind: 'rtd-head' }], first: true })
    const [header, first, second] = text.split('\r\n')
    expect(header).toMatch(/^tag,service,area,kind,state/)
    expect(first).toContain('operate distance')
    expect(second).toContain(',span')
    expect(first).not.toMatch(/,=1/)
    expect(jobs.registerText({ rows: [row], first: false })).not.toContain('service')
  })
  it('is read with its line numbers, whatever the order and case of its columns', () => {
    const read = jobs.parseRegister(bytes('\uFEFFKind, Area ,TAG,service\r\nrtd-head,Yard,TT-9,Oil\r\n'))
    expect(read).toEqual([{ line: 2, identity: { tag: 'TT-9', service: 'Oil', area: 'Yard', kind: 'rtd-head' } }])
  })
  it.each([
    ['tag,service\r\nLT-1,x\r\n', 'not-csv', 'missing columns: area, kind'],
    ['tag,service,area,kind\r\n', 'not-csv', 'at least one row'],
    ['tag,service,area,kind\r\n"LT-1,x,y\r\n', 'not-csv', 'not a whole CSV'],
    ['tag,service,area,kind\r\nLT-1,x,y,zork\r\nnonsense,x,y,rtd-head\r\n', 'bad-rows', '2 of 2 rows'],
  ])('%j is refused by name and with its reason', (text, code, words) => {
    const refused = refusal(() => jobs.parseRegister(bytes(text)))
    expect(refused.code).toBe(code)
    expect(refused.message).toContain(words)
  })
})

describe('what else is made there', () => {
  it('the audit trail as a file, the interface as a document, the schema of a folder', () => {
    const entry = {
      place: 1,
      at: '2027-01-01T00:00:00.000Z',
      by: null,
      action: 'sign-in',
      loop: null,
      details: 'x',
      hash: 'ab',
      whole: true,
    }
    expect(jobs.auditCsv([entry] as never)).toMatch(/^place,at,by/)
    expect(JSON.parse(jobs.openApi())).toHaveProperty('paths')
    expect(JSON.parse(jobs.bundleSchema())).toHaveProperty('properties.folder')
    expect(jobs.json({ a: 1 })).toBe('{"a":1}')
    expect(jobs.csv({ header: ['a'], rows: [['@x'], [null], [3]] })).not.toMatch(/^@/m)
  })
  it('the day a check is due again: the same day of a later month, or its last', () => {
    expect(monthsLater('2026-01-31', 1)).toBe('2026-02-28')
    expect(monthsLater('2027-11-30', 3)).toBe('2028-02-29')
    expect(monthsLater('2026-06-15', 12)).toBe('2027-06-15')
  })
})

describe('a certificate says how it stands', () => {
  const paper = { address: 'http://127.0.0.1' }
  const said = (content: unknown) => texts(content).replace(/\s+/g, ' ')
  const { view } = bundles.find((b) => b.kind.family === 'switch' && b.view.checks.some((c) => c.readings.length > 1))!
  const check = view.checks.find((c) => c.readings.length > 1)!
  const by = check.startedBy
  const at = check.startedAt
  const signature = (role: 'performed' | 'reviewed' | 'accepted', more: object = {}) => ({
    id: role,
    role,
    by,
    at,
    statement: 'As read.',
    digest: 'a'.repeat(64),
    standing: 'sealed',
    ...more,
  })
  const paperOf = (changed: object) => said(switchContent(view, { ...check, ...changed }, paper))

  it('unsigned, signed once, and countersigned', () => {
    expect(paperOf({ signatures: [] })).toContain('NOT SIGNED: this is a working copy')
    expect(paperOf({ signatures: [signature('performed')] })).toContain('Not yet countersigned.')
    const both = paperOf({ signatures: [signature('performed'), signature('reviewed')] })
    expect(both).not.toMatch(/NOT SIGNED|Not yet countersigned/)
    expect(both).toContain('Reviewed by')
  })
  it('with a seal that is broken: no certificate, and it never passes', () => {
    const broken = paperOf({ signatures: [signature('performed', { standing: 'broken' })] })
    expect(broken).toContain('SEAL BROKEN: what was signed is not what stands here')
    expect(broken).not.toContain('/verify?is=')
  })
  it('brought in from elsewhere: by whom, and whether it was accepted here', () => {
    const imported = { at, by }
    expect(paperOf({ imported, signatures: [signature('performed', { standing: 'claimed' })] })).toMatch(
      /Made elsewhere.*NOT ACCEPTED HERE/,
    )
    expect(paperOf({ imported: { at, by: null }, signatures: [signature('accepted')] })).toMatch(
      /Made elsewhere.*Accepted here by/,
    )
    expect(
      paperOf({ imported, signatures: [signature('performed', { standing: 'verified', keyName: 'North works' })] }),
    ).toContain('“North works”')
    expect(paperOf({ signatures: [signature('performed', { standing: 'claimed' })] })).toContain(
      'Claimed, not verified.',
    )
  })
  it('sealed later than it was signed', () => {
    const seal = { sealedAt: '2031-05-05T10:00:00.000Z' }
    expect(paperOf({ signatures: [signature('performed', { seal })] })).toMatch(/Sealed later, /)
  })
  it('with expired gear and why, and without any', () => {
    const gear = [
      {
        id: 'g',
        name: 'Loop meter',
        serial: '1',
        measures: 'mA',
        range: '',
        uncertainty: '',
        due: '2020-01-01',
        expiredReason: 'ordered',
      },
    ]
    expect(paperOf({ gear })).toMatch(/uncertainty not stated; due .* — EXPIRED when used: ordered/)
    expect(paperOf({ gear: [] })).toContain('No test equipment was named.')
  })
  it('with nothing read, and with a reading that was corrected', () => {
    expect(paperOf({ readings: [] })).toContain('No reading was taken.')
    const [first] = check.readings
    const again = { ...first!, id: 'again', seq: 99, supersedes: first!.id, reason: 'lamp misread' }
    expect(paperOf({ readings: [...check.readings, again] })).toMatch(/Readings that were corrected.*lamp misread/)
    const silent = { ...again, reason: '' }
    expect(paperOf({ readings: [...check.readings, silent] })).toContain('taken again')
  })
  it('with witnesses that were not seen or metered, and one that disagrees', () => {
    const [first, ...rest] = check.readings
    const turned = first!.reads['controller']!.value >= 0.5 ? 0 : 1
    const odd = {
      ...first!,
      reads: { controller: { ...first!.reads['controller']!, value: turned } },
      applied: { value: 1, unit: 'state' },
    }
    const text = paperOf({ readings: [odd, ...rest] })
    expect(text).toContain('not seen')
    expect(text).toContain('not metered')
    expect(text).toContain('as placed')
    expect(text).toMatch(/disagrees |Does not agree/)
  })
})

describe('how the server says no', () => {
  const away = (error: object) => isDatabaseAway(error)
  it('knows that the database is away by its code, its words, or what caused it', () => {
    for (const code of ['ECONNREFUSED', '57P01', '08006', '53300', '40001']) expect(away({ code }), code).toBe(true)
    expect(away({ message: 'Connection terminated unexpectedly' })).toBe(true)
    expect(away({ message: 'query failed', cause: { cause: { code: 'ECONNRESET' } } })).toBe(true)
    for (const code of ['23505', '42P01', 'ENOENT']) expect(away({ code }), code).toBe(false)
    expect(away({ code: 7, message: 9 })).toBe(false)
  })
  it('says which field of what was sent breaks which rule', () => {
    const parsed = z.object({ a: z.object({ b: z.number() }), c: z.string() }).safeParse({ a: { b: 'x' } })
    const problem = invalidInput(parsed.error!)
    expect(problem.status).toBe(400)
    expect(problem.extra.fields!.map((f) => f.path)).toEqual(['a.b', 'c'])
    expect(invalidInput(z.string().safeParse(3).error!).extra.fields![0]!.path).toBe('body')
  })
})
