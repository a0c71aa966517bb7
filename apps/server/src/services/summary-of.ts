// What the register says of a loop, worked out from its folder.
import { inWorld, type FolderView, type LoopState } from '@calm-loop/contract'
import { standOfCheck, verdictOfCheck } from '@calm-loop/contract/judging'
import { studyOf } from './studies.ts'

const DEFAULT_INTERVAL_months = 12

/** Same day so many months later; the last day of a shorter month. */
export function monthsLater(day: string, months: number): string {
  const [y, m, d] = day.split('-').map(Number) as [number, number, number]
  const last = new Date(Date.UTC(y, m - 1 + months + 1, 0)).getUTCDate()
  return new Date(Date.UTC(y, m - 1 + months, Math.min(d, last))).toISOString().slice(0, 10)
}

/** The day on which a loop is due again; what was left out of tolerance at once: no interval runs for it. */
const dueAfter = (performedAt: string | undefined, failed: boolean, months: number): string | null =>
  performedAt === undefined ? null : monthsLater(performedAt.slice(0, 10), failed ? 0 : months)

export function summaryOf({ checks, ...folder }: Pick<FolderView, 'loop' | 'versions' | 'checks'>) {
  const recorded = inWorld(checks, false)
  const head = folder.versions.at(-1)
  const known = studyOf(folder.loop.kind, head)
  const complete =
    Object.values(known.missing).every((m) => m.length === 0) && !known.findings.some((f) => f.grade === 'stop')
  const signed = recorded.filter((c) => standOfCheck(c) === 'counts')
  const broken = recorded.some((c) => standOfCheck(c) === 'broken')
  const last = signed.at(-1)
  const newest = recorded.filter((c) => standOfCheck(c) !== 'imported').at(-1)
  const judged = last
    ? verdictOfCheck(
        studyOf(
          folder.loop.kind,
          folder.versions.find((v) => v.id === last.versionId),
        ),
        last,
      )
    : null
  const reviewed = last?.signatures.find(
    (s) => s.role === 'reviewed' || (s.role === 'accepted' && s.standing === 'sealed'),
  )
  const state: LoopState = broken
    ? 'seal-broken'
    : !complete
      ? 'half-entered'
      : newest && newest !== last
        ? 'in-check'
        : !last
          ? 'ready'
          : !judged?.pass
            ? 'failed'
            : reviewed
              ? 'passed'
              : 'awaiting-review'
  const months = Number.parseInt(known.reader.text('interval'), 10) || DEFAULT_INTERVAL_months
  const performed = last?.signatures.find((s) => s.role === 'performed')
  return {
    state,
    lastErrorPct: judged?.errorPct ?? null,
    tolerancePct: judged?.tolerancePct ?? null,
    nextDue: dueAfter(performed?.at, judged?.pass === false, months),
  }
}
