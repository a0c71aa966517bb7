// What was really read, and which single fault explains it best, two where one does not; and where to measure next when
// several explain it equally well.
import { attempt, Refusal } from '../refusal/index.ts'
import { energise, variantsOf, type Conditions, type Energised } from './energise.ts'
import type { Priors } from './fault.ts'
import { faultsOf } from './faults.ts'
import type { Explanation, Ranking } from './explanation.ts'
import { meterFaults } from './meter-faults.ts'
import { nextSpot } from './next-spot.ts'
import { pairsOf } from './pairs.ts'
import { nearest, predict, vague, type Shown } from './predict.ts'
import { PRIORS } from './priors.ts'
import { isThere, spotsOf, spread, type LoopReading, type Spot } from './readings.ts'
import type { Wiring } from './record.ts'
import { misfitOf, refine, tryFault, type Trial, type Tries } from './try-fault.ts'
import { sure } from '../sure/index.ts'

/** So many of the explanations are worth finding their figure exactly. */
const REFINED = 10
/** A single fault that fits no better than this does not explain it: two are tried. */
const UNEXPLAINED = 2.5
/** One that says so little of what is read does not stand alone either. */
const SAYS_LITTLE = 2
/** More than this out of a supply, and its fuse would have gone, mA; and what such an explanation lacks. */
const [TRIPPED_mA, TRIPPED] = [2000, 8]

const trips = ({ parts, solution }: Energised): boolean =>
  parts.some((p) => p.kind === 'source' && Math.abs(solution.parts[p.id]?.mA ?? 0) > TRIPPED_mA)

/** A figure that may be chosen freely fits more by chance, and a rare fault needs better grounds. */
const handicap = ({ fault, energised }: Explanation): number =>
  (fault.figure ? 1.5 : 0) - 2 * Math.log(fault.usual) + (trips(energised) ? TRIPPED : 0)

/** The lower, the better: how badly it fits, how seldom it is met, and how little it says. */
const scoreOf = (e: Explanation, readings: readonly LoopReading[]): number =>
  e.misfit * readings.length + handicap(e) + vague(e.shown, readings)

/** With what a display would really show, where nobody can say exactly. */
function withRanges(wiring: Wiring, trial: Trial, { readings, solve }: Tries): Explanation {
  const { fault, energised, figure } = trial
  const alter = fault.alter(figure ?? 0)
  const ideal = predict(wiring, energised, readings, (more) => {
    const solved = attempt(() => solve((parts) => more(alter(parts))))
    return solved instanceof Refusal ? undefined : solved
  })
  const rows = ideal.map((row) => row.map((s, i) => fault.seen?.(s, readings[i]!, i) ?? s))
  const cost = (row: readonly Shown[]) => misfitOf(row, readings) * readings.length + vague(row, readings)
  const shown = rows.reduce((best, row) => (cost(row) < cost(best) ? row : best))
  return {
    ...trial,
    shown,
    misfit: misfitOf(shown, readings),
    predicts: shown.map((s, i) => nearest(s, readings[i]!.value)),
  }
}

/** Explanations that the readings cannot tell apart, group by group, best first. */
function groupsOf(ranked: readonly Explanation[], readings: readonly LoopReading[]): Explanation[][] {
  const groups: Explanation[][] = []
  for (const e of ranked) {
    const like = groups.find((g) => sameReadings(sure(g[0]), e, readings))
    if (like) like.push(e)
    else groups.push([e])
  }
  return groups
}

const sameReadings = (a: Explanation, b: Explanation, readings: readonly LoopReading[]): boolean =>
  readings.every((r, i) => {
    const [x, y, near] = [a.shown[i]!, b.shown[i]!, spread(r.value)]
    return x.low <= y.high + near && y.low <= x.high + near
  })

interface ExplainOptions {
  readonly spots?: readonly Spot[]
  readonly priors?: Priors
  readonly first?: (look: Ranking) => void
}

/**
 * Ranks every single fault by how well the loop with it reproduces all readings, and by how often it is met; where no
 * single one does, pairs of them too.
 * @param taken readings; one at a terminal that is no longer there does not count
 * @param spots where a next measurement could be made
 * @param priors how often each kind is met
 * @param first is handed a first look before the whole is worked out: single faults with their figures as found
 * roughly, and nothing said about how sure a dead transmitter's volts are
 */
export function explain(
  wiring: Wiring,
  conditions: Conditions,
  taken: readonly LoopReading[],
  { spots = spotsOf(wiring), priors = PRIORS, first }: ExplainOptions = {},
): Ranking {
  const readings = taken.filter((r) => isThere(wiring, r))
  const base = energise({ wiring, conditions })
  if (!readings.length) return { groups: [] }
  const tries: Tries = {
    solve: variantsOf(wiring, conditions, base),
    readings,
  }
  const faults = [...faultsOf(wiring, base, priors), ...meterFaults(readings, priors)]
  const rough = faults.flatMap((fault) => tryFault(tries, fault) ?? [])
  const byScore = (a: Explanation, b: Explanation) => scoreOf(a, readings) - scoreOf(b, readings)
  first?.({ groups: groupsOf([...rough].sort(byScore).slice(0, 40), readings).slice(0, 6) })
  const figured = rough.filter((e) => e.fault.figure).sort(byScore)
  const singles = [
    ...rough.filter((e) => !e.fault.figure),
    ...figured.map((e, i) => (i < REFINED ? refine(e, readings) : e)),
  ].map((trial) => withRanges(wiring, trial, tries))
  singles.sort(byScore)
  const alone = singles.some((e) => e.misfit <= UNEXPLAINED && vague(e.shown, readings) < SAYS_LITTLE)
  const pairs = alone ? [] : pairsOf(tries, rough).map((trial) => withRanges(wiring, trial, tries))
  const ranked = [...singles, ...pairs].sort(byScore)
  const best = scoreOf(sure(ranked[0]), readings)
  const left = ranked.filter((e) => scoreOf(e, readings) <= best + 6).slice(0, 12)
  const next = nextSpot(wiring, left, spots, readings)
  return { groups: groupsOf(ranked.slice(0, 40), readings).slice(0, 6), ...(next ? { next } : {}) }
}
