// Checks as they stand, and as they would without the error that a piece of kit was found with.
import type { Check, Version } from '@calm-loop/contract'
import { verdictOfCheck, withoutError, type CheckVerdict } from '@calm-loop/contract/judging'
import type { FoundPoint } from '@calm-loop/core/kit'
import { attempt, Refusal } from '@calm-loop/core/refusal'
import { studyOf } from './studies.ts'

export interface UsesAsked {
  readonly cases: readonly { readonly kind: string; readonly check: Check; readonly version: Version }[]
  readonly gearId: string
  readonly points: readonly FoundPoint[]
}
const shown = (v: CheckVerdict | null) => v && { pass: v.pass, errorPct: v.errorPct, tolerancePct: v.tolerancePct }

export const withoutErrors = ({ cases, gearId, points }: UsesAsked) =>
  cases.map(({ kind, check, version }) => {
    const unknown = (words: string) => ({ verdict: null, without: null, movedPct: null, words })
    const known = attempt(() => studyOf(kind, version))
    if (known instanceof Refusal) return unknown(known.message)
    const now = attempt(() => verdictOfCheck(known, check))
    if (now instanceof Refusal) return unknown(now.message)
    if (!points.length) return { ...unknown(''), verdict: shown(now) }
    const { check: brought, touched, assumed } = withoutError(check, gearId, points)
    const then = attempt(() => verdictOfCheck(known, brought))
    if (then instanceof Refusal) return { ...unknown(then.message), verdict: shown(now) }
    const words = !touched
      ? 'No figure of it was read with this piece where it was found off.'
      : assumed
        ? 'Which piece read what is not on record: every figure of its quantity is taken for its own.'
        : ''
    const [was, is] = [now?.errorPct ?? null, then?.errorPct ?? null]
    const moved = was === null || is === null ? null : is - was
    return { verdict: shown(now), without: shown(then), movedPct: touched ? moved : 0, words }
  })
