// What the readings of a check must hold so that it can be judged.
import type { Check, TakeReading } from '@calm-loop/contract'
import { WITNESSES } from '@calm-loop/core/discrete'
import type { PointKind } from '@calm-loop/core/kinds'
import type { Study } from '@calm-loop/core/loop'
import { convertUnit } from '@calm-loop/core/quantity'
import { Refusal } from '@calm-loop/core/refusal'

/** Whether a point has a loop current that is read; a bus has none. */
export const carriesCurrent = (known: Study): boolean =>
  known.family !== 'current' || known.thread.knots.some((k) => k.role === 'current')

/** What a reading must hold, by the family of its point. */
export function refuseWrongReads(
  kind: PointKind,
  check: Pick<Check, 'range'>,
  take: Pick<TakeReading, 'applied' | 'reads'>,
  hasCurrent: boolean,
): void {
  if (kind.family === 'current') {
    convertUnit(take.applied.value, take.applied.unit, check.range.unit)
    const { current, controller } = take.reads
    if (current) convertUnit(current.value, current.unit, 'mA')
    else if (!hasCurrent) {
      if (!controller) throw new Refusal('controller-missing', 'A reading on a bus needs what the controller shows.')
      convertUnit(controller.value, controller.unit, check.range.unit)
    } else throw new Refusal('current-missing', 'A reading needs the loop current.')
    return
  }
  if (!take.reads['controller']) throw new Refusal('witness-missing', 'A reading needs the controller’s state.')
  if (take.applied.unit !== 'state') convertUnit(take.applied.value, take.applied.unit, 'mm')
  for (const { id, name } of WITNESSES) {
    const read = take.reads[id]
    if (read && (read.unit !== 'state' || (read.value !== 0 && read.value !== 1)))
      throw new Refusal('not-a-state', `${name} shows 1 or 0, nothing between.`)
  }
  if (take.reads['signal']) convertUnit(take.reads['signal'].value, take.reads['signal'].unit, 'V')
}
