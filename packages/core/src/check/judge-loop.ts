// A whole loop judged: every place that was read against what the thread expects there for the true input, each with
// its uncertainty; the first that departs is where to look.
import { knotIndex, spread, type Thread } from '../thread/index.ts'
import { sure } from '../sure/index.ts'
import { isFailed, verdictOf, worseVerdict } from './check-verdict.ts'
import { conformity, type ConformityRule, type ConformityVerdict } from './conformity.ts'
import { errorOfSpan } from './error-of-span.ts'
import { standingReadings, type Judgement, type JudgedKnot, type JudgedReading, type RecordedReading } from './judge.ts'
import { largestSigned } from './largest.ts'
import { combinedOf, type BudgetRow } from './reading-budget.ts'
import { uncertaintyBudget, type Budget } from './uncertainty-budget.ts'
import { INDICATOR, witnessesBehind, type Witness } from './witness.ts'

export interface LoopTerms {
  /** Knot at which the true input is given. */
  readonly standardAt: string
  /** ± % of span, of every place but the controller. */
  readonly tolerancePct: number
  /** ± % of span, of what the controller shows. */
  readonly controllerTolerancePct: number
  readonly rule: ConformityRule
}

/** A reading with the rows of its budget; without them the figure is taken as it is. */
export interface LoopReading extends RecordedReading {
  /** Of the true input, each in the unit of the standard’s knot. */
  readonly appliedRows?: readonly BudgetRow[] | undefined
  /** Of what was read, by place, each in the place’s unit. */
  readonly readRows?: Readonly<Record<string, readonly BudgetRow[]>> | undefined
  /** Places of whose instrument nothing is known: there the verdict is simple. */
  readonly unknown?: readonly string[] | undefined
}

/** A place of one reading, judged. */
export interface LoopKnot extends JudgedKnot {
  readonly tolerancePct: number
  /** Standard uncertainty of the error, % of span; 0 where nothing is known of it. */
  readonly u_pct: number
  readonly verdict: ConformityVerdict
  /** Of the true error within tolerance; undefined without an uncertainty. */
  readonly probabilityInside: number | undefined
  /** Rows of its budget; each `sensitivity` gives % of span. */
  readonly rows: readonly BudgetRow[]
}
export interface LoopJudgedReading extends JudgedReading {
  readonly knots: readonly LoopKnot[]
  readonly main: LoopKnot
  readonly worst: LoopKnot
}
/** A place over all its readings. */
export interface WitnessVerdict {
  readonly witness: Witness
  readonly verdict: ConformityVerdict
  /** With its sign, % of span. */
  readonly maxErrorPct: number
  readonly tolerancePct: number
  /** Largest standard uncertainty met, % of span; 0 where nothing is known. */
  readonly u_pct: number
  /** Tolerance over the largest expanded uncertainty; undefined without one. */
  readonly ratio: number | undefined
}
export interface LoopVerdict {
  readonly judged: readonly LoopJudgedReading[]
  readonly witnesses: readonly WitnessVerdict[]
  readonly verdict: ConformityVerdict
  /** Of all that was read, what uses up most of its own tolerance. */
  readonly worst: LoopKnot
  /** The first place that departs, the last good one before it (or the standard), and what can cause it. */
  readonly first: { readonly witness: Witness; readonly after: string; readonly causes: readonly string[] } | undefined
}

/** What came of a check, whatever its rule. */
export interface WholeJudgement extends Judgement {
  /** Of rule 3: the verdict of every place and of the whole loop. */
  readonly loop?: LoopVerdict
}

/** What of the span a place changes for a change of 1 at the standard; the step is that of the input’s own doubt. */
function sensitivity(
  thread: Thread,
  { standardAt, at }: { readonly standardAt: string; readonly at: number },
  applied: number,
  u: number,
): number {
  const value = (x: number) => {
    const found = spread(thread, standardAt, x)[at]!
    return found.known ? found.value : undefined
  }
  const here = value(applied)
  if (here === undefined || !(u > 0)) return 0
  const slope = (step: number) => {
    const there = value(applied + step)
    return there === undefined ? undefined : Math.abs(there - here) / Math.abs(step)
  }
  const smaller = (step: number) => {
    const both = [slope(step), slope(-step)].filter((s) => s !== undefined)
    return both.length ? both : [0]
  }
  // The slope itself; where a root or an edge stands there, no more than what the doubt really moves.
  const near = smaller(Math.max(Math.abs(applied), Math.abs(u)) * 1e-6)
  const [least, most] = [Math.min(...near), Math.max(...near)]
  return most > 3 * least ? Math.min(Math.max(...smaller(u)), most) : near.reduce((a, b) => a + b, 0) / near.length
}

