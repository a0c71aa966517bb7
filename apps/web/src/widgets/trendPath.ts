// A short trend as the path of an SVG, newest at the right edge.

interface Box {
  readonly width: number
  readonly height: number
  /** How much time the width is, s. */
  readonly seconds: number
  /** Least half of the height in the trend's own measure, so that noise alone does not fill it. */
  readonly least: number
}
/** Clear above and below. */
const MARGIN = 3

/** Empty for fewer than two samples. */
export function trendPath(samples: readonly { readonly t_s: number; readonly value: number }[], box: Box): string {
  const last = samples.at(-1)
  if (!last || samples.length < 2) return ''
  const values = samples.map((s) => s.value)
  const [low, high] = [Math.min(...values), Math.max(...values)]
  const middle = (low + high) / 2
  const reach = Math.max(box.least, (high - low) / 2)
  const x = (t_s: number) => box.width - (last.t_s - t_s) * (box.width / box.seconds)
  const y = (v: number) => box.height / 2 - ((v - middle) / reach) * (box.height / 2 - MARGIN)
  return samples.map((s, i) => `${i ? 'L' : 'M'}${x(s.t_s).toFixed(1)} ${y(s.value).toFixed(1)}`).join('')
}
