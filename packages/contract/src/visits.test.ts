// Visits from the record: what belongs to one, what it came to, what is open; every sort of work has its part.
import { readFileSync } from 'node:fs'
import { dueAgain, type DoneCheck } from '@calm-loop/core/check'
import { currentKindOf, entriesNow, kindOf } from '@calm-loop/core/kinds'
import { study } from '@calm-loop/core/loop'
import { describe, expect, it } from 'vitest'
import { TERMS, walk } from '../../core/src/procedure/procedure.fixture.ts'
import { driftPlot } from '../../drawing/src/index.ts'
import { demoEntries } from '../../core/src/kinds/demo-entries.fixture.ts'
import { USUAL_JUDGING } from './judging-rules.ts'
import { openOf, standingOf, toldOf, verdictOfCheck, visitsOf, type Lookup, type Visit } from './judging.ts'
import { Bundle, type Check, type Version } from './loops.ts'
import type { WorkEntry } from './work-log.ts'
import type { WireEntry } from './wire-log.ts'
import type { CountEntry } from './counting.ts'

const by = { id: '01890000-0000-7000-8000-00000000000a', name: 'Ailsa Fenn' }
const folderOf = (tag: string) =>
  Bundle.parse(JSON.parse(readFileSync(`${import.meta.dirname}/../../../demo/folders/${tag}.json`, 'utf8'))).folder
const lookOf = (kindId: string, versions: readonly Version[]): Lookup => {
  const kind = kindOf(kindId)
  const studyOf: Lookup['studyOf'] = (v) => study(kind, v ? entriesNow(kind, v) : {})
  return {
    studyOf,
    verdictOf: (check: Check) => verdictOfCheck(studyOf(versions.find((v) => v.id === check.versionId)), check),
  }
}
const visitsOfDemo = (tag: string, practising = false) => {
  const folder = folderOf(tag)
  return visitsOf(folder, lookOf(folder.loop.kind, folder.versions), practising)
}
const sorts = (visit: Visit | undefined) => visit?.parts.map((p) => p.sort)

describe('a visit of the demo plant', () => {
  it('holds check, answer, points, change and check in their order, and what changed', () => {
    const visit = visitsOfDemo('LT-208').at(-1)!
    expect(sorts(visit)).toEqual(['check', 'word', 'points', 'points', 'entries', 'check'])
    expect(visit.by).toEqual(['Ailsa Fenn'])
    expect(visit.parts.map((p) => p.came)).toEqual([
      expect.stringMatching(/^Out of tolerance: \+0\.7\d\d % of span at most$/),
      expect.stringContaining('Nine soda deliveries'),
      '3 points',
      '3 points',
      'Damping longer: the display jumped while filling',
      expect.stringContaining('Within tolerance'),
    ])
    expect(visit.parts[4]!.lines).toEqual([['Damping', '2 s → 5 s']])
    expect(visit.parts[2]!.lines[0]).toEqual(['0 mm', '−2782 mmH₂O, 4.099 mA, 16 mm, +0.619 % of span'])
    expect([openOf(visit), toldOf(visit)]).toEqual([[], ['shift operator']])
  })
  it('says what is still open after a failure', () => {
    expect(openOf(visitsOfDemo('LY-133').at(-1)!)).toEqual([
      'Check, as found: what was measured with it since is not answered',
      'Check, as left: not fit for use',
    ])
    expect(openOf(visitsOfDemo('FT-402').at(-1)!)).toHaveLength(1)
  })
  it('keeps practice apart', () => {
    expect(visitsOfDemo('LT-205').flatMap((v) => v.parts.map((p) => p.from.slice(0, 10)))).not.toContain('2026-10-20')
    const [practised] = visitsOfDemo('LT-205', true)
    expect(sorts(practised)).toEqual(['check'])
    expect(openOf(practised!)).toEqual([])
  })
  it('is one for each occasion: nine of an electrode kept for two years', () => {
    // The first entries, and eight times found and left.
    expect(visitsOfDemo('AT-221').map((v) => v.parts.length)).toEqual([1, ...Array<number>(8).fill(2)])
  })
  it('has a survey with its total', () => {
    const survey = visitsOfDemo('FT-410').at(-1)!.parts[0]!
    expect(survey).toMatchObject({ sort: 'survey', came: '480 rows', open: [] })
    expect(survey.lines.map(([name]) => name)).toEqual(['A row every', 'Total', 'Note'])
  })
})

