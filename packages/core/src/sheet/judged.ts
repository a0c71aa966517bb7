// What a whole run of a sheet came to, where its figures are held against something: a verification.
import { convertUnit } from '../quantity/index.ts'

/** A figure of a run, as it was typed in its step. */
export interface RunFigure {
  readonly value: number
  readonly unit: string
}
/** What a run gives to be judged by. */
export interface RunGiven {
  /** By step. */
  readonly figures: ReadonlyMap<string, RunFigure>
  /** The health check that was kept within the run, and the reference that it is held against; stiffness in %. */
  readonly health?: {
    readonly found: { readonly left_pct: number; readonly right_pct: number }
    readonly reference: { readonly left_pct: number; readonly right_pct: number }
  }
}

/** One figure of a run against what it should be; `expected` and `read` in `unit`, `off` and `limit` in `offUnit`. */
export interface JudgedLine {
  readonly name: string
  /** What it was taken at, in words with units; empty where nothing need be said. */
  readonly at: string
  readonly expected: number
  readonly unit: string
  readonly decimals: number
  /** How far off it may be, both ways. */
  readonly limit: number
  readonly offUnit: string
  /** Absent while it is not read. */
  readonly read?: number
  readonly off?: number
  readonly inside?: boolean
}
export interface RunJudged {
  readonly lines: readonly JudgedLine[]
  /** Whether every line is inside; undefined while one is not read. */
  readonly pass: boolean | undefined
  /** What it is held against, and by which limit: a sentence. */
  readonly rule: string
  /** What it does not show. */
  readonly notChecked: string
}

/** What a step of the run gave, in a unit; undefined where it gave nothing. */
export function figureOf({ figures }: RunGiven, step: string, unit: string): number | undefined {
  const figure = figures.get(step)
  return figure && convertUnit(figure.value, figure.unit, unit)
}

type Line = Omit<JudgedLine, 'off' | 'inside' | 'read'> & { readonly read?: number | undefined }

/** Both ends of a limit belong to it. */
const SPARE = 1e-9

/** Lines with how far each is off: of the expected in %, or as a difference in the line's own unit. */
export function judgeLines(
  lines: readonly Line[],
  words: Pick<RunJudged, 'rule' | 'notChecked'>,
): RunJudged | undefined {
  if (!lines.length) return undefined
  const judged = lines.map(({ read, ...line }): JudgedLine => {
    if (read === undefined) return line
    const off = line.offUnit === '%' ? 100 * (read / line.expected - 1) : read - line.expected
    return { ...line, read, off, inside: Math.abs(off) <= line.limit + SPARE }
  })
  const whole = judged.every((l) => l.inside !== undefined)
  return { lines: judged, pass: whole ? judged.every((l) => l.inside) : undefined, ...words }
}
