// Heights and distances of a device above a tank, all in mm, from what has been entered so far.
import type { Vessel } from '../../level/index.ts'
import type { Refusal } from '../../refusal/index.ts'
import type { Reader } from '../reader.ts'
import { vesselOf, volumeIn } from '../vessel/index.ts'
import { sure } from '../../sure/index.ts'

export interface Geometry {
  /** It watches a moving target in place of a liquid. */
  readonly target: boolean
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
  readonly tank: Vessel | Refusal | undefined
}

/** The digital value that the device reports for a distance from its face, and back; both mm. */
export function digitalOf(distance: number, g: Pick<Geometry, 'empty' | 'reportsDistance'>): number {
  return g.reportsDistance ? distance : sure(g.empty) - distance
}

/** Volume, m³, at a level in mm above the bottom; undefined when the tank is not known or the level lies outside it. */
export function volumeAt(g: Geometry, level: number): number | undefined {
  return volumeIn(g.tank, level)
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
  const target = r.text('watches') === 'target'
  return {
    target,
    // A target may go anywhere up to the face.
    depth: target ? face : mm('tankDepth'),
    empty,
    full: mm('fullDistance'),
    blanking: mm('blanking'),
    emptyAboveBottom,
    face,
    reportsDistance,
    level4: levelOf(mm('lrv')),
    level20: levelOf(mm('urv')),
    tank: target ? undefined : vesselOf(r, r.in('tankDepth', 'm')),
  }
}
