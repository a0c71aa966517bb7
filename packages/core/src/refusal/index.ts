// A refusal: how the core says no to an input, with a code a program can act on and words a person can.
import type { FindingCode } from '../findings/codes.ts'

export { REFUSALS, type Meaning, type RefusalCode } from './codes.ts'

/**
 * Thrown by core functions for input they will not compute with.
 * `code` is stable and machine-readable (`zero-span`, `out-of-range` …); `message` says what is wrong and what would
 * be accepted.
 */
export class Refusal extends Error {
  /** A code of `REFUSALS`; where a stop is why, the code of that finding. */
  readonly code: FindingCode
  constructor(code: FindingCode, says: string) {
    super(says)
    this.name = 'Refusal'
    this.code = code
  }
}

/** Runs `compute` and returns its result, or the refusal it threw; any other error passes through. */
export function attempt<T>(compute: () => T): T | Refusal {
  try {
    return compute()
  } catch (error) {
    if (error instanceof Refusal) return error
    throw error
  }
}
