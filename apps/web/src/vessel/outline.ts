// The outline of a vessel from the side, by its shape: what is filled stands inside of it.
import { SHAPES, type Reader } from '@calm-loop/core/kinds'

/** The box that the vessel stands in, on the drawing. */
export interface Box {
  readonly left: number
  readonly right: number
  readonly top: number
  readonly floor: number
}

const share = (value: number | undefined, of: number | undefined, otherwise: number) =>
  value !== undefined && of !== undefined && of > 0 && value >= 0 ? Math.min(0.9, value / of) : otherwise

/** How deep an upright cylinder's bottom is drawn, of the whole height. */
function bottomShare(r: Reader): number {
  const [depth, D] = [r.in('tankDepth', 'm'), r.in('diameter', 'm')]
  switch (r.text('bottom')) {
    case 'cone':
      return share(r.in('coneHeight', 'm'), depth, 0.3)
    case 'half-sphere':
      return share(D === undefined ? undefined : D / 2, depth, 0.35)
    case 'flat':
      return 0
    default:
      return share(D === undefined ? undefined : D / 4, depth, 0.2)
  }
}

/** A closed path of the vessel’s inside. */
export function outline(r: Reader, { left, right, top, floor }: Box): string {
  const [wide, high] = [right - left, floor - top]
  const lying = (bulge: number) =>
    `M${left + bulge} ${top}H${right - bulge}A${bulge} ${high / 2} 0 0 1 ${right - bulge} ${floor}H${left + bulge}` +
    `A${bulge} ${high / 2} 0 0 1 ${left + bulge} ${top}Z`
  switch (r.text('shape')) {
    case SHAPES.sphere:
      return lying(wide / 2)
    case SHAPES.halfSphere:
      return lying(Math.min(46, wide / 3))
    case SHAPES.dished:
    case SHAPES.torispherical:
      return lying(22)
    case SHAPES.upright: {
      const down = bottomShare(r) * high
      const wall = floor - down
      if (!down) return `M${left} ${top}V${floor}H${right}V${top}Z`
      const below =
        r.text('bottom') === 'cone'
          ? `L${(left + right) / 2} ${floor}L${right} ${wall}`
          : `A${wide / 2} ${down} 0 0 0 ${right} ${wall}`
      return `M${left} ${top}V${wall}${below}V${top}Z`
    }
    case SHAPES.tilted: {
      // The slope is drawn as what it is, but never so that it could not be seen.
      const rise = Math.min(high * 0.3, Math.max(10, wide * (r.in('slope', '1') ?? 0)))
      return `M${left} ${top + rise}L${right} ${top}V${floor - rise}L${left} ${floor}Z`
    }
    case SHAPES.strapped: {
      const [a, b] = [left + wide * 0.12, right - wide * 0.12]
      const [upper, lower] = [top + high * 0.35, floor - high * 0.3]
      const downwards = `M${a} ${top}C${left} ${upper} ${left} ${lower} ${a} ${floor}`
      return `${downwards}H${b}C${right} ${lower} ${right} ${upper} ${b} ${top}Z`
    }
    default:
      return `M${left} ${top}V${floor}H${right}V${top}Z`
  }
}
