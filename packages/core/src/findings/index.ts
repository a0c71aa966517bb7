// Findings: what the application noticed about a loop's entries, in three grades.
import type { FindingCode } from './codes.ts'

export { acceptedOf, FINDING_FAMILIES, FINDINGS, type FindingCode } from './codes.ts'

/** stop: will hurt someone or something, or make the record false. look: probably wrong. note: worth knowing. */
export type Grade = 'stop' | 'look' | 'note'

export interface Finding {
  /** Stable and machine-readable, e.g. `full-beyond-empty`. */
  readonly code: FindingCode
  readonly grade: Grade
  /** Keys of the entries it is about. */
  readonly fields: readonly string[]
  /** What is wrong, with the figures. */
  readonly what: string
  /** Why it matters. */
  readonly why: string
  /** How sure the application is, in words. */
  readonly sure: string
  /** What to do about it. */
  readonly action: string
}

/** A finding; sure, unless said otherwise, if the entries are right. */
export const finding = (f: Omit<Finding, 'sure'> & { readonly sure?: string }): Finding => ({
  sure: 'Certain, if the entries are right.',
  ...f,
})

const ORDER: Record<Grade, number> = { stop: 0, look: 1, note: 2 }

/** Stops first, then looks, then notes; otherwise in the order found. */
export function gravestFirst(findings: readonly Finding[]): Finding[] {
  return [...findings].sort((a, b) => ORDER[a.grade] - ORDER[b.grade])
}

/** What a relay does on a loss is no property of the value that is measured. */
const OF_RELAYS = /^(power|sensor|echo)-lost-\d$/

/**
 * The first stop that keeps a check of this phase from being begun. What was found is found with the loop as it is: an
 * answer about its relays never stands in the way of an as-found check.
 */
export const stopBefore = <F extends Pick<Finding, 'code' | 'grade'>>(
  phase: 'as-found' | 'as-left',
  findings: readonly F[],
): F | undefined => findings.find((f) => f.grade === 'stop' && !(phase === 'as-found' && OF_RELAYS.test(f.code)))

export { LESSONS, lessonOf, type Lesson } from './lessons.ts'
