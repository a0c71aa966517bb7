// A finding of the wiring: besides what, why, how sure and what to do, the place it is about.
import type { Finding, Grade } from '../findings/index.ts'

/** A finding of the wiring: besides the rest, the terminals, conductors and devices it is about. */
export interface WiringFinding extends Finding {
  readonly where: readonly string[]
}

export const finding = (
  code: string,
  grade: Grade,
  where: readonly string[],
  what: string,
  why: string,
  action: string,
  sure = 'Certain, for the wiring as drawn.',
): WiringFinding => ({ code, grade, fields: ['wiring'], where, what, why, sure, action })
