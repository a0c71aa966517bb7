// What a check refuses, held against each of its rules without a server: times, live figures, plans, signers.
import { Bundle, type Check, type FolderView, type Person, type Sign, type TakeReading } from '@calm-loop/contract'
import { planOf, pointsOf } from '@calm-loop/contract/judging'
import { kindOf } from '@calm-loop/core/kinds'
import { study } from '@calm-loop/core/loop'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { demoEntries } from '../../../packages/core/src/kinds/demo-entries.fixture.ts'
import { sampleTokens } from '../src/link/samples.ts'
import { refuseImported, refuseOtherTime, refuseSigner, sampleOf } from '../src/services/check-rules.ts'

const NOW = Date.parse('2027-01-20T12:00:00Z')
const LOOP = '01a20000-0000-7000-8000-000000000001'
const person = (n: number, ...roles: Person['roles']): Person => ({
  id: `01890000-0000-7000-8000-00000000000${n}`,
  name: `Person ${n}`,
  signIn: `person${n}`,
  roles,
})
const [ann, bo, cy, dee] = [
  person(1, 'technician'),
  person(2, 'reviewer'),
  person(3, 'technician', 'reviewer'),
  person(4, 'administrator'),
]
/** A whole check of LT-112, read and given back by Ann, which nobody has signed. */
function made(change: (check: Check) => void = () => undefined) {
  const text = readFileSync(join(import.meta.dirname, '../../../demo/folders/LT-112.json'), 'utf8')
  const folder = Bundle.parse(JSON.parse(text)).folder as unknown as FolderView
  const [check, version] = [folder.checks[0], folder.versions[0]]
  if (!check || !version) throw new Error('The demo has lost its check.')
  const by = { id: ann.id, name: ann.name }
  Object.assign(check, { startedBy: by, signatures: [] })
  for (const each of [...check.readings, ...check.gates]) each.by = by
  for (const v of folder.versions) v.author = { id: dee.id, name: dee.name }
  change(check)
  return { folder, check, version }
}
const signature = (by: Person, role: Sign['role'] = 'performed') =>
  ({
    id: LOOP,
    role,
    by,
    at: '2027-01-20T11:00:00Z',
    digest: 'a'.repeat(64),
    standing: 'sealed',
  }) as unknown as Check['signatures'][0]
const codeOf = (act: () => unknown): string => {
  try {
    act()
  } catch (error) {
    return (error as { code: string }).code
  }
  return 'taken'
}

beforeEach(() => void vi.useFakeTimers({ now: NOW }))
afterEach(() => void vi.useRealTimers())

describe('the time of a reading', () => {
  const begun = (hoursAgo: number) =>
    made((c) => (c.startedAt = new Date(NOW - hoursAgo * 3_600_000).toISOString())).check
  it.each([
    ['now', 1, 0, 'taken'],
    ['a minute ahead of the server, as clocks are', 1, 60, 'taken'],
    ['three minutes ahead', 1, 180, 'clock-ahead'],
    ['a minute before the check was begun', 1, -3660, 'taken'],
    ['three minutes before it', 1, -3780, 'before-check'],
    ['kept for thirteen days', 24 * 20, -13 * 86_400, 'taken'],
    ['kept for fifteen days', 24 * 20, -15 * 86_400, 'too-old'],
  ])('%s: begun %i h ago, taken at %i s', (_, hours, seconds, code) => {
    expect(codeOf(() => refuseOtherTime(begun(hours), new Date(NOW + seconds * 1000).toISOString()))).toBe(code)
  })
})

describe('a live figure', () => {
  const samples = sampleTokens('a secret of the server')
  const given = { loopId: LOOP, at_ms: NOW, simulated: true, knots: { current: { value: 12.0184, unit: 'mA' } } }
  const take = (change: Partial<TakeReading> = {}): TakeReading => ({
    pointIndex: 2,
    source: 'live',
    sample: samples.issue(given),
    takenAt: new Date(NOW).toISOString(),
    applied: { typed: '1500 mm', value: 1500, unit: 'mm' },
    reads: { current: { typed: '12.018 mA', value: 12.018, unit: 'mA' } },
    supersedes: null,
    reason: '',
    ...change,
  })
  const read = (of: TakeReading, loopId = LOOP) => sampleOf(of, loopId, 'current', samples)
  it('is put on record with the time of its sample; a typed one has none', () => {
    expect(read(take())).toEqual(given)
    expect(read(take({ source: 'typed', sample: undefined }))).toBeNull()
    // Rounded to the decimals that are shown it is still the figure that was given.
    expect(read(take({ reads: { current: { typed: '12.02 mA', value: 12.02, unit: 'mA' } } }))).toEqual(given)
  })
  it.each<[string, () => TakeReading, string?]>([
    ['without a sample', () => take({ sample: undefined })],
    ['of a sample that another server made up', () => take({ sample: sampleTokens('another').issue(given) })],
    ['of a sample that was touched', () => take({ sample: `A${samples.issue(given)}` })],
    ['of another loop', () => take(), '01a20000-0000-7000-8000-000000000002'],
    ['of more than a minute ago', () => take({ takenAt: new Date(NOW + 61_000).toISOString() })],
    ['that is not what was given', () => take({ reads: { current: { typed: '12.03 mA', value: 12.03, unit: 'mA' } } })],
    ['in another unit', () => take({ reads: { current: { typed: '12.018 V', value: 12.018, unit: 'V' } } })],
    ['of a witness that the sample lacks', () => take({ reads: {} })],
  ])('%s is refused', (name, of, loopId) => {
    expect(
      codeOf(() => read(of(), loopId)),
      name,
    ).toBe('not-live')
  })
})