describe('every sort of work', () => {
  const at = (minute: number) => `2026-11-20T08:${String(minute).padStart(2, '0')}:00.000Z`
  let n = 0
  const one = <T extends object>(body: T) => ({ ...body, id: `w${n}`, by, at: at(n++), practice: false })
  const version: Version = {
    id: 'v1',
    number: 1,
    parentId: null,
    revision: 0,
    entries: demoEntries('clamp-on'),
    author: by,
    startedAt: '2026-11-01T08:00:00.000Z',
    savedAt: '2026-11-01T08:10:00.000Z',
    reason: '',
    sealedAt: null,
  }
  const sheet = study(currentKindOf('clamp-on'), demoEntries('clamp-on')).sheets!()[0]!
  const step = (i: number, more: object = {}) => {
    const { id, title } = sheet.steps[i]!
    return { what: 'step', sheet: sheet.id, run: 'r1', step: id, title, value: null, words: '', ...more }
  }
  const workLog = [
    step(0, { words: 'PTW-7' }),
    step(1, { value: { typed: '7.4 mm', value: 7.4, unit: 'mm' } }),
    { what: 'zero', unit: 'ns', before: 2.1, after: 0.1, spread: 0.05, limit: 0.5, note: 'Valve 3 shut' },
    { what: 'health', left_pct: 0.4, right_pct: -0.3, reference: true, output: 'hold', changed: [] },
    { what: 'sound-speed', expected_mps: 1481, measured_mps: 1502, grade: 'doubtful', causes: [], note: 'Warmer.' },
    {
      what: 'read-back',
      lines: [
        { key: 'a', label: 'Wall', text: '7.4 mm', held: '7.0 mm' },
        { key: 'b', label: 'Liner', text: '4 mm', held: '4 mm' },
      ],
    },
    { what: 'survey', interval_s: 1, unit: 'm3/h', note: '' },
    { what: 'interval', days: 90, instead: '12 months', suggested_days: 100, reason: 'Drifts' },
    { what: 'fit', check: 'c', reason: 'Only trended' },
    { what: 're-entered', reset: 'x', key: 'y', typed: 'z' },
  ].map(one) as WorkEntry[]
  const wireLog = [
    { what: 'gate', gate: 'power-off', words: 'Isolated, locked, proved dead.', told: 'Rolf', wiring: '' },
    {
      what: 'reading',
      spot: { of: 'volts', red: 'TX:+', black: 'TX:-' },
      read: { typed: '18.6 V', value: 18.6, unit: 'V' },
      expected: 18.2,
      signal_mA: 12,
      supersedes: null,
      reason: '',
    },
    {
      what: 'reading',
      spot: { of: 'current', conductor: 'W1' },
      read: { typed: '12 mA', value: 12, unit: 'mA' },
      expected: null,
      signal_mA: null,
      supersedes: null,
      reason: '',
    },
  ].map(one) as WireEntry[]
  const countLog = [
    { what: 'stop', from: at(0), to: at(5), reason: 'jam' },
    { what: 'rejected', day: '2026-11-20', shift: 'Early', pieces: 3 },
    { what: 'withdrawn', entry: 'w0', reason: 'wrong day' },
  ].map(one) as CountEntry[]
  const [first, visit] = visitsOf(
    { versions: [version], checks: [], workLog, wireLog, countLog },
    lookOf('clamp-on', [version]),
  )
  const part = (sort: string) => visit!.parts.filter((p) => p.sort === sort)

  it('has its part, with its figures', () => {
    expect(sorts(first)).toEqual(['entries'])
    expect(openOf(first!)).toEqual(['First entries: these entries are not recorded as a version'])
    expect(part('sheet')).toMatchObject([{ title: sheet.title, came: `2 of ${sheet.steps.length} steps` }])
    expect(part('sheet')[0]!.lines[1]).toEqual([sheet.steps[1]!.title, '7.4 mm'])
    expect(part('zero')).toMatchObject([{ came: '2.1 ns → 0.1 ns' }])
    expect(part('health')).toMatchObject([
      { title: 'Health check, kept as reference', came: 'left +0.400 %, right −0.300 %' },
    ])
    expect(part('sound-speed')).toMatchObject([{ came: 'doubtful' }])
    expect(part('read-back')).toMatchObject([
      { came: '2 lines, 1 differs', lines: [['Wall', 'entered 7.4 mm, device 7.0 mm']] },
    ])
    expect(part('survey')).toMatchObject([{ came: 'still logging' }])
    expect(part('word').map((p) => p.title)).toEqual(['Interval accepted', 'Use allowed'])
    expect(part('count')).toMatchObject([{ came: 'jam' }, { came: '2026-11-20 Early: 3' }, { came: 'wrong day' }])
    const [wiring] = part('wiring')
    expect(wiring).toMatchObject({ came: '1 gate, 2 readings', told: ['Rolf'] })
    expect(wiring!.lines.slice(1)).toEqual([
      ['TX:+ to TX:-', '18.6 V, expected 18.2 V'],
      ['through W1', '12 mA'],
    ])
  })
  it('says what is open, and who was told', () => {
    expect(openOf(visit!)).toEqual([
      `${sheet.title}: next: ${sheet.steps[2]!.title}`,
      'Read-back of the set-up: 1 line of the device differs from the record',
      'Flow survey: the survey has not ended',
    ])
    expect(toldOf(visit!)).toEqual(['Rolf'])
  })
})

