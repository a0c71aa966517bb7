// Which trim mends a stage, by what each really leaves: a trim pins the points it is made at, it does not fit a line.
import { largestSigned } from '../check/index.ts'
import { trimEffect, type ErrorAt } from './trim-effect.ts'
import type { StageSeen } from './chain-diagnosis.ts'
import { sure } from '../sure/index.ts'

/** What a trim takes off a stage's error: a straight line over the stage's own input, both per cent of span. */
export interface Correction {
  readonly trim: 'zero' | 'two-point'
  readonly lowPct: number
  readonly highPct: number
  readonly at0: number
  readonly slope: number
  /** Largest error that it leaves, unsigned. */
  readonly leavesPct: number
}

/** Trim points closer than this share of the span would swing wide outside, %. */
const LEAST_APART_PCT = 25
const SPARE = 1e-9

/** Errors by rising input; those met more than once at their mean. */
function byInput({ inputs, errors }: StageSeen): ErrorAt[] {
  const met = new Map<number, number[]>()
  inputs.forEach((x, i) => {
    const key = Number(x.toFixed(6))
    met.set(key, [...(met.get(key) ?? []), errors[i]!])
  })
  return [...met]
    .map(([atPct, all]) => ({ atPct, errorPct: all.reduce((a, b) => a + b, 0) / all.length }))
    .sort((a, b) => a.atPct - b.atPct)
}

/** What a trim at these points takes off and leaves. */
export function correctionOf(seen: StageSeen, trim: Correction['trim'], lowPct: number, highPct: number): Correction {
  const points = byInput(seen)
  const { left } = trimEffect({ errorsPct: points, trim, lowPct, highPct, tolerancePct: 1 })
  const taken = points.map((p, i) => p.errorPct - left[i]!)
  const [a, b] = [sure(points[0]), sure(points.at(-1))]
  const slope = (sure(taken.at(-1)) - sure(taken[0])) / (b.atPct - a.atPct)
  const at0 = sure(taken[0]) - slope * a.atPct
  const leaves = seen.errors.map((e, i) => e - at0 - slope * seen.inputs[i]!)
  return { trim, lowPct, highPct, at0, slope, leavesPct: Math.abs(largestSigned(leaves)) }
}

/** A zero trim at the lowest point read. */
export function zeroTrimOf(seen: StageSeen): Correction {
  const { atPct } = sure(byInput(seen)[0])
  return correctionOf(seen, 'zero', atPct, atPct)
}

/** A two-point trim at the ends of what was read: 4 and 20 mA of an output, both ends of a scale. */
export function endsTrimOf(seen: StageSeen): Correction {
  const points = byInput(seen)
  return correctionOf(seen, 'two-point', sure(points[0]).atPct, sure(points.at(-1)).atPct)
}

/** Every two-point trim at points that were read, the one at the ends first. */
function twoPointTrims(seen: StageSeen): Correction[] {
  const points = byInput(seen).map((p) => p.atPct)
  const ends = [sure(points[0]), sure(points.at(-1))] as const
  const pairs = points.flatMap((low, i) => points.slice(i + 1).map((high) => [low, high] as const))
  const apart = pairs.filter(([low, high]) => high - low >= LEAST_APART_PCT - SPARE)
  return [ends, ...apart].map(([low, high]) => correctionOf(seen, 'two-point', low, high))
}

/** The two-point trim that leaves least: at the ends where that does as well, or does within the limit. */
export function twoPointTrimOf(seen: StageSeen, limitPct: number): Correction {
  const [atEnds, ...others] = twoPointTrims(seen)
  if (sure(atEnds).leavesPct <= limitPct + SPARE) return sure(atEnds)
  return others.reduce((best, c) => (c.leavesPct < best.leavesPct - SPARE ? c : best), sure(atEnds))
}
