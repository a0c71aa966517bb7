// What papers say of how a loop stands: as the register and the page say it, by the site's own rules.
import { Bundle, USUAL_JUDGING, type Check, type FolderView, type WorkEntry } from '@calm-loop/contract'
import { openOf } from '@calm-loop/contract/judging'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { whatFollows } from '../src/documents/certificate-parts.ts'
import { day } from '../src/documents/page.ts'
import { switchContent } from '../src/documents/switch-certificate.ts'
import { visitAt, visitContent, visitsIn } from '../src/documents/visit-report.ts'
import { loopStanding } from '../src/services/summary-of.ts'
import { texts } from './paper-texts.ts'

const FOLDERS = join(import.meta.dirname, '../../../demo/folders')
const demo = (tag: string): FolderView => {
  const { folder } = Bundle.parse(JSON.parse(readFileSync(join(FOLDERS, `${tag}.json`), 'utf8')))
  return { ...folder, trains: [], bench: null } as unknown as FolderView
}
const by = { id: '018f4d21-9e80-7000-8000-000000000001', name: 'Magnus Orrin' }
const AT = '2026-11-25T08:30:00.000Z'
const said = (what: 'fit' | 'measured-since', check: Check, words: string) =>
  ({
    ...{ id: `${what}-${check.id}`, by, at: AT, practice: false, what, check: check.id },
    ...(what === 'fit' ? { reason: words } : { answer: words }),
  }) as WorkEntry
const follows = (folder: FolderView, check: Check) => texts(whatFollows(folder, check))

describe('the certificate of what was left out of tolerance', () => {
  const folder = demo('LY-133')
  const left = folder.checks.findLast((c) => c.phase === 'as-left')!
  it('says that it is not fit for use while nobody has said otherwise', () => {
    expect(loopStanding(folder, USUAL_JUDGING).notFit?.id).toBe(left.id)
    expect(follows(folder, left)).toContain('NOT FIT FOR USE until someone with the duty says otherwise.')
  })
  it('says by whom its use was allowed, and why; a word from elsewhere is none', () => {
    const word = said('fit', left, 'Only shown.')
    const allowed = follows({ ...folder, workLog: [...folder.workLog, word] }, left)
    expect(allowed).toMatch(/its use was allowed by Magnus Orrin, 25 Nov 2026.*: Only shown\./)
    const elsewhere = [...folder.workLog, { ...word, elsewhere: true } as WorkEntry]
    expect(follows({ ...folder, workLog: elsewhere }, left)).toContain('NOT FIT FOR USE')
  })
  it('no longer says so once a later check that passes is countersigned', () => {
    // The same readings, judged by a tolerance that they meet.
    const passing = { ...left, tolerancePct: 50, terms: { ...left.terms!, controllerTolerancePct: 50 } }
    const [performed] = left.signatures
    const signed = (role: 'performed' | 'reviewed') => ({ ...performed!, id: role, role, at: AT })
    const later = { ...passing, id: 'later', startedAt: AT, signatures: [signed('performed')] }
    const after = (check: Check) => ({ ...folder, checks: [...folder.checks, check] })
    expect(follows(after(later), left)).toContain('NOT FIT FOR USE')
    const reviewed = after({ ...later, signatures: [signed('performed'), signed('reviewed')] })
    expect(loopStanding(reviewed, USUAL_JUDGING).notFit).toBeUndefined()
    expect(follows(reviewed, left)).toBe('Left out of tolerance then; how it stands now is told by a later check.')
    // Nor does the report of that older visit ask for it any more.
    const open = (f: FolderView) => openOf(visitsIn(f).find((v) => v.parts.some((p) => p.id === left.id))!).join()
    expect(open(folder)).toContain('not fit for use')
    expect(open(reviewed)).not.toContain('not fit for use')
  })
})

describe('the certificate of what was found out of tolerance', () => {
  const folder = demo('FT-402')
  const found = folder.checks.findLast((c) => c.phase === 'as-found')!
  it('asks what was measured with it since, and gives the answer', () => {
    expect(follows(folder, found)).toContain('Not answered yet: what was measured with it since')
    const answered = { ...folder, workLog: [...folder.workLog, said('measured-since', found, 'Steam: told.')] }
    expect(follows(answered, found)).toMatch(/^What was measured with it since: Steam: told\. Magnus Orrin/)
  })
  it('of a discrete point says it too', () => {
    const point = demo('ZS-501')
    const check = point.checks.find((c) => c.readings.length)!
    const turned = check.readings.map((r) => ({
      ...r,
      reads: { ...r.reads, controller: { ...r.reads['controller']!, value: 1 - r.reads['controller']!.value } },
    }))
    const failing = { ...check, readings: turned }
    const of = { ...point, checks: [failing] }
    const paper = { address: 'http://127.0.0.1' }
    expect(texts(switchContent(point, check, paper))).not.toContain('Not answered yet')
    expect(texts(switchContent(of, failing, paper))).toContain('Not answered yet: what was measured with it since')
  })
})

it('the report of a visit says when it is due again by the site’s own rules', () => {
  const folder = demo('FT-402')
  const visit = visitAt(folder, undefined)
  const due = (judging: typeof USUAL_JUDGING) => {
    const { nextDue } = loopStanding(folder, judging)
    expect(texts(visitContent(visit, { folder, judging }))).toContain(`Due again ${day(nextDue!)}.`)
    return nextDue
  }
  expect(due({ ...USUAL_JUDGING, maxInterval_days: 60 })).not.toBe(due(USUAL_JUDGING))
})
