// A vessel from its entries: what it holds at a level above its bottom.
import {
  headDepth_m,
  strappingOf,
  vesselEnds_m,
  vesselVolume_m3,
  type HeadForm,
  type Vessel,
} from '../../level/index.ts'
import { attempt, Refusal } from '../../refusal/index.ts'
import { sure } from '../../sure/index.ts'
import type { Reader } from '../reader.ts'
import { SHAPES } from './fields.ts'

/** Crown and knuckle of a torispherical head, for its diameter; DIN 28011 and DIN 28013. */
function radiiOf(r: Reader, by: string, D: number): { crown_m: number; knuckle_m: number } {
  if (by === 'DIN 28013') return { crown_m: 0.8 * D, knuckle_m: 0.154 * D }
  if (by === 'own radii') return { crown_m: sure(r.in('crown', 'm')), knuckle_m: sure(r.in('knuckle', 'm')) }
  return { crown_m: D, knuckle_m: 0.1 * D }
}
const BOTTOMS: Record<string, HeadForm> = {
  dished: 'ellipsoidal-2:1',
  'half-sphere': 'hemispherical',
  'DIN 28011': 'torispherical',
  'DIN 28013': 'torispherical',
}
const ENDS: Record<string, 'flat' | HeadForm> = {
  [SHAPES.flat]: 'flat',
  [SHAPES.dished]: 'ellipsoidal-2:1',
  [SHAPES.halfSphere]: 'hemispherical',
  [SHAPES.torispherical]: 'torispherical',
}

function upright(r: Reader, depth: number): Vessel {
  const D = sure(r.in('diameter', 'm'))
  const form = BOTTOMS[r.text('bottom')]
  if (form) {
    const radii = form === 'torispherical' ? radiiOf(r, r.text('bottom'), D) : {}
    const height_m = depth - headDepth_m({ form, diameter_m: D, ...radii })
    return { shape: 'vertical-cylinder', diameter_m: D, height_m, bottom: form, ...radii }
  }
  const coneHeight_m = r.text('bottom') === 'cone' ? sure(r.in('coneHeight', 'm')) : 0
  return { shape: 'vertical-cylinder', diameter_m: D, height_m: depth - coneHeight_m, coneHeight_m }
}

/** Keys of the sizes, besides the depth. */
export const VESSEL_KEYS = [
  'diameter',
  'tankLength',
  'tankWidth',
  'coneHeight',
  'crown',
  'knuckle',
  'slope',
  'gaugeFrom',
  'strapping',
] as const

/** Labels of what the shape still needs; the depth only where the shape stands on it. */
export const vesselNeeds = (r: Reader, depthKey: string): string[] => {
  const shape = r.text('shape')
  const deep = shape === SHAPES.upright || shape === SHAPES.box
  return shape === SHAPES.none ? [] : r.missing(...(deep ? [depthKey] : []), ...VESSEL_KEYS)
}

/**
 * The vessel as entered; a Refusal where none can be so; undefined for a level only, or while sizes are missing.
 * @param depth_m inside height from the lowest point: of an upright cylinder and a box
 */
export function vesselOf(r: Reader, depth_m: number | undefined): Vessel | Refusal | undefined {
  const shape = r.text('shape')
  if (shape === SHAPES.none || r.missing(...VESSEL_KEYS).length) return undefined
  const m = (key: string) => sure(r.in(key, 'm'))
  return attempt((): Vessel | undefined => {
    const made = ((): Vessel | undefined => {
      if (shape === SHAPES.strapped) return { shape: 'strapped', rows: sure(strappingOf(r.text('strapping'))) }
      if (shape === SHAPES.sphere) return { shape: 'sphere', diameter_m: m('diameter') }
      if (shape === SHAPES.tilted)
        return {
          shape: 'tilted-cylinder',
          diameter_m: m('diameter'),
          length_m: m('tankLength'),
          slope: sure(r.in('slope', '1')),
          gauge_m: m('gaugeFrom'),
          heads: 'flat',
        }
      const heads = ENDS[shape]
      if (heads) {
        const radii = heads === 'torispherical' ? radiiOf(r, r.text('dish'), m('diameter')) : {}
        return { shape: 'horizontal-cylinder', diameter_m: m('diameter'), length_m: m('tankLength'), heads, ...radii }
      }
      if (depth_m === undefined) return undefined
      if (shape === SHAPES.upright) return upright(r, depth_m)
      if (shape !== SHAPES.box) return undefined
      return { shape: 'box', length_m: m('tankLength'), width_m: m('tankWidth'), height_m: depth_m }
    })()
    // A vessel that cannot be refuses at its own bottom.
    if (made) vesselVolume_m3(made, vesselEnds_m(made)[0])
    return made
  })
}

/** Volume, m³, at a level in mm above the bottom; undefined where the vessel is not known or does not reach there. */
export function volumeIn(vessel: Vessel | Refusal | undefined, level_mm: number): number | undefined {
  if (!vessel || vessel instanceof Refusal) return undefined
  const volume = attempt(() => vesselVolume_m3(vessel, level_mm / 1000))
  return volume instanceof Refusal ? undefined : volume
}

/** What a shape is called in a working. */
export const shapeWords = (r: Reader): string => {
  const field = r.fields.find((f) => f.key === 'shape')
  const words = field?.type === 'choice' ? field.options.find((o) => o.value === r.text('shape'))?.label : undefined
  return words ?? r.text('shape')
}
