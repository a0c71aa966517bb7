// Runs of sheets as verifications: what a run put on record, by which entries it is judged, and how it stands.
import { study } from '@calm-loop/core/loop'
import { currentKindOf } from '@calm-loop/core/kinds'
import { describe, expect, it } from 'vitest'
import { demoEntries } from '../../core/src/kinds/demo-entries.fixture.ts'
import type { FolderView, Version } from './loops.ts'
import { handsInRun, isBroken, runRecord, standOfRun, verificationsOf } from './verifications.ts'
import { visitsOf } from './visits.ts'
import type { WorkEntry, WorkOf } from './work-log.ts'

const by = { id: '018f4d21-9e80-7000-8000-000000000001', name: 'Ailsa Fenn' }
const rona = { id: '018f4d21-9e80-7000-8000-000000000002', name: 'Rona Teague' }
const KIND = 'coriolis'
const known = study(currentKindOf(KIND), demoEntries(KIND))
const sheet = known.sheets!().find((s) => s.id === 'health')!
let ids = 0
const entry = <E extends object>(minute: number, body: E, who = by): WorkEntry =>
  ({
    practice: false,
    ...body,
    id: `e${++ids}`,
    by: who,
    at: `2026-05-04T09:${String(minute).padStart(2, '0')}:00.000Z`,
  }) as unknown as WorkEntry
const step = (minute: number, run: string, id: string, who = by, more: object = {}) =>
  entry(minute, { what: 'step', sheet: 'health', run, step: id, title: id, value: null, words: '', ...more }, who)
const health = (minute: number, left: number, reference = false) =>
  entry(minute, { what: 'health', left_pct: left, right_pct: 99, reference, output: 'hold', changed: [] })
const runOf = (minute: number, run: string, who = by) => sheet.steps.map((s, i) => step(minute + i, run, s.id, who))
const version = (number: number, startedAt: string) =>
  ({
    id: `v${number}`,
    number,
    entries: demoEntries(KIND),
    author: by,
    startedAt,
    savedAt: startedAt,
    reason: 'As built',
  }) as unknown as Version
const folder = (workLog: readonly WorkEntry[], versions = [version(1, '2026-05-01T00:00:00.000Z')]): FolderView =>
  ({
    loop: { tag: 'FT-1' },
    versions,
    checks: [],
    workLog: [...workLog].sort((a, b) => a.at.localeCompare(b.at)),
  }) as unknown as FolderView
const found = (log: readonly WorkEntry[], versions?: Version[], practising = false) =>
  verificationsOf(folder(log, versions), () => known, practising)

describe('a health check as a verification', () => {
  it('that is kept as the first reference is held against nothing', () => {
    const [only] = found([...runOf(0, 'r'), health(2, 98, true)])
    expect(only).toMatchObject({ finished: true, judged: undefined })
  })
  it('that was finished before a step was added to its sheet stays finished', () => {
    const [only] = found(runOf(0, 'r').filter((s) => (s as { step?: string }).step !== 'alerts'))
    expect(only).toMatchObject({ finished: true })
  })
  it('is held against the reference before it, and counted by year', () => {
    const log = [
      ...runOf(0, 'r'),
      health(2, 98, true),
      ...runOf(20, 's', rona),
      health(22, 97),
      ...runOf(40, 't'),
      health(42, 80),
    ]
    const all = found(log)
    expect(all.map((v) => [v.number, v.judged?.pass])).toEqual([
      ['FT-1/2026-V1', undefined],
      ['FT-1/2026-V2', true],
      ['FT-1/2026-V3', false],
    ])
    expect(all[1]).toMatchObject({ by: ['Rona Teague'], judgedBy: ['healthLimit'] })
    expect(new Set(handsInRun(all[1]!))).toEqual(new Set([rona.id, by.id]))
  })
  it('takes only what was kept within its own steps', () => {
    const log = [health(0, 98, true), ...runOf(10, 'r'), health(50, 80)]
    expect(runRecord(log, 'r')!.health).toBeUndefined()
    expect(runRecord(log, 'other')).toBeUndefined()
  })
  it('of practice has no number and stands apart', () => {
    const practised = runOf(0, 'r').map((e) => ({ ...e, practice: true }))
    expect(found(practised)).toEqual([])
    expect(found(practised, undefined, true)[0]!.number).toBe('practice, no number')
  })
  it('is judged by the entries that stood when it was done, or that it was signed by', () => {
    const versions = [version(1, '2026-05-01T00:00:00.000Z'), version(2, '2026-05-20T00:00:00.000Z')]
    expect(found(runOf(0, 'r'), versions)[0]!.version.id).toBe('v1')
    const signed = entry(30, { what: 'run-signed', run: 'r', sheet: 'health', role: 'performed', version: 'v2' })
    expect(found([...runOf(0, 'r'), signed], versions)[0]!.version.id).toBe('v2')
  })
})

describe('in its visit', () => {
  it('it came to what its own entries made of it, whatever was entered afterwards', () => {
    const [first, later] = [version(1, '2026-05-01T00:00:00.000Z'), version(2, '2026-05-20T00:00:00.000Z')]
    const strict = { ...later, entries: demoEntries(KIND, { healthLimit: '0.5 %' }) }
    const log = [health(0, 98, true), ...runOf(10, 'r'), health(12, 97)]
    const whole = { ...folder(log, [first, strict]), wireLog: [], countLog: [] }
    const studyOf = (v: Version | undefined) => study(currentKindOf(KIND), v?.entries ?? {})
    expect(verificationsOf(whole, studyOf)[0]!.judged!.pass).toBe(true)
    const parts = visitsOf(whole, { studyOf, verdictOf: () => null }).flatMap((v) => v.parts)
    const part = parts.find((p) => p.sort === 'sheet')!
    expect(part).toMatchObject({ came: 'verified: inside its limits', open: ['not signed'] })
  })
})

describe('how a verification stands', () => {
  const signature = (more: object) =>
    entry(30, { what: 'run-signed', role: 'performed', ...more }) as WorkOf<'run-signed'>
  it.each([
    [[], 'open'],
    [[signature({ standing: 'sealed' })], 'counts'],
    [[signature({ standing: 'sealed' }), signature({ role: 'reviewed', standing: 'broken' })], 'broken'],
    [[signature({ standing: 'claimed', elsewhere: true })], 'elsewhere'],
  ])('%#: by its signatures', (signatures, stand) => {
    expect(standOfRun({ signatures })).toBe(stand)
    expect(isBroken({ checks: [], workLog: signatures })).toBe(stand === 'broken')
  })
})
