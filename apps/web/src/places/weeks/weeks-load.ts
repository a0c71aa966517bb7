// The load of the weeks drawn: what falls due in each, what is put into it, and what there is room for.
import type { Week } from '@calm-loop/core/round'

export interface DrawnWeek {
  readonly begins: string
  readonly x: number
  readonly width: number
  /** Height of what is put into it, and of what falls due. */
  readonly planned: number
  readonly due: number
  readonly room: number
  readonly over: boolean
  /** Whether its day is written beneath. */
  readonly named: boolean
}
export interface DrawnLoad {
  readonly weeks: readonly DrawnWeek[]
  /** Heights of the scale, from the bottom, each with its hours. */
  readonly marks: readonly { readonly y: number; readonly hours: number }[]
}

const STEPS_h = [2, 5, 10, 20, 50, 100, 200, 500, 1000]
const MOST_MARKS = 4
const NAME_px = 62

/** @param size of the field that is drawn in, px */
export function drawLoad(weeks: readonly Week[], size: { readonly width: number; readonly height: number }): DrawnLoad {
  // Room that is never used up would press all else to the floor.
  const used = Math.max(60, ...weeks.flatMap((w) => [w.planned, w.due]))
  const most = Math.min(Math.max(used, ...weeks.map((w) => w.room)), used * 1.25)
  const y = (minutes: number) => (Math.min(minutes, most) / most) * size.height
  const width = size.width / Math.max(1, weeks.length)
  const each = Math.max(1, Math.ceil(NAME_px / width))
  const step = STEPS_h.find((h) => most / 60 / h <= MOST_MARKS) ?? 1000
  return {
    weeks: weeks.map((w, i) => ({
      ...{ begins: w.begins, x: i * width, width, planned: y(w.planned), due: y(w.due), room: y(w.room) },
      over: w.planned > w.room,
      named: i % each === 0,
    })),
    marks: Array.from({ length: Math.floor(most / 60 / step) + 1 }, (_, i) => ({
      y: y(i * step * 60),
      hours: i * step,
    })),
  }
}
