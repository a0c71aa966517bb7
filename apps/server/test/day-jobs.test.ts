// What the worker threads make of the day, made here where it can be looked into: a shift on paper, a calendar, how
// verdicts move by a meter that was off, and what guided work left.
import { Bundle, type HandedOver, type Weeks } from '@calm-loop/contract'
import { USUAL_WEEK } from '@calm-loop/contract/weeks'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { TERMS, walk } from '../../../packages/core/src/procedure/procedure.fixture.ts'
import { doneWords } from '../src/services/shift-words.ts'
import { jobs } from '../src/workers/jobs.ts'

const by = { id: '01890000-0000-7000-8000-00000000000a', name: 'Ailsa Fenn' }
const AT = '2026-11-30T06:00:00.000Z'
const loop = (tag: string, area = 'Yard') => ({ id: `loop-${tag}`, tag, area })
const NOBODY = { name: '', address: '', procedure: '' }

describe('guided work', () => {
  it('that runs, or was given up, says where it stands and what is to be undone; at its end nothing', () => {
    const all = walk('zero-trim', TERMS).events
    const begun = all.slice(0, 6)
    const given = [...begun, { do: 'cancel', reason: 'called away' } as const]
    const [running, cancelled, done, none, broken] = jobs.runsOpen({ runs: [begun, given, all, [], all.slice(1)] })
    expect(running).toMatchObject({ words: expect.stringMatching(/at “.+”$/) as string })
    expect(running!.left.length).toBeGreaterThan(0)
    expect(cancelled!.words).toContain('given up, and not brought back')
    expect([done, none, broken]).toEqual([undefined, undefined, undefined])
  })
  it('is worded, and practice never reads as work', () => {
    expect(doneWords('reading', false)).toBe('took readings')
    expect(doneWords('reading', true)).toBe('practised at the bench')
    expect(doneWords('work-pass', false)).toBe('led guided work')
    expect(doneWords('entry-step', false)).toBe('worked at the point')
    expect(doneWords('took Loop meter L1', false)).toBe('took Loop meter L1')
  })
})

describe('a shift on paper', () => {
  const empty: HandedOver = {
    ...{ id: 'h', by, at: AT, from: AT, words: '', read: [] },
    shift: { from: AT, to: AT, done: [], more: 0, open: [], jobs: [], kit: [] },
  }
  const full: HandedOver = {
    ...empty,
    words: 'The gate is stuck.',
    read: [{ by, at: AT }],
    shift: {
      ...empty.shift,
      more: 3,
      done: [
        { by, loop: loop('LT-2', 'Quay'), first: AT, last: AT, what: [{ words: 'took readings', times: 6 }] },
        { by, loop: null, first: AT, last: AT, what: [{ words: 'took Loop meter L1', times: 1 }] },
      ],
      open: [{ sort: 'check', loop: loop('LT-1'), words: 'not signed', by, since: AT, left: ['not given back'] }],
      kit: [
        { piece: 'Loop meter L1', holder: by, since: AT, place: 'van 2' },
        { piece: 'Dip gauge D2', holder: by, since: AT, place: '' },
      ],
      jobs: ['2026-12-01', null].map((day, i) => ({
        ...{
          id: `j${i}`,
          loopId: 'loop-LT-1',
          tag: 'LT-1',
          what: 'Look',
          why: i ? '' : 'Wet',
          by: day,
          from: 'Control',
        },
        ...{ origin: 'call', works: [], made: AT, madeBy: by, ended: null },
      })),
    },
  }
  it.each([
    ['nothing in it', empty],
    ['something of everything', full],
  ])('is made with %s', async (_, handed) => {
    const pdf = await jobs.shiftPdf({ handed, site: NOBODY })
    expect(String.fromCharCode(...pdf.subarray(0, 5))).toBe('%PDF-')
  })
})

