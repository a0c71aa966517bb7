// How a loop stands by its record: which checks count, whether it is fit for use, when it is due again and why.
import { dayNumber, daysLater, dueAgain, type DoneCheck, type DueAgain } from '@calm-loop/core/check'
import { sure } from '@calm-loop/core/sure'
import { standOfCheck, type CheckVerdict } from './judge-check.ts'
import { type SiteJudging } from './judging-rules.ts'
import type { Check, FolderView } from './loops.ts'
import { workOf, type WorkOf } from './work-log.ts'
import { inWorld } from './worlds.ts'

const DEFAULT_INTERVAL_months = 12
const DAYS_A_MONTH = 365.25 / 12

/** Same day so many months later; the last day of a shorter month. */
export function monthsLater(day: string, months: number): string {
  const [y, m, d] = day.split('-').map(Number) as [number, number, number]
  const last = new Date(Date.UTC(y, m - 1 + months + 1, 0)).getUTCDate()
  return new Date(Date.UTC(y, m - 1 + months, Math.min(d, last))).toISOString().slice(0, 10)
}

/** Whether a loop may be used by its record, and what is asked of it; whatever the site's rules are. */
export interface Fitness {
  /** Checks that count, oldest first. */
  readonly done: readonly DoneCheck[]
  /** The check that left it out of tolerance, while nobody has said that it may be used. */
  readonly notFit: DoneCheck | undefined
  /** Who said that it may be used though it was left out of tolerance, while no later check passed. */
  readonly allowed: WorkOf<'fit'> | undefined
  /** Found out of tolerance, and not yet answered: what was measured with it since? */
  readonly unanswered: readonly DoneCheck[]
}

export interface LoopStanding extends Fitness {
  readonly due: DueAgain
  readonly nextDue: string | null
  /** The interval that holds: as entered, or as it was accepted since. */
  readonly interval: { readonly days: number; readonly words: string; readonly accepted?: WorkOf<'interval'> }
}

/** The day of the last check before one that passed; undefined where there is none. */
export const lastGoodBefore = (done: readonly DoneCheck[], id: string): string | undefined =>
  done
    .slice(
      0,
      done.findIndex((c) => c.id === id),
    )
    .findLast((c) => c.pass)?.day

const signedOn = (check: Check): string =>
  sure(check.signatures.find((s) => s.role === 'performed') ?? check.signatures[0]).at.slice(0, 10)
const isReviewed = (check: Check): boolean =>
  check.signatures.some((s) => s.role === 'reviewed' || (s.role === 'accepted' && s.standing === 'sealed'))

type OnRecord = Pick<FolderView, 'checks' | 'workLog'>
type VerdictOf = (check: Check) => CheckVerdict | null
/** What was said here of the loop; what was decided elsewhere is not followed. */
const saidHere = (workLog: OnRecord['workLog']) =>
  inWorld(workLog, false).filter((e) => !('elsewhere' in e && e.elsewhere))
/** Who said that it may be used though a check left it out of tolerance. */
export const fitWord = (workLog: OnRecord['workLog'], checkId: string): WorkOf<'fit'> | undefined =>
  workOf(saidHere(workLog), 'fit').findLast((d) => d.check === checkId)

/** What was answered on what was measured with it since, oldest first. */
export const measuredSince = (workLog: OnRecord['workLog'], checkId: string): WorkOf<'measured-since'>[] =>
  workOf(saidHere(workLog), 'measured-since').filter((a) => a.check === checkId)

/** @param verdictOf verdict of a check by the entries that it was begun with */
export function fitnessOf({ checks, workLog }: OnRecord, verdictOf: VerdictOf): Fitness {
  const counting = inWorld(checks, false).filter((c) => standOfCheck(c) === 'counts')
  const byId = new Map(counting.map((c) => [c.id, c]))
  const done = counting
    .flatMap((check): DoneCheck[] => {
      const verdict = verdictOf(check)
      if (!verdict) return []
      const { errorPct, tolerancePct, pass } = verdict
      return [{ id: check.id, day: signedOn(check), phase: check.phase, errorPct, tolerancePct, pass }]
    })
    .sort((a, b) => dayNumber(a.day) - dayNumber(b.day))
  const left = done.findLast((c) => c.phase === 'as-left' && !c.pass)
  const since = left ? done.slice(done.indexOf(left) + 1) : []
  const passedSince = since.some((c) => c.pass && isReviewed(sure(byId.get(c.id))))
  const word = left && fitWord(workLog, left.id)
  return {
    done,
    notFit: left && !passedSince && !word ? left : undefined,
    allowed: passedSince ? undefined : word,
    unanswered: done.filter((c) => c.phase === 'as-found' && !c.pass && !measuredSince(workLog, c.id).length),
  }
}

/**
 * @param entered interval between checks as it was entered, such as `12 months`; empty for the usual one
 * @param verdictOf verdict of a check by the entries that it was begun with
 */
export function standingOf(folder: OnRecord, entered: string, site: SiteJudging, verdictOf: VerdictOf): LoopStanding {
  const fitness = fitnessOf(folder, verdictOf)
  const months = Number.parseInt(entered, 10) || DEFAULT_INTERVAL_months
  const accepted = workOf(saidHere(folder.workLog), 'interval').findLast((d) => d.instead === entered)
  const current_days = accepted?.days ?? Math.round(months * DAYS_A_MONTH)
  const due = dueAgain(fitness.done, {
    current_days,
    min_days: site.minInterval_days,
    max_days: site.maxInterval_days,
  })
  return {
    ...fitness,
    due,
    nextDue: nextDueOf(fitness.done.at(-1), { accepted, months, due }),
    interval: {
      days: current_days,
      words: accepted ? `${accepted.days} days` : entered || `${DEFAULT_INTERVAL_months} months`,
      ...(accepted ? { accepted } : {}),
    },
  }
}

/** What was left out of tolerance is due at once; what was found so, sooner, until someone decides on an interval. */
function nextDueOf(
  last: DoneCheck | undefined,
  { accepted, months, due }: { accepted: WorkOf<'interval'> | undefined; months: number; due: DueAgain },
): string | null {
  if (!last) return null
  if (!last.pass) return last.day
  const usual = accepted ? daysLater(last.day, accepted.days) : monthsLater(last.day, months)
  const failed = due.occasions.at(-1)?.found?.pass === false
  if (!failed || (accepted && accepted.at.slice(0, 10) >= last.day)) return usual
  const sooner = daysLater(last.day, due.suggested_days)
  return sooner < usual ? sooner : usual
}
