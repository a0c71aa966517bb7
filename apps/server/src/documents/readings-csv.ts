// The readings of a check as CSV (RFC 4180): every one that was taken, corrected ones too.
import { study, type SwitchStudy } from '@calm-loop/core/loop'
import type { Check, Reading } from '@calm-loop/contract'
import { judgeCheck, judgeSwitchCheck, standingByPoint, standOfCheck } from '@calm-loop/contract/judging'
import { kindOf, type Entries } from '@calm-loop/core/kinds'
import type { Thread } from '@calm-loop/core/thread'
import { csvText } from '../services/register-text.ts'
import { SWITCH_COLUMNS, targetColumn } from './switch-certificate.ts'

interface Columns {
  /** Witnesses of a reading, by their keys. */
  readonly keys: readonly string[]
  readonly header: readonly string[]
  readonly row: (reading: Reading) => readonly unknown[]
}

function currentColumns(thread: Thread, check: Check): Columns {
  const judged = new Map(judgeCheck(check, thread)?.judged.map((j) => [j.reading.id, j]))
  const main = [...judged.values()][0]?.main
  return {
    keys: thread.knots.slice(1).map((k) => k.id),
    header: [`expected_${main?.unit ?? 'mA'}`, 'error_pct_of_span', 'largest_error_at'],
    row: (r) => {
      const j = judged.get(r.id)
      return [j?.main.expected, j?.worst.errorPct, j?.worst.knotId]
    },
  }
}

function switchColumns(run: SwitchStudy['run'], check: Check): Columns {
  const judged = new Map(judgeSwitchCheck(check, run)?.readings.map((j) => [j.reading.id, j]))
  return {
    keys: SWITCH_COLUMNS,
    header: ['target', 'first_witness_to_disagree', 'volts_say'],
    row: (r) => [targetColumn(r.percent), judged.get(r.id)?.disagrees, judged.get(r.id)?.volts],
  }
}

export function readingsCsv(kindId: string, entries: Entries, check: Check): string {
  const known = study(kindOf(kindId), entries)
  const { keys, header, row } =
    known.family === 'current' ? currentColumns(known.thread, check) : switchColumns(known.run, check)
  const seal = {
    open: 'not signed',
    broken: 'SEAL BROKEN',
    imported: 'from elsewhere, not accepted',
    counts: 'sealed',
  }[standOfCheck(check)]
  const used = keys.filter((key) => check.readings.some((r) => r.reads[key]))
  const standing = new Set([...standingByPoint(check).values()].map((r) => r.id))
  return csvText(
    [
      'seq',
      'percent',
      'direction',
      'true_input',
      'true_input_unit',
      ...used.flatMap((key) => [key, `${key}_unit`]),
      ...header,
      'stands',
      'seal',
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
      ...used.flatMap((key) => [r.reads[key]?.value, r.reads[key]?.unit]),
      ...row(r),
      standing.has(r.id) ? 'yes' : 'corrected',
      seal,
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
