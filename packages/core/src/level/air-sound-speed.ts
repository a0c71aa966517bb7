// Sound in air: how fast an ultrasonic echo travels at a temperature.
import { Refusal } from '../refusal/index.ts'

/**
 * Speed of sound in dry air, m/s, at `temp_C` (above −273.15 °C): 331.3·√(1 + t/273.15).
 * @throws Refusal `out-of-range` at or below absolute zero
 * Source: ideal-gas law of sound speed, 331.3 m/s at 0 °C.
 */
export function airSoundSpeed(temp_C: number): number {
  if (!(temp_C >= -273.15)) throw new Refusal('out-of-range', 'Air temperature below absolute zero.')
  return 331.3 * Math.sqrt(1 + temp_C / 273.15)
}

/**
 * Per cent by which a distance reads long when the air is at `actual_C` but the device reckons with `assumed_C`.
 * Warmer air than assumed carries the echo faster, so the distance reads short (negative).
 */
export function airTemperatureErrorPct(assumed_C: number, actual_C: number): number {
  return 100 * (airSoundSpeed(assumed_C) / airSoundSpeed(actual_C) - 1)
}
