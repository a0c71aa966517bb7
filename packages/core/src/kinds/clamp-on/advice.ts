// Which pair suits, and whether the sound speed that the meter measures fits the fluid entered.
import { LIQUIDS, liquidProperties, seawaterProperties, waterProperties } from '../../fluid/index.ts'
import {
  isMatchedPair,
  mountingFor,
  soundSpeedVerdict,
  transducersFor,
  type SoundSpeedVerdict,
} from '../../flow/index.ts'
import { attempt, Refusal } from '../../refusal/index.ts'
import type { Reader } from '../reader.ts'
import { beamOf, knownFluid, pairsOf, sameSideOf, type ClampOn } from './setup.ts'

/** What the page advises: the best pairs for the pipe, and the mounting. */
export function advice(c: ClampOn, r: Reader) {
  if (c.od_mm === undefined || c.wall_mm === undefined) return undefined
  const pipe = {
    od_mm: c.od_mm,
    wall_mm: c.wall_mm,
    metal: c.metal,
    lined: c.lined,
    temp_C: r.in('fluidTemp', 'degC') ?? 20,
    medium: r.text('medium') === 'gas' ? ('gas' as const) : ('liquid' as const),
  }
  const id_mm = c.od_mm - 2 * c.wall_mm - 2 * c.liner_mm
  return {
    pairs: transducersFor(pipe),
    mounting: mountingFor({ ...pipe, id_mm, pair: sameSideOf(c, r) }),
    /** Pairs whose two numbers are known. */
    serials: pairsOf(r)
      .filter(({ a, b }) => a && b)
      .map(({ a, b }) => ({ a, b, matched: isMatchedPair(a, b) })),
  }
}

/** The first sound speed challenged. @throws Refusal as the geometry does */
export function judgeSoundSpeed(c: ClampOn, r: Reader, measured_mps: number): SoundSpeedVerdict | undefined {
  const fluid = knownFluid(c)
  if (!c.input || !fluid || !beamOf(c) || !(measured_mps > 0)) return undefined
  const others = fluid.medium === 'gas' ? [] : otherLiquids(fluid.name, fluid.temp_C, fluid.pressure_kPa)
  return soundSpeedVerdict(
    {
      beam: c.input,
      medium: fluid.medium,
      fluidName: fluid.name,
      density_kgm3: fluid.density_kgm3,
      speedAt: fluid.speedAt,
      temp_C: fluid.temp_C,
      others,
      usual: {
        temp_C: r.in('tempDoubt', 'delta_K') || 2,
        wall_mm: Math.max(0.05, r.in('wallDoubt', 'mm') ?? 0.1),
        od_mm: Math.max(0.1, r.in('odDoubt', 'mm') ?? 0.5),
        liner_mm: Math.max(0.1, r.in('linerDoubt', 'mm') ?? 1),
      },
    },
    measured_mps,
    fluid.pressure_kPa,
  )
}

function otherLiquids(
  name: string,
  temp_C: number,
  pressure_kPa: number,
): { name: string; speed_mps: number; near: boolean }[] {
  const rows: [string, () => { soundSpeed_mps: number }][] = [
    ['water', () => waterProperties(Math.max(0.01, temp_C), pressure_kPa)],
    ['seawater of 35 g/kg', () => seawaterProperties(35, temp_C, pressure_kPa)],
    ...LIQUIDS.map((l): [string, () => { soundSpeed_mps: number }] => [l.name, () => liquidProperties(l, temp_C)]),
  ]
  return rows.flatMap(([other, make]) => {
    const made = other.startsWith(name) ? undefined : attempt(make)
    return made && !(made instanceof Refusal)
      ? [{ name: other, speed_mps: made.soundSpeed_mps, near: /water|brine/.test(other) && /water|brine/.test(name) }]
      : []
  })
}
