// Visits: everything that was done at a loop from the first act to the last, in order, whatever it was. Work with less
// than half a day between belongs to one visit.
import type { Study } from '@calm-loop/core/loop'
import { sure } from '@calm-loop/core/sure'
import type { CheckVerdict } from './judge-check.ts'
import { fitnessOf } from './loop-standing.ts'
import type { Check, FolderView, Version } from './loops.ts'
import {
  checkPart,
  entriesPart,
  once,
  PART_SORTS,
  plain,
  wiringParts,
  workParts,
  type VisitPart,
} from './visit-parts.ts'
import { judgedRuns } from './verifications.ts'
import type { WireEntry } from './wire-log.ts'
import type { WorkEntry } from './work-log.ts'
import { inWorld } from './worlds.ts'

export interface Visit {
  readonly from: string
  readonly to: string
  readonly by: readonly string[]
  readonly parts: readonly VisitPart[]
}

/** How versions and checks are looked at: as the page and the server each keep their studies. */
export interface Lookup {
  studyOf(version: Version | undefined): Study
  verdictOf(check: Check): CheckVerdict | null
}
type Folder = Pick<FolderView, 'versions' | 'checks' | 'workLog' | 'wireLog' | 'countLog'>

const APART_ms = 12 * 3_600_000

/** Everything that was done at a loop in one world, visit by visit, oldest first. */
export function visitsOf(folder: Folder, look: Lookup, practising = false): Visit[] {
  const [work, wire, count] = [folder.workLog, folder.wireLog, folder.countLog].map((log) =>
    inWorld(log as readonly (WorkEntry | WireEntry)[], practising),
  ) as [WorkEntry[], WireEntry[], Folder['countLog']]
  const known = look.studyOf(folder.versions.at(-1))
  const verdicts = new Map(folder.checks.map((c) => [c.id, look.verdictOf(c)]))
  const verdictOf = ({ id }: Check) => verdicts.get(id) ?? null
  const fitness = fitnessOf(folder, verdictOf)
  const parts = [
    ...inWorld(folder.checks, practising).map((c) => checkPart(c, verdictOf(c), fitness)),
    // Entries belong to both worlds; they are told where the record is.
    ...(practising
      ? []
      : folder.versions.flatMap((v, i) => entriesPart(v, folder.versions[i - 1], look.studyOf(v)) ?? [])),
    ...wiringParts(wire),
    ...workParts(
      work,
      known,
      judgedRuns(folder, work, (v) => look.studyOf(v)),
    ),
    ...count.map((e): VisitPart => ({
      ...plain,
      id: e.id,
      sort: 'count',
      from: e.at,
      to: e.at,
      by: [e.by.name],
      title: { stop: 'Stop named', rejected: 'Rejected pieces', withdrawn: 'Withdrawn' }[e.what],
      came: e.what === 'rejected' ? `${e.day} ${e.shift}: ${e.pieces}` : e.reason,
    })),
  ].sort((a, b) => a.from.localeCompare(b.from) || PART_SORTS.indexOf(a.sort) - PART_SORTS.indexOf(b.sort))
  const visits: VisitPart[][] = []
  for (const part of parts) {
    const before = visits.at(-1)
    const until = before && before.map((p) => p.to).reduce((a, b) => (b > a ? b : a))
    if (before && until && Date.parse(part.from) - Date.parse(until) < APART_ms) before.push(part)
    else visits.push([part])
  }
  return visits.map((of) => ({
    from: sure(of[0]).from,
    to: of.map((p) => p.to).reduce((a, b) => (b > a ? b : a)),
    by: once(of.flatMap((p) => p.by)),
    parts: of,
  }))
}

/** What of a visit is still open, each with its part; and who was told. */
export const openOf = (visit: Visit): string[] =>
  visit.parts.flatMap((p) => p.open.map((words) => `${p.title}: ${words}`))
export const toldOf = (visit: Visit): string[] => once(visit.parts.flatMap((p) => p.told))
