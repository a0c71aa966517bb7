// How a plate is read: three readings of three pictures made of one, none of which errs like another.
import { asPgm, blurred, evened, inked, resized, type Grey } from './picture.ts'
import type { Box, Reading, Seen } from './reading.ts'

/** Points across at which letters of a usual plate are read best. */
const WIDTH = 1400

/** A picture to be read, as a file, and how many of its points lie on one of the given picture. */
export interface Variant {
  readonly file: Uint8Array<ArrayBuffer>
  readonly times: number
}
export interface Prepared {
  readonly variants: readonly Variant[]
  readonly seen: Seen
}

/** What is given to the one that reads letters: a plain block of text, of signs that stand on plates. */
export const PARAMETERS = {
  tessedit_pageseg_mode: '6',
  tessedit_char_whitelist: '0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz.,-+/:%° ',
} as const

/** One picture, made ready in three ways: soft, softer (dots run together), and its ink alone. */
export function prepared(raw: Grey): Prepared {
  const times = WIDTH / raw.width
  const even = evened(resized(raw, times), 40)
  const soft = blurred(even, 1)
  const ink = inked(blurred(resized(even, 0.8), 1), 18)
  return {
    variants: [
      { file: asPgm(soft), times },
      { file: asPgm(blurred(even, 2)), times },
      { file: asPgm(ink), times: times * 0.8 },
    ],
    seen: { raw, ink: inked(soft, 22) },
  }
}

/** What the one that reads letters gives: blocks of paragraphs of lines of words of signs. */
export interface Blocks {
  readonly paragraphs: readonly {
    readonly lines: readonly {
      readonly words: readonly {
        readonly symbols: readonly { readonly text: string; readonly confidence: number; readonly bbox: Box }[]
      }[]
    }[]
  }[]
}
/** A reading in the points of the picture as it was given. */
export function readingOf(blocks: readonly Blocks[] | null, times: number): Reading {
  const lines = (blocks ?? []).flatMap((b) => b.paragraphs.flatMap((p) => p.lines))
  return lines.map((line) =>
    line.words.map((word) =>
      word.symbols.map(({ text, confidence, bbox: { x0, y0, x1, y1 } }) => ({
        text,
        confidence,
        box: { x0: x0 / times, y0: y0 / times, x1: x1 / times, y1: y1 / times },
      })),
    ),
  )
}
