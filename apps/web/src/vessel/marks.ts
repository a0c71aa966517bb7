// Words beside a drawing at heights of it, led to where they belong and never over one another.
import { spreadLabels } from '../places/folder/labels.ts'

export interface Mark {
  /** Height on the drawing that it belongs to. */
  readonly y: number
  readonly words: string
  readonly tone?: 'action' | 'stop'
}
/** A mark whose words have their place. */
export interface Placed extends Mark {
  readonly text: number
}
/** Marks with the heights of their texts, between `top` and `bottom` where there is room. */
export function apart(marks: readonly Mark[], { gap = 18, top = 14, bottom = Infinity } = {}): Placed[] {
  const spread = spreadLabels(
    marks.map((m) => m.y + 5),
    gap,
  )
  const [least, most] = [Math.min(...spread), Math.max(...spread)]
  const shift = least < top ? top - least : most > bottom ? Math.max(bottom - most, top - least) : 0
  return marks.map((m, i) => ({ ...m, text: (spread[i] ?? m.y) + shift })).sort((a, b) => a.text - b.text)
}
