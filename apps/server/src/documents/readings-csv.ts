// The readings of a check as CSV (RFC 4180): every one that was taken, corrected ones too.
import { judgeCheck, type Check } from '@calm-loop/contract'
import { kindOf } from '@calm-loop/core/kinds'
import { csvText } from '../services/register-csv.ts'

export function readingsCsv(
  kindId: string,
  entries: Parameters<ReturnType<typeof kindOf>['study']>[0],
  check: Check,
): string {
  const knots = kindOf(kindId).study(entries).thread.knots.slice(1)
  const judged = new Map(judgeCheck(check)?.judged.map((j) => [j.reading.id, j]))
  const used = knots.filter((k) => check.readings.some((r) => r.reads[k.id]))
  return csvText(
    [
      'seq',
      'percent',
      'direction',
      'true_input',
      'true_input_unit',
      ...used.flatMap((k) => [k.id, `${k.id}_unit`]),
      'expected_mA',
      'error_pct_of_span',
      'stands',
      'source',
      'corrects',
      'reason',
      'by',
      'taken_at',
      'saved_at',
      'id',
    ],
    check.readings.map((r) => [
      r.seq,
      r.percent,
      r.direction,
      r.applied.value,
      r.applied.unit,
      ...used.flatMap((k) => [r.reads[k.id]?.value, r.reads[k.id]?.unit]),
      judged.get(r.id)?.expected_mA,
      judged.get(r.id)?.errorPct,
      judged.has(r.id) ? 'yes' : 'corrected',
      r.source,
      r.supersedes,
      r.reason,
      r.by.name,
      r.takenAt,
      r.savedAt,
      r.id,
    ]),
  )
}
