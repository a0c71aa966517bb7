// Findings: what the application noticed about a loop's entries, in three grades.
import type { FindingCode } from './codes.ts'

export { FINDING_FAMILIES, FINDINGS, type FindingCode } from './codes.ts'

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
