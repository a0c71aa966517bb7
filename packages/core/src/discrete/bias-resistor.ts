// A resistor from the signal wire that makes a mismatched sensor usable, at the price of inverted logic.
import { Refusal } from '../refusal/index.ts'
import type { OutputStage, Pole, SwitchInput, SwitchSensor } from './discrete-input.ts'

export interface BiasInput {
  readonly supplyV: number
  readonly sensor: { readonly output: OutputStage; readonly residualV: number; readonly maxOut_mA: number }
  readonly input: SwitchInput
}
export interface BiasResult {
  /** Pole that the resistor leads to from the signal wire. */
  readonly to: Pole
  /** The input just reaches its on voltage with the sensor off, Ω. */
  readonly maxOhm: number
  /** The sensor carries its rated current, Ω. */
  readonly minOhm: number
  readonly feasible: boolean
  /** Largest E12 value in [minOhm, 0.8·maxOhm], Ω; null where there is none. */
  readonly pickOhm: number | null
  /** What the picked one turns into heat while the sensor conducts, W. */
  readonly pickWatts: number | null
}

/** Preferred values of a decade; IEC 60063, series E12. */
const E12 = [10, 12, 15, 18, 22, 27, 33, 39, 47, 56, 68, 82]
const MARGIN = 0.8
const SPARE = 1 + 1e-12

/** Largest E12 value in [least, most], Ω; null where there is none. Source: IEC 60063. */
export function largestE12(least: number, most: number): number | null {
  if (!(most > 0) || !Number.isFinite(most)) return null
  for (let decade = Math.floor(Math.log10(most)); decade >= Math.floor(Math.log10(most)) - 1; decade--)
    for (const step of [...E12].reverse()) {
      const ohm = decade >= 1 ? step * 10 ** (decade - 1) : step / 10 ** (1 - decade)
      if (ohm <= most * SPARE) return ohm * SPARE >= least ? ohm : null
    }
  return null
}

/** Whether a sensor is of the stage that this input cannot feel: NPN on a sinking, PNP on a sourcing one. */
export const isMismatch = (sensor: Pick<SwitchSensor, 'output'>, input: Pick<SwitchInput, 'common'>): boolean =>
  (sensor.output === 'NPN' && input.common === 'negative') || (sensor.output === 'PNP' && input.common === 'positive')

/**
 * The bias resistor for an NPN on a sinking input or a PNP on a sourcing one.
 * Source: voltage divider of resistor and input with the sensor off; Ohm's law through resistor and stage with it on.
 * @throws Refusal `not-a-mismatch`
 */
export function biasResistor({ supplyV, sensor, input }: BiasInput): BiasResult {
  if (!isMismatch(sensor, input))
    throw new Refusal('not-a-mismatch', 'This sensor and this input need no bias resistor: the stage fits the common.')
  const maxOhm = (input.ohm * (supplyV - input.onMinV)) / input.onMinV
  const minOhm = (1000 * (supplyV - sensor.residualV)) / sensor.maxOut_mA
  const most = MARGIN * maxOhm
  const pickOhm = largestE12(minOhm, most)
  return {
    to: input.common === 'negative' ? 'positive' : 'negative',
    maxOhm,
    minOhm,
    feasible: minOhm <= most * SPARE && sensor.residualV <= input.offMaxV,
    pickOhm,
    pickWatts: pickOhm === null ? null : (supplyV - sensor.residualV) ** 2 / pickOhm,
  }
}
