// A finding of the wiring: besides what, why, how sure and what to do, the place it is about.
import type { Finding, Grade } from '../findings/index.ts'

/** A finding of the wiring: besides the rest, the terminals, conductors and devices it is about. */
export interface WiringFinding extends Finding {
  readonly where: readonly string[]
}

export const finding = ({
  code,
  grade,
  where,
  what,
  why,
  action,
  sure = 'Certain, for the wiring as drawn.',
}: {
  readonly code: string
  readonly grade: Grade
  readonly where: readonly string[]
  readonly what: string
  readonly why: string
  readonly action: string
  readonly sure?: string
}): WiringFinding => ({ code, grade, fields: ['wiring'], where, what, why, sure, action })
