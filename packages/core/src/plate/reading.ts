// What several readings of one plate agree on: a sign is sure where all of them see it, each of them well, with nothing
// unread beside it and no shine over it. Everything else is marked.
import type { Grey } from './picture.ts'

export interface Box {
  readonly x0: number
  readonly y0: number
  readonly x1: number
  readonly y1: number
}
/** A letter, digit or other sign, with how sure its reading is of it, 0 to 100. */
export interface Sign {
  readonly text: string
  readonly confidence: number
  readonly box: Box
}
/** Words by lines, from the top, each of its signs from the left. Boxes in points of the picture as it was given. */
export type Reading = readonly (readonly (readonly Sign[])[])[]

export interface ReadWord {
  readonly text: string
  /** For each sign whether it is to be looked at. */
  readonly doubt: readonly boolean[]
  readonly box: Box
}
export interface ReadLine {
  readonly words: readonly ReadWord[]
  readonly box: Box
}

/** Below it a reading is not believed, though all agree. */
export const LEAST_CONFIDENCE = 95

export const around = (boxes: readonly Box[]): Box => ({
  x0: Math.min(...boxes.map((b) => b.x0)),
  y0: Math.min(...boxes.map((b) => b.y0)),
  x1: Math.max(...boxes.map((b) => b.x1)),
  y1: Math.max(...boxes.map((b) => b.y1)),
})
const middle = (b: Box) => [(b.x0 + b.x1) / 2, (b.y0 + b.y1) / 2] as const
const within = (b: Box, [x, y]: readonly [number, number]) => x >= b.x0 && x <= b.x1 && y >= b.y0 && y <= b.y1
const wider = (b: Box, by: number): Box => ({ x0: b.x0 - by, y0: b.y0, x1: b.x1 + by, y1: b.y1 })

/** Signs of a reading in a place, from the left. */
function signsIn(reading: Reading, place: Box): readonly Sign[] {
  return reading
    .flat(2)
    .filter((s) => within(place, middle(s.box)))
    .sort((a, b) => a.box.x0 - b.box.x0)
}
const textOf = (signs: readonly Sign[]) => signs.map((s) => s.text).join('')

/** Grey from which on a point is overexposed, of 255. */
const SHINE = 250
/** Whether a place is overexposed in part: what stood there may have been lost. */
export function shines(raw: Grey, place: Box): boolean {
  let bright = 0
  let all = 0
  const [x0, x1] = [Math.max(0, Math.floor(place.x0)), Math.min(raw.width, Math.ceil(place.x1))]
  const [y0, y1] = [Math.max(0, Math.floor(place.y0)), Math.min(raw.height, Math.ceil(place.y1))]
  for (let y = y0; y < y1; y++)
    for (let x = x0; x < x1; x++) {
      all++
      if (raw.data[y * raw.width + x]! >= SHINE) bright++
    }
  return bright > all * 0.04
}

/** Ink that hangs together, and reaches from one point: its points, line by line. */
function hanging(ink: Grey, within: Box, from: number): Set<number> {
  const found = new Set([from])
  const open = [from]
  for (let at = open.pop(); at !== undefined; at = open.pop()) {
    const [x, y] = [at % ink.width, Math.floor(at / ink.width)]
    for (const [nx, ny] of [
      [x - 1, y],
      [x + 1, y],
      [x, y - 1],
      [x, y + 1],
    ] as const) {
      const next = ny * ink.width + nx
      if (nx < within.x0 || nx > within.x1 || ny < within.y0 || ny > within.y1) continue
      if (ink.data[next] !== 0 || found.has(next)) continue
      found.add(next)
      open.push(next)
    }
  }
  return found
}
/** The largest piece of ink in a box, whose edges are known only roughly. */
function piece(ink: Grey, box: Box): Set<number> {
  const [width, height] = [box.x1 - box.x0, box.y1 - box.y0]
  const around: Box = {
    x0: Math.max(0, Math.floor(box.x0 - 0.5 * width)),
    x1: Math.min(ink.width - 1, Math.ceil(box.x1 + 0.5 * width)),
    y0: Math.max(0, Math.floor(box.y0 - 0.2 * height)),
    y1: Math.min(ink.height - 1, Math.ceil(box.y1 + 0.2 * height)),
  }
  let largest = new Set<number>()
  const seen = new Set<number>()
  const x = Math.round((box.x0 + box.x1) / 2)
  for (let y = Math.ceil(box.y0); y <= box.y1; y++) {
    const at = y * ink.width + x
    if (ink.data[at] !== 0 || seen.has(at)) continue
    const found = hanging(ink, around, at)
    for (const each of found) seen.add(each)
    if (found.size > largest.size) largest = found
  }
  return largest
}

