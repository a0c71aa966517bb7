// The verdict of a check on record, from its readings.
import { judge, standingReadings, type Judgement } from '@calm-loop/core/check'
import { convertUnit } from '@calm-loop/core/quantity'
import type { Check, Reading } from './loops.ts'

/** The check's verdict so far; null without readings. */
export function judgeCheck(check: Check): Judgement | null {
  return judge(
    check.readings.map((r) => ({
      id: r.id,
      pointIndex: r.pointIndex,
      percent: r.percent,
      direction: r.direction,
      applied: convertUnit(r.applied.value, r.applied.unit, check.range.unit),
      mA: convertUnit(r.reads['current']!.value, r.reads['current']!.unit, 'mA'),
      supersedes: r.supersedes ?? undefined,
    })),
    check.range,
    check.tolerancePct,
  )
}

/** The reading that counts for each planned point, by the point's index. */
export function standingByPoint(check: Check): Map<number, Reading> {
  const byId = new Map(check.readings.map((r) => [r.id, r]))
  const standing = standingReadings(
    check.readings.map((r) => ({ id: r.id, pointIndex: r.pointIndex, supersedes: r.supersedes ?? undefined })),
  )
  return new Map(standing.map((r) => [r.pointIndex, byId.get(r.id)!]))
}

/** The standing reading nearest to mid range: the one that stands on the thread. Undefined without readings. */
export function midReading(check: Check): Reading | undefined {
  const standing = [...standingByPoint(check).values()]
  return standing.length
    ? standing.reduce((a, b) => (Math.abs(b.percent - 50) < Math.abs(a.percent - 50) ? b : a))
    : undefined
}
