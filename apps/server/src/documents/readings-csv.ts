// The readings of a check as CSV (RFC 4180): every one that was taken, corrected ones too.
import { study, type SwitchStudy } from '@calm-loop/core/loop'
import type { Check, Reading } from '@calm-loop/contract'
import {
  isPractice,
  judgeCheck,
  judgeSwitchCheck,
  originsWords,
  standingByPoint,
  standOfCheck,
} from '@calm-loop/contract/judging'
import { witnessesOf, type LoopVerdict, type Witness } from '@calm-loop/core/check'
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

/** Of a whole loop: at every place what was expected, the error, its uncertainty, and the verdict. */
function loopColumns(thread: Thread, check: Check, loop: LoopVerdict): Columns {
  const judged = new Map(loop.judged.map((j) => [j.reading.id, j]))
  const places = loop.witnesses.map((w) => w.witness)
  return {
    keys: witnessesOf(thread).map((w) => w.id),
    header: [
      ...places.flatMap((w) => [
        `${w.id}_expected_${w.unit}`,
        `${w.id}_error_pct_of_span`,
        `${w.id}_u_pct`,
        `${w.id}_verdict`,
      ]),
      'rule',
    ],
    row: (r) => {
      const knots = new Map(judged.get(r.id)?.knots.map((k) => [k.knotId, k]))
      const of = (w: Witness) => {
        const k = knots.get(w.id)
        return k
          ? [k.expected, k.errorPct, k.u_pct || undefined, k.verdict]
          : [undefined, undefined, undefined, undefined]
      }
      return [...places.flatMap(of), check.terms?.rule]
    },
  }
}

function currentColumns(thread: Thread, check: Check): Columns {
  const { loop } = judgeCheck(check, thread) ?? {}
  if (loop) return loopColumns(thread, check, loop)
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
  const world = isPractice(check) ? 'PRACTICE' : check.practice === undefined ? 'not recorded' : 'record'
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
      'world',
      'origin',
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
      world,
      originsWords(r),
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
