// What a loop says of itself where no current carries its value: the ends of a range are its ends, not 4 and 20 mA.
import type { Figure, SetupLine } from './kind.ts'

const SPEAKS_OF_CURRENT = /\b(\d+(\.\d+)? )?mA\b|\bcurrent\b/i
/** A label that names an end of the range by its current, by what that end is. */
const named = (label: string): string =>
  label
    .replace(/(: | at )4 mA\b/, (_, join: string) => `${join === ': ' ? ': ' : ' at '}the low end`)
    .replace(/(: | at )20 mA\b/, (_, join: string) => `${join === ': ' ? ': ' : ' at '}the high end`)

/** Figures without those of a current that is not there. */
export const figuresWithoutCurrent = (figures: readonly Figure[]): Figure[] =>
  figures
    .map((f) => {
      const label = named(f.label)
      const { working } = f
      return label === f.label
        ? f
        : { ...f, label, ...(working ? { working: () => ({ ...working(), title: label }) } : {}) }
    })
    .filter((f) => !SPEAKS_OF_CURRENT.test(f.label))
export const linesWithoutCurrent = (lines: readonly SetupLine[]): SetupLine[] =>
  lines.map((l) => ({ ...l, label: named(l.label) })).filter((l) => !SPEAKS_OF_CURRENT.test(l.label))
