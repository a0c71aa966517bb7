// What the drawing of a loop's errors shows in each of its panels: one for each stage, and one for the loop as a whole.
import { sure } from '@calm-loop/core/sure'
import type { TrimDiagnosis } from '@calm-loop/core/trim'
import { signed, STAGE_SAYS, STAGE_TITLES } from './words.ts'

interface Dot {
  /** Applied, % of span. */
  readonly x: number
  /** Error, % of span. */
  readonly y: number
}
export interface StagePanel {
  readonly id: string
  readonly title: string
  readonly says: string
  /** Beyond the adjust limit. */
  readonly acts: boolean
  readonly dots: readonly Dot[]
  /** The straight line through them, from 0 to 100 %; of the whole loop none. */
  readonly line: readonly Dot[]
  readonly left: readonly Dot[]
  readonly words: string
  readonly more: string
  /** Greatest departure from the line, % of span. */
  readonly bent: number
}
export interface PanelsOf {
  readonly diagnosis: TrimDiagnosis
  /** Applied, % of span, at the points. */
  readonly applied: readonly number[]
  /** Error of the whole loop foretold after an action, % of span. */
  readonly predicted?: readonly number[] | null | undefined
  /** Errors as left, by the same stages, and what was applied then. */
  readonly left?: TrimDiagnosis | undefined
  readonly leftApplied?: readonly number[] | undefined
}

const dotsOf = (xs: readonly number[], ys: readonly number[]): Dot[] => xs.map((x, i) => ({ x, y: sure(ys[i]) }))

export function stagePanels({ diagnosis, applied, predicted, left, leftApplied = [] }: PanelsOf): StagePanel[] {
  const stages = diagnosis.stages.map((s) => {
    const full = s.errors.zeroErrorPct + s.errors.spanErrorPct
    const after = left?.stages.find((l) => l.stage === s.stage)?.seen
    return {
      id: s.stage,
      title: STAGE_TITLES[s.stage],
      says: STAGE_SAYS[s.stage],
      acts: s.acts,
      dots: dotsOf(s.seen.inputs, s.seen.errors),
      line: [
        { x: 0, y: s.errors.zeroErrorPct },
        { x: 100, y: full },
      ],
      left: after ? dotsOf(after.inputs, after.errors) : [],
      words: `${signed(s.errors.zeroErrorPct)} % at zero`,
      more: `${signed(full)} % at full span`,
      bent: s.errors.linearityPct,
    }
  })
  return [
    ...stages,
    {
      id: 'loop',
      title: 'Loop as a whole',
      says: 'last witness against what is applied',
      acts: diagnosis.chainMaxPct > diagnosis.limitPct,
      dots: dotsOf(applied, diagnosis.chainPct),
      line: [],
      left: left ? dotsOf(leftApplied, left.chainPct) : [],
      words: `worst ${diagnosis.chainMaxPct.toFixed(2)} % of span`,
      more: predicted ? `then ${Math.max(...predicted.map(Math.abs)).toFixed(2)} %` : '',
      bent: 0,
    },
  ]
}

/** How far the axes of all panels reach, % of span either way: all that is shown, and the tolerance with room. */
export function reachOf(panels: readonly StagePanel[], predicted: readonly number[], tolerancePct: number): number {
  const shown = panels.flatMap((p) => [...p.dots, ...p.left].map((d) => d.y))
  return Math.max(...[...shown, ...predicted, tolerancePct * 1.3].map(Math.abs)) * 1.08
}
/** The distance between two marks of an axis that reaches so far, % of span. */
export const tickOf = (reach: number): number => (reach > 8 ? 5 : reach > 3 ? 2 : reach > 1.2 ? 1 : 0.5)