/** Pooled standard deviation of readings of one place at one point and direction; undefined where none was repeated. */
function repeatability(readings: readonly LoopReading[], errors: ReadonlyMap<string, number>) {
  const groups = new Map<string, number[]>()
  for (const r of readings) {
    const error = errors.get(r.id)
    if (error === undefined) continue
    const key = `${r.percent} ${r.direction}`
    groups.set(key, [...(groups.get(key) ?? []), error])
  }
  const many = [...groups.values()].filter((g) => g.length > 1)
  const dof = many.reduce((sum, g) => sum + g.length - 1, 0)
  if (!dof) return undefined
  const squares = many.reduce((sum, g) => {
    const mean = g.reduce((a, b) => a + b, 0) / g.length
    return sum + g.reduce((s, e) => s + (e - mean) ** 2, 0)
  }, 0)
  return { s: Math.sqrt(squares / dof), dof }
}

/** The budget of a judged place, % of span. Undefined where nothing is known of its uncertainty. */
export const budgetOf = ({ rows, u_pct }: Pick<LoopKnot, 'rows' | 'u_pct'>): Budget | undefined =>
  u_pct > 0 ? uncertaintyBudget(rows) : undefined

const share = (k: LoopKnot) => Math.abs(k.errorPct) / k.tolerancePct
/** Of two places the one that uses up more of its tolerance; the first where both do alike. */
export const worseShare = (a: LoopKnot, b: LoopKnot): LoopKnot => (share(b) > share(a) + 1e-9 ? b : a)

/** The knot at whose expectation a place is judged, by its index in the thread. */
const indexOf = (thread: Thread, w: Witness) => knotIndex(thread, w.knotId)

/**
 * Judges the standing readings at every place that was read behind the standard. Null without readings.
 * Source: JCGM 106 (rules of acceptance), JCGM 100 (budgets).
 * @throws Refusal `unknown-knot` where the thread has no knot of the standard’s name
 */
