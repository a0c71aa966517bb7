// What a check will be, from a loop's study and what is chosen: the same where it is put on record and on a page that
// begins it out of coverage.
import { backAndForth, CHECK_RULE, standardKnots, upAndDown, witnessesBehind } from '@calm-loop/core/check'
import { stopBefore } from '@calm-loop/core/findings'
import type { PointKind } from '@calm-loop/core/kinds'
import type { CurrentStudy, Study } from '@calm-loop/core/loop'
import { convertUnit } from '@calm-loop/core/quantity'
import { Refusal } from '@calm-loop/core/refusal'
import { sure } from '@calm-loop/core/sure'
import type { Gear, GearUsed } from './gear.ts'
import type { SiteJudging } from './judging-rules.ts'
import { readsVolts, type Check, type CheckReads, type CheckTerms, type StartCheck } from './loops.ts'

/** What a check is judged within; refuses a loop that is not ready. */
export function planOf(known: Study, phase: Check['phase']): Pick<Check, 'range' | 'tolerancePct'> {
  const stop = stopBefore(phase, known.findings)
  if (stop) throw new Refusal(stop.code, `${stop.what} ${stop.action}`)
  // A discrete point is named and counted after its check.
  const missing = Object.entries(known.missing).flatMap(([stage, labels]) => (stage === 'count' ? [] : labels))
  if (missing.length) throw new Refusal('loop-incomplete', `Still to be entered before a check: ${missing.join(', ')}.`)
  if (known.family === 'switch') {
    const { plan } = known.run
    if (!plan) throw new Refusal('loop-incomplete', 'What is to be expected cannot be computed from these entries.')
    return {
      range: plan.distance ? { lrv: 0, urv: plan.distance.expected_mm, unit: 'mm' } : { lrv: 0, urv: 1, unit: 'state' },
      tolerancePct: plan.distance?.tolerancePct ?? 10,
    }
  }
  const { low, high } = sure(known.scales[0])
  if (low === undefined || high === undefined || low === high)
    throw new Refusal('zero-span', 'The range has no span at the process.')
  const tolerancePct = known.reader.in('tolerance', '%')
  const tolerances = [tolerancePct, known.reader.in('controllerTolerance', '%')]
  if (tolerances.some((t) => t !== undefined && !(t > 0)))
    throw new Refusal('not-positive', 'A tolerance must be above 0 % of span: nothing real is within 0.')
  if (tolerancePct === undefined) throw new Refusal('loop-incomplete', 'The tolerance is still to be entered.')
  return { range: { lrv: low, urv: high, unit: sure(known.thread.knots[0]).unit }, tolerancePct }
}

/** The terms of a check as it is begun: what is at hand, by the site's rule. @throws Refusal */
export function termsOf(
  known: CurrentStudy,
  start: Pick<StartCheck, 'reads' | 'gearIds'>,
  site: SiteJudging,
  tolerancePct: number,
): CheckTerms {
  const reads = start.reads ?? usualReads(known)
  const { thread, reader } = known
  if (!standardKnots(thread).some((k) => k.id === reads.standardAt))
    throw new Refusal('no-such-place', 'The true input cannot be given there.')
  const places = witnessesBehind(thread, reads.standardAt)
  const strange = reads.reads.find((w) => !places.some((p) => p.id === w.at))
  if (strange || new Set(reads.reads.map((w) => w.at)).size < reads.reads.length)
    throw new Refusal(
      'no-such-place',
      'What is to be read lies before the standard, is not of this loop, or comes twice.',
    )
  const kit = [reads.standardGear, ...reads.reads.map((w) => w.gear)]
  if (kit.some((id) => id !== null && !start.gearIds.includes(id)))
    throw new Refusal(
      'unknown-gear',
      'A piece of kit is said to be used that is not among the equipment of this check.',
    )
  if (reads.reads.some((w) => w.at === 'current' && readsVolts(w.stand)) && !reads.resistor)
    throw new Refusal('shunt-unknown', 'The current is read as volts: enter the resistor and its tolerance.')
  if (reads.resistor && !(convertUnit(reads.resistor.ohm.value, reads.resistor.ohm.unit, 'Ohm') > 0))
    throw new Refusal('not-positive', 'The resistor must be above 0 Ω.')
  return { ...reads, rule: site.rule, controllerTolerancePct: reader.in('controllerTolerance', '%') ?? tolerancePct }
}

/** Current and controller read, the input given at the process, no kit said. */
function usualReads({ thread }: CurrentStudy): CheckReads {
  const process = sure(thread.knots[0]).id
  const at = witnessesBehind(thread, process).map((w) => w.id)
  return {
    standardAt: process,
    standardGear: null,
    reads: ['current', 'controller'].filter((id) => at.includes(id)).map((id) => ({ at: id, gear: null })),
  }
}

/** The points of the plan: up and down the range, or the target back and forth. */
export function pointsOf(kind: PointKind, percents: readonly number[]): Check['points'] {
  if (kind.family === 'current') return upAndDown(percents)
  const points = backAndForth(Math.floor(percents.length / 2))
  if (points.length !== percents.length || points.some((p, i) => p.percent !== percents[i]))
    throw new Refusal(
      'plan-not-alternating',
      'A discrete check brings the target up (100) and takes it away (0), by turns.',
    )
  return points
}

/** A copy of each piece as it is used; what is past its due date only with a reason. @throws Refusal */
export function gearTaken(
  kit: readonly Gear[],
  { gearIds, expiredReason }: { readonly gearIds: readonly string[]; readonly expiredReason: string },
  today: string,
): GearUsed[] {
  const used = kit.filter((piece) => gearIds.includes(piece.id))
  if (used.length !== new Set(gearIds).size)
    throw new Refusal('unknown-gear', 'Some of the test equipment named is not in the kit.')
  const why = expiredReason.trim()
  const expired = used.filter((g) => g.due < today)
  if (expired.length && !why)
    throw new Refusal(
      'gear-expired',
      `Past its due date: ${expired.map((g) => `${g.name} ${g.serial} (${g.due})`).join(', ')}. Choose other ` +
        'equipment, or say why it is used; the certificate carries both.',
    )
  return used.map(({ measures: _, range: _range, ...piece }) => ({
    ...piece,
    ...(piece.due < today ? { expiredReason: why } : {}),
  }))
}

/** What stands at the head of a check as it is begun. */
export type CheckPlan = Pick<Check, 'phase' | 'points' | 'range' | 'tolerancePct' | 'gear' | 'ambient'> &
  Partial<Pick<Check, 'rule' | 'terms'>>

/** @param today as the server's day, by which the kit is in date. @throws Refusal */
export function planOfCheck(
  { kind, study }: { readonly kind: PointKind; readonly study: Study },
  start: StartCheck,
  { site, kit, today }: { readonly site: SiteJudging; readonly kit: readonly Gear[]; readonly today: string },
): CheckPlan {
  const points = pointsOf(kind, start.percents)
  const plan = planOf(study, start.phase)
  const terms = study.family === 'current' ? termsOf(study, start, site, plan.tolerancePct) : undefined
  const gear = gearTaken(kit, start, today)
  return {
    phase: start.phase,
    ...(terms ? { rule: CHECK_RULE, terms } : {}),
    ...plan,
    points,
    gear,
    ambient: start.ambient,
  }
}
