// Heights and distances of a device above a tank, all in mm, from what has been entered so far.
import { tankVolume, type Tank } from '../../level/index.ts'
import { attempt, Refusal } from '../../refusal/index.ts'
import type { Reader } from '../reader.ts'
import { sure } from '../../sure/index.ts'

export interface Geometry {
  readonly depth: number | undefined
  readonly empty: number | undefined
  readonly full: number | undefined
  readonly blanking: number | undefined
  readonly emptyAboveBottom: number
  /** Height of the device's face above the tank bottom. */
  readonly face: number | undefined
  readonly reportsDistance: boolean
  /** Level above the bottom at 4 and at 20 mA. */
  readonly level4: number | undefined
  readonly level20: number | undefined
  readonly tank: Tank | undefined
}

/** The digital value that the device reports for a distance from its face, and back; both mm. */
export function digitalOf(distance: number, g: Pick<Geometry, 'empty' | 'reportsDistance'>): number {
  return g.reportsDistance ? distance : sure(g.empty) - distance
}

function tankOf(r: Reader): Tank | undefined {
  const [depth, diameter, length, width] = ['tankDepth', 'diameter', 'tankLength', 'tankWidth'].map((k) => r.in(k, 'm'))
  const shape = r.text('shape')
  if (shape === 'sphere') return diameter === undefined ? undefined : { shape: 'sphere', diameter_m: diameter }
  if (shape.startsWith('horizontal')) {
    if (diameter === undefined || length === undefined) return undefined
    const heads = shape.includes('dished') ? 'ellipsoidal-2:1' : shape.includes('half') ? 'hemispherical' : 'flat'
    return { shape: 'horizontal-cylinder', diameter_m: diameter, length_m: length, heads }
  }
  if (depth === undefined) return undefined
  if (shape === 'upright cylinder')
    return diameter === undefined ? undefined : { shape: 'vertical-cylinder', diameter_m: diameter, height_m: depth }
  if (shape === 'box' && length !== undefined && width !== undefined)
    return { shape: 'box', length_m: length, width_m: width, height_m: depth }
  return undefined
}

/** Volume, m³, at a level in mm above the bottom; undefined when the tank is not known or the level lies outside it. */
export function volumeAt(g: Geometry, level: number): number | undefined {
  if (!g.tank) return undefined
  const tank = g.tank
  const result = attempt(() => tankVolume(tank, level / 1000))
  return result instanceof Refusal ? undefined : result.volume_m3
}

export function geometryOf(r: Reader): Geometry {
  const mm = (key: string) => r.in(key, 'mm')
  const empty = mm('emptyDistance')
  const emptyAboveBottom = mm('emptyAboveBottom') ?? 0
  const face = empty === undefined ? undefined : empty + emptyAboveBottom
  const reportsDistance = r.text('reports') === 'distance'
  const levelOf = (digital: number | undefined) =>
    digital === undefined || face === undefined
      ? undefined
      : reportsDistance
        ? face - digital
        : digital + emptyAboveBottom
  return {
    depth: mm('tankDepth'),
    empty,
    full: mm('fullDistance'),
    blanking: mm('blanking'),
    emptyAboveBottom,
    face,
    reportsDistance,
    level4: levelOf(mm('lrv')),
    level20: levelOf(mm('urv')),
    tank: tankOf(r),
  }
}