describe('work that is not finished, or of another sort', () => {
  const demo = folderOf('LT-208')
  const look = lookOf('level-dp', demo.versions)
  const only = (workLog: WorkEntry[], checks: Check[] = []) =>
    visitsOf({ ...demo, checks, workLog, wireLog: [], countLog: [] }, look).at(-1)!
  const of = (events: readonly object[]) =>
    events.map((event, i) => ({
      what: 'procedure',
      run: 'r',
      event,
      id: `p${i}`,
      by,
      at: `2027-01-01T08:00:${String(i % 60).padStart(2, '0')}.000Z`,
      practice: false,
    })) as WorkEntry[]
  it('a guided procedure says how it ended, what it wrote, its figures and who was told', () => {
    const { events } = walk('range-change', TERMS)
    const [whole] = only(of(events)).parts
    expect(whole).toMatchObject({ sort: 'procedure', title: 'Range change', told: ['Rolf'], open: [] })
    expect(whole!.came).toMatch(/^done; /)
    expect(whole!.lines.at(-1)![0]).toBe('Device holds')
    const [broken] = only(of(events.slice(0, 6))).parts
    expect(broken).toMatchObject({ came: 'under way', open: ['Range change not ended'] })
    const cancelled = [...events.slice(0, 6), { do: 'cancel', reason: 'rain' }]
    expect(only(of(cancelled)).parts[0]!.came).toContain('cancelled')
  })
  it('a device without a link is said to show what was seen there, and to hold nothing that nobody read', () => {
    const seen = (e: (typeof events)[number]) => (e.do === 'read' ? { ...e, seen: 'Trim passed, on its display' } : e)
    const { events } = walk('zero-trim', TERMS)
    const [part] = only(of(events.map(seen))).parts
    expect(part!.lines).toContainEqual(['Seen at the device', 'Trim passed, on its display'])
    expect(part!.lines.map(([name]) => name)).not.toContain('Device holds')
  })
  it('what was done out of coverage is told when it was done, not when it came', () => {
    const { events } = walk('range-change', TERMS)
    const late = of(events).map((e, i) => ({ ...e, doneAt: `2026-12-30T10:00:${String(i).padStart(2, '0')}.000Z` }))
    const visit = only(late)
    expect(visit.from).toBe('2026-12-30T10:00:00.000Z')
    expect(visit.to.slice(0, 16)).toBe('2026-12-30T10:00')
  })
  it('a run that can no longer be followed is left out', () => {
    expect(only(of([{ do: 'pass', step: 'told' }])).parts.map((p) => p.sort)).not.toContain('procedure')
  })
  it('a check that nobody signed says what it wants', () => {
    const [found] = demo.checks
    const open = { ...found!, startedAt: '2027-02-01T08:00:00.000Z', signatures: [], gates: [], readings: [] }
    const [part] = only([], [open]).parts
    expect(part).toMatchObject({ came: 'Nothing read', told: [] })
    expect(part!.open).toEqual(['10 points not read', 'not signed', 'operations do not have the loop back'])
    const awaiting = { ...found!, startedAt: '2027-02-01T08:00:00.000Z', signatures: found!.signatures.slice(0, 1) }
    expect(only([], [awaiting]).parts.at(-1)!.open).toEqual(['not countersigned'])
  })
  it('a check of a discrete point passes or fails in a word', () => {
    expect(visitsOfDemo('ZS-501').at(-1)!.parts[0]!.came).toMatch(/^Within tolerance: −2\.375 % of span at most$/)
  })
  it('points withdrawn are none, and a current in volts has no error of the loop', () => {
    const points = demo.workLog.filter((e) => e.what === 'trim-point')
    const volts = points.map((p) => ({ ...p, current: { typed: '1.02 V', value: 1.02, unit: 'V' } }))
    const gone = { ...points[0]!, what: 'trim-point-withdrawn', point: points[0]!.id, reason: 'misread', id: 'w' }
    const parts = only([...volts, gone as unknown as WorkEntry]).parts.filter((p) => p.sort === 'points')
    expect(parts.map((p) => p.came)).toEqual(['2 points', '3 points'])
    expect(parts[1]!.lines[0]![1]).not.toContain('% of span')
  })
  it('a zero without limit, a health check that changed something, a sheet of a kind that has none', () => {
    const made = [
      { what: 'zero', unit: 'mbar', before: 1, after: 0, spread: 0, limit: null, note: '' },
      { what: 'health', left_pct: 1, right_pct: 1, reference: false, output: 'fault', changed: ['zero taken'] },
      { what: 'sound-speed', expected_mps: 1, measured_mps: 1, grade: 'good', causes: [], note: '' },
      { what: 'step', sheet: 'old', run: 'x', step: 'a', title: 'A', value: null, words: '' },
      {
        what: 'device-range',
        lrv: { typed: '0 mm', value: 0, unit: 'mm' },
        urv: { typed: '9 mm', value: 9, unit: 'mm' },
      },
    ].map((e, i) => ({ ...e, id: `z${i}`, by, at: `2027-01-01T09:0${i}:00.000Z`, practice: false })) as WorkEntry[]
    const { parts } = only(made)
    expect(parts.map((p) => p.title)).toEqual([
      'Zero',
      'Health check',
      'Sound speed',
      'old',
      'Range of the device, read',
    ])
    expect(parts[1]!.lines).toContainEqual(['Changed since the last', 'zero taken'])
    expect(parts[3]).toMatchObject({ came: 'done', lines: [['A', 'confirmed']] })
  })
})

