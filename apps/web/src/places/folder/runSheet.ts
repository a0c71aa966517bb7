// How far each stage of the run sheet has come: what is done, missing or wrong, in a mark and a word or two.
import type { Check } from '@calm-loop/contract'
import { checkWords, standOfCheck } from '@calm-loop/contract/judging'
import type { Finding } from '@calm-loop/core/findings'
import type { PointKind } from '@calm-loop/core/kinds'
import { stageOfFinding } from './findings.ts'

export interface StageLine {
  readonly mark: 'done' | 'open' | 'stop' | 'look'
  readonly words: string
}
type Judged = Pick<Check, 'signatures' | 'imported'>
type Taken = Judged & Pick<Check, 'readings' | 'points'>

/** Of the check: how much of the open one is read, else what the latest is worth. */
export function checkLine(latest: Judged | undefined, open: Pick<Taken, 'readings' | 'points'> | undefined): StageLine {
  const stand = latest && standOfCheck(latest)
  const words = () => {
    if (open) return `${new Set(open.readings.map((r) => r.pointIndex)).size} of ${open.points.length} read`
    if (!latest) return 'not begun'
    return stand === 'counts' ? 'signed' : checkWords(latest)
  }
  if (stand === 'broken') return { mark: 'stop', words: words() }
  if (stand === 'imported') return { mark: 'look', words: words() }
  return { mark: latest && !open ? 'done' : 'open', words: words() }
}

/** Of the hand-over: done when somebody else has countersigned, or accepted what came from elsewhere. */
export function handOverLine(latest: Judged | undefined): StageLine {
  if (!latest) return { mark: 'open', words: 'not yet' }
  const words = checkWords(latest)
  if (standOfCheck(latest) === 'broken') return { mark: 'stop', words }
  const done = words === 'countersigned' || words === 'from elsewhere, accepted'
  return { mark: done ? 'done' : 'open', words: words === 'not signed' ? 'not yet' : words }
}

/** Of a stage with entries: a stop comes first, then what is missing, then what should be looked at. */
export function entriesLine(
  of: { readonly kind: PointKind; readonly stage: string },
  missing: readonly unknown[],
  findings: readonly Finding[],
): StageLine {
  const grades = new Set(findings.filter((f) => stageOfFinding(of.kind, f) === of.stage).map((f) => f.grade))
  if (grades.has('stop')) return { mark: 'stop', words: 'stop' }
  if (missing.length) return { mark: 'open', words: `${missing.length} to enter` }
  return grades.has('look') ? { mark: 'look', words: 'look' } : { mark: 'done', words: 'done' }
}
