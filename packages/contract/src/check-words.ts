// What a check is and came to, in words: the same on page and paper.
import {
  witnessesBehind,
  type ConformityRule,
  type ConformityVerdict,
  type LoopVerdict,
  type WholeJudgement,
} from '@calm-loop/core/check'
import { formatNumber } from '@calm-loop/core/quantity'
import type { Thread } from '@calm-loop/core/thread'
import { inSentence } from '@calm-loop/core/words'
import { meterStandWords, type Check, type CheckTerms, type Origin, type Reading } from './loops.ts'

export const verdictWords: Record<ConformityVerdict, string> = {
  pass: 'Within tolerance',
  'pass-at-risk': 'Within tolerance, but not surely',
  'fail-at-risk': 'Out of tolerance, but not surely',
  fail: 'Out of tolerance',
}

export const ruleWords: Record<ConformityRule, string> = {
  simple:
    'Simple acceptance: within tolerance when no error is larger than the tolerance. The uncertainty is stated ' +
    'beside it, and not taken off.',
  guarded:
    'Guarded acceptance (guard band of the expanded uncertainty, k = 2): surely within when the error with its ' +
    'uncertainty lies inside the tolerance, surely out when it lies outside; between, “not surely”. An error beyond ' +
    'the tolerance is never accepted.',
}

export const originWords: Record<Origin, string> = { typed: 'typed', live: 'live', simulated: 'SIMULATED' }
const NOT_RECORDED = 'origin not recorded'
/** Where a figure of a reading came from, in words. */
export const originOf = (r: Pick<Reading, 'origins'>, at: string): string => {
  const origin = r.origins?.[at]
  return origin ? originWords[origin] : NOT_RECORDED
}
/** Where the figures of a reading came from: once where it is the same for all. */
export function originsWords(r: Pick<Reading, 'origins' | 'reads'>): string {
  const keys = ['applied', ...Object.keys(r.reads)]
  const words = keys.map((key) => originOf(r, key))
  if (new Set(words).size === 1) return words[0]!
  return keys.map((key, i) => `${key === 'applied' ? 'true input' : key} ${words[i]}`).join(', ')
}

/** The verdict of a whole check in words, by whatever rule it is judged. */
export const verdictOf = ({ loop, result }: WholeJudgement): string =>
  loop ? verdictWords[loop.verdict] : result.pass ? 'Within tolerance' : 'Out of tolerance'

/** `Practice` where a check was done at the bench, what else it is worth where not. */
export const isPractice = (check: Pick<Check, 'practice'>): boolean => check.practice === true
export const PRACTICE =
  'PRACTICE: done at the simulated bench. It is no record of the loop, counts for nothing, and nobody signs it.'

/** Where the loop departs first, and what can cause it. Empty where it does not. */
export function departureWords(first: LoopVerdict['first']): string {
  if (!first) return ''
  const { witness, after, causes } = first
  return (
    `It parts between ${inSentence(after)} and ${inSentence(witness.name)}. ` +
    `What can cause that: ${causes.join('; ') || 'what stands between the two'}.`
  )
}

/** How a place was read: with which piece, standing where. */
export function howRead(check: Pick<Check, 'gear'>, read: CheckTerms['reads'][number]): string {
  const piece = check.gear.find((g) => g.id === read.gear)
  return [piece ? `${piece.name}, ${piece.serial}` : '', read.stand ? meterStandWords[read.stand] : '']
    .filter(Boolean)
    .join(', ')
}

/** What of the loop the check says nothing about. */
export function notChecked(check: Check, thread: Thread): string[] {
  const { terms } = check
  if (!terms) return []
  const at = thread.knots.findIndex((k) => k.id === terms.standardAt)
  const before = thread.stages.slice(0, Math.max(0, at)).map((s) => inSentence(s.title))
  const read = new Set(check.readings.flatMap((r) => Object.keys(r.reads)))
  const places = witnessesBehind(thread, terms.standardAt)
    .filter((w) => !read.has(w.id))
    .map((w) => inSentence(w.name))
  return [...before, ...places]
}

/** The certificate's own number: tag, year, and which check of that year it is. */
export function certificateNumber(
  tag: string,
  checks: readonly Pick<Check, 'id' | 'startedAt' | 'practice'>[],
  id: string,
): string {
  const check = checks.find((c) => c.id === id)
  if (!check || isPractice(check)) return 'practice, no number'
  const year = check.startedAt.slice(0, 4)
  const ofYear = checks.filter((c) => !isPractice(c) && c.startedAt.startsWith(year))
  return `${tag}/${year}-${ofYear.findIndex((c) => c.id === id) + 1}`
}

/** `ratio 4.2`, as many times as the tolerance holds the expanded uncertainty. */
export const ratioWords = (ratio: number | undefined): string =>
  ratio === undefined ? 'uncertainty not known' : `ratio ${formatNumber(ratio, { decimals: 1 })}`
