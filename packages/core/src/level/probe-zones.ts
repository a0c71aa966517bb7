// Dead zones of a probe as they usually are, by its make and by the liquid.
import table from './probe-zones.json' with { type: 'json' }

export type ProbeMake = keyof typeof table.zones_mm
export const ZONES_SOURCE = table.source

export interface ProbeZones {
  readonly top_mm: number
  /** A cable's weight is counted with it. */
  readonly bottom_mm: number
  /** The surface sends back too little of the pulse to be relied upon. */
  readonly tooWeak: boolean
  /** Dielectric constant below which that is so. */
  readonly weak_er: number
}

/**
 * Usual dead zones, mm, of a probe in a liquid of a dielectric constant (1 is vacuum).
 * @param weight_mm length of the weight at a cable's end: nothing is told apart along it
 * Source: rule of the trade; the device's own data sheet stands above it.
 */
export function usualZones(make: ProbeMake, er: number, weight_mm = 0): ProbeZones {
  const { top, bottom } = table.zones_mm[make][er >= table.strong_er ? 'strong' : 'weak']
  const weak_er = table.weak_er[make]
  return { top_mm: top, bottom_mm: bottom + (make === 'cable' ? weight_mm : 0), tooWeak: er < weak_er, weak_er }
}
