// Which buffer an electrode stands in, from its voltage and the temperature.
import { Refusal } from '../refusal/index.ts'
import { bufferPh, type OwnBuffer } from './ph-buffer.ts'
import { idealSlope_mV } from './ph-calibration.ts'

/** An electrode that can still be used: per cent of the ideal slope, and mV off at pH 7. */
const SLOPES = [0.9, 1.02] as const
const OFFSET_mV = 25
/** What reading and temperature may add, mV. */
const SPARE_mV = 5

export interface Recognised {
  /** As it is named on the bottle. */
  readonly name: string
  readonly ph: number
}

/** Voltages that a usable electrode may give in a buffer, mV, lowest first. */
function windowOf(ph: number, temp_C: number): readonly [number, number] {
  const ends = SLOPES.map((share) => share * idealSlope_mV(temp_C) * (ph - 7))
  return [Math.min(...ends) - OFFSET_mV - SPARE_mV, Math.max(...ends) + OFFSET_mV + SPARE_mV]
}

/**
 * The buffer whose voltage this is, of those at hand: right for every named set from 5 to 50 °C with an electrode of 90
 * to 102 % of the ideal slope and up to 25 mV off at pH 7.
 * @param mV electrode against its reference
 * @throws Refusal `buffer-not-recognised` where none fits, or more than one; `out-of-range`, `not-a-buffer`
 */
export function recogniseBuffer({
  mV,
  temp_C,
  names,
  own = [],
}: {
  readonly mV: number
  readonly temp_C: number
  readonly names: readonly string[]
  /** The site's own, by name. */
  readonly own?: readonly OwnBuffer[] | undefined
}): Recognised {
  const fit = names
    .map((name) => ({ name, ph: bufferPh(name, temp_C, own).ph }))
    .filter(({ ph }) => {
      const [low, high] = windowOf(ph, temp_C)
      return mV >= low && mV <= high
    })
  const [only, other] = fit
  if (only && !other) return only
  throw new Refusal(
    'buffer-not-recognised',
    other
      ? `${mV.toFixed(1)} mV may be ${fit.map((f) => f.name).join(' or ')}.`
      : `No usable electrode gives ${mV.toFixed(1)} mV in any of ${names.join(', ')}.`,
  )
}
