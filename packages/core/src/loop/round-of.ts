// What a round must know of a loop: the works of its check, and what is measured there how well.
import { standardKnots } from '../check/index.ts'
import { worksOf } from '../kinds/index.ts'
import type { CurrentStudy, Study } from './study.ts'
import type { LoopRound, Place } from '../round/index.ts'

/** The places of a point’s thread at which its range and tolerance are known, by their knots. */
function placesOf({ thread, scales }: CurrentStudy, tolerancePct: number): ReadonlyMap<string, Place> {
  return new Map(
    thread.knots.flatMap((knot, i): [string, Place][] => {
      const { low, high } = scales[i] ?? {}
      if (low === undefined || high === undefined || low === high) return []
      const [from, to] = [Math.min(low, high), Math.max(low, high)]
      const tolerance = ((to - from) * tolerancePct) / 100
      return [[knot.id, { what: knot.name, unit: knot.unit, low: from, high: to, tolerance }]]
    }),
  )
}

/**
 * What a check of a loop takes. Its input is known at any place where a standard can stand; the current is read where
 * there is one. Half-entered, it needs what is known so far.
 */
export function roundOfLoop(study: Study): LoopRound {
  const works = worksOf(study.kind, study.entries)
  const brings = study.kind.check.brings?.(study.reader) ?? []
  if (study.family === 'switch') return { works, needs: [], brings }
  const tolerancePct = study.reader.in('tolerance', '%')
  if (tolerancePct === undefined || !(tolerancePct > 0)) return { works, needs: [], brings }
  const places = placesOf(study, tolerancePct)
  const given = standardKnots(study.thread).flatMap((k) => (k.id === 'current' ? [] : (places.get(k.id) ?? [])))
  const [first, ...or] = given
  const read = places.get('current')
  return {
    works,
    brings,
    needs: [...(first ? [{ ...first, ...(or.length ? { or } : {}) }] : []), ...(read ? [read] : [])],
  }
}
