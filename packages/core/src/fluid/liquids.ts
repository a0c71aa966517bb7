// Common liquids from a table, and gas mixtures by name.
import { Refusal } from '../refusal/index.ts'
import presets from './gas-presets.json' with { type: 'json' }
import type { Composition } from './gas.ts'
import table from './liquids.json' with { type: 'json' }
import type { FluidProperties } from './water.ts'
import { sure } from '../sure/index.ts'

export type Liquid = (typeof table.liquids)[number]
export const LIQUIDS: readonly Liquid[] = table.liquids
export const LIQUID_SOURCE = table.source
export const GAS_PRESETS: readonly { readonly id: string; readonly name: string; readonly composition: Composition }[] =
  presets.presets
export const GAS_PRESET_SOURCE = presets.source

const KELVIN = 273.15

/**
 * A liquid of the table at a temperature.
 * @param temp_C within the liquid’s own `liquid_C`: between freezing and boiling, −20 … 120 at most
 * @throws Refusal `out-of-range`
 * Source: the table’s; viscosity by Andrade’s rule through its two points
 */
export function liquidProperties(liquid: Liquid, temp_C: number): FluidProperties {
  const [low, high] = liquid.liquid_C
  if (!(temp_C >= sure(low) && temp_C <= sure(high)))
    throw new Refusal('out-of-range', `${liquid.name} is known from ${low} to ${high} °C: it freezes or boils beyond.`)
  const inverse = (t: number) => 1 / (t + KELVIN)
  const share = (inverse(temp_C) - inverse(20)) / (inverse(60) - inverse(20))
  return {
    soundSpeed_mps: liquid.speed_mps + liquid.speedPerC_mps * (temp_C - 20),
    density_kgm3: liquid.density_kgm3 + liquid.densityPerC_kgm3 * (temp_C - 20),
    viscosity_mPas: liquid.viscosity20_mPas * (liquid.viscosity60_mPas / liquid.viscosity20_mPas) ** share,
  }
}