describe('the plan of a check', () => {
  const planned = (kind: string, change: Record<string, unknown> = {}) => {
    const entries = { ...demoEntries(kind), ...change } as ReturnType<typeof demoEntries>
    return () => planOf(study(kindOf(kind), entries), 'as-found')
  }
  it('is the range at the process and the tolerance', () => {
    expect(planned('pressure')()).toMatchObject({ range: { unit: 'mbar' }, tolerancePct: expect.any(Number) })
    expect(planned('discrete-sensor')()).toMatchObject({ range: { lrv: 0 } })
  })
  it.each([
    ['what is still to be entered', { lrv: { typed: '' } }, 'loop-incomplete'],
    [
      'a range without a span',
      { urv: { typed: '0 mbar', value: 0, unit: 'mbar' } },
      /^(zero-span|.*span.*|loop-incomplete)$/,
    ],
  ])('is refused for %s', (_, change, code) => {
    expect(codeOf(planned('pressure', change))).toMatch(code)
  })
  it('of a discrete point brings the target up and takes it away by turns', () => {
    expect(pointsOf(kindOf('discrete-sensor'), [100, 0, 100, 0])).toHaveLength(4)
    expect(codeOf(() => pointsOf(kindOf('discrete-sensor'), [100, 100]))).toBe('plan-not-alternating')
    expect(codeOf(() => pointsOf(kindOf('discrete-sensor'), [0, 100]))).toBe('plan-not-alternating')
    // Brought up and not taken away again, it would have changed once only.
    expect(codeOf(() => pointsOf(kindOf('discrete-sensor'), [100, 0, 100]))).toBe('plan-not-alternating')
    expect(pointsOf(kindOf('pressure'), [0, 50, 100]).map((p) => p.percent)).toEqual([0, 50, 100, 100, 50, 0])
  })
})

describe('who may sign', () => {
  const sign = (role: Sign['role'], by: Person, change: (check: Check) => void = () => undefined) => {
    const { folder, check, version } = made(change)
    const wish = { role, password: 'x' } as unknown as Sign
    return codeOf(() => refuseSigner({ wish, folder, version, check, person: by }))
  }
  const signed = (check: Check) => void (check.signatures = [signature(ann)])
  const broken = (check: Check) => void (check.signatures = [{ ...signature(ann), standing: 'broken' }])
  const foreign = (check: Check) => {
    signed(check)
    check.imported = { at: '2027-01-19T10:00:00Z', by: { id: dee.id, name: dee.name } }
  }
  it.each<[string, Sign['role'], Person, ((check: Check) => void) | undefined, string]>([
    ['the technician who did the work', 'performed', ann, undefined, 'taken'],
    ['a technician who did not', 'performed', cy, undefined, 'no-hand'],
    ['a reviewer, as the performer', 'performed', bo, undefined, 'wrong-role'],
    ['an administrator', 'reviewed', dee, signed, 'wrong-role'],
    ['the performer before every point is read', 'performed', ann, (c) => void c.readings.pop(), 'points-missing'],
    ['the performer before the loop is given back', 'performed', ann, (c) => void (c.gates = []), 'loop-not-released'],
    ['a reviewer of what is signed', 'reviewed', bo, signed, 'taken'],
    ['a reviewer of what nobody signed', 'reviewed', bo, undefined, 'not-yet-signed'],
    [
      'a reviewer who took a reading',
      'reviewed',
      cy,
      (c) => (signed(c), void c.readings.forEach((r) => (r.by = cy))),
      'own-work',
    ],
    ['anybody where a seal is broken', 'reviewed', bo, broken, 'seal-broken'],
    ['an acceptance of what was made here', 'accepted', bo, signed, 'not-imported'],
    ['an acceptance of what came from elsewhere', 'accepted', bo, foreign, 'taken'],
    [
      'an acceptance of what nobody signed',
      'accepted',
      bo,
      (c) => (foreign(c), void (c.signatures = [])),
      'not-yet-signed',
    ],
    ['an acceptance of one’s own work', 'accepted', cy, (c) => (foreign(c), void (c.startedBy = cy)), 'own-work'],
  ])('%s: %s', (_, role, by, change, code) => {
    expect(sign(role, by, change)).toBe(code)
  })
  it('a reviewer who entered the range that it is judged by may not', () => {
    const { folder, check, version } = made(signed)
    version.author = { id: bo.id, name: bo.name }
    const wish = { role: 'reviewed', password: 'x' } as unknown as Sign
    expect(codeOf(() => refuseSigner({ wish, folder, version, check, person: bo }))).toBe('own-range')
  })
  it('what came from elsewhere is not worked on', () => {
    expect(codeOf(() => refuseImported(made(foreign).check))).toBe('imported')
    expect(codeOf(() => refuseImported(made().check))).toBe('taken')
  })
})
