// Clamp-on transducers by family and size, and which of them suits a pipe.
import { formatQuantity } from '../quantity/index.ts'
import table from './transducers.json' with { type: 'json' }
import { sure } from '../sure/index.ts'

export type Transducer = (typeof table.transducers)[number]
export const TRANSDUCERS: readonly Transducer[] = table.transducers
export const TRANSDUCER_SOURCE = table.source

export interface PipeForPair {
  readonly od_mm: number
  readonly wall_mm: number
  /** Metals carry the wall’s own wave; plastics and lined pipes do not. */
  readonly metal: boolean
  readonly lined: boolean
  readonly temp_C: number
  readonly medium: 'liquid' | 'gas'
}
export interface Suits {
  readonly transducer: Transducer
  /** Reasons against it, in words; none when it suits. */
  readonly against: readonly string[]
  readonly reasons: readonly string[]
  /** Higher suits better. */
  readonly score: number
}

const within = (v: number, [low, high]: readonly number[]) => v >= sure(low) && v <= sure(high)
/** How near the middle of a range, on a logarithmic scale: 1 in the middle, 0 at its ends. */
const middling = (v: number, [low, high]: readonly number[]) => {
  const [a, b] = [Math.log(sure(low)), Math.log(sure(high))]
  return Math.max(0, 1 - Math.abs((2 * (Math.log(v) - a)) / (b - a) - 1))
}

const between = ([low, high]: readonly number[], unit: string): string =>
  `${formatQuantity(low ?? 0, unit, { trim: true })} to ${formatQuantity(high ?? 0, unit, { trim: true })}`

/** Every transducer against a pipe, the best first. */
export function transducersFor(pipe: PipeForPair): Suits[] {
  return TRANSDUCERS.map((transducer) => {
    const { wall_mm, od_mm, temp_C, media, family } = transducer
    const against: string[] = []
    const reasons: string[] = []
    if (!media.includes(pipe.medium)) against.push(`not made for ${pipe.medium}`)
    if (within(pipe.od_mm, od_mm)) reasons.push(`diameter inside ${between(od_mm, 'mm')}`)
    else against.push(`for pipes of ${between(od_mm, 'mm')}`)
    if (within(pipe.wall_mm, wall_mm)) reasons.push(`wall inside ${between(wall_mm, 'mm')}`)
    else against.push(`for walls of ${between(wall_mm, 'mm')}`)
    if (!within(pipe.temp_C, temp_C)) against.push(`for ${between(temp_C, 'degC')}`)
    const resonant = family === 'wall-resonant'
    if (resonant && (!pipe.metal || pipe.lined)) against.push('a wall-resonant pair needs a bare metal wall')
    else if (resonant) reasons.push('its beam is wide: it forgives a change of sound speed')
    else if (pipe.lined || !pipe.metal) reasons.push('a general pair works through liners and plastics')
    let score = middling(pipe.wall_mm, wall_mm) + middling(pipe.od_mm, od_mm) / 2
    if (resonant && pipe.metal && !pipe.lined) score += pipe.medium === 'gas' ? 2 : 0.5
    if (sure(temp_C[1]) > 120 && pipe.temp_C < 100) score -= 0.4
    return { transducer, against, reasons, score: against.length ? score - 10 * against.length : score }
  }).sort((a, b) => b.score - a.score)
}

export interface MountingAdvice {
  readonly traverses: 1 | 2 | 3 | 4
  readonly reasons: readonly string[]
}

/** Whether two bodies on one side of the pipe leave each other room at a spacing. */
export const bodiesMeet = (spacing_mm: number, body_mm: number): boolean => spacing_mm < body_mm

/**
 * How many times the beam should cross the pipe, and why.
 * @param pair length of a body and spacing with two and with four traverses, mm, where a pair is chosen
 */
export function mountingFor(
  pipe: PipeForPair & {
    readonly id_mm: number
    readonly weak?: boolean
    readonly pair?: { readonly body_mm: number; readonly two_mm: number; readonly four_mm: number } | undefined
  },
): MountingAdvice {
  if (pipe.weak || pipe.id_mm > 900)
    return {
      traverses: 1,
      reasons: ['large pipe or weak signal: one traverse, the pair on opposite sides, loses least'],
    }
  if (pipe.lined && pipe.id_mm > 400)
    return { traverses: 1, reasons: ['a lined pipe of this size: one traverse loses least at the liner'] }
  const { pair } = pipe
  if (pair && bodiesMeet(pair.four_mm, pair.body_mm))
    return { traverses: 1, reasons: ['on one side the two bodies would meet: the pair sits on opposite sides'] }
  if (pair && bodiesMeet(pair.two_mm, pair.body_mm))
    return { traverses: 4, reasons: ['with two traverses the two bodies would meet: four set them further apart'] }
  if (pipe.id_mm < 50)
    return {
      traverses: 4,
      reasons: ['small pipe: four traverses lengthen the path, so that the time difference can be measured'],
    }
  return {
    traverses: 2,
    reasons: [
      'two traverses, the pair on the same side: cross flow cancels, and the pair is easier to set to its spacing',
    ],
  }
}

/** Whether two serial numbers belong to one matched pair: the same but for the last letter, one A and one B. */
export function isMatchedPair(a: string, b: string): boolean {
  const [x, y] = [a, b].map((s) => s.trim().toUpperCase())
  const stem = (s: string) => s.replace(/[\s-]*[AB]$/, '')
  const ends = [sure(x).at(-1), sure(y).at(-1)].sort().join('')
  return ends === 'AB' && stem(sure(x)) === stem(sure(y)) && stem(sure(x)) !== ''
}
