// A discrete point as one of many that are watched at once.
import { study } from '@calm-loop/core/loop'
import type { WatchedPoint } from '@calm-loop/contract'
import { entriesNow, kindOf, readEntries, type Entries } from '@calm-loop/core/kinds'
import { attempt, Refusal } from '@calm-loop/core/refusal'

export interface Pair {
  readonly id: string
  readonly tag: string
  readonly service: string
  readonly kind: string
  readonly entries: Entries | null
}

export function pointOf(row: Pair): WatchedPoint {
  const kind = kindOf(row.kind)
  const entries = entriesNow(kind, row.entries ? { entries: row.entries } : undefined)
  const r = readEntries(kind.fields, entries)
  const known = attempt(() => study(kind, entries))
  const lanes = !(known instanceof Refusal) && known.family === 'switch' ? known.run.lanes : undefined
  return {
    loopId: row.id,
    tag: row.tag,
    service: row.service,
    name: r.text('pointName'),
    meansTrue: r.text('meansTrue') || 'true',
    meansFalse: r.text('meansFalse') || 'false',
    says: lanes ? '' : 'sensor and input are not entered yet',
  }
}
