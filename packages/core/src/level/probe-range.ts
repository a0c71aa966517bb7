// A rod or cable probe hung from the top: which part of it can measure, and so what 4 and 20 mA can mean.
import { Refusal } from '../refusal/index.ts'

export interface ProbeInput {
  /** All lengths in mm, from the reference face downwards. */
  readonly probeLength_mm: number
  readonly topDeadZone_mm: number
  readonly bottomDeadZone_mm: number
  /** Distances wanted at 0 % and at 100 %. */
  readonly emptyDistance_mm: number
  readonly fullDistance_mm: number
}

export interface ProbeRange {
  readonly distance4mA_mm: number
  readonly distance20mA_mm: number
  readonly span_mm: number
  /** Dead zones that moved a wanted distance; one exactly on a limit is not moved. */
  readonly limited: readonly ('top' | 'bottom')[]
}

/**
 * The range of a probe, held clear of its dead zones.
 * @throws Refusal `no-span` when the zones meet or overlap, or nothing is left between the two distances
 */
export function probeRange(p: ProbeInput): ProbeRange {
  const [top, bottom] = [p.topDeadZone_mm, p.probeLength_mm - p.bottomDeadZone_mm]
  if (!(bottom > top)) throw new Refusal('no-span', 'The dead zones of the probe meet: no part of it can measure.')
  const held = (wanted: number) => Math.min(bottom, Math.max(top, wanted))
  const [low, high] = [held(p.emptyDistance_mm), held(p.fullDistance_mm)]
  if (!(low > high))
    throw new Refusal('no-span', 'Full does not lie above empty within the part of the probe that measures.')
  const wanted = [p.emptyDistance_mm, p.fullDistance_mm]
  const limited = [
    ...(wanted.some((d) => d < top) ? (['top'] as const) : []),
    ...(wanted.some((d) => d > bottom) ? (['bottom'] as const) : []),
  ]
  return { distance4mA_mm: low, distance20mA_mm: high, span_mm: low - high, limited }
}
