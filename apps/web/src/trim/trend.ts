// A witness's trend as it is drawn: which samples are in sight, how far the axis reaches, and how steady it is.
import type { TrendSample } from '@calm-loop/contract'
import { stability, type Stability } from '@calm-loop/core/check'

export type Witness = 'digital' | 'current' | 'electrode'
export interface TrendPoint {
  readonly t_s: number
  readonly value: number
}
export interface Limits {
  /** Window, s. */
  readonly seconds: number
  /** Greatest drift over the window and greatest noise, % of span. */
  readonly driftPct: number
  readonly noisePct: number
  /** Time constant to be expected, s; what may still be to go, % of span. */
  readonly tau?: number | undefined
  readonly stillPct?: number | undefined
  /** Per cent of span that one of the witness's own measure is. */
  readonly pctPer: number
}
/** Clear above and below what is drawn. */
const CLEAR = 1.15

/** The newest samples of one witness, oldest first; those at which it was silent are left out. */
export function inSight(trend: readonly TrendSample[], of: Witness, shown_s: number): TrendPoint[] {
  const newest = trend.at(-1)
  if (!newest) return []
  const points: TrendPoint[] = []
  for (let i = trend.length - 1; i >= 0; i--) {
    const sample = trend[i]!
    if (sample.t_s <= newest.t_s - shown_s) break
    const value = sample[of]
    if (value !== null) points.push({ t_s: sample.t_s, value })
  }
  return points.reverse()
}

/** Middle and half height of the axis: never less than twice the drift allowed, so that noise does not fill it. */
export function axisOf(points: readonly TrendPoint[], limits: Pick<Limits, 'driftPct' | 'pctPer'>) {
  const values = points.map((p) => p.value)
  const [low, high] = [Math.min(...values), Math.max(...values)]
  return {
    middle: (high + low) / 2,
    half: Math.max((high - low) / 2, (2 * limits.driftPct) / limits.pctPer) * CLEAR,
  }
}

/** How steady it is since a moment, in % of span: what was measured before belongs to another state of the plant. */
export const steadySince = (points: readonly TrendPoint[], since_s: number, limits: Limits): Stability =>
  stability(
    points.filter((p) => p.t_s >= since_s).map((p) => ({ t_s: p.t_s, value: p.value * limits.pctPer })),
    {
      window_s: limits.seconds,
      drift: limits.driftPct,
      noise: limits.noisePct,
      tau_s: limits.tau,
      still: limits.stillPct,
    },
  )

export function steadyWords(s: Stability | undefined): string {
  if (!s) return 'waiting for the device'
  if (s.state === 'waiting') return `${Math.ceil(s.wait_s)} s to go`
  const far = Math.abs(s.toGo) >= 0.001 ? `, some ${Math.abs(s.toGo).toFixed(3)} % to go` : ''
  return { stable: 'stable', moving: `still moving${far}`, noisy: 'too noisy' }[s.state]
}