export function judgeLoop(readings: readonly LoopReading[], thread: Thread, terms: LoopTerms): LoopVerdict | null {
  const witnesses = witnessesBehind(thread, terms.standardAt)
  const standing = standingReadings(readings)
  const last = sure(thread.knots.at(-1)).id
  const expectedAt = new Map(standing.map((r) => [r.id, spread(thread, terms.standardAt, r.applied)]))
  const indices = new Map(witnesses.map((w) => [w, indexOf(thread, w)]))
  interface KnotRead {
    readonly expected: number
    readonly read: number
    readonly errorPct: number
  }
  const errors = new Map(witnesses.map((w) => [w.id, new Map<string, KnotRead>()]))
  for (const r of standing)
    for (const w of witnesses) {
      const read = r.reads[w.id]
      const expected = read === undefined ? undefined : sure(expectedAt.get(r.id))[sure(indices.get(w))]
      if (read === undefined || !expected?.known) continue
      const errorPct = errorOfSpan(read, expected.value, w.high - w.low)
      sure(errors.get(w.id)).set(r.id, { expected: expected.value, read, errorPct })
    }
  const repeated = new Map(
    witnesses.map((w) => {
      const of = [...sure(errors.get(w.id))].map(([id, { errorPct }]): [string, number] => [id, errorPct])
      return [w.id, repeatability(standing, new Map(of))]
    }),
  )
  /** By the rule, and how probable it is that the true error lies inside; without an uncertainty only the verdict. */
  const held = (errorPct: number, u_pct: number, tolerancePct: number) => {
    const { rule } = terms
    if (!(u_pct > 0)) return { verdict: verdictOf(errorPct, 0, tolerancePct, rule), probabilityInside: undefined }
    const { verdict, probabilityInside } = conformity({
      measuredError: errorPct,
      tolerance: tolerancePct,
      standardUncertainty: u_pct,
      rule,
    })
    return { verdict, probabilityInside }
  }
  const judgeAt = (r: LoopReading, w: Witness): LoopKnot[] => {
    const e = sure(errors.get(w.id)).get(r.id)
    if (!e) return []
    const tolerancePct = w.id === last ? terms.controllerTolerancePct : terms.tolerancePct
    const toPct = 100 / Math.abs(w.high - w.low)
    const appliedRows = r.appliedRows ?? []
    const u = combinedOf(appliedRows)
    const slope = sensitivity(thread, { ...terms, at: sure(indices.get(w)) }, r.applied, u) * toPct
    const known = !r.unknown?.some((id) => id === w.id || id === 'applied')
    const again = repeated.get(w.id)
    const readRows = r.readRows?.[w.id] ?? []
    const any = appliedRows.length + readRows.length > 0 || again !== undefined
    const u_pct =
      known && any ? Math.sqrt((u * slope) ** 2 + (combinedOf(readRows) * toPct) ** 2 + (again?.s ?? 0) ** 2) : 0
    const { id: knotId, name, unit, decimals } = w
    return [
      {
        knotId,
        name,
        unit,
        decimals,
        ...e,
        tolerancePct,
        u_pct,
        // Made when somebody looks at them: with every reading all of them are judged anew.
        get rows(): BudgetRow[] {
          return [
            ...appliedRows.map((row) => ({ ...row, sensitivity: slope })),
            ...readRows.map((row) => ({ ...row, sensitivity: toPct })),
            ...(again
              ? [
                  {
                    what: 'repeated readings',
                    unit: '%',
                    value: again.s,
                    distribution: 'standard' as const,
                    dof: again.dof,
                  },
                ]
              : []),
          ]
        },
        ...held(e.errorPct, u_pct, tolerancePct),
      },
    ]
  }
  const judged = standing.flatMap((reading): LoopJudgedReading[] => {
    const knots = witnesses.flatMap((w) => judgeAt(reading, w))
    const main = knots.find((k) => k.knotId === 'current') ?? knots.at(-1)
    if (!main) return []
    return [{ reading, knots, main, worst: knots.reduce(worseShare) }]
  })
  if (!judged.length) return null
  const over = witnesses.flatMap((witness): WitnessVerdict[] => {
    const met = judged.flatMap((j) => j.knots.filter((k) => k.knotId === witness.id))
    if (!met.length) return []
    const u_pct = Math.max(...met.map((k) => k.u_pct))
    const { tolerancePct } = met[0]!
    return [
      {
        witness,
        verdict: met.map((k) => k.verdict).reduce(worseVerdict),
        maxErrorPct: largestSigned(met.map((k) => k.errorPct)),
        tolerancePct,
        u_pct,
        ratio: u_pct > 0 ? tolerancePct / (2 * u_pct) : undefined,
      },
    ]
  })
  return {
    judged,
    witnesses: over,
    verdict: over.map((w) => w.verdict).reduce(worseVerdict),
    worst: judged.map((j) => j.worst).reduce(worseShare),
    first: firstOf(thread, terms, over),
  }
}

/** The first place that departs, and the causes of every stage since the last that does not. */
function firstOf(thread: Thread, terms: LoopTerms, over: readonly WitnessVerdict[]): LoopVerdict['first'] {
  const at = over.findIndex((w) => isFailed(w.verdict))
  if (at < 0) return undefined
  const { witness } = over[at]!
  const place = (w: Witness) => (w.id === INDICATOR ? knotIndex(thread, 'current') : indexOf(thread, w))
  const good = over[at - 1]?.witness
  const from = good ? place(good) : knotIndex(thread, terms.standardAt)
  const stages = thread.stages.slice(from, place(witness)).flatMap((stage) => stage.causes)
  return {
    witness,
    after: good?.name ?? sure(thread.knots[from]).name,
    causes: witness.id === INDICATOR ? [...stages, 'indicator scaled otherwise', 'indicator itself off'] : stages,
  }
}
