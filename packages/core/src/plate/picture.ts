// A picture of a plate made ready to be read: grey, its light evened out, dots run together, ink apart from metal.
import { sure } from '../sure/index.ts'

/** Grey values 0 (black) to 255 (white), line by line from the top. */
export interface Grey {
  readonly data: Uint8ClampedArray
  readonly width: number
  readonly height: number
}

/** Grey of red, green, blue and cover, 0 to 255 each (ITU-R BT.601 luma). */
export function greyOf(rgba: ArrayLike<number>, width: number, height: number): Grey {
  const data = new Uint8ClampedArray(width * height)
  for (let i = 0; i < data.length; i++)
    data[i] = 0.299 * sure(rgba[4 * i]) + 0.587 * sure(rgba[4 * i + 1]) + 0.114 * sure(rgba[4 * i + 2])
  return { data, width, height }
}

/** Sums of all that lies above and left of each point, of `value`: any mean of a rectangle in four looks. */
function sums({ data, width, height }: Grey, value: (grey: number) => number): Float64Array {
  const row = width + 1
  const all = new Float64Array(row * (height + 1))
  for (let y = 0; y < height; y++) {
    let line = 0
    for (let x = 0; x < width; x++) {
      line += value(data[y * width + x]!)
      all[(y + 1) * row + x + 1] = all[y * row + x + 1]! + line
    }
  }
  return all
}
/** Mean of what was summed, within `reach` points of a point; less of it at the edges. */
function meanAt(all: Float64Array, { width, height }: Grey, reach: number) {
  const row = width + 1
  return (x: number, y: number): number => {
    const [l, r] = [Math.max(0, x - reach), Math.min(width, x + reach + 1)]
    const [t, b] = [Math.max(0, y - reach), Math.min(height, y + reach + 1)]
    return (all[b * row + r]! - all[t * row + r]! - all[b * row + l]! + all[t * row + l]!) / ((r - l) * (b - t))
  }
}
function mapped(of: Grey, to: (x: number, y: number, grey: number) => number): Grey {
  const data = new Uint8ClampedArray(of.data.length)
  for (let y = 0, i = 0; y < of.height; y++) for (let x = 0; x < of.width; x++, i++) data[i] = to(x, y, of.data[i]!)
  return { ...of, data }
}

/** The same under even light: each point held against the mean around it, so that shade and shine go. */
export function evened(of: Grey, reach: number): Grey {
  const mean = meanAt(
    sums(of, (g) => g),
    of,
    reach,
  )
  return mapped(of, (x, y, grey) => 128 + ((grey - mean(x, y)) * 230) / Math.max(40, mean(x, y)) + 60)
}

/** Blurred, as by a lens: three means one after the other are near to the bell curve. */
export function blurred(of: Grey, reach: number): Grey {
  let now = of
  for (let i = 0; i < 3; i++) {
    const from = now
    const mean = meanAt(
      sums(from, (g) => g),
      from,
      reach,
    )
    now = mapped(from, (x, y) => mean(x, y))
  }
  return now
}

/**
 * Ink black, the rest white, by a threshold of its own at each point: mean · (1 + k · (deviation / 128 − 1)).
 * (Sauvola, J. and Pietikäinen, M.: Adaptive document image binarization. Pattern Recognition 33, 2000.)
 */
export function inked(of: Grey, reach: number, k = 0.2): Grey {
  const mean = meanAt(
    sums(of, (g) => g),
    of,
    reach,
  )
  const square = meanAt(
    sums(of, (g) => g * g),
    of,
    reach,
  )
  return mapped(of, (x, y, grey) => {
    const m = mean(x, y)
    const deviation = Math.sqrt(Math.max(0, square(x, y) - m * m))
    return grey < m * (1 + k * (deviation / 128 - 1)) ? 0 : 255
  })
}

/** Larger or smaller, between the points by straight lines. */
export function resized(of: Grey, times: number): Grey {
  const [width, height] = [Math.max(1, Math.round(of.width * times)), Math.max(1, Math.round(of.height * times))]
  const data = new Uint8ClampedArray(width * height)
  const at = (x: number, y: number) => of.data[Math.min(of.height - 1, y) * of.width + Math.min(of.width - 1, x)]!
  for (let y = 0, i = 0; y < height; y++) {
    const sy = Math.max(0, (y + 0.5) / times - 0.5)
    const [y0, fy] = [Math.floor(sy), sy - Math.floor(sy)]
    for (let x = 0; x < width; x++, i++) {
      const sx = Math.max(0, (x + 0.5) / times - 0.5)
      const [x0, fx] = [Math.floor(sx), sx - Math.floor(sx)]
      data[i] =
        (at(x0, y0) * (1 - fx) + at(x0 + 1, y0) * fx) * (1 - fy) +
        (at(x0, y0 + 1) * (1 - fx) + at(x0 + 1, y0 + 1) * fx) * fy
    }
  }
  return { data, width, height }
}

/** As a file of the portable greymap format (binary, "P5"), which what reads the letters takes. */
export function asPgm({ data, width, height }: Grey): Uint8Array<ArrayBuffer> {
  const head = new TextEncoder().encode(`P5\n${width} ${height}\n255\n`)
  const file = new Uint8Array(head.length + data.length)
  file.set(head)
  file.set(data, head.length)
  return file
}
