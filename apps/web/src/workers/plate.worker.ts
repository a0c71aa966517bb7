// Making a picture ready and holding its readings together takes some hundred milliseconds: not for the page's thread.
import { greyOf, prepared, together, type Reading, type ReadLine, type Seen, type Variant } from '@calm-loop/core/plate'
import { expose } from 'comlink'
import { sure } from '@calm-loop/core/sure'

let seen: Seen | undefined
const worker = {
  /** Pictures to be read, made of one. */
  prepare(rgba: Uint8ClampedArray, width: number, height: number): readonly Variant[] {
    const made = prepared(greyOf(rgba, width, height))
    seen = made.seen
    return made.variants
  },
  /** What the readings of those pictures agree on. */
  together: (readings: readonly Reading[]): readonly ReadLine[] => together(readings, sure(seen)),
}
export type PlateWorker = typeof worker
expose(worker)
