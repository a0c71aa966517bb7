// Two people changed the same loop: what each changed alone is kept; what both changed is shown to the second, who
// keeps their own text until they choose.
import { canonicalJson } from '@calm-loop/contract'
import type { Entries } from '@calm-loop/core/kinds'

export interface Clash {
  readonly key: string
  readonly mine: string
  readonly theirs: string
  readonly label?: string
  readonly who?: string
}

export interface Merged {
  /** Mine where I changed something, theirs elsewhere. */
  readonly entries: Entries
  /** Keys taken over from them. */
  readonly taken: readonly string[]
  readonly clashes: readonly Clash[] & Clash[]
}

/** Brings together `mine` and `theirs`, both made from `base`. */
export function mergeEntries(base: Entries, mine: Entries, theirs: Entries): Merged {
  const entries: Record<string, Entries[string]> = {}
  const taken: string[] = []
  const clashes: Clash[] = []
  const same = (a: Entries, b: Entries, key: string) => canonicalJson(a[key] ?? null) === canonicalJson(b[key] ?? null)
  for (const key of new Set([...Object.keys(base), ...Object.keys(mine), ...Object.keys(theirs)])) {
    const from = same(mine, base, key) ? theirs : mine
    if (from === theirs && !same(theirs, base, key)) taken.push(key)
    if (from === mine && !same(theirs, base, key) && !same(theirs, mine, key))
      clashes.push({ key, mine: mine[key]?.typed ?? '', theirs: theirs[key]?.typed ?? '' })
    const entry = from[key]
    if (entry) entries[key] = entry
  }
  return { entries, taken, clashes }
}
