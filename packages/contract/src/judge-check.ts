// The verdict of a check on record, from its readings.
import type { Study, SwitchStudy } from '@calm-loop/core/loop'
import {
  judgeByRange,
  judgeByThread,
  standingReadings,
  withTarget,
  type ConformityVerdict,
  type WholeJudgement,
  type RecordedReading,
} from '@calm-loop/core/check'
import { judgeSwitch, type SwitchJudgement, type SwitchReading, type WitnessId } from '@calm-loop/core/discrete'
import { entriesNow, kindOf, type Entries } from '@calm-loop/core/kinds'
import { convertUnit } from '@calm-loop/core/quantity'
import { attempt, Refusal } from '@calm-loop/core/refusal'
import type { Thread } from '@calm-loop/core/thread'
import { judgeWholeLoop } from './loop-readings.ts'
import type { Check, Reading, Version } from './loops.ts'
import { sure } from '@calm-loop/core/sure'

type Recorded = Pick<Version, 'id' | 'entries' | 'kindVersion'>

/**
 * What was read, on 4–20 mA: the loop current, or on a bus what the controller showed, as a current over the range
 * would say it.
 */
function readCurrent(r: Reading, { range }: Check): number {
  const { current, controller } = r.reads
  if (current) return convertUnit(current.value, current.unit, 'mA')
  return (
    4 +
    (16 * (convertUnit(sure(controller).value, sure(controller).unit, range.unit) - range.lrv)) /
      (range.urv - range.lrv)
  )
}

const recorded = (r: Reading, unit: string, reads: Record<string, number>): RecordedReading => ({
  id: r.id,
  pointIndex: r.pointIndex,
  percent: r.percent,
  direction: r.direction,
  applied: convertUnit(r.applied.value, r.applied.unit, unit),
  reads,
  supersedes: r.supersedes ?? undefined,
})

/**
 * A reading with what was read at each knot of the thread, in the knot's unit; what does not fit a knot is left out.
 */
function readAtKnots(r: Reading, thread: Thread): RecordedReading {
  const reads = thread.knots.flatMap((knot) => {
    const read = r.reads[knot.id]
    const value = read && attempt(() => convertUnit(read.value, read.unit, knot.unit))
    return value === undefined || value instanceof Refusal ? [] : [[knot.id, value] as const]
  })
  return recorded(r, sure(thread.knots[0]).unit, Object.fromEntries(reads))
}

/**
 * The check's verdict so far, by the rule that it was begun under; null without readings.
 * @param thread of the entries that it was begun with
 */
export function judgeCheck(check: Check, thread: Thread): WholeJudgement | null {
  if (check.terms) return judgeWholeLoop(check, check.terms, thread)
  if (check.rule === undefined) {
    const readings = check.readings.map((r) => recorded(r, check.range.unit, { current: readCurrent(r, check) }))
    return judgeByRange(readings, check.range, check.tolerancePct)
  }
  return judgeByThread(
    check.readings.map((r) => readAtKnots(r, thread)),
    thread,
    check.tolerancePct,
  )
}

/** The reading that counts for each planned point, by the point's index. */
export function standingByPoint(check: Pick<Check, 'readings'>): Map<number, Reading> {
  const byId = new Map(check.readings.map((r) => [r.id, r]))
  const standing = standingReadings(
    check.readings.map((r) => ({ id: r.id, pointIndex: r.pointIndex, supersedes: r.supersedes ?? undefined })),
  )
  return new Map(standing.map((r) => [r.pointIndex, sure(byId.get(r.id))]))
}

/** The standing reading nearest to mid range: the one that stands on the thread. Undefined without readings. */
export function midReading(check: Check): Reading | undefined {
  const standing = [...standingByPoint(check).values()]
  return standing.length
    ? standing.reduce((a, b) => (Math.abs(b.percent - 50) < Math.abs(a.percent - 50) ? b : a))
    : undefined
}

