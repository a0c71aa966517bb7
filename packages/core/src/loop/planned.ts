// What the plan of a loop wants its transmitter to hold, in the terms that a device is read by.
import { convertUnit, sameQuantity } from '../quantity/index.ts'
import { attempt, Refusal } from '../refusal/index.ts'
import { knotScales } from '../thread/index.ts'
import type { Study } from './study.ts'

export type Planned = Readonly<Record<string, number | string>>

/**
 * Unit, range and damping that the plan wants, by the parameter’s id; what is not entered is not there.
 * @param inUnit unit that the device speaks: figures come in it where it measures the same
 */
export function plannedValues(study: Study, tag: string, inUnit?: string): Planned {
  const named: Planned = {
    tag: tag
      .toUpperCase()
      .replace(/[^ -_]/g, '')
      .slice(0, 8)
      .trimEnd(),
  }
  if (study.family !== 'current') return named
  const at = study.thread.knots.findIndex((k) => k.role === 'digital')
  const [knot, scale] = [study.thread.knots[at], knotScales(study.thread)[at]]
  const damping = study.reader.in('damping', 's')
  const kept = damping === undefined ? named : { ...named, damping: Math.fround(damping) }
  if (!knot || scale?.low === undefined || scale.high === undefined) return kept
  const fits = inUnit !== undefined && attempt(() => sameQuantity(knot.unit, inUnit)) === true
  const told = (v: number) => {
    const turned = fits ? attempt(() => convertUnit(v, knot.unit, inUnit)) : v
    return Math.fround(turned instanceof Refusal ? v : turned)
  }
  return { ...kept, unit: fits ? inUnit : knot.unit, lrv: told(scale.low), urv: told(scale.high) }
}