describe('the plot of drift', () => {
  const draw = (tag: string) => {
    const folder = folderOf(tag)
    const { verdictOf } = lookOf(folder.loop.kind, folder.versions)
    const { due, nextDue } = standingOf(folder, '', USUAL_JUDGING, verdictOf)
    return driftPlot({ due, nextDue, tolerancePct: 0.5, measure: 'error, % of span', width: 600, height: 240 })
  }
  const marks = (tag: string) => draw(tag).shapes.filter((s) => s.kind === 'rect' && s.stroke === 'signal')
  it('has a mark for all that was found and left, inside of the drawing', () => {
    expect(marks('AT-221')).toHaveLength(16)
    expect(marks('FT-410')).toEqual([])
    for (const tag of ['AT-221', 'LT-208', 'LY-133', 'TT-405'])
      for (const m of marks(tag) as { x: number; y: number }[]) {
        expect(m.x).toBeGreaterThan(60)
        expect(m.x).toBeLessThan(600)
        expect(m.y).toBeGreaterThan(20)
        expect(m.y).toBeLessThan(200)
      }
  })
  it('marks what was found and what was left each on its own day, at the tolerance that holds now', () => {
    const on = (day: string, phase: 'as-found' | 'as-left', errorPct: number, tolerancePct: number): DoneCheck => ({
      ...{ id: day, day, phase, errorPct, tolerancePct, pass: true },
    })
    const checks = [on('2025-01-01', 'as-found', 0.5, 1), on('2025-01-31', 'as-left', 0, 1)]
    const due = dueAgain([...checks, on('2025-03-02', 'as-found', 0.25, 0.5)], {
      ...{ current_days: 365, min_days: 30, max_days: 730 },
    })
    const { shapes } = driftPlot({
      ...{ due, nextDue: null, tolerancePct: 0.5, measure: 'error, %', width: 600, height: 240 },
    })
    const at = shapes.flatMap((s) => (s.kind === 'rect' && s.stroke === 'signal' ? [{ x: s.x, y: s.y }] : []))
    expect(at).toHaveLength(3)
    const [found, left, again] = at as [{ x: number; y: number }, { x: number; y: number }, { x: number; y: number }]
    // Thirty days each.
    expect(left.x - found.x).toBeCloseTo(again.x - left.x, 6)
    expect(left.x).toBeGreaterThan(found.x)
    // Half of the tolerance then is half of the tolerance now.
    expect(again.y).toBeCloseTo(found.y, 6)
  })
  it('says in words what it shows, and when it is due', () => {
    const { title, shapes } = draw('TT-405')
    expect(title).toMatch(/Oct 2023: found \+0\.1\d\d %; Oct 2024: found .*Drift \+0\.\d+ % a year\./)
    expect(shapes.some((s) => s.kind === 'text' && s.text === 'due Oct 2026')).toBe(true)
    expect(draw('FT-410').title).toContain('Nothing measured yet')
  })
})