const LENGTH = 'mm'
/** A reading of a discrete check as the core judges it. */
export function switchReading(r: Reading): SwitchReading {
  const state = (key: WitnessId) => (r.reads[key] ? { [key]: r.reads[key].value >= 0.5 } : {})
  const signal = r.reads['signal']
  return {
    id: r.id,
    pointIndex: r.pointIndex,
    target: withTarget(r),
    seen: { ...state('sensorLamp'), ...state('inputLamp'), ...state('controller') },
    ...(r.applied.unit === 'state' ? {} : { distance_mm: convertUnit(r.applied.value, r.applied.unit, LENGTH) }),
    ...(signal ? { signalV: convertUnit(signal.value, signal.unit, 'V') } : {}),
  }
}

/**
 * The verdict of a discrete check so far; null without readings, or where the entries it was begun with make no plan.
 * @param run of the entries that it was begun with
 */
export function judgeSwitchCheck(check: Check, { plan }: Pick<SwitchStudy['run'], 'plan'>): SwitchJudgement | null {
  const standing = [...standingByPoint(check).values()].sort((a, b) => a.pointIndex - b.pointIndex)
  return plan && standing.length ? judgeSwitch(standing.map(switchReading), plan) : null
}

export interface CheckVerdict {
  readonly pass: boolean
  /** Where the check is judged with its uncertainties: how surely it passes or fails. */
  readonly verdict?: ConformityVerdict | undefined
  /**
   * Worst error: % of span of a current; of a switch its operate distance, % of the expected one; null where there is
   * none.
   */
  readonly errorPct: number | null
  /** ± what that error is held against, in the same measure. */
  readonly tolerancePct: number
}

/**
 * The verdict of any check; null without readings. What has a broken seal never passes.
 * @param known the study of the entries that it was begun with
 */
export function verdictOfCheck(known: Study, check: Check): CheckVerdict | null {
  const whole = !check.signatures.some((s) => s.standing === 'broken')
  if (known.family === 'switch') {
    const judged = judgeSwitchCheck(check, known.run)
    return judged && { pass: judged.pass && whole, errorPct: judged.distanceErrorPct, tolerancePct: check.tolerancePct }
  }
  const judged = judgeCheck(check, known.thread)
  return (
    judged && {
      pass: judged.result.pass && whole,
      errorPct: judged.result.maxErrorPct,
      tolerancePct: judged.loop?.worst.tolerancePct ?? check.tolerancePct,
      verdict: judged.loop?.verdict,
    }
  )
}

/** The entries that a check was begun with. */
export const entriesOfCheck = (kindId: string, versions: readonly Recorded[], check: Check): Entries =>
  entriesNow(
    kindOf(kindId),
    versions.find((v) => v.id === check.versionId),
  )

/** The newest entries of a loop, as this release reads them. */
export const newestEntries = (kindId: string, versions: readonly Recorded[]): Entries =>
  entriesNow(kindOf(kindId), versions.at(-1))

/**
 * Whether a check counts here: `open` while nobody signed; `broken` when something signed was changed afterwards;
 * `imported` when it came from elsewhere and no reviewer of this installation has accepted it; else `counts`.
 */
export function standOfCheck(check: Pick<Check, 'signatures' | 'imported'>): 'open' | 'broken' | 'imported' | 'counts' {
  if (check.signatures.some((s) => s.standing === 'broken')) return 'broken'
  if (check.imported && !check.signatures.some((s) => s.role === 'accepted' && s.standing === 'sealed'))
    return 'imported'
  return check.signatures.some((s) => s.role === 'performed') ? 'counts' : 'open'
}

/**
 * The fingerprint that a certificate carries: the digest of what was signed, as its newest seal holds it. Undefined
 * while nobody signed.
 */
export const newestFingerprint = (check: Pick<Check, 'signatures'>): string | undefined =>
  check.signatures.at(-1)?.digest

/** How far a check has come between being begun and being countersigned, or why it does not count, in words. */
export function checkWords(check: Pick<Check, 'signatures' | 'imported' | 'practice'>): string {
  if (check.practice) return 'practice'
  const stand = standOfCheck(check)
  if (stand === 'broken') return 'seal broken'
  if (stand === 'imported') return 'from elsewhere, not accepted'
  if (check.imported) return 'from elsewhere, accepted'
  if (stand === 'open') return 'not signed'
  return check.signatures.some((s) => s.role === 'reviewed') ? 'countersigned' : 'awaits review'
}
