// What the register says of a loop, worked out from its folder.
import { inWorld, type FolderView, type LoopState, type SiteJudging, type Version } from '@calm-loop/contract'
import {
  isBroken,
  standingOf,
  standOfCheck,
  verdictOfCheck,
  type CheckVerdict,
  type LoopStanding,
} from '@calm-loop/contract/judging'
import type { Check } from '@calm-loop/contract'
import { roundOfLoop } from '@calm-loop/core/loop'
import { studyOf } from './studies.ts'

type Known = Pick<FolderView, 'loop' | 'versions' | 'checks' | 'workLog'>

/** The verdict of a check by the entries that it was begun with. */
export const verdictIn =
  ({ loop, versions }: { loop: Pick<FolderView['loop'], 'kind'>; versions: readonly Version[] }) =>
  (check: Check): CheckVerdict | null => {
    const version = versions.find((v) => v.id === check.versionId)
    return verdictOfCheck(studyOf(loop.kind, version), check)
  }

/** How a loop stands by its record. */
export const loopStanding = (folder: Known, site: SiteJudging): LoopStanding =>
  standingOf(folder, studyOf(folder.loop.kind, folder.versions.at(-1)).reader.text('interval'), site, verdictIn(folder))

export function summaryOf({ folder, site }: { folder: Known; site: SiteJudging }) {
  const recorded = inWorld(folder.checks, false)
  const known = studyOf(folder.loop.kind, folder.versions.at(-1))
  const complete = Object.values(known.missing).every((m) => m.length === 0)
  const stopped = known.findings.some((f) => f.grade === 'stop')
  const standing = loopStanding(folder, site)
  const last = recorded.filter((c) => standOfCheck(c) === 'counts').at(-1)
  const newest = recorded.filter((c) => standOfCheck(c) !== 'imported').at(-1)
  const judged = last ? verdictIn(folder)(last) : null
  const reviewed = last?.signatures.find(
    (s) => s.role === 'reviewed' || (s.role === 'accepted' && s.standing === 'sealed'),
  )
  const state: LoopState = isBroken({ checks: recorded, workLog: folder.workLog })
    ? 'seal-broken'
    : standing.notFit
      ? 'not-fit'
      : !complete
        ? 'half-entered'
        : stopped
          ? 'stopped'
          : newest && newest !== last
            ? 'in-check'
            : !last
              ? 'ready'
              : !judged?.pass
                ? 'failed'
                : reviewed
                  ? 'passed'
                  : 'awaiting-review'
  return {
    state,
    lastErrorPct: judged?.errorPct ?? null,
    tolerancePct: judged?.tolerancePct ?? null,
    nextDue: standing.nextDue,
    round: roundOfLoop(known),
  }
}