/** Rows of a sign in which its two sides are looked for: above, at and below its middle, of its height. */
const ROWS = { above: [0.2, 0.34], waist: [0.42, 0.54], below: [0.66, 0.8] } as const
/** An eight is narrower at its middle, on either side: than below by so much of its width, than above by so much. */
const INSET = { below: 0.05, above: 0.01 } as const
/** A piece of ink much wider or narrower than that is no eight by itself, but two signs or a dot. Width by height. */
const SHAPE = { least: 0.4, most: 0.95 } as const
/**
 * Whether what is read as an eight is drawn like one: a zero with a bar or a dot in it has two holes too, and is read
 * as an eight by every reading alike, but it has no waist. What is printed in dots hangs together too little to tell.
 */
export function hasWaist(ink: Grey, box: Box): boolean {
  const points = [...piece(ink, box)].map((at) => [at % ink.width, Math.floor(at / ink.width)] as const)
  if (!points.length) return false
  const all = around(points.map(([x, y]) => ({ x0: x, y0: y, x1: x + 1, y1: y + 1 })))
  const [width, height] = [all.x1 - all.x0, all.y1 - all.y0]
  if (height < 0.6 * (box.y1 - box.y0) || width < SHAPE.least * height || width > SHAPE.most * height) return false
  const sides = ([from, to]: readonly [number, number]) => {
    const xs = points.filter(([, y]) => y >= all.y0 + from * height && y <= all.y0 + to * height).map(([x]) => x)
    return { left: Math.min(...xs), right: Math.max(...xs) }
  }
  const [above, below] = [sides(ROWS.above), sides(ROWS.below)]
  // The waist is where it is narrowest.
  const waist = sides(ROWS.waist)
  return (
    waist.left - below.left >= INSET.below * width &&
    waist.left - above.left >= INSET.above * width &&
    below.right - waist.right >= INSET.below * width &&
    above.right - waist.right >= INSET.above * width
  )
}
const times = (b: Box, by: number): Box => ({ x0: b.x0 * by, y0: b.y0 * by, x1: b.x1 * by, y1: b.y1 * by })

/** What a plate was read from. */
export interface Seen {
  /** As it was given, grey, in the points that boxes are in. */
  readonly raw: Grey
  /** Its ink alone, at any size. */
  readonly ink: Grey
}

/** Letters and digits that are read as each other, where a word may hold both. */
const ALIKE = new Set('0OoQD1Il5Ss8B2Zz6Gb')

/** A word of one reading, held against the others. */
function agreed(word: readonly Sign[], others: readonly Reading[], { raw, ink }: Seen): ReadWord {
  const box = around(word.map((s) => s.box))
  const height = box.y1 - box.y0
  const text = textOf(word)
  const seen = others.map((o) => signsIn(o, wider(box, height * 0.12)))
  const incomplete = shines(raw, wider(box, height * 0.7)) || seen.some((s) => s.length !== word.length)
  const mixed = /\p{L}/u.test(text) && /\d/.test(text)
  const doubt = word.map((sign, i) => {
    const all = [sign, ...seen.map((s) => s[i])]
    if (incomplete || all.some((s) => s?.text !== sign.text || s.confidence < LEAST_CONFIDENCE)) return true
    // Among letters nothing tells a five from an S.
    if (mixed && ALIKE.has(sign.text)) return true
    // A point is easily read as a comma, and a comma between thousands is no decimal mark.
    if (sign.text === ',') return true
    // A digit close to a small letter is more likely a part of a unit.
    if (/\d/.test(sign.text) && /[a-z]/.test((text[i - 1] ?? '') + (text[i + 1] ?? ''))) return true
    return sign.text === '8' && !hasWaist(ink, times(sign.box, ink.width / raw.width))
  })
  return { text, doubt, box }
}

/** How well a reading was made: the mean of how sure it is, by signs. */
const meanConfidence = (reading: Reading) => {
  const all = reading.flat(2)
  return all.reduce((sum, s) => sum + s.confidence, 0) / Math.max(1, all.length)
}

/** What the readings of a plate say together. */
export function together(readings: readonly Reading[], of: Seen): readonly ReadLine[] {
  const best = [...readings].sort((a, b) => meanConfidence(b) - meanConfidence(a))
  const [first, ...others] = best
  return (first ?? [])
    .filter((line) => line.some((w) => w.length))
    .map((line) => {
      const words = line.filter((w) => w.length).map((w) => agreed(w, others, of))
      return { words, box: around(words.map((w) => w.box)) }
    })
}
