// The words of a check's two gates, as they stand on the page and on record. A wording is never changed: a better one
// is added behind it.
import { sure } from '../sure/index.ts'

export type CheckGate = 'loop-in-manual' | 'loop-released'
type Family = 'current' | 'switch'

/** Every wording there has been, the present one last. */
const WORDINGS: Record<CheckGate, Record<Family, readonly string[]>> = {
  'loop-in-manual': {
    current: ['Operations told. Loop in manual; trips fed by it by-passed with permission, or it feeds none.'],
    switch: [
      'Operations told. Machine isolated, or moved by hand only; what this point trips by-passed with ' +
        'permission, or it trips nothing.',
    ],
  },
  'loop-released': {
    current: ['Work finished. Operations told; by-passes removed; loop back in automatic by the operator.'],
    switch: [
      'Work finished, tools and hands out. Operations told; by-passes removed; machine given back to the operator.',
    ],
  },
}

/** What is confirmed at a gate, as the page shows it today. */
export const gateWording = (gate: CheckGate, family: Family): string => sure(WORDINGS[gate][family].at(-1))

/** The version of a wording, from 1; undefined for words that no page has shown. */
export function wordingVersion(gate: CheckGate, family: Family, words: string): number | undefined {
  const at = WORDINGS[gate][family].indexOf(words)
  return at < 0 ? undefined : at + 1
}
export const isGateWording = (gate: CheckGate, family: Family, words: string): boolean =>
  wordingVersion(gate, family, words) !== undefined
