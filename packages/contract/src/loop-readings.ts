// Readings of a check as the core judges a whole loop: each figure in its place's unit, with the rows of its budget.
import {
  doubtsOf,
  INDICATOR,
  judgeLoop,
  lastDigit,
  rangeFor,
  resultOf,
  rowsOfReading,
  isFailed,
  witnessesBehind,
  type BudgetRow,
  type WholeJudgement,
  type LoopReading,
  type Witness,
  type WitnessVerdict,
} from '@calm-loop/core/check'
import { convertUnit, findUnit } from '@calm-loop/core/quantity'
import { attempt, Refusal } from '@calm-loop/core/refusal'
import { knotScales, spread, type Thread } from '@calm-loop/core/thread'
import { sure } from '@calm-loop/core/sure'
import { readsVolts, type Check, type CheckTerms, type Reading } from './loops.ts'
import type { GearUsed } from './gear.ts'
import type { ReadEntry } from './primitives.ts'

const mA_PER_A = 1000
const DAY_ms = 86_400_000

const resistor_Ohm = ({ resistor }: Pick<CheckTerms, 'resistor'>) =>
  resistor && convertUnit(resistor.ohm.value, resistor.ohm.unit, 'Ohm')

/**
 * What was read at a place, in its unit: a current may be volts across the check's resistor, a display may show per
 * cent of its range. @throws Refusal `incommensurable`, `shunt-unknown`
 */
export function atPlace(read: ReadEntry, place: Witness, terms: Pick<CheckTerms, 'resistor'>): number {
  const quantity = findUnit(read.unit)?.quantity
  if (place.id === 'current' && quantity === 'voltage') {
    const ohm = resistor_Ohm(terms)
    if (!ohm)
      throw new Refusal('shunt-unknown', 'Volts were read, and the resistor they were read across is not entered.')
    return (convertUnit(read.value, read.unit, 'V') / ohm) * mA_PER_A
  }
  if (place.id === INDICATOR && quantity === 'ratio' && place.quantity !== 'ratio')
    return place.low + (convertUnit(read.value, read.unit, '%') / 100) * (place.high - place.low)
  return convertUnit(read.value, read.unit, place.unit)
}

/** What the kit says of one figure of a reading. */
interface Worth {
  readonly rows: BudgetRow[]
  readonly known: boolean
}

/** How a figure was read: with which piece, on which day, where. */
function worthOf(
  read: ReadEntry,
  piece: GearUsed | undefined,
  at: { takenAt: string; ambient_C: number | undefined },
): Worth {
  const range = rangeFor(piece?.ranges ?? [], read.value, read.unit)
  const days = piece?.calibrated
    ? Math.max(0, (Date.parse(at.takenAt) - Date.parse(piece.calibrated)) / DAY_ms)
    : undefined
  const rows = rowsOfReading(piece?.name ?? '', range, {
    value: read.value,
    unit: read.unit,
    resolution: lastDigit(read.typed),
    days,
    ambient_C: at.ambient_C,
  })
  return { rows, known: !!range }
}

/** Rows brought from the unit that was read to that of the place: volts become a current, per cent a value. */
function inPlace(rows: readonly BudgetRow[], read: ReadEntry, place: Witness, terms: CheckTerms): BudgetRow[] {
  if (read.unit === place.unit) return [...rows]
  const per = atPlace({ ...read, value: read.value + 1 }, place, terms) - atPlace(read, place, terms)
  return rows.map((row) => ({ ...row, value: row.value * Math.abs(per), unit: place.unit }))
}

/** Places whose worth needs no kit: what they show is itself what is judged. */
const OF_ITSELF: readonly Witness['id'][] = [INDICATOR, 'digital', 'counts', 'channel', 'controller', 'shown-level']

function loopReading(
  r: Reading,
  check: Pick<Check, 'gear'>,
  terms: CheckTerms,
  { thread, places }: { readonly thread: Thread; readonly places: readonly Witness[] },
): LoopReading {
  const standard = sure(thread.knots.find((k) => k.id === terms.standardAt))
  const at = { takenAt: r.takenAt, ambient_C: terms.ambient_C }
  const piece = (id: string | null) => check.gear.find((g) => g.id === id)
  const unknown: string[] = []
  const reads: Record<string, number> = {}
  const readRows: Record<string, BudgetRow[]> = {}
  for (const place of places) {
    const read = r.reads[place.id]
    const value = read && attempt(() => atPlace(read, place, terms))
    if (!read || value === undefined || value instanceof Refusal) continue
    reads[place.id] = value
    const worth = worthOf(read, piece(terms.reads.find((w) => w.at === place.id)?.gear ?? null), at)
    if (!worth.known && !OF_ITSELF.includes(place.id)) unknown.push(place.id)
    const rows = inPlace(worth.rows, read, place, terms)
    const across = place.id === 'current' && findUnit(read.unit)?.quantity === 'voltage' ? terms.resistor : undefined
    readRows[place.id] = across
      ? [
          ...rows,
          {
            what: `resistor, ±${across.tolerancePct} %`,
            unit: place.unit,
            value: (Math.abs(value) * across.tolerancePct) / 100,
            distribution: 'rectangular',
          },
        ]
      : rows
  }
  const applied = worthOf(r.applied, piece(terms.standardGear), at)
  if (!applied.known) unknown.push('applied')
  const inStandard = (value: number) => convertUnit(value, r.applied.unit, standard.unit)
  const scale =
    r.applied.unit === standard.unit ? 1 : Math.abs(inStandard(r.applied.value + 1) - inStandard(r.applied.value))
  return {
    id: r.id,
    pointIndex: r.pointIndex,
    percent: r.percent,
    direction: r.direction,
    applied: inStandard(r.applied.value),
    reads,
    supersedes: r.supersedes ?? undefined,
    appliedRows: applied.rows.map((row) => ({
      ...row,
      what: row.what.startsWith('last digit') ? 'last digit of the true input' : row.what,
      value: row.value * scale,
      unit: standard.unit,
    })),
    readRows,
    unknown,
  }
}

