// What the readings of a check must hold so that it can be judged.
import type { Check, CheckTerms, TakeReading } from '@calm-loop/contract'
import { atPlace } from '@calm-loop/contract/judging'
import { witnessesBehind } from '@calm-loop/core/check'
import { sure } from '@calm-loop/core/sure'
import type { Thread } from '@calm-loop/core/thread'
import { WITNESSES } from '@calm-loop/core/discrete'
import type { Study } from '@calm-loop/core/loop'
import { convertUnit } from '@calm-loop/core/quantity'
import { Refusal } from '@calm-loop/core/refusal'

/** Whether a point has a loop current that is read; a bus has none. */
export const carriesCurrent = (known: Study): boolean =>
  known.family !== 'current' || known.thread.knots.some((k) => k.role === 'current')

/** A reading of the places that its check reads, in units that each of them can have. @throws Refusal */
function refuseOtherPlaces(terms: CheckTerms, thread: Thread, take: Pick<TakeReading, 'applied' | 'reads'>): void {
  convertUnit(take.applied.value, take.applied.unit, sure(thread.knots.find((k) => k.id === terms.standardAt)).unit)
  const places = witnessesBehind(thread, terms.standardAt)
  const read = Object.entries(take.reads)
  if (!read.length) throw new Refusal('nothing-read', 'Nothing was read at this point.')
  for (const [at, entry] of read) {
    const place = terms.reads.some((w) => w.at === at) && places.find((p) => p.id === at)
    if (!place) throw new Refusal('no-such-place', 'This check does not read the loop there.')
    atPlace(entry, place, terms)
  }
}

/** What a reading must hold, by the family of its point. */
export function refuseWrongReads(
  known: Study,
  check: Pick<Check, 'range' | 'terms'>,
  take: Pick<TakeReading, 'applied' | 'reads'>,
): void {
  if (known.family === 'current' && check.terms) return refuseOtherPlaces(check.terms, known.thread, take)
  if (known.family === 'current') {
    convertUnit(take.applied.value, take.applied.unit, check.range.unit)
    const { current, controller } = take.reads
    if (current) convertUnit(current.value, current.unit, 'mA')
    else if (!carriesCurrent(known)) {
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