describe('the weeks as a calendar', () => {
  const weeks: Weeks = {
    ...{ today: '2026-11-30', until: '2026-12-31', more: 0, people: [by], pins: [], kit: [], past: {}, wanted: 4 },
    ...{ walking: { areas: [] }, terms: USUAL_WEEK },
    loops: ['2026-12-20', '2026-10-01'].map((due, i) => ({
      ...loop(`LT-${i}`),
      ...{ service: '', kind: 'pressure', works: ['loop-check'], brings: [], needs: [], due },
    })),
  }
  it('says of each what it is, when it is due, who goes, and whether the day is settled', () => {
    const pins = [{ loopId: 'loop-LT-0', day: '2026-12-10', personId: null }]
    const shutdowns = (['into', 'none'] as const).map((how, i) => ({
      ...{
        id: `s${i}`,
        from: '2026-12-24',
        to: '2026-12-26',
        area: i ? null : 'Gas',
        how,
        words: i ? '' : 'Lines open',
      },
    }))
    const text = jobs.weekCalendar({ weeks: { ...weeks, pins, terms: { ...USUAL_WEEK, shutdowns } } })
    const unfolded = text.replace(/\r\n[ \t]/g, '')
    for (const words of ['The day is settled.', 'The day is proposed by the plan.', 'it is late', 'Ailsa Fenn'])
      expect(unfolded).toContain(words)
    expect(unfolded).toContain('SUMMARY:Gas: stands still\\, checks are done')
    expect(unfolded).toContain('SUMMARY:The works: no checks')
    const own = jobs.weekCalendar({ weeks, person: { id: 'nobody', name: 'Nobody' } })
    expect(own).toContain('Checks of Nobody')
    expect(own).not.toContain('BEGIN:VEVENT')
  })
})

describe('a check by a meter that was off', () => {
  const folderOf = (tag: string) => {
    const path = join(import.meta.dirname, `../../../demo/folders/${tag}.json`)
    return Bundle.parse(JSON.parse(readFileSync(path, 'utf8'))).folder
  }
  const casesOf = (tag: string) => {
    const { loop: of, checks, versions } = folderOf(tag)
    return checks.map((check) => ({
      ...{ kind: of.kind, check, version: versions.find((v) => v.id === check.versionId)! },
    }))
  }
  const cases = casesOf('LT-112')
  const gauge = cases[0]!.check.gear.find((g) => g.name === 'Dip gauge D2')!.id
  const points = [0, 5000].map((at) => ({ unit: 'mm', at, found: at + 30 }))
  it('moves by the error that it read with, and not where it read nothing', () => {
    const [moved] = jobs.withoutError({ cases, gearId: gauge, points })
    expect(moved!.verdict!.pass).toBe(true)
    expect(moved!.without!.pass).toBe(false)
    expect(Math.abs(moved!.movedPct!)).toBeGreaterThan(0.5)
    const [still] = jobs.withoutError({ cases, gearId: gauge, points: [] })
    expect(still).toMatchObject({ without: null, movedPct: null })
    const [other] = jobs.withoutError({ cases, gearId: gauge, points: [{ unit: 'bar', at: 1, found: 2 }] })
    expect(other).toMatchObject({ movedPct: 0, words: expect.stringContaining('No figure of it') as string })
  })
  it('of before who read what was kept is judged by what is assumed, and that is said', () => {
    const old = cases.map(({ check, ...c }) => {
      const { terms: _, ...bare } = check
      return { ...c, check: { ...bare, rule: 2 as const } }
    })
    const [moved] = jobs.withoutError({ cases: old, gearId: gauge, points })
    expect(moved!.words).toContain('Which piece read what is not on record')
  })
  it('of a discrete point, or without a reading, has no error to move', () => {
    const [state] = jobs.withoutError({ cases: casesOf('ZS-501'), gearId: gauge, points })
    expect(state!.words).not.toBe('')
    const bare = cases.map((c) => ({ ...c, check: { ...c.check, readings: [] } }))
    expect(jobs.withoutError({ cases: bare, gearId: gauge, points })[0]).toMatchObject({ verdict: null, without: null })
    const unknown = cases.map((c) => ({ ...c, kind: 'no-such-kind' }))
    expect(jobs.withoutError({ cases: unknown, gearId: gauge, points })[0]!.words).not.toBe('')
  })
})