/** The verdict of a check of rule 3 so far; null without readings. */
export function judgeWholeLoop(check: Check, terms: CheckTerms, thread: Thread): WholeJudgement | null {
  const at = { thread, places: witnessesBehind(thread, terms.standardAt) }
  const loop = judgeLoop(
    check.readings.map((r) => loopReading(r, check, terms, at)),
    thread,
    { ...terms, tolerancePct: check.tolerancePct },
  )
  if (!loop) return null
  const result = resultOf(loop.judged, check.tolerancePct)
  const maxErrorPct = loop.worst.errorPct
  return { judged: loop.judged, result: { ...result, maxErrorPct, pass: !isFailed(loop.verdict) }, loop }
}

/** Knot at which a check's true input is given. */
export const standardOf = (check: Pick<Check, 'terms'>, thread: Thread): string =>
  check.terms?.standardAt ?? sure(thread.knots[0]).id

/** What a reading holds, by knot of the thread, each in its knot's unit; what does not fit is left out. */
export function readsOnThread(
  check: Pick<Check, 'terms'>,
  r: Pick<Reading, 'applied' | 'reads'>,
  thread: Thread,
): Record<string, number> {
  const at = standardOf(check, thread)
  const places = new Map(witnessesBehind(thread, at).map((w) => [w.id, w]))
  const figures = thread.knots.map((knot): [string, number | Refusal | undefined] => {
    const read = knot.id === at ? r.applied : r.reads[knot.id]
    if (!read) return [knot.id, undefined]
    const place = knot.id === at ? undefined : places.get(knot.id)
    return [
      knot.id,
      attempt(() => (place ? atPlace(read, place, check.terms ?? {}) : convertUnit(read.value, read.unit, knot.unit))),
    ]
  })
  return Object.fromEntries(figures.filter((f): f is [string, number] => typeof f[1] === 'number'))
}

/** What is odd about a reading before it is taken: sentences, none where all of it can be. */
export function doubtsAbout(
  check: Pick<Check, 'terms' | 'points'>,
  take: Pick<Reading, 'applied' | 'reads' | 'pointIndex'>,
  thread: Thread,
): string[] {
  const [terms, point] = [check.terms, check.points[take.pointIndex]]
  if (!terms || !point) return []
  const standard = thread.knots.find((k) => k.id === terms.standardAt)
  const applied = standard && attempt(() => convertUnit(take.applied.value, take.applied.unit, standard.unit))
  if (typeof applied !== 'number') return []
  const places = new Map(witnessesBehind(thread, terms.standardAt).map((w) => [w.id, w]))
  const reads = Object.entries(take.reads).flatMap(([id, read]): [string, number][] => {
    const place = places.get(id)
    const value = place && attempt(() => atPlace(read, place, terms))
    return typeof value === 'number' ? [[id, value]] : []
  })
  return doubtsOf({ applied, reads: Object.fromEntries(reads) }, point, thread, { ...terms, points: check.points })
}

/** What the kit proves of each place before anything is read: judged as if every reading were as expected. */
export function foretellProof(
  check: Pick<Check, 'points' | 'tolerancePct' | 'gear'>,
  terms: CheckTerms,
  thread: Thread,
  at: string,
): WitnessVerdict[] {
  const scale = knotScales(thread)[0]
  if (scale?.low === undefined || scale.high === undefined) return []
  const [low, high, process] = [scale.low, scale.high, sure(thread.knots[0]).id]
  const places = witnessesBehind(thread, terms.standardAt)
  const read = (value: number, unit: string, decimals: number) => ({ typed: value.toFixed(decimals), value, unit })
  const readings = check.points.flatMap((p): LoopReading[] => {
    const values = spread(thread, process, low + (p.percent / 100) * (high - low))
    const of = (id: string) => {
      const i = thread.knots.findIndex((k) => k.id === id)
      const value = values[i]
      return value?.known ? { knot: thread.knots[i]!, value: value.value } : undefined
    }
    const applied = of(terms.standardAt)
    if (!applied) return []
    const reads = places.flatMap((w): [string, ReadEntry][] => {
      const how = terms.reads.find((r) => r.at === w.id)
      const there = how && of(w.knotId)
      if (!there) return []
      const ohm = w.id === 'current' && readsVolts(how.stand) ? resistor_Ohm(terms) : undefined
      return [[w.id, ohm ? read((there.value * ohm) / mA_PER_A, 'V', 3) : read(there.value, w.unit, w.decimals)]]
    })
    const reading: Reading = {
      id: `${p.index}`,
      seq: p.index + 1,
      pointIndex: p.index,
      percent: p.percent,
      direction: p.direction,
      applied: read(applied.value, applied.knot.unit, applied.knot.decimals),
      reads: Object.fromEntries(reads),
      source: 'typed',
      supersedes: null,
      reason: '',
      by: { id: '', name: '' },
      takenAt: at,
      savedAt: at,
    }
    return [loopReading(reading, check, terms, { thread, places })]
  })
  return [...(judgeLoop(readings, thread, { ...terms, tolerancePct: check.tolerancePct })?.witnesses ?? [])]
}
