// How well a supposed fault explains what was read, in words.

/** Mean of squared misses, each in its own doubt: below the first it fits all readings, below the second roughly. */
const WELL = 2
const ROUGHLY = 12
const WORTH = 400
const SHOWN = 4

export const fits = (misfit: number): string =>
  misfit < WELL ? 'fits all readings' : misfit < ROUGHLY ? 'fits roughly' : 'does not fit'

/** The best groups of faults; a group has the same misfit throughout, as its faults read the same. */
export const worthShowing = <T extends { readonly misfit: number }>(groups: readonly (readonly T[])[]) =>
  groups.filter(([first]) => first !== undefined && first.misfit < WORTH).slice(0, SHOWN)
