// A pulse output: its frequency for a flow, by any of the three ways of scaling it, held at what output or receiver
// can follow.

export type PulseScaling =
  | { readonly method: 'rate'; readonly atRate: number; readonly frequency_Hz: number }
  | { readonly method: 'pulses-per-unit'; readonly pulses: number }
  | { readonly method: 'units-per-pulse'; readonly units: number }

export interface PulseInput {
  readonly scaling: PulseScaling
  /** Units per second. */
  readonly flow: number
  readonly maxFrequency_Hz?: number | undefined
}
export interface PulseResult {
  /** Held at the highest. */
  readonly frequency_Hz: number
  readonly unitsPerPulse: number
  /** Flow at the highest frequency, units per second. */
  readonly flowAtMax: number
  /** The flow calls for more pulses than the highest frequency: they are lost from the total. */
  readonly saturated: boolean
}

function unitsOf(scaling: PulseScaling): number {
  switch (scaling.method) {
    case 'rate':
      return scaling.atRate / scaling.frequency_Hz
    case 'pulses-per-unit':
      return 1 / scaling.pulses
    case 'units-per-pulse':
      return scaling.units
  }
}

/** Frequency and value of a pulse. */
export function pulseOutput({ scaling, flow, maxFrequency_Hz = 10_000 }: PulseInput): PulseResult {
  const unitsPerPulse = unitsOf(scaling)
  const called = flow / unitsPerPulse
  return {
    frequency_Hz: Math.min(called, maxFrequency_Hz),
    unitsPerPulse,
    flowAtMax: maxFrequency_Hz * unitsPerPulse,
    saturated: called > maxFrequency_Hz,
  }
}
