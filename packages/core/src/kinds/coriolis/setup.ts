// A Coriolis point as far as it has been entered: its constants in numbers, its pulse output.
import { pulseOutput, type PulseResult, type PulseScaling } from '../../flow/index.ts'
import { attempt, Refusal } from '../../refusal/index.ts'
import type { Reader } from '../reader.ts'
import { tagKey } from './constants.ts'
import { pulseMass, readConstants, tagTexts } from './tag.ts'

export interface Coriolis {
  /** By constant key: its value, a refusal where the text is no number, undefined while empty. */
  readonly constants: Readonly<Record<string, number | Refusal | undefined>>
  readonly temp_C: number | undefined
  readonly pulse: PulseResult | Refusal | undefined
  readonly scaling: PulseScaling | undefined
  /** What flow and time delay still need. */
  readonly flowNeeds: readonly string[]
}

const positive = (v: number | undefined): v is number => v !== undefined && Number.isFinite(v) && v > 0

function scalingOf(r: Reader): PulseScaling | undefined {
  const by = r.text('pulseBy')
  if (by === 'frequency at a rate') {
    const [atRate, frequency_Hz] = [r.in('pulseRate', 'kg/s'), r.in('pulseFrequency', 'Hz')]
    return positive(atRate) && positive(frequency_Hz) ? { method: 'rate', atRate, frequency_Hz } : undefined
  }
  if (by === 'pulses per kilogram') {
    const pulses = r.in('pulsesPerKg', 'counts')
    return positive(pulses) ? { method: 'pulses-per-unit', pulses } : undefined
  }
  if (by === 'kilograms per pulse') {
    const units = pulseMass(r.text('kgPerPulse'))
    return typeof units === 'number' ? { method: 'units-per-pulse', units } : undefined
  }
  return undefined
}

export function coriolisOf(r: Reader): Coriolis {
  const constants = readConstants(r)(tagTexts(r))
  const scaling = scalingOf(r)
  const flow = r.in('urv', 'kg/s')
  const limit = r.in('receiverLimit', 'Hz')
  return {
    constants,
    temp_C: r.in('fluidTemp', 'degC'),
    scaling,
    pulse:
      scaling && positive(flow) && positive(limit)
        ? attempt(() => pulseOutput({ scaling, flow, maxFrequency_Hz: limit }))
        : undefined,
    flowNeeds: r.missing(tagKey('flowCal'), tagKey('flowTemp'), 'fluidTemp'),
  }
}

export const known = (v: number | Refusal | undefined): number | undefined => (typeof v === 'number' ? v : undefined)
/** Share of the factor that is left at a temperature. */
export const atTemperature = (coeff: number, temp_C: number): number => 1 - (coeff / 100) * (temp_C / 100)

/** Grams a second for each microsecond at the working temperature; undefined while the constants are missing. */
export function slopeOf(c: Coriolis): number | undefined {
  const [cal, coeff] = [known(c.constants['flowCal']), known(c.constants['flowTemp'])]
  if (!positive(cal) || coeff === undefined || c.temp_C === undefined) return undefined
  const slope = cal * atTemperature(coeff, c.temp_C)
  return slope > 0 ? slope : undefined
}
