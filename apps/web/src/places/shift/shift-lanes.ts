// The shift drawn: a lane for each person, a stretch for each loop from the first to the last thing done there.
import type { Shift } from '@calm-loop/contract/shift'

export interface Stretch {
  readonly key: string
  readonly x: number
  readonly width: number
  readonly tag: string
  /** Where its tag begins, and whether there is room for it above its stretch. */
  readonly text: number
  readonly shown: boolean
  /** Something there stands open, or was left otherwise than it stood. */
  readonly open: boolean
  readonly left: boolean
}
export interface Lane {
  readonly name: string
  readonly y: number
  readonly stretches: readonly Stretch[]
}
export interface DrawnShift {
  readonly lanes: readonly Lane[]
  readonly hours: readonly { readonly x: number; readonly at: string }[]
  readonly height: number
}

const [LANE, TOP, FOOT] = [58, 26, 30]
/** Widest that a letter of a tag is drawn, px. */
const LETTER = 9.2
const LEAST = 8
const GAP = 6
const HOUR_ms = 3_600_000
/** Hours between two marks, from the finest on; each as far from the next as its words are wide. */
const STEPS_h = [1, 2, 4, 8, 12, 24]
const HOUR_LABEL = 64

/**
 * @param width of the picture, px
 * @param begin of the lanes, px: before it stand the names
 */
export function drawShift(shift: Shift, width: number, begin: number): DrawnShift {
  const [from, to] = [Date.parse(shift.from), Date.parse(shift.to)]
  const right = width - LEAST
  const x = (at: string) => begin + ((Date.parse(at) - from) / (to - from)) * (right - begin)
  const people = [...new Map(shift.done.map((d) => [d.by.id, d.by.name]))]
  const lanes = people.map(([id, name], i): Lane => {
    let end = -Infinity
    const stretches = shift.done
      .filter((d) => d.by.id === id && d.loop)
      .sort((a, b) => a.first.localeCompare(b.first))
      .map((d): Stretch => {
        const tag = d.loop?.tag ?? ''
        const left = Math.min(x(d.first), right - LEAST)
        // What was done last stands at the right end: its tag is drawn back into the picture.
        const text = Math.min(left, width - tag.length * LETTER)
        const shown = text >= end + GAP
        if (shown) end = text + tag.length * LETTER
        const still = shift.open.filter((o) => o.loop.id === d.loop?.id && o.by.id === id && o.sort !== 'practice')
        return {
          ...{ key: `${id} ${d.loop?.id ?? ''}`, tag, text, shown },
          ...{ x: left, width: Math.max(LEAST, Math.min(x(d.last), right) - left) },
          ...{ open: still.length > 0, left: still.some((o) => o.left.length > 0) },
        }
      })
    return { name, y: TOP + i * LANE + LANE / 2, stretches }
  })
  const step = STEPS_h.find((h) => ((right - begin) * h * HOUR_ms) / (to - from) >= HOUR_LABEL) ?? 24
  const hours: { x: number; at: string }[] = []
  const first = Math.ceil(from / HOUR_ms)
  for (let h = first; h * HOUR_ms <= to; h++)
    if ((h - first) % step === 0) {
      const at = new Date(h * HOUR_ms).toISOString()
      if (x(at) + HOUR_LABEL / 2 <= width) hours.push({ x: x(at), at })
    }
  return { lanes, hours, height: TOP + lanes.length * LANE + FOOT }
}
