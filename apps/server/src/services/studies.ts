// The study of a recorded version, kept while it is asked for: one memo for the whole server, by what was entered. Not
// by a version's id: a folder that comes from elsewhere may bear any.
import type { Version } from '@calm-loop/contract'
import { currentKindOf, entriesNow, kindOf } from '@calm-loop/core/kinds'
import { spokenIn, study, type CurrentStudy, type Study } from '@calm-loop/core/loop'
import type { Spoken } from '@calm-loop/core/quantity'
import { sure } from '@calm-loop/core/sure'

type Recorded = Pick<Version, 'entries' | 'kindVersion'>

/** Enough for those who work at the same time. */
const KEPT = 60
const kept = new Map<string, Study>()

/** What is known of a loop from a version of its entries; from none where nothing was entered yet. */
export function studyOf(kindId: string, version: Recorded | undefined): Study {
  const kind = kindOf(kindId)
  if (!version) return study(kind, {})
  const key = `${kindId} ${version.kindVersion} ${JSON.stringify(version.entries)}`
  const known = kept.get(key) ?? study(kind, entriesNow(kind, version))
  kept.delete(key)
  kept.set(key, known)
  if (kept.size > KEPT) kept.delete(sure(kept.keys().next().value))
  return known
}

/** The units that a loop is spoken of in by its entries. */
export const spokenBy = (kindId: string, version: Recorded | undefined): Spoken | undefined =>
  version && spokenIn(kindOf(kindId), entriesNow(kindOf(kindId), version))

/** The same of a point with a current. @throws Refusal `not-a-current` */
export function currentStudyOf(kindId: string, version: Recorded | undefined): CurrentStudy {
  currentKindOf(kindId)
  return studyOf(kindId, version) as CurrentStudy
}
